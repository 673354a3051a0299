"""Whether a page is made by scripts: these do not run here, so what they make is not there to be judged."""

from __future__ import annotations

import re

from murvel.dom.document import Document, Element, Namespace, Text
from murvel.dom.shadow import declares_shadow
from murvel.patterns import pattern

_ROOTS = frozenset(
    {"app", "root", "main-app", "react-root", "__next", "__nuxt", "___gatsby", "svelte", "q-app", "mount"}
)
"""Ids that pages give to the element their scripts fill."""

_LITTLE, _SOME = 8, 300
"""A page with fewer words than `_LITTLE` is empty; one with more than `_SOME` is not, whatever else it lacks."""

_SCRIPT_TYPES = frozenset({"", "module", "text/javascript", "application/javascript", "text/ecmascript", "text/babel"})
_NO_SCRIPTS = pattern(r"java\s?script|scripts?\b", re.IGNORECASE)
_NEEDED = pattern(
    r"\b(?:enable|need|require|turn on|activate|aktivier)\w*\b.{0,60}\bjava\s?script", re.IGNORECASE | re.DOTALL
)
_NOT_READ = frozenset({"script", "style", "template", "noscript", "title", "head"})
_MANY_EMPTY = 10


def made_by_scripts(document: Document) -> str | None:
    """Return what shows that a page is made by scripts, as a clause; None if nothing does.

    Args:
        document: the document as it arrived.
    """
    body = document.body
    if body is None or not _runs_scripts(document.root):
        return None
    words = _words(body)
    empty = [each for each in body.descendants() if isinstance(each, Element) and _is_empty(each)]
    root = next((each for each in empty if each.attributes.get("id", "").lower() in _ROOTS), None)
    own = [each for each in empty if "-" in each.tag and each.namespace is Namespace.HTML]
    if root is not None and words < _SOME:
        return f"its element #{root.attributes['id']} is empty"
    if own and (words < _LITTLE * 5 or (len(own) >= _MANY_EMPTY and words < _SOME)):
        return f"its element {own[0].tag} is empty" if len(own) == 1 else f"{len(own)} of its own elements are empty"
    asks = words < _LITTLE * 5 and any(_asks_for_scripts(each) for each in document.root.descendants())
    if asks or (words < _LITTLE * 5 and _NEEDED.search(body.text())):
        return "it says that it needs JavaScript"
    if words < _LITTLE:
        return f"it has {words} words" if words != 1 else "it has one word"
    return None


def _runs_scripts(root: Element) -> bool:
    for node in root.descendants():
        if isinstance(node, Element) and node.tag == "script":
            kind = node.attributes.get("type", "").strip().lower().partition(";")[0]
            if kind in _SCRIPT_TYPES and ("src" in node.attributes or node.text().strip()):
                return True
    return False


def _words(body: Element) -> int:
    """How many words the body has, fields and images counted as one each."""
    count = 0
    stack: list[Element | Text] = [body]
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            count += len(node.data.split())
        elif node.tag not in _NOT_READ:
            count += node.tag in ("img", "input", "select", "textarea", "video", "iframe")
            stack += node.children
        if count >= _SOME:
            break
    return count


def _is_empty(element: Element) -> bool:
    """Whether nothing stands in an element that could have content."""
    for child in element.children:
        if isinstance(child, Element) or child.data.strip():
            return False
    attributes = element.attributes
    return not any(isinstance(child, Element) and declares_shadow(child) for child in element.children) and not (
        attributes.keys() & {"aria-label", "aria-labelledby", "title", "hidden"}
    )


def _asks_for_scripts(node: Element | Text) -> bool:
    return isinstance(node, Element) and node.tag == "noscript" and bool(_NO_SCRIPTS.search(node.text()))
