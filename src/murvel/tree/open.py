"""Opening anything that has a tree: a page, the tree JSON, or a dump of a browser's own tree."""

from __future__ import annotations

from murvel.page.open import DEFAULT_WIDTH, document_from_text, open_text
from murvel.tree.build import build_tree
from murvel.tree.model import Tree


def open_tree(address: str, width: int = DEFAULT_WIDTH) -> Tree:
    """Return the tree of a page, or the one that a JSON file holds.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        width: the viewport's width in CSS pixels, for pages.

    Raises:
        PageError: it cannot be had, or its JSON is no tree; the message says where and what to do.
    """
    text, final = open_text(address)
    if text.lstrip().startswith("{"):
        from murvel.tree.imported import import_tree  # its checks take long to load, and pages need none of them

        return import_tree(text, final, width)
    return build_tree(document_from_text(text, final, width))
