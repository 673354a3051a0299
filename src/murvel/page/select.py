"""Finding elements by XPath or by CSS selector."""

from __future__ import annotations

from murvel.css.selectors.engine import SelectorError
from murvel.css.values.style import Styles
from murvel.dom.document import Document, Element
from murvel.dom.places import find_xpath
from murvel.loading.errors import PageError
from murvel.text import visible


def select(document: Document, styles: Styles, where: str) -> list[Element]:
    """Return the elements that an absolute XPath or a CSS selector names, in document order.

    Args:
        document: the document.
        styles: its styles, which know selectors; these do not reach into shadow trees and frames.
        where: an absolute XPath as Murvel writes it, else a selector.

    Raises:
        PageError: it is neither, or nothing is there.
    """
    where = where.strip()
    if where.startswith("/"):
        element = find_xpath(document, where)
        found = [element] if element is not None else []
    else:
        try:
            found = styles.matching(where)
        except SelectorError as error:
            raise PageError(f"{visible(where)} is no selector that is understood", "check its spelling.") from error
    if not found:
        raise PageError(
            f"Nothing on the page is at {visible(where)}", "check it against murvel tree PAGE --format json."
        )
    return found
