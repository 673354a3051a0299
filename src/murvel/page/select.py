"""Finding elements by XPath or by CSS selector."""

from __future__ import annotations

from selectolax.lexbor import SelectolaxError

from murvel.page.document import Document, Element
from murvel.page.errors import PageError
from murvel.page.parse import parse
from murvel.page.places import find_xpath, xpath
from murvel.page.text import visible


def select(document: Document, where: str) -> list[Element]:
    """Return the elements that an absolute XPath or a CSS selector names, in document order.

    Args:
        document: the document.
        where: an absolute XPath as Murvel writes it, else a selector.

    Raises:
        PageError: it is neither, or nothing is there.
    """
    where = where.strip()
    if where.startswith("/"):
        element = find_xpath(document, where)
        found = [element] if element is not None else []
    else:
        found = _matching(document, where)
    if not found:
        raise PageError(f"Nothing on the page is at {visible(where)}; check it against murvel tree PAGE --format json.")
    return found


def _matching(document: Document, selector: str) -> list[Element]:
    # The parser's own tree is not kept with the document; its nodes are found again by their places. Selectors do
    # not reach into shadow trees and frames.
    page = parse(document.source.text, document.address).parts[0]
    try:
        elements = [page.by_memory[node.mem_id] for node in page.parser.css(selector)]
    except SelectolaxError as error:
        raise PageError(f"{visible(selector)} is no selector that is understood; check its spelling.") from error
    found = [find_xpath(document, xpath(each)) for each in sorted(elements, key=lambda each: each.order)]
    return [each for each in found if each is not None]
