"""The Tab order of a page beside its reading order, what Tab does not reach, and what comes before the content."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from murvel.checks.engine.check import Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.checks.questions.tab_order import TabOrder
from murvel.checks.topics.keyboard import stops_before_main
from murvel.dom.document import Element
from murvel.reader.moves.skip import skip_link
from murvel.reader.speech.utterance import SILENCE, Part, PartKind, Utterance
from murvel.reader.speech.wording.words import role_words
from murvel.reader.stops.silent import told_of
from murvel.survey.sight_order import seen_elsewhere
from murvel.survey.survey import Survey
from murvel.tree.node import Node

_OUTSIDE = "outside of landmarks"


@dataclass(frozen=True, slots=True)
class Stop:
    """A Tab stop.

    Attributes:
        number: its place in Tab's order, from 1.
        rank: its place among the stops in reading order, from 1.
        is_moved: whether it stands elsewhere than in reading, and not merely after a stop that does.
        element: what it is.
        node: its node, None if aria-hidden covers it.
        utterance: what is heard of it; silence of a silent stop.
        region: the landmark it stands in, in words.
        time: at which second of listening it comes, None if nothing of it is read.
        repeats: whether it leads to the same place as the stop before.
        leads: what checks noticed there.
    """

    number: int
    rank: int
    is_moved: bool
    element: Element
    node: Node | None
    utterance: Utterance
    region: str
    time: float | None
    repeats: bool
    leads: tuple[Lead, ...]

    @property
    def words(self) -> str:
        """What is heard of it, or a notice that nothing is."""
        return self.utterance.text or f"nothing is heard: {told_of(self.element)}"


class KeyboardPath:
    """The Tab order of a page.

    Attributes:
        stops: the stops in Tab's order.
        reading: the same in reading order.
        missed: leads about what Tab does not reach.
        moved: how many stops stand elsewhere than in reading; those that merely follow them do not count.
        silent: how many of the stops nothing is heard of.
        elsewhere: the parts of the page that are seen in another place than they are read, where a browser laid it out.
        before_main: how many stops come before the main part, and how many seconds it takes to hear them.
    """

    def __init__(self, survey: Survey) -> None:
        page = survey.page
        order = page.tab_order
        by_element: dict[object, list[Lead]] = {}
        for lead in survey.leads:
            by_element.setdefault(lead.element, []).append(lead)
        self.page: Facts = page
        self.stops = [_stop(page, order, at, by_element.get(element, ())) for at, element in enumerate(order.elements)]
        self.reading = [self.stops[at] for at in order.in_reading]
        self.missed = [lead for lead in survey.leads if Trait.NOT_REACHED in lead.check.traits]
        self.moved = len(order.moved)
        self.elsewhere = list(seen_elsewhere(page.tree))
        self.silent = sum(not stop.utterance.text for stop in self.stops)
        count = stops_before_main(page)
        heard = [stop for stop in self.stops[:count] if stop.node is not None]
        self.before_main = (count, sum(page.session.speaker.lasts(stop.utterance.text) for stop in heard))

    def way_past(self) -> str:
        """Return, in a sentence, whether there is a skip link, which stop it is, and where it lands."""
        link = skip_link(self.page.tree)
        if link is None:
            return "no skip link"
        place = "first stop" if link.number == 1 else "not the first stop"
        if link.target is None:
            return f"skip link: {place}; it leads nowhere"
        node = self.page.node(link.target)
        words = role_words(node) or link.target.tag if node is not None else link.target.tag
        lands = f"{words} {node.name}".strip() if node is not None else words
        return f"skip link: {place}; it lands on {lands}"


def _stop(page: Facts, order: TabOrder, at: int, leads: Iterable[Lead]) -> Stop:
    element = order.elements[at]
    node = page.node(element)
    said = page.session.speaker.say_alone(node) if node is not None else SILENCE
    if node is not None and not said.text:  # it has no role of its own, and its content is heard
        said = Utterance((Part(PartKind.TEXT, page.tree.naming.contents(element)),))
    return Stop(
        at + 1,
        order.ranks[at] + 1,
        at in order.moved,
        element,
        node,
        said,
        region_of(node or page.node_around(element)),
        _time(page, node) if node is not None else None,
        at > 0 and _leads_to_same(order.elements[at - 1], element),
        tuple(leads),
    )


def region_of(node: Node) -> str:
    """Return the outermost landmark that a node stands in, in words."""
    around = [above for above in (node, *node.ancestors()) if above.is_landmark]
    if not around:
        return _OUTSIDE
    outer = around[-1]
    return f"{role_words(outer)} {outer.name}".strip()


def _time(page: Facts, node: Node) -> float | None:
    """When a stop is read: its item's time, and for those further on in the item its share of that."""
    first = page.readout.first_object(node)
    if first is None:
        return None
    spoken, objects = page.session.spoken, first.item.objects
    index = first.item.index
    return spoken.start(index) + spoken.lasts(index) * (first.index - objects[0].index) / len(objects)


def _leads_to_same(before: Element, element: Element) -> bool:
    href = element.attributes.get("href")
    return element.tag in ("a", "area") and bool(href) and href == before.attributes.get("href")
