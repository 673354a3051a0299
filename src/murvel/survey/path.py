"""The Tab order of a page beside its reading order, what Tab does not reach, and what comes before the content."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.checks.check import Trait
from murvel.checks.facts import Facts
from murvel.checks.lead import Lead
from murvel.checks.topics.keyboard import stops_before_main
from murvel.reader.skip import skip_link
from murvel.reader.speaker import role_words
from murvel.reader.timing import seconds
from murvel.reader.utterance import Utterance
from murvel.survey.survey import Survey
from murvel.tree.node import Node
from murvel.tree.roles import LINKS

_OUTSIDE = "outside of landmarks"


@dataclass(frozen=True, slots=True)
class Stop:
    """A Tab stop.

    Attributes:
        number: its place in Tab's order, from 1.
        rank: its place among the stops in reading order, from 1.
        node: its node.
        utterance: what is heard of it.
        region: the landmark it stands in, in words.
        time: at which second of listening it comes, None where nothing of it is read.
        repeats: whether it leads to the same place as the stop before.
        leads: what checks noticed there.
    """

    number: int
    rank: int
    node: Node
    utterance: Utterance
    region: str
    time: float | None
    repeats: bool
    leads: tuple[Lead, ...]


class KeyboardPath:
    """The Tab order of a page.

    Attributes:
        stops: the stops in Tab's order.
        reading: the same in reading order.
        missed: leads about what Tab does not reach.
        silent: leads about what Tab reaches and nothing is heard of.
        before_main: how many stops come before the main part, and how many seconds it takes to hear them.
    """

    def __init__(self, survey: Survey) -> None:
        page = survey.page
        nodes = page.tree.stops
        in_order = sorted(range(len(nodes)), key=lambda at: nodes[at].id)
        ranks = [0] * len(nodes)
        for rank, at in enumerate(in_order):
            ranks[at] = rank
        by_element: dict[object, list[Lead]] = {}
        for lead in survey.leads:
            by_element.setdefault(lead.element, []).append(lead)
        self.page: Facts = page
        self.stops = [
            Stop(
                at + 1,
                ranks[at] + 1,
                node,
                page.session.speaker.say_alone(node),
                region_of(node),
                _time(page, node),
                at > 0 and _leads_to_same(nodes[at - 1], node),
                tuple(by_element.get(node.element, ())),
            )
            for at, node in enumerate(nodes)
        ]
        self.reading = [self.stops[at] for at in in_order]
        self.missed = [lead for lead in survey.leads if Trait.NOT_REACHED in lead.check.traits]
        self.silent = [lead for lead in survey.leads if Trait.SILENT_STOP in lead.check.traits]
        count = stops_before_main(page)
        rate = page.session.voice.rate
        self.before_main = (count, sum(seconds(stop.utterance.text, rate) for stop in self.stops[:count]))

    @property
    def parted(self) -> int:
        """How many stops come in another place in Tab's order than in reading."""
        return sum(stop.number != stop.rank for stop in self.stops)

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


def _leads_to_same(before: Node, node: Node) -> bool:
    href = node.element.attributes.get("href")
    return node.role in LINKS and bool(href) and href == before.element.attributes.get("href")
