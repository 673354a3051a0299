"""Selectors on a captured document: its markup is parsed once more, and the parser's engine matches them there."""

from __future__ import annotations

from selectolax.lexbor import LexborHTMLParser, SelectolaxError

from murvel.css.selectors.engine import SelectorError
from murvel.dom.change import with_descendants
from murvel.dom.document import Element
from murvel.loading.addresses import shown
from murvel.page.captured.markup import write_markup

_NUMBER = "data-murvel-number"


def matching(root: Element, selector: str) -> list[Element]:
    """Return the elements under a root that a selector matches, in document order, but for frames and shadow trees.

    Raises:
        SelectorError: it is not understood.
    """
    every = [each for each in with_descendants(root) if not _is_inside(each, root)]
    numbered = {each: str(at) for at, each in enumerate(every)}
    parser = LexborHTMLParser(write_markup(root, lambda each: {_NUMBER: numbered[each]} if each in numbered else {}))
    try:
        found = parser.css(selector)
    except (SelectolaxError, ValueError) as error:
        raise SelectorError(f"The selector {shown(selector)} is not understood", "check its spelling.") from error
    numbers = {int(each.attributes[_NUMBER] or 0) for each in found if _NUMBER in each.attributes}
    return [every[at] for at in sorted(numbers)]


def _is_inside(element: Element, root: Element) -> bool:
    """Whether an element stands in a frame or a shadow tree of a page."""
    for above in element.ancestors():
        if above is root:
            return False
        if above.tag in ("iframe", "frame") or "shadowrootmode" in above.attributes:
            return True
    return False
