"""The name trace: every source in order of precedence, and what became of it."""

import pytest

from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameFrom, NameStep, Outcome
from tests.support import node, tree_of


def trace(markup: str, role: str) -> tuple[Tree, list[NameStep]]:
    tree = tree_of(markup)
    return tree, tree.name_trace(node(tree, role))


def test_the_ladder_of_a_field() -> None:
    _, steps = trace(
        '<label for=a>label</label><input id=a aria-labelledby=gone aria-label="aria" title="tip" placeholder="">',
        "textbox",
    )
    assert [(step.source, step.text, step.outcome) for step in steps] == [
        (NameFrom.LABELLEDBY, "", Outcome.EMPTY),
        (NameFrom.ARIA_LABEL, "aria", Outcome.WON),
        (NameFrom.LABEL, "label", Outcome.BEATEN),
        (NameFrom.TITLE, "tip", Outcome.BEATEN),
        (NameFrom.PLACEHOLDER, "", Outcome.EMPTY),
    ]
    assert steps[0].given == 'aria-labelledby="gone"'
    assert steps[1].given == 'aria-label="aria"'


def test_the_ladder_of_a_link_with_nothing_in_it() -> None:
    _, steps = trace("<a href=x></a>", "link")
    assert [(step.source, step.outcome) for step in steps] == [
        (NameFrom.LABELLEDBY, Outcome.ABSENT),
        (NameFrom.ARIA_LABEL, Outcome.ABSENT),
        (NameFrom.CONTENTS, Outcome.EMPTY),
        (NameFrom.TITLE, Outcome.ABSENT),
    ]


def test_a_role_that_may_not_be_named_is_named_by_its_author_alone() -> None:
    _, steps = trace("<p aria-label=P title=T>x</p>", "paragraph")
    assert [step.outcome for step in steps if step.text] == [Outcome.WON, Outcome.NOT_ALLOWED]


@pytest.mark.parametrize(
    ("markup", "role", "source"),
    [
        ("<img alt=A title=T>", "img", NameFrom.ALT),
        ("<fieldset><legend>L</legend></fieldset>", "group", NameFrom.LEGEND),
        ("<table summary=S><tr><td>x</table>", "table", NameFrom.SUMMARY),
        ("<table><caption>C</caption><tr><td>x</table>", "table", NameFrom.CAPTION),
        ("<svg><title>T</title></svg>", "img", NameFrom.TITLE_ELEMENT),
        ("<input type=submit value=V>", "button", NameFrom.VALUE),
        ("<input type=reset>", "button", NameFrom.DEFAULT),
        ("<h1>H</h1>", "heading", NameFrom.CONTENTS),
        ("<h1 title=T></h1>", "heading", NameFrom.TITLE),
        ("<input placeholder=P>", "textbox", NameFrom.PLACEHOLDER),
        ("<label>L<input></label>", "textbox", NameFrom.LABEL),
        ("<title>P</title>", "document", NameFrom.PAGE_TITLE),
    ],
)
def test_the_source_of_a_name(markup: str, role: str, source: NameFrom) -> None:
    assert node(tree_of(markup), role).name_from is source


@pytest.mark.parametrize(
    "markup",
    [
        "<label>L<input aria-labelledby=x title=t></label><b id=x>B</b>",
        "<button aria-label=' '>c</button>",
        "<img title=T>",
        "<input type=image title=T>",
        "<nav aria-labelledby='a b'></nav><i id=a></i><i id=b>n</i>",
        "<a href=x title=T><img></a>",
    ],
)
def test_the_winner_of_the_trace_is_the_name(markup: str) -> None:
    tree = tree_of(markup)
    for each in tree.nodes:
        won = [step for step in tree.name_trace(each) if step.outcome is Outcome.WON]
        if each.role not in ("text", "document"):
            assert [(step.text, step.source) for step in won] == ([(each.name, each.name_from)] if each.name else [])


def test_text_has_no_trace() -> None:
    tree = tree_of("<p>x")
    assert tree.name_trace(node(tree, "text")) == []
