"""The rules that say what a page looks like: speech does not rest on them, but checks, tables and containers do."""

from __future__ import annotations

from murvel.css.looks.containers import CONTAINING
from murvel.css.looks.decorations import DECORATING
from murvel.css.looks.looks import concerns_looks
from murvel.css.selectors.engine import Subtree
from murvel.css.sheets.media import Screen
from murvel.css.sheets.raw import names_declared
from murvel.css.sheets.rules import StyleRule
from murvel.css.sheets.sheets import Sheets
from murvel.css.sheets.texts import SheetTexts
from murvel.dom.document import Document

_Kept = list[tuple[Subtree, list[StyleRule]]]


class Appearance:
    """The rules of a document that say something of looks, for each of its parts.

    Args:
        document: the document.
        parts: its parts.
        texts: its style sheets.

    Attributes:
        looks: those that `murvel.css.looks.looks` reads.
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
