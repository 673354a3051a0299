"""The skip link, with which one passes what stands at the top of every page (WCAG 2.2 2.4.1)."""

from __future__ import annotations

import re
from typing import NamedTuple

from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.tree.fragments import fragment_of
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import LINKS

SKIP_WORDS = pattern(
    r"skip|jump|bypass|(?:to|go to) (?:the )?(?:main|content)|main content|überspringen|zum inhalt|"
    r"aller au contenu|ir al contenido|vai al contenuto|przejdź do treści|pomiń|içeriğe (?:geç|atla)|"
    r"перейти до (?:основного )?вмісту|пропустити|跳到(?:主要)?内容|跳过|跳至|본문으로|본문 바로가기|건너뛰기|"
    r"تخط|انتقل إلى المحتوى|सामग्री पर जाएँ|छोड़कर",
    re.IGNORECASE,
)
"""What a skip link is called."""

_AMONG_FIRST = 3
"""A skip link is among this many first stops."""


class SkipLink(NamedTuple):
    """A skip link.

    Attributes:
        node: the link.
        number: its place among the tab stops, from 1.
        target: the element that it leads to, None if the page has no such place.
    """

    node: Node
    number: int
    target: Element | None


def link_target(tree: Tree, link: Node) -> Element | None:
    """Return the element of this page that a link leads to; None for a link to elsewhere, or to no place."""
    fragment = fragment_of(link.element.attributes.get("href", ""))
    return tree.fragments.indicated(fragment) if fragment is not None else None


def skip_link(tree: Tree) -> SkipLink | None:
    """Return the skip link of a page, None if it has none.

    It is a link among the first stops, to a place on the page, that says so or leads into the main part.
    """
    mains = [node for node in tree.nodes if node.role == "main" and not node.is_part]
    for number, element in enumerate(tree.tab_order[:_AMONG_FIRST], 1):
        node = tree.node_of(element)
        if node is None or node.role not in LINKS or not fragment_of(node.element.attributes.get("href", "")):
            continue
        target = link_target(tree, node)
        leads_in = target is not None and any(
            main.element.contains(target) or target.contains(main.element) for main in mains
        )
        if SKIP_WORDS.search(node.name) or (leads_in and not any(main.contains(node) for main in mains)):
            return SkipLink(node, number, target)
    return None
