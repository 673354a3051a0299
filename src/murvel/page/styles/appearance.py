"""The rules that say what a page looks like: speech does not rest on them, but checks, tables and containers do."""

from __future__ import annotations

from murvel.page.document import Document
from murvel.page.engine import Subtree
from murvel.page.styles.containers import CONTAINING
from murvel.page.styles.decorations import DECORATING
from murvel.page.styles.looks import concerns_looks
from murvel.page.styles.media import Screen
from murvel.page.styles.raw import names_declared
from murvel.page.styles.rules import StyleRule
from murvel.page.styles.sheets import Sheets
from murvel.page.styles.texts import SheetTexts

_Kept = list[tuple[Subtree, list[StyleRule]]]


class Appearance:
    """The rules of a document that say something of looks, for each of its parts.

    Args:
        document: the document.
        parts: its parts.
        texts: its style sheets.

    Attributes:
        looks: those that `murvel.page.styles.looks` reads.
        decorating: those that say something of borders and backgrounds.
        containing: those that say something of containers and widths.
    """

    def __init__(self, document: Document, parts: list[Subtree], texts: SheetTexts) -> None:
        self.looks: _Kept = []
        self.decorating: _Kept = []
        self.containing: _Kept = []
        for part in parts:
            sheets = Sheets(Screen(document.width), document.base, texts, _shows)
            sheets.collect(document, part)
            blocks = sheets.blocks
            self.looks.append((part, [block for block in blocks if concerns_looks(block.prelude, block.names)]))
            self.decorating.append((part, [block for block in blocks if not DECORATING.isdisjoint(block.names)]))
            self.containing.append((part, [block for block in blocks if not CONTAINING.isdisjoint(block.names)]))


def _shows(prelude: str, content: str) -> bool:
    names = names_declared(content)
    return not (DECORATING.isdisjoint(names) and CONTAINING.isdisjoint(names)) or concerns_looks(prelude, names)
