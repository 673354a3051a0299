"""Trees that come as JSON: what they say is said, and what is wrong with them is named by its place."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given

from murvel.checks.engine.catalogue import built_in
from murvel.loading.errors import PageError
from murvel.reader.moves.commands import command
from murvel.reader.session import ReadingSession
from murvel.tree.exchange.imported import import_tree
from murvel.tree.exchange.write import to_json, to_text
from murvel.tree.model import Tree
from murvel.tree.open_tree import open_tree
from murvel.work.work import open_work
from tests.strategies import hostile_markup
from tests.support import DEMO, node, tree_of


def tree_json(root: Any, **head: Any) -> str:
    return json.dumps({"format": "murvel-tree", "version": 1, "title": "T", "root": root, **head})


def imported(root: Any, **head: Any) -> Tree:
    return import_tree(tree_json(root, **head), "x.json", 1280)


@given(hostile_markup())
def test_a_tree_written_and_read_again_says_the_same(markup: str) -> None:
    tree = tree_of(markup)
    again = import_tree("".join(to_json(tree)), "x.json", 1280)
    assert list(to_text(again)) == list(to_text(tree))
    assert list(map(again.xpaths(), again.nodes)) == list(map(tree.xpaths(), tree.nodes))
    assert [again.position_of(each) for each in again.nodes] == [tree.position_of(each) for each in tree.nodes]


def test_a_page_as_deep_as_pages_get_can_be_read_again() -> None:
    tree = tree_of("<ul><li>" * 400 + "x")
    assert len(import_tree("".join(to_json(tree)), "x.json", 1280).nodes) == len(tree.nodes)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "is not JSON that can be read"),
        ("{" * 100_000, "is not JSON that can be read"),
        ('{"a": ' * 20_000, "is not JSON that can be read"),
        ("{}", "is JSON but no tree"),
        ('{"format": "other"}', "is JSON but no tree"),
        ('{"format": "murvel-tree"}', "the file.root: Field required"),
        (tree_json({"role": "document"}, version=99), "is of version 99"),
        (tree_json([]), "the file.root: Input should be"),
        (tree_json({}), "root.role: Field required"),
        (tree_json({"role": "banana"}), "root.role: banana is no role"),
        (tree_json({"role": "document", "children": [{"role": "main", "children": [{"role": 5}]}]}), "root.children[0].children[0].role: Input should be"),
        (tree_json({"role": "document", "children": ["x"]}), "root.children[0]: it should be an object"),
        (tree_json({"role": "document", "children": 5}), "root.children: Input should be"),
        (tree_json({"role": "document", "states": {"checked": None}}), "root.states.checked"),
        (tree_json({"role": "document", "line": 0}), "root.line"),
        (tree_json({"role": "\x1b[31m"}), "[U+001B][31m is no role"),
        ('{"nodes": []}', "has no topmost node"),
        ('{"nodes": [{"nodeId": "1", "childIds": ["1"]}]}', "has no topmost node"),
        ('{"nodes": [5, null]}', "nodes[0]: it should be an object"),
        ('{"nodes": [{"nodeId": [1]}]}', "nodes[0].nodeId: Input should be"),
        ('{"nodes": [{"nodeId": 1, "childIds": 7}]}', "nodes[0].childIds: Input should be"),
        ('{"nodes": [{"nodeId": 1, "properties": [{"name": "live"}, 3]}]}', "nodes[0].properties.1: it should be an object"),
        ('{"nodes": [{"nodeId": 1, "role": {"value": "group"}, "properties": [{"name": "live", "value": {"value": "loud"}}]}]}', "root.states.live: loud is not allowed"),
        (tree_json({"role": "document", "states": {"level": 10**30}}), "root.states.level"),
        (tree_json({"role": "document", "states": {"live": "loud"}}), "root.states.live: loud is not allowed"),
        (tree_json({"role": "document", "line": 2**70}), "root.line"),
        (tree_json({"role": "document"}).replace('"document"', "9" * 5000), "is not JSON that can be read"),
    ],
)  # fmt: skip
def test_what_is_wrong_is_named_by_its_place(text: str, words: str) -> None:
    with pytest.raises(PageError) as caught:
        import_tree(text, "x.json", 1280)
    assert words in str(caught.value)
    assert "\n" not in str(caught.value)


def test_a_screen_is_read_like_a_page() -> None:
    tree = imported(
        {"role": "document", "children": [
            {"role": "main", "children": [
                {"role": "paragraph", "children": [{"role": "text", "name": "See "}, {"role": "link", "name": "rules"}]},
                {"role": "button", "name": "OK", "states": {"pressed": True}, "xpath": "/app[1]/ok[1]", "line": 3, "column": 4},
            ]},
        ]}
    )  # fmt: skip
    session = ReadingSession(tree)
    assert [utterance.text for utterance in session.spoken.utterances] == [
        "main, See rules, link",
        "OK, button, pressed",
    ]
    button = node(tree, "button")
    assert tree.xpath_of(button) == "/app[1]/ok[1]"
    assert tree.position_of(button) == (3, 4)
    assert tree.snippet_of(button) == ""
    assert tree.node_at("/app[1]/ok[1]") is button
    assert tree.node_at("/nowhere[1]") is None
    assert [each.role for each in tree.stops] == ["link", "button"]
    assert tree.role_rule(button) == "as the tree states it"
    assert tree.document.title == "T"


def dump(*nodes: dict[str, Any]) -> str:
    return json.dumps({"nodes": list(nodes)})


def ax(
    identifier: str, role: str, name: str = "", children: str = "", ignored: bool = False, **states: Any
) -> dict[str, Any]:
    return {
        "nodeId": identifier,
        "ignored": ignored,
        "role": {"value": role},
        "name": {"value": name},
        "childIds": children.split(),
        "properties": [{"name": key, "value": {"value": value}} for key, value in states.items()],
    }


def test_a_dump_of_the_browsers_tree() -> None:
    tree = import_tree(
        dump(
            ax("1", "RootWebArea", "Page", "2"),
            ax("2", "none", "", "3 4 5 9", ignored=True),
            ax("3", "heading", "H", "6", level=2),
            ax("4", "checkbox", "C", checked="mixed", focusable=True, required=True, invalid="false"),
            ax("5", "image", "I"),
            ax("6", "StaticText", "H", "7"),
            ax("7", "InlineTextBox", "H"),
        ),
        "x.json",
        1280,
    )
    assert list(to_text(tree)) == [
        'document "Page"',
        '  heading "H" level=2',
        '    text "H"',
        '  checkbox "C" checked=mixed required=true',
        '  img "I"',
    ]
    assert tree.document.title == "Page"


def test_a_dump_with_a_circle_ends() -> None:
    tree = import_tree(
        dump(ax("0", "RootWebArea", "", "1"), ax("1", "main", "", "2"), ax("2", "group", "", "1")), "x.json", 1280
    )
    assert [each.role for each in tree.nodes] == ["document", "main", "group"]


@pytest.mark.parametrize(("form", "unnamed"), [("found", 3), ("repaired", 0)])
def test_the_pocket_screen_of_the_demo(form: str, unnamed: int, tmp_path: Path) -> None:
    path = DEMO / form / "pocket.json"
    tree = open_tree(str(path))
    missing = [
        part for utterance in ReadingSession(tree).spoken.utterances for part in utterance.parts if part.is_missing_name
    ]
    assert len(missing) == unnamed
    work = open_work(str(path), tmp_path / "b.murvel", built_in())
    work.arrive()
    command(work.session, "tab")
    draft = work.evidence()
    assert draft is not None
    kept = work.document(draft)
    assert work.go_to(kept) is None
    work.leave()
    work.casebook.close()


def test_the_order_of_tab_comes_along() -> None:
    markup = (
        "<a href=1>a</a><button tabindex=-1>b</button><input tabindex=1><div tabindex=0>c</div><i tabindex=-1>d</i>"
    )
    tree = import_tree("".join(to_json(tree_of(markup))), "x.json", 1280)
    assert [each.role for each in tree.stops] == ["textbox", "link", "generic"]
