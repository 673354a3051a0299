"""Opening anything that has a tree: a page, the tree JSON, or a dump of a browser's own tree."""

from __future__ import annotations

from murvel.loading.fetch import PageSource, fetch
from murvel.loading.kinds import is_tree
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.page.captured.capture import is_capture, read_capture
from murvel.page.open_page import document_of
from murvel.tree.build import build_tree
from murvel.tree.model import Tree


def open_tree(address: str, setup: Setup = DEFAULT_SETUP) -> Tree:
    """Return the tree of a page, or the one that a JSON file holds.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.

    Raises:
        PageError: it cannot be loaded, or its JSON is no tree; the message says where and what to do.
    """
    source = fetch(address, setup)
    if is_capture(source.text):
        return tree_of_capture(source)
    if is_tree(source.text):
        from murvel.tree.exchange.imported import (
            import_tree,  # its checks take long to load, and pages need none of them
        )

        return import_tree(source.text, source.address, setup.width)
    return build_tree(document_of(source, setup.width))


def tree_of_capture(source: PageSource) -> Tree:
    """Return the tree of a page as a browser had it, with the browser's own opinion where it was taken.

    Raises:
        PageError: the capture is damaged.
    """
    from murvel.page.captured.document import CapturedDocument  # few pages are captures
    from murvel.tree.exchange.agreement import TakenOpinion

    capture = read_capture(source.text, source.address)
    tree = build_tree(CapturedDocument(capture).styled)
    if capture.browser_tree:
        tree.opinion = TakenOpinion(capture.browser_tree)
    return tree
