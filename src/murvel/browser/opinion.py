"""What the browser makes of the page now; it is asked (`murvel.tree.exchange.agreement.SecondOpinion`)."""

from __future__ import annotations

from collections.abc import Callable

from murvel.browser.errors import BrowserError
from murvel.dom.document import Element
from murvel.tree.exchange.agreement import Agreement, BrowserNode, Difference, compare, differences
from murvel.tree.model import Tree
from murvel.tree.node import Node

Exposed = Callable[[Element | None], list[BrowserNode]]
"""Returns what the browser exposes of an element, at most one node; with None, of the whole page."""


class AskedOpinion:
    """The opinion of a browser that can be asked."""

    def __init__(self, exposed: Exposed) -> None:
        self._exposed = exposed

    def about(self, tree: Tree, node: Node) -> list[Difference]:
        """Return where it differs about one node; empty if the browser does not answer."""
        if node.is_text or node.role == "document":
            return []
        try:
            found = self._exposed(node.element)
        except BrowserError:
            return []
        return differences(tree.xpath_of(node), node, found[0] if found else None)

    def on(self, tree: Tree) -> Agreement:
        """Return how far it agrees on a whole tree."""
        return compare(tree, self._exposed(None))
