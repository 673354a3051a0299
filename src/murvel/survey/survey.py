"""The lists of one page: what is in each, in which order and how deep."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Callable, Iterator
from dataclasses import replace
from itertools import chain

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Finding, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.checks.engine.record import HIDDEN_NOW
from murvel.checks.engine.run import as_problem, in_reading_order, leads_by_check, leads_of_hidden
from murvel.css.values.colours import ratio_words
from murvel.dom.document import Element
from murvel.dom.html.inputs import control_type
from murvel.dom.memory import no_collection
from murvel.reader.live.regions import regions_of
from murvel.reader.session import ReadingSession
from murvel.reader.speech.speaker import Speaker
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.reader.speech.voice import NAME_FIRST
from murvel.survey.entry import Entry, EntryKey, Slice
from murvel.survey.eyes import EYES
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import BUTTONS, FIELDS, TABLES

_Found = tuple[Element, int, str]
"""An element, how deep it stands in its list, and a remark."""

_HIDDEN_TAGS: dict[Slice, tuple[str, ...]] = {
    Slice.HEADINGS: ("h1", "h2", "h3", "h4", "h5", "h6"),
    Slice.LINKS: ("a",),
    Slice.FIELDS: ("input", "select", "textarea", "button"),
    Slice.IMAGES: ("img",),
    Slice.TABLES: ("table",),
}
_RUNNING = frozenset({"generic", "paragraph", "listitem"})
"""Roles whose text says more than the role."""

_OF_TRAIT = {
    Slice.CONTRAST: Trait.CONTRAST,
    Slice.TARGETS: Trait.TARGET,
    Slice.FOCUS: Trait.INDICATOR,
}
"""Lists that are about one thing only, and the trait of the checks of that."""

_CHECKING = 0.5
"""The part of the work that goes into checks; the rest goes into the lists."""

_A_STEP = 250
"""Entries that are made in one step."""


def survey_of(session: ReadingSession, catalogue: Catalogue, *, with_hidden: bool = False) -> Survey:
    """Return the survey of the page of a session, as it is now, with what the checks of a catalogue notice.

    Args:
        session: the session.
        catalogue: the checks.
        with_hidden: whether what is hidden when the page arrives is judged as well.
    """
    survey = Survey(session, catalogue, with_hidden=with_hidden)
    with no_collection():
        for _ in survey.fill():
            pass
    return survey


def list_of(session: ReadingSession, slice_: Slice) -> list[Entry]:
    """Return the entries of one list of the page of a session, without what checks notice."""
    survey = Survey(session, Catalogue(()))
    return list(survey._entries(slice_, _FINDERS[slice_](survey)))


def holder(element: Element) -> Element:
    """Return the link or button that an element stands in; where it stands in none, the element."""
    return next((above for above in element.ancestors() if above.tag in ("a", "button")), element)


class Survey:
    """The lists of a page; they are empty until they are filled.

    Attributes:
        page: the page as checks see it.
        leads: what they noticed, in reading order.
        entries: the entries of each list.
        with_hidden: whether what is hidden when the page arrives is judged as well.
    """

    def __init__(self, session: ReadingSession, catalogue: Catalogue, *, with_hidden: bool = False) -> None:
        self.with_hidden = with_hidden
        self._catalogue = catalogue
        self.page = Facts(session)
        self.leads: list[Lead] = []
        self.entries: dict[Slice, list[Entry]] = {each: [] for each in Slice}
        self._by_element: dict[Element, list[Lead]] = defaultdict(list)
        self._listed: set[Element] = set()
        is_usual = session.voice == replace(NAME_FIRST, rate=session.voice.rate)
        self._speaker = session.speaker if is_usual else Speaker(session.tree, NAME_FIRST)
        """Says what entries are known by: verdicts stay with them in every voice."""

    def is_known(self, slice_: Slice) -> bool:
        """Whether it is known what is in a list: what is seen is known once a browser was asked."""
        return slice_ not in EYES or self.page.seen is not None

    def _leads_of_hidden(self) -> Iterator[Lead]:
        """What is wrong with what is hidden when the page arrives, as leads about elements of the page as it is."""
        page = self.page
        places = {page.xpath(each): each for same in page.tags.values() for each in same if not page.is_exposed(each)}
        for lead in leads_of_hidden(page.session, self._catalogue):
            element = places.get(lead.xpath)
            if element is not None:
                detail = f"{lead.detail} ({HIDDEN_NOW})" if lead.detail else HIDDEN_NOW
                finding = Finding(element, detail, lead.certainty, lead.heard)
                yield Lead(lead.check, finding, page.node_around(element), page)

    def fill(self) -> Iterator[float]:
        """Fill the lists in small steps, and yield after each which part is done, from 0 to 1."""
        found: list[Lead] = []
        for number, leads in enumerate(leads_by_check(self.page, self._catalogue, as_problem(self.page)), 1):
            found += leads
            yield _CHECKING * number / len(self._catalogue)
        if self.with_hidden:
            found += self._leads_of_hidden()
        self.leads = in_reading_order(found)
        self._place_leads()
        for number, (each, find) in enumerate(_FINDERS.items()):
            begun = _CHECKING + (1 - _CHECKING) * number / len(_FINDERS)
            for entry in self._entries(each, find(self)):
                self.entries[each].append(entry)
                if entry.number % _A_STEP == 0:
                    yield begun
        yield 1.0

    def _place_leads(self) -> None:
        for lead in self.leads:
            self._by_element[lead.element].append(lead)
            outer = holder(lead.element)
            if outer is not lead.element and lead.check.topic is Topic.IMAGES:
                self._by_element[outer].append(lead)  # what is wrong with the image is wrong with what it names

    def _entries(self, slice_: Slice, found: Iterator[_Found]) -> Iterator[Entry]:
        seen: Counter[EntryKey] = Counter()
        hidden = ((element, 0, self._why_hidden(element)) for element in self._hidden(slice_))
        for number, (element, depth, remark) in enumerate(chain(found, hidden), 1):
            self._listed.add(element)
            yield self._entry(slice_, number, element, depth, remark, seen)

    def _entry(
        self, slice_: Slice, number: int, element: Element, depth: int, remark: str, seen: Counter[EntryKey]
    ) -> Entry:
        page = self.page
        node = page.node(element)
        utterance = self._utterance(element, node, page.session.speaker)
        usual = utterance if self._speaker is page.session.speaker else self._utterance(element, node, self._speaker)
        first = page.readout.first_object(node) if node is not None else None
        key = EntryKey.of(slice_, element.tag, element.attributes.get("href", ""), usual.text)
        seen[key] += 1
        return Entry(
            slice_,
            number,
            element,
            node if page.is_exposed(element) else None,
            utterance,
            depth,
            page.session.spoken.start(first.item.index) if first is not None else None,
            tuple(self._leads_at(slice_, element)),
            replace(key, twin=seen[key]),
            remark,
        )

    def _utterance(self, element: Element, node: Node | None, speaker: Speaker) -> Utterance:
        page = self.page
        if element is page.root:
            return _text(page.document.title or "page without a title")
        if node is None:
            return _text(collapse(page.words(element)) if page.is_exposed(element) else "")
        if node.role in _RUNNING:
            return _text(page.text_within(node))
        alone = speaker.say_alone(node)
        return alone if alone.parts else _text(page.text_within(node))

    def _leads_at(self, slice_: Slice, element: Element) -> list[Lead]:
        """The leads of an element; those of the page as a whole are parted between its language and the rest."""
        leads = self._by_element.get(element, [])
        if slice_ in _OF_TRAIT:
            return [lead for lead in leads if _OF_TRAIT[slice_] in lead.check.traits]
        if element is not self.page.root:
            return leads
        return [lead for lead in leads if (Trait.LANGUAGE in lead.check.traits) is (slice_ is Slice.LANGUAGES)]

    def _hidden(self, slice_: Slice) -> Iterator[Element]:
        """What would be in a list if it were not hidden."""
        for tag in _HIDDEN_TAGS.get(slice_, ()):
            for element in self.page.tags.get(tag, ()):
                if not self.page.is_exposed(element) and control_type(element) != "hidden":
                    yield element

    def _why_hidden(self, element: Element) -> str:
        hidden = self.page.semantics.hidden(element)
        words = collapse(element.text() or element.attributes.get("alt", ""))[:60]
        return f"hidden by {hidden.why.value}" + (f": {words}" if words else "") if hidden is not None else ""

    def leads_at(self, element: Element) -> list[Lead]:
        """Return what was noticed at an element."""
        return self._by_element.get(element, [])

    # What is in each list

    def headings(self) -> Iterator[_Found]:
        """The outline; where a level is skipped, that is remarked."""
        before = 0
        for node in self.page.headings:
            level = node.states.get("level")
            level = level if isinstance(level, int) else 2
            yield node.element, level - 1, _missing(before + 1, level - 1)
            before = level

    def landmarks(self) -> Iterator[_Found]:
        """Landmarks, nested, and what lies outside of them, in reading order."""
        outside = [lead.element for lead in self._known_for(Trait.OUTSIDE_LANDMARKS)]
        found: list[_Found] = [(element, 0, "in no landmark") for element in outside]
        for node in self.page.landmarks:
            found.append((node.element, sum(above.is_landmark for above in node.ancestors()), ""))
        yield from sorted(found, key=lambda each: each[0].order)

    def languages(self) -> Iterator[_Found]:
        """Elements that state a language, and passages that seem to be in another."""
        yield self.page.root, 0, self.page.document.language or "no language stated"
        found = {element: element.attributes["lang"] for element in self.page.exposed_having("lang")}
        found |= {lead.element: lead.detail for lead in self._known_for(Trait.PASSAGE)}
        found.pop(self.page.root, None)
        yield from ((element, 1, found[element]) for element in sorted(found, key=lambda each: each.order))

    def live(self) -> Iterator[_Found]:
        """Live regions with their settings."""
        for node, region in regions_of(self.page.tree):
            yield node.element, 0, region.politeness.value

    def looks_only(self) -> Iterator[_Found]:
        """Text that only pretends."""
        for lead in self._known_for(Trait.LOOK_ALIKE):
            yield lead.element, 0, lead.check.title

    def sight(self) -> Iterator[_Found]:
        """What is heard and out of sight, and what is seen and not heard, in document order."""
        found = {element: f"heard, not seen: {why}" for element, why in self.page.out_of_sight}
        for lead in self._known_for(Trait.UNSEEN):
            found.setdefault(lead.element, f"heard, not seen: {lead.detail.partition(':')[0]}")
        for lead in self._known_for(Trait.UNHEARD):
            found[lead.element] = f"seen, not heard: {lead.detail}"
        yield from ((element, 0, found[element]) for element in sorted(found, key=lambda each: each.order))

    def contrast(self) -> Iterator[_Found]:
        """Text, edges, icons and charts, the least contrast first; then those whose contrast is not known."""
        seen = self.page.seen
        if seen is None:
            return
        told = [(each.contrast.least.ratio, each.element) for each in seen.texts if each.contrast is not None]
        told += [(each.contrast.ratio, each.element) for each in seen.edges if each.contrast is not None]
        told += [(each.contrast.ratio, each.element) for each in seen.icons if each.contrast is not None]
        told += [(each.pairs[0].ratio, each.element) for each in seen.charts if each.pairs]
        least: dict[Element, float] = {}
        for found, element in told:
            least[element] = min(found, least.get(element, found))
        for element in sorted(least, key=lambda each: (least[each], each.order)):
            yield element, 0, ratio_words(least[element])
        for each in seen.texts:
            if each.is_hindered and each.element not in least:
                yield each.element, 0, f"cannot be told: {each.reason}"

    def targets(self) -> Iterator[_Found]:
        """What a pointer presses, the smallest first."""
        seen = self.page.seen
        for each in sorted(seen.targets, key=lambda each: min(each.width, each.height)) if seen is not None else ():
            yield each.element, 0, f"{each.width:g} by {each.height:g}"

    def focus(self) -> Iterator[_Found]:
        """How the focus shows at Tab stops, in document order."""
        for each in self.page.seen.indicators if self.page.seen is not None else ():
            yield each.element, 0, each.indication.value

    def _known_for(self, trait: Trait) -> list[Lead]:
        return [lead for lead in self.leads if trait in lead.check.traits]

    def other(self) -> Iterator[_Found]:
        """Elements with leads that are in no other list."""
        others = self._by_element.keys() - (self._listed - {self.page.root})
        for element in sorted(others, key=lambda each: each.order):
            if self._leads_at(Slice.OTHER, element):
                yield element, 0, "the page as a whole" if element is self.page.root else ""


def _missing(first: int, last: int) -> str:
    """Say which levels are missing before a heading; empty if none is."""
    if first > last:
        return ""
    if first == last:
        return f"level {first} missing"
    return f"levels {first} {'and' if last == first + 1 else 'to'} {last} missing"


def _text(text: str) -> Utterance:
    return Utterance((Part(PartKind.TEXT, text),) if text else ())


def _by_roles(*roles: str) -> Callable[[Survey], Iterator[_Found]]:
    def find(survey: Survey) -> Iterator[_Found]:
        nodes = sorted(survey.page.nodes(roles), key=lambda node: node.id)
        return ((node.element, 0, "") for node in nodes)

    return find


def _fields(survey: Survey) -> Iterator[_Found]:
    nodes = sorted((*survey.page.fields, *survey.page.nodes(BUTTONS - FIELDS)), key=lambda node: node.id)
    return ((node.element, 0, "") for node in nodes)


def _links(survey: Survey) -> Iterator[_Found]:
    return ((node.element, 0, "") for node in survey.page.links)


_FINDERS: dict[Slice, Callable[[Survey], Iterator[_Found]]] = {
    Slice.HEADINGS: Survey.headings,
    Slice.LANDMARKS: Survey.landmarks,
    Slice.LINKS: _links,
    Slice.FIELDS: _fields,
    Slice.IMAGES: _by_roles("img", "canvas", "graphics-document"),
    Slice.TABLES: _by_roles(*sorted(TABLES)),
    Slice.LISTS: _by_roles("list"),
    Slice.LIVE: Survey.live,
    Slice.LANGUAGES: Survey.languages,
    Slice.FRAMES: _by_roles("iframe"),
    Slice.LOOKS: Survey.looks_only,
    Slice.SIGHT: Survey.sight,
    Slice.CONTRAST: Survey.contrast,
    Slice.TARGETS: Survey.targets,
    Slice.FOCUS: Survey.focus,
    Slice.OTHER: Survey.other,
}
"""How each list is filled; the last is of what the others left."""
assert list(_FINDERS) == list(Slice), "a list has no way to be filled"
