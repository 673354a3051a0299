"""What tests of every layer start from: documents, trees and sessions made of markup, and neutral case files.

A case file holds cases of three parts: a line `=== title`, markup, a line `---`, and the lines expected of it.
"""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from types import FrameType
from typing import Any

from murvel.dom.document import Document, Element
from murvel.loading.fetch import PageSource
from murvel.page.open_page import document_from_text
from murvel.page.styled_document import StyledDocument
from murvel.reader.session import ReadingSession
from murvel.stage.html.cues import read_cues
from murvel.stage.html.stage import HtmlStage
from murvel.tree.build import build_tree
from murvel.tree.exchange.write import to_text
from murvel.tree.model import Tree
from murvel.tree.node import Node

DEMO = Path(__file__).parent.parent / "src" / "murvel" / "demo" / "pages"


@dataclass(frozen=True)
class Case:
    """A case of a case file."""

    title: str
    markup: str
    expected: list[str]


def problems_of(document: Document) -> list[str]:
    """What could not be honoured of a page, in words."""
    return [each.text for each in document.problems]


def cases(path: Path) -> Iterator[Case]:
    """Yield the cases of a file."""
    for block in path.read_text(encoding="utf-8").split("\n=== ")[1:]:
        title, _, rest = block.partition("\n")
        markup, _, expected = f"{rest}\n".partition("\n---\n")
        yield Case(f"{path.stem}: {title}", markup, [line for line in expected.rstrip().splitlines() if line.strip()])


def case_ids(folder: Path, name: str = "*") -> list[Case]:
    """Return all cases of the files in a folder, for parametrizing; their titles are their ids."""
    found = [case for path in sorted(folder.glob(f"{name}.txt")) for case in cases(path)]
    assert found, f"no cases in {folder}"
    return found


def document_of(markup: str) -> Document:
    """Return the document of markup."""
    return document_from_text(markup).document


def styled_of(markup: str) -> StyledDocument:
    """Return the document of markup with its styles."""
    return document_from_text(markup)


def tree_of(markup: str) -> Tree:
    """Return the tree of markup."""
    return build_tree(document_from_text(markup))


def session_of(markup: str) -> ReadingSession:
    """Return a session on markup; nothing has been announced yet."""
    return ReadingSession(tree_of(markup))


def staged(markup: str, cues: str = "") -> ReadingSession:
    """Return a session on markup that is put on the stage, with cues as they stand in a file."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / "page.cues.yaml"
        path.write_text(cues, encoding="utf-8")
        stage = HtmlStage(PageSource(markup), cues=read_cues(path))
    return ReadingSession(stage.tree, stage=stage)


def all_elements(document: Document) -> list[Element]:
    """Return every element of a document."""
    return [document.root, *(each for each in document.root.descendants() if isinstance(each, Element))]


def element(document: Document, tag: str) -> Element:
    """Return the first element with a tag."""
    return next(node for node in document.root.descendants() if isinstance(node, Element) and node.tag == tag)


def node(tree: Tree, role: str) -> Node:
    """Return the first node of a role."""
    return next(each for each in tree.nodes if each.role == role)


def calls(work: Callable[[], object]) -> int:
    """Return how many functions are called by some work, generators going on counted as calls."""
    count = 0

    def seen(_frame: FrameType, event: str, _argument: Any) -> None:
        nonlocal count
        count += event == "call"

    before = sys.getprofile()
    sys.setprofile(seen)
    try:
        work()
    finally:
        sys.setprofile(before)
    return count


def outline(tree: Tree) -> str:
    """Return a tree as one line: each node as the text form has it, with what stands in it in braces."""
    pieces: list[str] = []
    depth = 0
    for line in list(to_text(tree))[1:]:
        level = (len(line) - len(line.lstrip(" "))) // 2
        pieces.append(" {" * (level - depth) if level > depth else " }" * (depth - level) + ",")
        pieces.append(" " + line.strip())
        depth = level
    return "".join(pieces).removeprefix(" {").strip() + " }" * (depth - 1)
