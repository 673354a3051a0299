"""A quick look at a selector, before it is tried."""

from __future__ import annotations

import re

from murvel.page.engine import Subtree
from murvel.page.styles.grammar import is_plain


class Words:
    """The classes and ids of a document: a selector that needs another one cannot match and is not tried."""

    _NEEDED = re.compile(r"([.#])((?:[\w-]|[^\x00-\x7f])+)")
    _IN_PARENTHESES = re.compile(r"\([^()]*\)|\[[^\]]*\]")

    def __init__(self, part: Subtree) -> None:
        self._ids = part.ids.keys()
        self._classes: set[str] = set()
        for element in part.elements():
            if "class" in element.attributes:
                self._classes.update(element.attributes["class"].split())

    def may_match_one(self, selectors: str) -> bool:
        """Whether the document may have what one of some selectors needs, as far as a quick look tells."""
        return not is_plain(selectors) or any(map(self._has_all, selectors.split(",")))

    def _has_all(self, selector: str) -> bool:
        return all(
            word in (self._classes if kind == "." else self._ids) for kind, word in self._NEEDED.findall(selector)
        )

    def may_match(self, selector: str) -> bool:
        """Whether the document has every class and id that a selector needs."""
        if "\\" in selector:
            return True
        while (inner := self._IN_PARENTHESES.sub("", selector)) != selector:
            selector = inner
        return self._has_all(selector)
