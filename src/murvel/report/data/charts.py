"""What charts show, as JSON output."""

from __future__ import annotations

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Certainty
from murvel.reader.moves.reach import Ways, important, stretches
from murvel.reader.session import ReadingSession
from murvel.report.data.shapes import Data, document, heard, leads, node_data
from murvel.report.page_charts import lead_counts
from murvel.survey.entry import Slice
from murvel.survey.path import KeyboardPath
from murvel.survey.survey import list_of


def reach_data(session: ReadingSession) -> Data:
    """Return what it takes to come to the main content, each heading and each field: key presses and seconds."""
    ways = Ways(session)
    found = stretches(session)
    return document(
        "reach",
        session,
        places=[
            {
                **heard(session.speaker.say_alone(each.node)),
                **node_data(session.tree, each.node),
                "ways": {
                    way.value: {"presses": cost.presses, "seconds": round(cost.seconds, 2)}
                    for way, cost in each.costs.items()
                },
                "best": each.best[0].value if each.best is not None else None,
            }
            for each in map(ways.to, important(session))
        ],
        links_before_main=found.links_before_main,
        seconds_without_heading=round(found.without_heading, 2),
    )


def path_data(path: KeyboardPath) -> Data:
    """Return the Tab stops, covered ones too, with their places in both orders, and what Tab does not reach."""
    session = path.page.session
    return document(
        "path",
        session,
        stops=[
            {
                "number": stop.number,
                "number_in_reading": stop.rank,
                "is_moved": stop.is_moved,
                "in": stop.region,
                "is_covered": stop.node is None,
                **heard(stop.utterance),
                **node_data(session.tree, stop.node or path.page.node_around(stop.element)),
                "leads": leads(stop.leads),
            }
            for stop in path.stops
        ],
        not_reached=leads(path.missed),
        stops_before_main=path.before_main[0],
    )


def headings_data(session: ReadingSession) -> Data:
    """Return the outline."""
    return _outline(session, Slice.HEADINGS)


def landmarks_data(session: ReadingSession) -> Data:
    """Return the landmarks, nested, and what is outside of them."""
    return _outline(session, Slice.LANDMARKS)


def _outline(session: ReadingSession, slice_: Slice) -> Data:
    entries = [
        {
            "time": entry.time,
            "depth": entry.depth,
            **heard(entry.utterance),
            "remark": entry.remark,
            **node_data(session.tree, entry.node),
        }
        for entry in list_of(session, slice_)
        if entry.node is not None
    ]
    return document(slice_.value, session, entries=entries)


def leads_data(session: ReadingSession, catalogue: Catalogue) -> Data:
    """Return how many leads there are of each topic and certainty."""
    topics = {
        topic: {certainty.value: counts[certainty] for certainty in Certainty}
        for topic, counts in lead_counts(session, catalogue).items()
    }
    return document("leads", session, topics=topics)


def timeline_data(session: ReadingSession) -> Data:
    """Return what was spoken when, and what never was; times are seconds since the page was loaded."""
    entries = [
        {
            "asked": round(entry.asked, 2),
            "begun": entry.begun,
            "ended": entry.ended,
            "about": entry.about,
            "text": entry.text,
            "fate": entry.fate.value,
            "why": entry.why,
        }
        for entry in session.speech.timeline
    ]
    return document("timeline", session, entries=entries)
