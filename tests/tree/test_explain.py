"""Explaining elements: what gave the role, what hides them, and which lines say so."""

import pytest

from murvel.cli.explaining import explanation_lines
from murvel.loading.errors import PageError
from murvel.page.select import select
from murvel.tree.names.explain import explain, hidden_words, node_facts
from tests.support import styled_of, tree_of


def lines(markup: str, where: str) -> list[str]:
    tree = tree_of(markup)
    (element,) = select(tree.document, tree.styles, where)
    return list(explanation_lines(tree, explain(tree, element)))


@pytest.mark.parametrize(
    ("markup", "rule"),
    [
        ("<h2 id=x>a</h2>", "the element h2 (HTML-AAM 1.0 §3.4)"),
        ("<li id=x>a", "the element li in its context (HTML-AAM 1.0 §3.4)"),
        ("<p id=x role=note>a</p>", 'role="note" (WAI-ARIA 1.2 §5.4)'),
        ("<p id=x role=bogus>a</p>", 'role="bogus" names no role (WAI-ARIA 1.2 §5.4), so the element p'),
        ("<h2 id=x role=none tabindex=0>a</h2>", 'role="none" is undone by focus or a global attribute'),
        ("<div id=x role=region>a</div>", 'role="region" lacks what it needs'),
        ("<svg id=x><title>T</title></svg>", "the element svg (SVG-AAM 1.0)"),
    ],
)
def test_the_rule_of_a_role(markup: str, rule: str) -> None:
    tree = tree_of(markup)
    assert explain(tree, tree.document.ids["x"]).rule.startswith(rule)


@pytest.mark.parametrize(
    ("markup", "words"),
    [
        ("<style>p{display:none}</style><p id=x>a", "display: none on p by style element:1"),
        ("<div hidden><p id=x>a</div>", "display: none on div by its hidden attribute"),
        ("<dialog><p id=x>a</dialog>", "display: none on dialog by the browser's own style sheet"),
        ("<p id=x style='visibility:hidden'>a", "visibility on p by style attribute"),
        ("<div aria-hidden=true><p id=x>a</div>", "aria-hidden on div"),
        ("<div inert><p id=x>a</div>", "inert on div"),
        ("<details><p id=x>a</details>", "a closed details element on details"),
        ("<div style='content-visibility:hidden'><p id=x>a</div>", "content-visibility: hidden on div"),
    ],
)
def test_what_hides_an_element(markup: str, words: str) -> None:
    tree = tree_of(markup)
    hidden = explain(tree, tree.document.ids["x"]).hidden
    assert hidden is not None
    assert hidden_words(hidden, tree.styles) == words
    assert f"exposed      no: {words}" in lines(markup, "#x")


def test_the_lines_of_a_field() -> None:
    markup = "<label for=a>L</label>\n<input id=a required value=v title=T aria-describedby=d><p id=d>D"
    assert lines(markup, "input") == [
        "element      input, line 2, column 1",
        "XPath        /html[1]/body[1]/input[1]",
        "exposed      yes",
        "role         textbox, from the element input in its context (HTML-AAM 1.0 §3.4)",
        "name         “L”, from label",
        "  absent     aria-labelledby",
        "  absent     aria-label",
        "  won        label: “L”",
        '  beaten     title="T"',
        "  absent     placeholder",
        "description  “D”, from aria-describedby",
        "value        “v”",
        "state        required true",
        "describedby  paragraph “D”",
        "labelledby   label “L”",
        "Tab          stop 1 of 1",
    ]


@pytest.mark.parametrize(
    ("markup", "where", "line"),
    [
        (
            "<button><img id=x alt=a></button>",
            "#x",
            "exposed      yes, but what it stands in is read as one, without its parts (WAI-ARIA 1.2 §5.2.9)",
        ),
        ("<ul role=none id=x><li>a</ul>", "#x", "exposed      no object of its own; what is in it may be exposed"),
        ("<p id=x>a</p>", "#x", "name         this role has none"),
        ("<button id=x></button>", "#x", "name         none"),
        ("<p>a</p>", "/html[1]/body[1]", "element      body, no start tag: the parser added it"),
    ],
)
def test_single_lines(markup: str, where: str, line: str) -> None:
    assert line in lines(markup, where)


def test_selecting_several_in_document_order() -> None:
    page = styled_of("<p id=a>1</p><div><p id=b>2</p></div><b id=c>3</b>")
    assert [element.get("id") for element in select(*page, "b, p")] == ["a", "b", "c"]


@pytest.mark.parametrize(
    ("where", "words"), [("/html[1]/x[1]", "Nothing on the page"), ("zz", "Nothing"), ("p[", "no selector")]
)
def test_what_cannot_be_selected(where: str, words: str) -> None:
    with pytest.raises(PageError, match=words):
        select(*styled_of("<p>a"), where)


@pytest.mark.parametrize(
    ("markup", "facts"),
    [
        ("<iframe srcdoc='<h2>a</h2>'></iframe>", [("frame", "markup of its own")]),
        ("<iframe sandbox srcdoc='<h2>a</h2>'></iframe>", [("frame", "markup of its own, of another origin")]),
        ("<iframe sandbox='allow-same-origin' srcdoc='<h2>a</h2>'></iframe>", [("frame", "markup of its own")]),
        (
            "<div><template shadowrootmode=closed><h2>a</h2></template></div>",
            [("shadow", "in a closed shadow tree, which other scripts do not reach")],
        ),
        ("<div><template shadowrootmode=open><h2>a</h2></template></div>", []),
    ],
)
def test_where_an_element_comes_from(markup: str, facts: list[tuple[str, str]]) -> None:
    tree = tree_of(markup)
    told = node_facts(tree, next(each for each in tree.nodes if each.role == "heading"))
    assert [fact for fact in told if fact[0] in ("frame", "shadow")] == facts
