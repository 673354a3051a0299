"""Facts of entries in the lists of what is seen: colours and ratios, sizes, focus indicators."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from murvel.checks.facts import Facts
from murvel.page.colours import AA_LARGE, AA_TEXT, AAA_LARGE, AAA_TEXT, NON_TEXT, nearest, ratio_words
from murvel.page.document import Element
from murvel.stage.seen import TARGET_AA, TARGET_AAA, Contrast, Pair, TextSeen
from murvel.survey.entry import Slice

Fact = tuple[str, str]
"""A label and a value."""


def seen_facts(page: Facts, slice_: Slice, element: Element) -> Iterator[Fact]:
    """Yield what was seen of an element; nothing for other lists, and where nobody looked."""
    find = _OF_SLICE.get(slice_)
    if find is not None and page.seen is not None:
        yield from find(page, element)


def _contrast(page: Facts, element: Element) -> Iterator[Fact]:
    assert page.seen is not None
    for text in (each for each in page.seen.texts if each.element is element):
        if text.contrast is None:
            yield str(text.kind), f"cannot be told: {text.reason}"
        else:
            yield from _text(text, text.contrast)
    for edge in (each for each in page.seen.edges if each.element is element and each.contrast is not None):
        pair = edge.contrast
        assert pair is not None
        yield "edge", f"{ratio_words(pair.ratio)}, {pair.colour.hex} beside {pair.behind.hex}"
        yield "asks for", f"{NON_TEXT:g}:1 (1.4.11)"
        yield from _would_pass(pair, (("would pass", NON_TEXT),))


def _text(text: TextSeen, contrast: Contrast) -> Iterator[Fact]:
    yield str(text.kind), _pair(contrast.least)
    if not contrast.is_even:
        yield "in the middle", _pair(contrast.typical)
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


def _pair(pair: Pair) -> str:
    return f"{ratio_words(pair.ratio)}, {pair.colour.hex} on {pair.behind.hex}"


def _would_pass(pair: Pair, wanted: tuple[tuple[str, float], ...]) -> Iterator[Fact]:
    for label, value in wanted:
        if pair.ratio < value:
            found = nearest(pair.colour, pair.behind, value)
            other = nearest(pair.behind, pair.colour, value)
            options = [f"{found.hex} on it"] if found is not None else []
            options += [f"it on {other.hex}"] if other is not None else []
            yield label, ", or ".join(options) or "no colour, whichever of the two is changed"


def _target(page: Facts, element: Element) -> Iterator[Fact]:
    assert page.seen is not None
    for target in (each for each in page.seen.targets if each.element is element):
        yield "reaches", f"{target.width:g} by {target.height:g} CSS pixels"
        exception = "it stands in a sentence" if target.is_in_text else "the browser decides its size"
        if target.is_at_least(TARGET_AA):
            yield "24 pixels", "yes (2.5.8)"
        elif target.is_excepted:
            yield "24 pixels", f"not asked: {exception} (2.5.8)"
        else:
            yield "24 pixels", "no, with room around it (2.5.8)" if target.near is None else "no (2.5.8)"
        yield "44 pixels", "yes (2.5.5)" if target.is_at_least(TARGET_AAA) else "no (2.5.5)"
        yield "too near", page.tree.place_words(target.near) if target.near is not None else ""


def _focus(page: Facts, element: Element) -> Iterator[Fact]:
    assert page.seen is not None
    for each in (one for one in page.seen.indicators if one.element is element):
        yield "focus shows", str(each.indication)
        yield "changes", f"{each.area:.0f} square CSS pixels, {each.strong:.0f} of them by 3:1 or more"
        yield "AAA asks for", f"{each.asked:.0f} (2.4.13)"
        yield "mostly", _pair(each.pair) if each.pair is not None else ""


_OF_SLICE: Mapping[Slice, Callable[[Facts, Element], Iterator[Fact]]] = {
    Slice.CONTRAST: _contrast,
    Slice.TARGETS: _target,
    Slice.FOCUS: _focus,
}

EYES = frozenset(_OF_SLICE)
"""The lists of what is seen: they are empty until somebody has looked at the page in a browser."""
