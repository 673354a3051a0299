"""Pages that are not the one that was tested, and pages that are although much of them has changed."""

from __future__ import annotations

import pytest
from hypothesis import given

from murvel.retest.same_page import why_another
from murvel.walks.meant import meant_by
from tests.strategies import hostile_markup
from tests.support import tree_of

_SITE = "<header><nav><a href=/>Start</a> <a href=/water>Water</a></nav></header>{main}<footer>By the mill.</footer>"
_TITLE = "Ask for a plot — Fernhollow Allotments"


def _page(title: str, main: str) -> str:
    return f"<html lang=en><title>{title}</title>{_SITE.format(main=f'<main>{main}</main>')}</html>"


_TESTED = _page(
    _TITLE,
    "<h1>Ask for a plot</h1><p>There are 3 vacant plots.</p><form><label>Name <input></label> <label>Mail <input></label>"
    "<button>Send</button></form><p>The committee answers within two weeks.</p><p>Bring gloves.</p>",
)


@pytest.mark.parametrize(
    ("page", "why"),
    [
        ("<html><title>x</title></html>", "it is empty"),
        (_page(_TITLE, ""), "it is empty"),
        (_page("404 not found", "<h1>404 not found</h1><p>Go to the start.</p>"), "it says “404 not found”"),
        (_page(_TITLE, "<h1>Page not found</h1><p>There are 3 vacant plots.</p>"), "it says “Page not found”"),
        (_page("Error 503", "<p>Service unavailable</p>"), "it says “Error 503”"),
        (
            _page("Sign in — Fernhollow Allotments", "<h1>Sign in</h1><label>Password <input type=password></label>"),
            "it asks for a password",
        ),
        (
            _page(_TITLE, "<h1>Water</h1><p>The cart comes on Monday.</p>"),
            "nothing of what it said is there any more",
        ),
        (
            _page("Water", "<h1>Water</h1><p>The cart comes on Monday.</p><p>Bring gloves.</p>"),
            "it is another page, “Water”",
        ),
    ],
)
def test_another_page(page: str, why: str) -> None:
    assert why_another(tree_of(_TESTED), tree_of(page), _TITLE) == why


@pytest.mark.parametrize(
    "page",
    [
        _TESTED,
        _TESTED.replace("<h1>Ask for a plot</h1>", "<h1>Your plot</h1>").replace(_TITLE, "Plots"),
        _page(_TITLE, "<h1>Ask for a plot</h1><p>There are 4 vacant plots.</p><label>Name <input></label>"),
        _page(_TITLE, "<h1>Ask for a plot</h1><p>Tell us why a plot was not found.</p>"),
        _TESTED.replace("<form>", "<form><label>Password <input type=password></label>"),
    ],
)
def test_the_same_page(page: str) -> None:
    assert why_another(tree_of(_TESTED), tree_of(page), _TITLE) == ""


def test_an_error_page_that_was_tested_is_the_same_page() -> None:
    error = _page("404 not found", "<h1>404 not found</h1><p>Go to the start.</p>")
    assert why_another(tree_of(error), tree_of(error.replace("Go to", "Back to")), "404 not found") == ""


def test_without_the_earlier_take_only_an_error_and_an_empty_page_are_told() -> None:
    assert why_another(None, tree_of(_page("Error 503", "<p>Later</p>")), _TITLE) == "it says “Error 503”"
    assert why_another(None, tree_of("<title></title>"), _TITLE) == "it is empty"
    assert why_another(None, tree_of(_page("Water", "<h1>Water</h1>")), _TITLE) == ""


@given(hostile_markup(), hostile_markup())
def test_every_page_is_itself(one: str, other: str) -> None:
    tree = tree_of(one)
    assert why_another(tree, tree_of(one), "") in ("", "it is empty")
    assert meant_by(tree).why_not(tree_of(one)) == ""
    why_another(tree, tree_of(other), "")
    meant_by(tree).why_not(tree_of(other))


def test_another_page_of_a_program_that_calls_all_its_pages_alike() -> None:
    old = _page("Bench", f"<h1>Dashboard</h1>{''.join(f'<p>Row {at}</p>' for at in range(30))}")
    new = _page("Bench", f"<h1>Dashboard</h1>{''.join(f'<p>Order {at}</p>' for at in range(30))}")
    assert why_another(tree_of(old), tree_of(new), "Bench") == "it is another page, “Bench”"
