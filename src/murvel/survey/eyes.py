"""Facts of entries in the lists of what is seen: colours and ratios, sizes, focus indicators."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from murvel.checks.questions.colour_pair import Nearest
from murvel.css.values.colours import AA_LARGE, AA_TEXT, AAA_LARGE, AAA_TEXT, NON_TEXT
from murvel.dom.document import Element
from murvel.reader.session import ReadingSession
from murvel.stage.seen import TARGET_AA, TARGET_AAA, Contrast, Pair, Seen, State, TextSeen
from murvel.survey.entry import Slice
from murvel.tree.model import Tree

Fact = tuple[str, str]
"""A label and a value."""


def seen_facts(session: ReadingSession, slice_: Slice, element: Element) -> Iterator[Fact]:
    """Yield what was seen of an element; nothing for other lists, and where nobody looked."""
    find, seen = _OF_SLICE.get(slice_), _seen(session)
    if find is not None and seen is not None:
        yield from find(seen, session.tree, element)


def eyes_facts(session: ReadingSession, element: Element) -> Iterator[Fact]:
    """Yield all that was seen of an element; nothing where nobody looked."""
    for slice_ in _OF_SLICE:
        yield from seen_facts(session, slice_, element)


def _seen(session: ReadingSession) -> Seen | None:
    return session.stage.seen if session.stage is not None else None


def colours_of(session: ReadingSession, element: Element) -> Pair | None:
    """Return the colours of an element that have the least contrast; None where none are known."""
    seen = _seen(session)
    if seen is None:
        return None
    pairs = [each.contrast.least for each in seen.texts if each.element is element and each.contrast is not None]
    pairs += [each.contrast for each in seen.edges if each.element is element and each.contrast is not None]
    pairs += [each.contrast for each in seen.icons if each.element is element and each.contrast is not None]
    return min(pairs, key=lambda pair: pair.ratio, default=None)


def _contrast(seen: Seen, tree: Tree, element: Element) -> Iterator[Fact]:
    for text in (each for each in seen.texts if each.element is element):
        if text.contrast is None:
            yield _label(text), f"cannot be told: {text.reason}"
        else:
            yield from _text(text, text.contrast)
    for what, place, some in (("edge", "beside", seen.edges), ("icon", "on", seen.icons)):
        for drawn in (each for each in some if each.element is element and each.contrast is not None):
            pair = drawn.contrast
            assert pair is not None
            yield what, pair.words(place)
            yield "asks for", "nothing: it is disabled" if drawn.is_inactive else f"{NON_TEXT:g}:1 (1.4.11)"
            yield from _would_pass(pair, (("would pass", NON_TEXT),))
    for chart in (each for each in seen.charts if each.element is element):
        for pair in chart.pairs:
            yield "areas", pair.words("beside")


def _text(text: TextSeen, contrast: Contrast) -> Iterator[Fact]:
    yield _label(text), contrast.least.words()
    if not contrast.is_even:
        yield "in the middle", contrast.typical.words()
    size = "large" if text.is_large else "not large"
    yield "type", f"{text.pixels:g} pixels, weight {text.weight}: {size}"
    if text.is_inactive:
        yield "asks for", "nothing: its control is disabled"
        return
    aa, aaa = (AA_LARGE, AAA_LARGE) if text.is_large else (AA_TEXT, AAA_TEXT)
    found = contrast.least.ratio
    yield "asks for", f"{aa:g}:1 for AA (1.4.3), {aaa:g}:1 for AAA (1.4.6)"
    yield "reaches", "AAA" if found >= aaa else "AA" if found >= aa else "nothing"
    yield from _would_pass(contrast.least, (("passes AA", aa), ("passes AAA", aaa)))


def _label(text: TextSeen) -> str:
    return str(text.kind) if text.state is State.REST else str(text.state)


def _would_pass(pair: Pair, wanted: tuple[tuple[str, float], ...]) -> Iterator[Fact]:
    for label, value in wanted:
        if pair.ratio < value:
            yield label, Nearest.to(pair.colour, pair.behind, value).words(pair.colour, pair.behind)


def _target(seen: Seen, tree: Tree, element: Element) -> Iterator[Fact]:
    for target in (each for each in seen.targets if each.element is element):
        yield "reaches", f"{target.width:g} by {target.height:g} CSS pixels"
        exception = "it stands in a sentence" if target.is_in_text else "the browser decides its size"
        if target.is_at_least(TARGET_AA):
            yield "24 pixels", "yes (2.5.8)"
        elif target.is_excepted:
            yield "24 pixels", f"not asked: {exception} (2.5.8)"
        else:
            yield "24 pixels", "no, with room around it (2.5.8)" if target.near is None else "no (2.5.8)"
        yield "44 pixels", "yes (2.5.5)" if target.is_at_least(TARGET_AAA) else "no (2.5.5)"
        yield "too near", tree.place_words(target.near) if target.near is not None else ""


def _focus(seen: Seen, tree: Tree, element: Element) -> Iterator[Fact]:
    for each in (one for one in seen.indicators if one.element is element):
        yield "focus shows", str(each.indication)
        yield "changes", f"{each.area:.0f} square CSS pixels, {each.strong:.0f} of them by 3:1 or more"
        yield "AAA asks for", f"{each.asked:.0f} (2.4.13)"
        yield "mostly", each.pair.words() if each.pair is not None else ""
    for _, lost in (one for one in seen.lost if one[0] is element):
        yield "forced colours", f"{lost} is not seen"


_OF_SLICE: Mapping[Slice, Callable[[Seen, Tree, Element], Iterator[Fact]]] = {
    Slice.CONTRAST: _contrast,
    Slice.TARGETS: _target,
    Slice.FOCUS: _focus,
}

EYES = frozenset(_OF_SLICE)
"""The lists of what is seen: they are empty until somebody has looked at the page in a browser."""
