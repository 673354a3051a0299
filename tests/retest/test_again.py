"""Elements found again: on the same page each is itself, and what changes around or in an element does not lose it."""

import pytest
from hypothesis import given

from murvel.dom.document import Element
from murvel.retest.again import find_again
from murvel.tree.model import Tree
from tests.strategies import hostile_markup
from tests.support import tree_of

SHEDS = """<main><h1>Sheds</h1><p>Open on Sunday.</p><form id=ask><label for=mail>Email</label><input id=mail name=mail>
<button class=send>Ask the warden</button></form><ul><li>North shed <button>Lock</button></li><li>South shed
<button>Lock</button></li></ul><table><tr><th>Shed<th>Keys<tr><td>North<td>2<tr><td>South<td>3</table></main>"""


def elements(tree: Tree) -> list[Element]:
    root = tree.document.root
    return [each for each in (root, *root.descendants()) if isinstance(each, Element)]


@given(hostile_markup())
def test_every_element_is_certain_on_the_same_page(markup: str) -> None:
    old, new = tree_of(markup), tree_of(markup)
    found = find_again(old, new, elements(old))
    for before, now in zip(elements(old), elements(new), strict=True):
        answer = found.get(before)
        assert answer is None or (answer.element is now and answer.is_certain)
    assert len({answer.element for answer in found.values()}) == len(found)


@given(hostile_markup(), hostile_markup())
def test_any_two_pages_are_compared(one: str, other: str) -> None:
    old = tree_of(one)
    for answer in find_again(old, tree_of(other), elements(old)).values():
        assert 0 < answer.likeness <= 1


def button(tree: Tree, words: str) -> Element:
    return next(
        each for each in elements(tree) if words in each.text() and each.tag in ("button", "td", "div", "input")
    )


@pytest.mark.parametrize(
    ("change", "what", "tag", "is_certain"),
    [
        ([("Ask the warden", "Send")], "Ask the warden", "button", True),
        ([("class=send", "class=primary"), ("id=ask", "id=contact")], "Ask the warden", "button", True),
        ([("<form id=ask>", "<div><form id=ask>"), ("</form>", "</form></div>")], "Ask the warden", "button", True),
        ([("<p>Open on Sunday.</p>", ""), ("<h1>", "<p>New</p><p>Newer</p><h1>")], "Ask the warden", "button", True),
        (
            [("button class=send", "div class=send"), ("warden</button>", "warden</div>")],
            "Ask the warden",
            "div",
            True,
        ),
        ([("<li>North", "<li>East shed <button>Lock</button></li><li>North")], "Lock", "button", True),
        ([("<button class=send>Ask the warden</button>", "")], "Ask the warden", None, False),
    ],
)
def test_what_is_found_again(change: list[tuple[str, str]], what: str, tag: str | None, is_certain: bool) -> None:
    markup = SHEDS
    for before, after in change:
        assert before in markup
        markup = markup.replace(before, after)
    old, new = tree_of(SHEDS), tree_of(markup)
    found = find_again(old, new, [button(old, what)])
    if tag is None:
        assert not any(each.is_certain for each in found.values())
        return
    (answer,) = found.values()
    assert (answer.element.tag, answer.is_certain) == (tag, is_certain)
