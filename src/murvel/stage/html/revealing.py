"""A page with everything shown that is hidden only now: what closed menus, dialogs, panels and details hold."""

from __future__ import annotations

from murvel.page.document import Element
from murvel.page.html.controls import is_open
from murvel.page.loading.fetch import PageSource
from murvel.stage.html.page import LivePage
from murvel.stage.html.showing import show
from murvel.stage.stage import Revealed
from murvel.tree.semantics import Hiding

_ROUNDS = 4
"""What is hidden in something hidden is shown in a further round; closed things nest no deeper."""

_CLOSED = frozenset({Hiding.NOT_DISPLAYED, Hiding.NOT_VISIBLE, Hiding.CLOSED_DETAILS, Hiding.CONTENT_SKIPPED})
_NEVER_SHOWN = frozenset(
    "area base col colgroup datalist head link meta noscript option param script source style template title "
    "track".split()
)


def reveal(source: PageSource, width: int) -> Revealed:
    """Return a copy of a page with nothing closed; its styles say `display` again where a rule had hidden something."""
    page = LivePage(source, width)
    semantics = page.tree.semantics
    elements = [node for node in page.document.root.descendants() if isinstance(node, Element)]
    before = {each for each in elements if (why := semantics.hidden(each)) is not None and why.why in _CLOSED}
    for _ in range(_ROUNDS):
        closed = list(dict.fromkeys(filter(None, (_closed_by(page, each) for each in elements))))
        if not closed:
            break
        for element in closed:
            if element.tag == "details" and not is_open(element):
                page.live.set_attribute(element, "open", "")
            else:
                show(page.live, element)
        page.follow()
    exposed = page.tree.semantics
    return Revealed(page.tree, {each for each in before if exposed.hidden(each) is None})


def _closed_by(page: LivePage, element: Element) -> Element | None:
    """What hides an element, where that is something that may be shown at another time."""
    hidden = page.tree.semantics.hidden(element)
    if hidden is None or hidden.why not in _CLOSED or hidden.by.tag in _NEVER_SHOWN:
        return None
    return None if hidden.by.attributes.get("type", "").lower() == "hidden" else hidden.by
