"""Reports: for developers to act on, safe whatever a page says, and themselves good pages."""

import re
import sys
from dataclasses import replace
from datetime import date
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.casebook.defect import Defect, Impact, MoveMade, Place
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.dom.document import Element
from murvel.page.open_page import document_from_text
from murvel.reader.session import ReadingSession
from murvel.report.charts import CHARTS, Subject
from murvel.report.drawing import draw
from murvel.report.errors import ReportError
from murvel.report.formats import ChartKind, Format
from murvel.report.write import fenced, markdown_code, markdown_text, render
from murvel.tree.build import build_tree
from murvel.tree.roles.aria_roles import BUTTONS, FIELDS, LANDMARKS
from tests.casebook.support import a_tree
from tests.support import document_of, session_of

DAY = date(2026, 3, 1)
HOSTILE = "<script>alert(1)</script> [x](javascript:y) `` ``` **b** \x1b[31m \u202e | # \"q\" 'a' & ]] -->"


@pytest.fixture
def book(tmp_path: Path) -> Casebook:
    book = Casebook(tmp_path / "b.murvel")
    page = book.keep_page(f"/{HOSTILE}.html", HOSTILE, 1280)
    take = book.keep_take(page, document_of("<p>x"), a_tree)
    place = Place("/html[1]/body[1]/p[1]", 3, 7, HOSTILE, "paragraph", HOSTILE)
    hostile = Defect(
        page.id, take.id, place, HOSTILE, (MoveMade(HOSTILE, 2, HOSTILE),), HOSTILE, Impact.SLOWS, "2.4.4", HOSTILE
    )
    book.keep_defect(hostile)
    book.keep_defect(
        replace(hostile, heard="text box", impact=Impact.BLOCKS, criterion="4.1.2", place=replace(place, line=None))
    )
    other = book.keep_page("/b.html", "", 600)
    book.keep_defect(Defect(other.id, book.keep_take(other, document_of("<p>y"), a_tree).id, place, "a " * 100))
    return book


def test_the_html_report_is_a_good_page(book: Casebook) -> None:
    session = ReadingSession(build_tree(document_from_text(render(book, Format.HTML, DAY))))
    nodes = session.tree.nodes
    levels = [node.states["level"] for node in nodes if node.role == "heading"]
    assert levels[0] == 1
    assert levels.count(1) == 1
    assert all(int(after) <= int(before) + 1 for before, after in pairwise(levels))
    assert [node.role for node in nodes if node.role in LANDMARKS] == ["banner", "navigation", "main", "contentinfo"]
    assert all(node.name for node in nodes if node.role in FIELDS | BUTTONS | {"link", "heading", "table", "img"})
    assert session.tree.document.language == "en"
    assert session.tree.document.title.startswith("What is heard: 3 defects")


def test_links_of_the_html_report_lead_somewhere(book: Casebook) -> None:
    document = document_from_text(render(book, Format.HTML, DAY)).document
    links = [each for each in document.root.descendants() if isinstance(each, Element) and each.tag == "a"]
    assert len(links) == 5
    for link in links:
        target = (link.get("href") or "")[1:]
        assert document.ids[target].tag in ("h2", "h3")


def test_nothing_of_a_page_acts_in_the_html_report(book: Casebook) -> None:
    text = render(book, Format.HTML, DAY)
    document = document_from_text(text).document
    elements = [each for each in document.root.descendants() if isinstance(each, Element)]
    assert not [each for each in elements if each.tag in ("script", "iframe", "img", "form")]
    assert not [name for each in elements for name in each.attributes if name.startswith("on")]
    assert "\x1b" not in text
    assert "\u202e" not in text
    assert "[U+202E]" in document.root.text()
    assert "http" not in text


def test_it_needs_no_other_file(book: Casebook) -> None:
    text = render(book, Format.HTML, DAY)
    assert "<link" not in text
    assert "src=" not in text


@pytest.mark.parametrize("form", list(Format))
def test_what_a_developer_needs_is_in_it(book: Casebook, form: Format) -> None:
    text = render(book, form, DAY)
    for words in (
        "1 March 2026",
        "4.1.2 Name, Role, Value (A)",
        "/html[1]/body[1]/p[1]",
        "line 3, column 7",
        "2 times",
    ):
        assert words in text
    assert text.index("Defect 2") < text.index("Defect 1:")
    assert "no start tag in the source" in text
    assert "none picked yet" in text
    assert "/b.html" in text


@pytest.mark.parametrize("form", list(Format))
def test_a_casebook_without_defects(tmp_path: Path, form: Format) -> None:
    with Casebook(tmp_path / "e.murvel") as book:
        assert "No defects are documented" in render(book, form, DAY)
        assert "0 defects" in render(book, form, DAY)


def test_nothing_of_a_page_acts_in_markdown(book: Casebook) -> None:
    text = render(book, Format.MARKDOWN, DAY)
    outside = []
    fence = None
    for line in text.splitlines():
        if fence is None and line.startswith("```"):
            fence = line.removesuffix("html")
        elif line == fence:
            fence = None
        elif fence is None:
            outside.append(line)
    assert fence is None
    joined = "\n".join(outside)
    assert "\\<script\\>" in joined
    assert "\x1b" not in text
    assert " <script>" not in joined.replace("` /<script>", "").replace("`` ``` ", "")


@given(st.text())
def test_markdown_text_stays_on_its_line_and_keeps_its_words(text: str) -> None:
    shown = markdown_text(text)
    assert "\n" not in shown
    shown = re.sub(r"(?<!\\)(`+).+?\1", "", shown)  # code spans, in which nothing acts
    for sign in "*_[]<>#|":
        assert shown.count(sign) == shown.count(f"\\{sign}")


@pytest.mark.parametrize(
    "text", ["see https://a.example/x now", "www.a.example", "ask @fern", "fern@a.example", "as in #17"]
)
def test_markdown_links_nothing_by_itself(text: str) -> None:
    word = next(each for each in text.split() if not each.isalpha())
    assert f"`{word}`" in markdown_text(text)


@given(st.text(alphabet="`a\n <", max_size=30))
def test_code_cannot_be_ended_from_inside(text: str) -> None:
    block = fenced(text).splitlines()
    fence = block[0].removesuffix("html")
    assert all(not line.startswith(fence) for line in block[1:-1])
    assert block[-1] == fence
    span = markdown_code(text)
    ticks = len(span) - len(span.lstrip("`"))
    assert "`" * ticks not in span[ticks:-ticks].strip(" ").replace("`" * (ticks + 1), "")


def test_drawing_without_its_extra_says_what_to_install(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setitem(sys.modules, "matplotlib", None)
    with pytest.raises(ReportError, match=r"needs the extra “charts”; pip install 'murvel\[charts\]'"):
        draw(CHARTS[ChartKind.REACH].drawing(Subject(session_of("<h1>A</h1>"), built_in())), tmp_path / "a.svg")
