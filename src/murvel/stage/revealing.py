"""A page with everything shown that is hidden only now: what closed menus, dialogs, panels and details hold."""

from __future__ import annotations

from typing import Protocol

from murvel.dom.document import Element
from murvel.stage.stage import Revealed
from murvel.tree.model import Tree
from murvel.tree.roles.semantics import Hiding

_ROUNDS = 4
"""What is hidden in something hidden is shown in a further round; closed things nest no deeper."""

_CLOSED = frozenset({Hiding.NOT_DISPLAYED, Hiding.NOT_VISIBLE, Hiding.CLOSED_DETAILS, Hiding.CONTENT_SKIPPED})
_NEVER_SHOWN = frozenset(
    "area base col colgroup datalist head link meta noscript option param script source style template title "
    "track".split()
)


class Showable(Protocol):
    """A copy of a page in which closed things can be opened."""

    @property
    def tree(self) -> Tree:
        """Its tree, as it was when it was last followed."""

    def show(self, element: Element) -> None:
        """Show what an element hides by itself: its content where it is a closed details element, else itself."""

    def follow(self) -> object:
        """Bring the tree up to date."""


def reveal(page: Showable) -> Revealed:
    """Show all that is closed on a copy of a page."""
    semantics = page.tree.semantics
    elements = [each for each in page.tree.document.root.descendants() if isinstance(each, Element)]
    before = {each for each in elements if (why := semantics.hidden(each)) is not None and why.why in _CLOSED}
    for _ in range(_ROUNDS):
        closed = list(dict.fromkeys(filter(None, (_closed_by(page.tree, each) for each in elements))))
        if not closed:
            break
        for element in closed:
            page.show(element)
        page.follow()
    exposed = page.tree.semantics
    return Revealed(page.tree, {each for each in before if exposed.hidden(each) is None})


def _closed_by(tree: Tree, element: Element) -> Element | None:
    """What hides an element, where that is something that may be shown at another time."""
    hidden = tree.semantics.hidden(element)
    if hidden is None or hidden.why not in _CLOSED or hidden.by.tag in _NEVER_SHOWN:
        return None
    return None if hidden.by.attributes.get("type", "").lower() == "hidden" else hidden.by
