"""Whether a page that is re-tested is the one that was tested: not an empty page, an error, a login or another page."""

from __future__ import annotations

import re

from murvel.dom.html.inputs import input_type
from murvel.patterns import pattern
from murvel.text import collapse, visible
from murvel.tree.model import Tree
from murvel.tree.trail import headings_in

_AROUND = frozenset({"banner", "navigation", "contentinfo"})
"""Landmarks that many pages of a site share."""

_FEW = 0.25
"""A page that says less than this part of what it said, and says that it is an error, is one."""
_HARDLY = 0.2
"""A page that says less than this part of what it said, and is called otherwise, is another one."""
_ALMOST_NONE = 0.1
"""A page of `_LONG` texts or more that says less than this part of them is another one, whatever it is called."""
_LONG = 20
_ENOUGH = 5
"""A page with fewer texts may have none of them left by chance."""
_LONGEST = 80

_ERROR = pattern(
    r"\b(?:[45]\d\d\b.*\b(?:error|not found|forbidden|unauthori[sz]ed|unavailable|gateway|gone|denied)|page not found|"
    r"not found|forbidden|access denied|service unavailable|bad gateway|internal server error|something went wrong|"
    r"(?:http )?error [45]\d\d|seite nicht gefunden|zugriff verweigert|page introuvable|page non trouvée|accès refusé|"
    r"página no encontrada|pagina non trovata|pagina niet gevonden)\b|^\s*[45]\d\d\s*$",
    re.IGNORECASE,
)


def why_another(old: Tree | None, new: Tree, title: str) -> str:
    """Return why a page is not the one that was tested, a sentence without its full stop; empty if it is the one.

    Args:
        old: its tree as it was tested, None if that is not kept.
        new: its tree as it is now.
        title: its title as it was tested.
    """
    known, now = (_texts(old) if old is not None else set()), _texts(new)
    if not now and (known or title):
        return "it is empty"
    share = len(known & now) / len(known) if known else float(old is not None)
    called = [collapse(new.document.title), *_headings(new)]
    error = next((each for each in called if _ERROR.search(each)), "")
    was_error = any(_ERROR.search(each) for each in (collapse(title), *(_headings(old) if old is not None else ())))
    if error and not was_error and share < _FEW:
        return f"it says “{visible(error[:_LONGEST])}”"
    if share >= _FEW or old is None:
        return ""
    if _asks_password(new) and not _asks_password(old):
        return "it asks for a password"
    if len(known) >= _ENOUGH and not share:
        return "nothing of what it said is there any more"
    is_called_so = collapse(title) in called or bool({*_headings(old)} & {*called})
    is_long = len(known) >= _LONG
    if (share < _HARDLY and not is_called_so) or (share < _ALMOST_NONE and is_long):
        name = next(filter(None, called), "") or "without a title"
        return f"it is another page, “{visible(name[:_LONGEST])}”"
    return ""


def _texts(tree: Tree) -> set[str]:
    """What a page says outside of the landmarks that pages share."""
    found, at = set(), 0
    while at < len(tree.nodes):
        node = tree.nodes[at]
        if node.role in _AROUND:
            at = node.end
            continue
        text = collapse(node.name) if node.is_text or node.role == "img" else node.value
        if any(map(str.isalnum, text)):
            found.add(text)
        at += 1
    return found


def _headings(tree: Tree) -> list[str]:
    return [collapse(node.name) for node in headings_in(tree)]


def _asks_password(tree: Tree) -> bool:
    return any(node.element.tag == "input" and input_type(node.element) == "password" for node in tree.nodes)
