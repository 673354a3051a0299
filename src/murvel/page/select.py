"""Finding elements by XPath or by CSS selector."""

from __future__ import annotations

from selectolax.lexbor import SelectolaxError

from murvel.page.document import Document, Element, Text
from murvel.page.errors import PageError
from murvel.page.parse import parse
from murvel.page.places import find_xpath
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
    # The parser's own tree is not kept with the document; its nodes are found again by their order.
    parsed = parse(document.source.text, document.address)
    try:
        orders = {parsed.by_memory[node.mem_id].order for node in parsed.parser.css(selector)}
    except SelectolaxError as error:
        raise PageError(f"{visible(selector)} is no selector that is understood; check its spelling.") from error
    nodes: list[Element | Text] = [document.root, *document.root.descendants()]
    return [node for node in nodes if node.order in orders and isinstance(node, Element)]
