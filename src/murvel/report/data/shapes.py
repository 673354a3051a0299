"""The shapes that JSON output is made of."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from murvel.checks.engine.lead import Lead
from murvel.dom.document import Element
from murvel.dom.places import xpath
from murvel.reader.session import ReadingSession
from murvel.reader.speech.utterance import Utterance
from murvel.tree.model import Tree
from murvel.tree.node import Node

VERSION = 1
"""The version of every shape; a change that breaks a reader of the JSON raises it."""

Data = dict[str, Any]
"""What can be written as JSON."""


def document(kind: str, session: ReadingSession, **content: Any) -> Data:
    """Return a whole output: its format, the page and voice it is of, and its content."""
    page = session.tree.document
    return {
        "format": f"murvel-{kind}",
        "version": VERSION,
        "page": {"address": page.address, "title": page.title, "language": page.language, "width": page.width},
        "problems": [{"kind": each.kind.value, "text": each.text} for each in page.problems],
        "voice": {"name": session.voice.name, "language": session.speaker.words.language, "rate": session.voice.rate},
        **content,
    }


def place(tree: Tree, where: Node | Element) -> Data:
    """Return where a node or element stands: its XPath, and line and column of its start tag (null for none)."""
    element = where if isinstance(where, Element) else where.element
    position = tree.document.position(element)
    return {
        "xpath": xpath(element),
        "line": position.line if position is not None else None,
        "column": position.column if position is not None else None,
    }


def node_data(tree: Tree, node: Node) -> Data:
    """Return a node: role, name and place."""
    return {"role": node.role, "name": node.name, **place(tree, node)}


def heard(utterance: Utterance) -> Data:
    """Return what is heard: as one line, and in its parts."""
    return {
        "heard": utterance.text,
        "parts": [{"kind": part.kind.value, "text": part.text} for part in utterance.parts],
    }


def leads(found: Sequence[Lead]) -> list[Data]:
    """Return what checks noticed."""
    return [
        {
            "check": lead.check.id,
            "certainty": lead.certainty.value,
            "says": lead.says,
            "means": lead.check.means,
            "repair": lead.check.repair,
            "expected": lead.expected,
            "criteria": list(lead.check.criteria),
        }
        for lead in found
    ]
