"""The stage by itself: values that are stepped, the page as it changes, and hostile use."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.dom.document import Element
from murvel.loading.fetch import PageSource
from murvel.stage.errors import StageError
from murvel.stage.html.page import LivePage
from murvel.stage.html.stage import HtmlStage
from murvel.stage.html.stepping import stepped
from murvel.stage.inputs import BACKSPACE, Activate, Focus, Input, Keystroke, Load, Press, Type
from tests.strategies import hostile_markup


@pytest.mark.parametrize(
    ("kind", "attributes", "by", "value"),
    [
        ("number", {"value": "2"}, 1, "3"),
        ("number", {}, -1, "-1"),
        ("number", {"value": "2", "max": "2"}, 1, None),
        ("number", {"value": "2.5", "step": "0.5"}, -1, "2"),
        ("number", {"value": "7", "step": "5", "min": "0"}, 1, "10"),
        ("number", {"value": "7", "step": "5", "min": "0"}, -1, "5"),
        ("number", {"value": "x", "step": "any"}, 1, "1"),
        ("number", {"value": "1e400"}, 1, "1"),
        ("range", {}, 1, "51"),
        ("range", {"value": "100"}, 1, None),
        ("date", {"value": "2026-12-31"}, 1, "2027-01-01"),
        ("date", {"value": "2026-12-31", "max": "2026-12-31"}, 1, None),
        ("date", {"value": "never"}, 1, None),
        ("date", {"value": "9999-12-31"}, 1, None),
        ("month", {"value": "2026-12"}, 1, "2027-01"),
        ("time", {"value": "23:59"}, 1, "00:00"),
        ("datetime-local", {"value": "2026-01-01T00:00"}, -1, "2025-12-31T23:59"),
        ("week", {"value": "2026-W53"}, 1, "2027-W01"),
        ("week", {"value": "2026-W01", "min": "2026-W01"}, -1, None),
        ("week", {"value": "soon"}, 1, None),
    ],
)
def test_stepping(kind: str, attributes: dict[str, str], by: int, value: str | None) -> None:
    assert stepped(kind, attributes.get("value", ""), attributes, by) == value


def page_of(markup: str) -> LivePage:
    return LivePage(PageSource(markup), 1280)


def test_an_element_keeps_its_key_and_its_place() -> None:
    page = page_of("<p>a</p>\n<ul id=l><li>b</ul>")
    listed = page.select("#l")[0]
    key = page.key_of(listed)
    page.live.insert(page.select("p")[0], "<b>x</b> y ", "before")
    page.follow()
    again = page.element(key)
    assert again is listed
    assert page.document.position(again) == (2, 1)
    assert page.document.position(page.select("b")[0]) is None
    assert page.document.body is not None
    assert page.document.body.text().split() == ["x", "y", "a", "b"]


@pytest.mark.parametrize(
    ("at", "text"), [("start", "1 2 old"), ("end", "old 1 2"), ("before", "1 2 old"), ("after", "old 1 2")]
)
def test_where_markup_is_inserted(at: str, text: str) -> None:
    page = page_of("<div><p>old </p></div>")
    page.live.insert(page.select("p")[0], "<i>1 </i><i>2 </i>", at)
    page.follow()
    assert " ".join(page.select("div")[0].text().split()) == text


def test_what_is_removed_is_gone_with_its_key() -> None:
    page = page_of("<ul><li id=a><b>x</b><li id=b>y</ul>")
    keys = [page.key_of(element) for element in page.select("li")]
    page.live.remove(page.select("#a")[0])
    page.follow()
    assert page.element(keys[0]) is None
    assert page.element(keys[1]) is page.select("#b")[0]


def test_the_same_text_is_no_change() -> None:
    page = page_of("<p id=p>x</p>")
    page.live.set_text(page.select("p")[0], "x")
    page.live.set_attribute(page.select("p")[0], "id", "p")
    assert page.follow() is None
    page.live.set_text(page.select("p")[0], "y")
    assert page.follow() is not None


def test_text_is_never_markup() -> None:
    page = page_of("<p id=p>x</p>")
    page.live.set_text(page.select("p")[0], "<b>1 & 2</b>")
    page.follow()
    assert page.select("p")[0].text() == "<b>1 & 2</b>"
    assert page.select("b") == []


def test_a_selector_that_is_none() -> None:
    with pytest.raises(StageError, match="not understood"):
        page_of("<p>x").select("]]")


@given(hostile_markup(), st.data())
def test_no_key_on_no_page_stops_it(markup: str, data: Any) -> None:
    stage = HtmlStage(PageSource(markup))
    stage.perform(Load())
    for _ in range(4):
        document = stage.page.document
        nodes = (document.root, *document.root.descendants())
        keys = [stage.key_of(node) for node in nodes if isinstance(node, Element) and stage.page.live.can_change(node)]
        key = data.draw(st.sampled_from(keys))
        assert key is not None
        given: list[Input] = [
            Activate(key),
            Focus(key),
            Type(key, "x"),
            Type(key, BACKSPACE),
            *(Press(stroke, key) for stroke in Keystroke),
        ]
        stage.perform(data.draw(st.sampled_from(given)))
        assert stage.tree.nodes


def test_a_changed_style_sheet_counts() -> None:
    page = page_of("<style>.a { display: none }</style><p class=a>one<p>two<input>")
    page.live.set_attribute(page.select("p")[1], "class", "a")
    page.follow()
    assert [node.name for node in page.tree.nodes if node.is_text] == []
    page.live.set_text(page.select("style")[0], ".b { display: none }")
    page.follow()
    assert [node.name for node in page.tree.nodes if node.is_text] == ["one", "two"]
    assert not list(page.document.problems)
