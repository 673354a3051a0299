"""Links that lead to other pages: where the one at the cursor leads, and whether that can be opened."""

from __future__ import annotations

from urllib.parse import unquote, urldefrag, urlsplit

from murvel.loading.addresses import is_web_address
from murvel.loading.errors import PageError
from murvel.reader.session import ReadingSession
from murvel.text import visible
from murvel.tree.roles.aria_roles import LINKS


def page_behind_link(session: ReadingSession) -> str:
    """Return the address of the page that the link at the cursor leads to.

    A page from the web leads to the web only; what it says of files on this machine is not followed.

    Raises:
        PageError: there is no link at the cursor, or it leads to no page that can be opened.
    """
    node = session.node
    chain = (node, *node.ancestors()) if node is not None else ()
    link = next((each for each in chain if each.role in LINKS and "href" in each.element.attributes), None)
    if link is None:
        raise PageError("There is no link at the cursor", "go to a link first, for example with ] l.")
    document = session.tree.document
    address = urldefrag(document.resolve(link.element.attributes["href"])).url
    if address in ("", urldefrag(document.resources.resolve(document.address, "")).url):
        raise PageError("This link leads to a place on this page", "Enter goes there.")
    if is_web_address(address):
        return address
    parts = urlsplit(address)
    if parts.scheme == "file" and not parts.netloc and not is_web_address(document.address):
        return unquote(parts.path)
    raise PageError(f"{visible(address)} is no page that can be opened from here", "open it with o, by its address.")
