"""What holds for every tree, and the forms it is written in."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from jsonschema import Draft202012Validator

from murvel.dom.places import find_xpath
from murvel.tree.build import build_tree
from murvel.tree.exchange.write import to_json, to_text
from murvel.tree.names.naming import Naming
from murvel.tree.roles.aria_roles import (
    ALIASES,
    AUTHOR_ROLES,
    FIELDS,
    LANDMARKS,
    NAME_PROHIBITED,
    NEEDS_NAME,
    ROLES,
    TEXT,
)
from murvel.tree.roles.html_roles import BY_TAG, CONTEXTUAL, INPUT_ROLES, NO_OBJECT
from murvel.tree.roles.semantics import Hiding, Semantics
from murvel.tree.states.states import ARIA, states_of
from tests.strategies import hostile_markup
from tests.support import document_of, element, node, styled_of, tree_of

SCHEMA = Draft202012Validator(
    json.loads((Path(__file__).parents[2] / "docs" / "reference" / "tree.schema.json").read_text(encoding="utf-8"))
)


@given(hostile_markup())
def test_no_page_however_broken_stops_it(markup: str) -> None:
    tree = tree_of(markup)
    assert [node.id for node in tree.nodes] == list(range(len(tree.nodes)))
    for each in tree.nodes:
        assert each.role in ROLES or each.role == TEXT
        assert all(child.parent is each for child in each.children)
        assert each.end == each.id + 1 + sum(child.end - child.id for child in each.children)
        tree.name_trace(each)
    assert list(to_text(tree)) == list(to_text(tree_of(markup)))


@given(hostile_markup())
def test_the_json_says_what_the_tree_says(markup: str) -> None:
    tree = tree_of(markup)
    written = json.loads("".join(to_json(tree)))
    assert {key: written[key] for key in ("format", "version", "source")} == {
        "format": "murvel-tree",
        "version": 1,
        "source": "-",
    }
    assert list(SCHEMA.iter_errors(written)) == []
    stack: list[tuple[dict[str, Any], int]] = [(written["root"], 0)]
    seen = 0
    while stack:
        facts, _ = stack.pop()
        each = tree.nodes[facts["id"]]
        assert (facts["role"], facts["name"], facts["states"]) == (each.role, each.name, each.states)
        found = find_xpath(tree.document, facts["xpath"])
        assert found is each.element or found is each.element.parent  # the browser's own summary
        position = tree.document.position(each.element)
        assert (facts["line"], facts["column"]) == ((position.line, position.column) if position else (None, None))
        assert [child["id"] for child in facts["children"]] == [child.id for child in each.children]
        seen += 1
        stack.extend((child, 0) for child in facts["children"])
    assert seen == len(tree.nodes)


def test_every_role_in_the_tables_is_defined() -> None:
    assert set(BY_TAG.values()) | set(INPUT_ROLES.values()) <= set(ROLES)
    assert set(ROLES) | set(ALIASES) >= AUTHOR_ROLES
    assert set(ALIASES.values()) <= AUTHOR_ROLES
    assert set(ROLES) >= LANDMARKS | FIELDS | NEEDS_NAME
    assert not NEEDS_NAME & NAME_PROHIBITED
    assert not NO_OBJECT & BY_TAG.keys()
    for name, (roles, _) in ARIA.items():
        assert roles is None or roles <= set(ROLES), name


@pytest.mark.parametrize("tag", sorted(BY_TAG.keys() | CONTEXTUAL.keys()))
def test_every_element_of_the_tables_has_a_role_of_ours(tag: str) -> None:
    page = styled_of(f"<table><tr><{tag}>") if tag in ("td", "th") else styled_of(f"<{tag} id=x>")
    document = page.document
    found = (
        document.ids.get("x") or element(document, tag)
        if tag not in ("tbody", "thead", "tfoot", "tr", "caption")
        else None
    )
    if found is not None:
        assert Semantics(*page).role(found) in {*ROLES, None}


@pytest.mark.parametrize(
    ("markup", "why"),
    [
        ("<div style='display:none'><p>x</div>", Hiding.NOT_DISPLAYED),
        ("<div style='visibility:hidden'><p>x</div>", Hiding.NOT_VISIBLE),
        ("<div aria-hidden=TRUE><p>x</div>", Hiding.ARIA_HIDDEN),
        ("<div inert><p>x</div>", Hiding.INERT),
        ("<details><p>x</details>", Hiding.CLOSED_DETAILS),
        ("<div style='content-visibility:hidden'><p>x</div>", Hiding.CONTENT_SKIPPED),
        ("<div aria-hidden=false><p>x</div>", None),
    ],
)
def test_why_something_is_hidden_and_by_what(markup: str, why: Hiding | None) -> None:
    page = styled_of(markup)
    hidden = Semantics(*page).hidden(element(page.document, "p"))
    assert (hidden.why if hidden else None) is why
    if hidden is not None and why is not Hiding.NOT_VISIBLE:
        assert hidden.by.tag in ("div", "details")


@pytest.mark.parametrize(
    ("image", "why"),
    [
        ("<img src=x alt=I usemap=#m>", None),
        ("<img src=x alt=I>", Hiding.NOT_ON_AN_IMAGE),
        ("<img src=x alt=I usemap=#m hidden>", Hiding.NOT_DISPLAYED),
        ("<img src=x alt=I usemap=#m aria-hidden=true>", Hiding.ARIA_HIDDEN),
    ],
)
def test_why_an_area_is_hidden(image: str, why: Hiding | None) -> None:
    page = styled_of(f"{image}<map name=m><area href=x alt=A>words</map>")
    hidden = Semantics(*page).hidden(element(page.document, "area"))
    assert (hidden.why if hidden else None) is why
    tree = build_tree(page)
    assert any(each.is_text and each.name == "words" for each in tree.nodes), "only areas go with the image"


def test_body_is_not_hidden_from_speech_by_its_author() -> None:
    assert "text" in {each.role for each in tree_of("<body aria-hidden=true>x").nodes}


def test_deep_and_wide_pages() -> None:
    deep = tree_of("<span role=button>" * 3000 + "x")
    assert node(deep, "button").name == "x"
    lists = tree_of("<ul><li>" * 1500 + "x")
    assert len(lists.nodes) > 1000
    assert json.loads("".join(to_json(tree_of("<div>" * 400 + "x"))))["root"]["role"] == "document"


def test_chains_of_references_are_not_followed_and_circles_end() -> None:
    links = "".join(f"<b id=x{n} aria-labelledby=x{n + 1}>{n}</b>" for n in range(2000))
    assert node(tree_of(links + "<button aria-labelledby=x0>y</button>"), "button").name == "0"
    circle = "<a href=x id=a aria-labelledby='b a'>A</a><a href=x id=b aria-labelledby='a b'>B</a>"
    assert [each.name for each in tree_of(circle).nodes if each.role == "link"] == ["B A", "A B"]


def test_a_name_from_content_is_computed_once_for_nested_elements() -> None:
    page = styled_of("<div role=link tabindex=0>" * 200 + "x" + "</div>" * 200)
    naming = Naming(Semantics(*page))
    names = [
        naming.name(each, "link")[0] for each in page.document.root.descendants() if getattr(each, "tag", "") == "div"
    ]  # type: ignore[arg-type]
    assert names == ["x"] * 200


@pytest.mark.parametrize(
    ("role", "default"), [("checkbox", {"checked": False}), ("heading", {"level": 2}), ("link", {})]
)
def test_states_without_attributes(role: str, default: dict[str, object]) -> None:
    assert states_of(element(document_of("<p>"), "p"), role) == default


def test_the_same_page_gives_the_same_tree() -> None:
    markup = "<main><h1>a</h1><ul><li>b</ul></main>"
    assert "".join(to_json(tree_of(markup))) == "".join(to_json(tree_of(markup)))


def test_properties_are_told_in_the_json() -> None:
    tree = tree_of("<input type=range min=1 max=4 aria-keyshortcuts=' Alt+R '><div role=slider aria-valuetext=few>")
    body = json.loads("".join(to_json(tree)))["root"]["children"][0]
    slider, other = body["children"]
    assert slider["properties"] == {
        "valuenow": "3",
        "valuemin": "1",
        "valuemax": "4",
        "keyshortcuts": "Alt+R",
        "focusable": True,
    }
    assert other["properties"] == {"valuenow": "50", "valuemin": "0", "valuemax": "100", "valuetext": "few"}
