"""What style sheets are applied to: a document, and its parts."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.css.selectors.engine import Subtree
from murvel.dom.document import Document


@dataclass(frozen=True, slots=True)
class Parsed:
    """What a parse made.

    Attributes:
        document: the document.
        parts: the parts that style sheets are applied to, the page itself first.
    """

    document: Document
    parts: list[Subtree]
