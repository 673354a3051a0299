"""A quick look at a selector, before it is tried."""

from __future__ import annotations

from murvel.css.selectors.engine import Subtree
from murvel.patterns import pattern

NEEDED = pattern(r"[.#](?:[\w-]|[^\x00-\x7f])+")
"""A class or an id that a selector needs, with its sign."""


class Words:
    """The classes and ids of a document: a selector that needs another one cannot match and is not tried."""

    _IN_PARENTHESES = pattern(r"\([^()]*\)|\[[^\]]*\]")

    def __init__(self, part: Subtree) -> None:
        self._all = {f"#{id}" for id in part.ids}
        values = {element.attributes["class"] for element in part.elements() if "class" in element.attributes}
        self._all.update(f".{word}" for value in values for word in value.split())

    def may_match_one(self, needs: tuple[frozenset[str], ...] | None) -> bool:
        """Whether the document may have what one of a rule's selectors needs (`StyleRule.needs`)."""
        return needs is None or any(map(self._all.issuperset, needs))

    def may_match(self, selector: str) -> bool:
        """Whether the document has every class and id that a selector needs."""
        if "\\" in selector:
            return True
        while (inner := self._IN_PARENTHESES.sub("", selector)) != selector:
            selector = inner
        return self._all.issuperset(NEEDED.findall(selector))
