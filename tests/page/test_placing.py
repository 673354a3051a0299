"""Where elements of a page in a browser stand in the file it was given."""

from __future__ import annotations

import pytest
from hypothesis import given

from murvel.dom.document import Element
from murvel.page.captured.placing import places_in
from murvel.page.open_page import document_from_text
from tests.strategies import hostile_markup

FILE = """<!DOCTYPE html><html lang=en><title>Plots</title>
<main><h1>Plots</h1>
<p>One</p>
<p>Two</p>
<button id=b>Send</button>
<ul>
<li>North
<li>South
</ul></main>"""


def elements(markup: str) -> list[Element]:
    root = document_from_text(markup).document.root
    return [root, *(each for each in root.descendants() if isinstance(each, Element))]


@given(hostile_markup())
def test_a_page_that_no_script_has_changed_has_the_lines_of_its_file(markup: str) -> None:
    document = document_from_text(markup).document
    found = places_in(markup, document.root)
    for each in document.root.descendants():
        if isinstance(each, Element) and each in found:
            assert found[each] == document.position(each)


@pytest.mark.parametrize(
    ("changes", "tag", "words", "line"),
    [
        ([], "p", "Two", 4),
        ([("<p>One</p>", "<p>New</p><p>One</p>")], "p", "One", 3),
        ([("<p>One</p>", "<p>New</p><p>One</p>")], "p", "New", None),
        ([("<p>One</p>", "")], "p", "Two", 4),
        ([("<p>Two</p>", "<p>2</p>")], "p", "2", 4),
        ([("id=b", "id=b class=busy disabled")], "button", "Send", 5),
        ([("<main>", "<div id=root><main>"), ("</main>", "</main></div>")], "button", "Send", None),
        ([("<li>South", "<li>South<li>West")], "li", "West", None),
        ([("<li>South", "<li>South<li>West")], "li", "North", 7),
    ],
)
def test_what_scripts_have_changed(changes: list[tuple[str, str]], tag: str, words: str, line: int | None) -> None:
    markup = FILE
    for before, after in changes:
        assert before in markup
        markup = markup.replace(before, after)
    every = elements(markup)
    found = places_in(FILE, every[0])
    (meant,) = (each for each in every if each.tag == tag and each.text().strip() == words)
    place = found.get(meant)
    assert (place.line if place is not None else None) == line


def test_many_children_are_paired_by_their_tags() -> None:
    markup = f"<ul>{''.join(f'{chr(10)}<li>{at}' for at in range(1_000))}</ul>"
    every = elements(markup)
    found = places_in(markup, every[0])
    assert [found[each].line for each in every if each.tag == "li"] == [*range(2, 1_002)]
