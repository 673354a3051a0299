"""Where the elements of a page in a browser stand in the file that the browser was given.

The file is parsed, and the elements of both are paired from the top down. Elements with the same tag, attributes and
text are paired first. Between two pairs, elements of a tag are paired where both sides have as many. An element without
a partner was made or changed by scripts and has no line.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from difflib import SequenceMatcher

from murvel.dom.document import Element, Text
from murvel.dom.source_text import Position
from murvel.loading.errors import PageError
from murvel.loading.fetch import PageSource
from murvel.page.parse import parse

_MOST_COMPARED = 300
"""Children of one element from which on they are paired by their tags alone, if there are as many of each."""
_SHOWN = 40


def places_in(text: str, root: Element) -> dict[Element, Position]:
    """Return line and column of the start tags of elements in a file.

    Args:
        text: the file.
        root: the html element of the page as a browser has it.

    Returns:
        The elements that the file has; none where it is no page.
    """
    try:
        document = parse(PageSource(text, "page.html")).document
    except PageError:
        return {}
    found: dict[Element, Position] = {}
    pairs = [(root, document.root)]
    while pairs:
        ours, theirs = pairs.pop()
        position = document.position(theirs)
        if position is not None:
            found[ours] = position
        pairs += _paired([*ours.elements()], [*theirs.elements()])
    return found


def _paired(ours: Sequence[Element], theirs: Sequence[Element]) -> Iterator[tuple[Element, Element]]:
    """Pair the children of two elements."""
    if max(len(ours), len(theirs)) > _MOST_COMPARED:
        yield from _by_tags(ours, theirs)
        return
    matcher = SequenceMatcher(None, [*map(_key, ours)], [*map(_key, theirs)], autojunk=False)
    at = there = 0
    for block in matcher.get_matching_blocks():
        yield from _by_tags(ours[at : block.a], theirs[there : block.b])
        yield from zip(ours[block.a : block.a + block.size], theirs[block.b : block.b + block.size], strict=True)
        at, there = block.a + block.size, block.b + block.size


def _by_tags(ours: Sequence[Element], theirs: Sequence[Element]) -> Iterator[tuple[Element, Element]]:
    """Pair those of each tag in their order, where there are as many of it on both sides."""
    by_tag: dict[str, tuple[list[Element], list[Element]]] = defaultdict(lambda: ([], []))
    for side, elements in enumerate((ours, theirs)):
        for each in elements:
            by_tag[each.tag][side].append(each)
    for own, other in by_tag.values():
        if len(own) == len(other):
            yield from zip(own, other, strict=True)


def _key(element: Element) -> tuple[object, ...]:
    """What an element is paired by: its tag, its attributes, and the beginning of its own text."""
    text = "".join(each.data for each in element.children if isinstance(each, Text))
    return element.tag, *sorted(element.attributes.items()), " ".join(text.split())[:_SHOWN]
