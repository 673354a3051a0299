"""What a page is opened as."""

from __future__ import annotations

from typing import NamedTuple

from murvel.css.values.style import Styles
from murvel.dom.document import Document


class StyledDocument(NamedTuple):
    """A document and the styles of its elements: what a tree is built from."""

    document: Document
    styles: Styles
