"""Selectors that are matched step by step, and children that are counted at once, match what the engine matches."""

from unittest.mock import patch

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from murvel.css.selectors import engine
from murvel.css.selectors.engine import CostlySelectorError, SelectorError, Subtree
from murvel.css.selectors.selectors import take_apart
from murvel.loading.fetch import PageSource
from murvel.page.parse import parse

COMPOUNDS = (
    *("a", "b", "*", ".x", "b.x", ":not(.x)", "a:first-child", '[t="> ~"]', ":is(a, b)", ":where(:not(b), .x)"),
    *(":not(:is(a, i))", "b:not(.x)", ":has(.x)", ":has(> :not(b))"),
)
COMBINATORS = (" ", " > ", " + ", "~")


@st.composite
def selectors(draw: st.DrawFn) -> str:
    """Complex selectors of two to five compounds."""
    text = draw(st.sampled_from(COMPOUNDS))
    for _ in range(draw(st.integers(1, 4))):
        text += draw(st.sampled_from(COMBINATORS)) + draw(st.sampled_from(COMPOUNDS))
    return text


MARKUP = st.lists(
    st.sampled_from(["<a>", "<b>", "<b class=x>", '<i t="> ~">', "</a>", "</b>", "</i>", "<p class=x>", "</p>"]),
    max_size=25,
).map("".join)


def part_of(markup: str) -> Subtree:
    return parse(PageSource(markup)).parts[0]


@given(MARKUP, selectors())
@example("<b class=x><a>", ":not(.x) a")
@example("<p><b class=x></b><i></i><a>", ":not(i) ~ a")
def test_step_by_step_is_as_the_engine(markup: str, selector: str) -> None:
    part = part_of(markup)
    whole = part.matching(selector)
    with patch.object(engine, "_MOST_WAYS", 1):
        assert part.matching(selector) == whole


FORMULAS = ("odd", "even", "3", "2n", "2n+1", "-n+2", "n", "3n-1", "0n+1", " 2n + 1 ")


@given(MARKUP, st.sampled_from(("child", "last-child", "of-type", "last-of-type")), st.sampled_from(FORMULAS))
def test_counting_at_once_is_as_the_engine(markup: str, name: str, formula: str) -> None:
    part = part_of(markup)
    selector = f"*:nth-{name}({formula})"
    whole = part.matching(selector)
    with patch.object(engine, "_BROAD", 0):
        assert part.matching(selector) == whole


@pytest.mark.parametrize(
    ("selector", "steps", "descents", "siblings"),
    [
        ("a b>c", [("", "a"), (" ", "b"), (">", "c")], 1, 0),
        ('a[b="> ~ "] ~ c\\ d', [("", 'a[b="> ~ "]'), ("~", "c\\ d")], 0, 1),
        (":is(a b) c:nth-child(2n + 1 )", [("", ":is(a b)"), (" ", "c:nth-child(2n + 1)")], 2, 0),
        ("a b, c", [], 1, 0),
        (":is( a , b ) c", [("", ":is(a,b)"), (" ", "c")], 1, 0),
        (r"a\ \  b", [("", r"a\ \ "), (" ", "b")], 1, 0),
    ],
)
def test_taking_apart(selector: str, steps: list[tuple[str, str]], descents: int, siblings: int) -> None:
    parts = take_apart(selector)
    assert ([tuple(each) for each in parts.steps], parts.descents, parts.siblings) == (steps, descents, siblings)


def test_what_cannot_be_taken_apart_is_given_up() -> None:
    part = part_of("<div>" * 300 + "<p>x")
    with pytest.raises(CostlySelectorError, match="takes too long on this page"):
        part.matching(":is(i div div div div) p")
    with pytest.raises(SelectorError):
        part.matching("p:of-no-kind")


@pytest.mark.parametrize(
    ("markup", "selector", "tags"),
    [
        ("<!doctype html><p>x", "html:first-child, html:only-child", ["html"]),
        ("<!-- x --><!doctype html><p>x", "html:nth-child(1)", ["html"]),
        ("<b class=x><i><a>", ":not(.x) > a", ["a"]),
        ("<b class=x><i><a>", ":is(body) a, :where(.x) a, :nth-child(2) i", ["i", "a"]),
        ("<p class=x></p><b></b><p class=x></p><i></i>", ":nth-child(1 of .x) ~ i", ["i"]),
        ("<i><b class=x><a>", "i :is(:has(a)) :not(:is(:where(.x) :where(.x)))", ["a"]),
    ],
)
def test_a_compound_that_begins_with_a_function(markup: str, selector: str, tags: list[str]) -> None:
    assert [each.tag for each in part_of(markup).matching(selector)] == tags
