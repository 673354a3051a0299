"""The tree as JSON and as text (DESIGN: the tree JSON)."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from json.encoder import encode_basestring_ascii as _string

from murvel.text import visible
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import GENERIC
from murvel.tree.states.control_values import properties_of
from murvel.tree.states.states import State

FORMAT = "murvel-tree"
VERSION = 1


def to_json(tree: Tree) -> Iterator[str]:
    """Yield the tree's JSON in pieces; nothing is nested on the stack, however deep the page."""
    document = tree.document
    head = {
        "format": FORMAT,
        "version": VERSION,
        "source": document.address,
        "title": document.title,
        "language": document.language,
    }
    # Only ASCII goes out, so that no character of a page acts on what shows the file.
    yield json.dumps(head)[:-1] + ', "root": '
    xpath_of = tree.xpaths()
    stack: list[Node | str] = [tree.root]
    while stack:
        item = stack.pop()
        if isinstance(item, str):
            yield item
            continue
        yield _opening(tree, item, xpath_of(item))
        stack.append("]}")
        for index in range(len(item.children) - 1, -1, -1):
            stack.append(item.children[index])
            if index:
                stack.append(", ")
    yield "}\n"


def _opening(tree: Tree, node: Node, xpath: str) -> str:
    """An object up to its children, as the standard library writes it; put together by hand, most of it is strings."""
    position = tree.position_of(node)
    place = f'"line": {position.line}, "column": {position.column}' if position else '"line": null, "column": null'
    properties = {} if node.is_text else properties_of(node.element, node.role)
    text = (
        f'{{"id": {node.id}, "role": {_string(node.role)}, "name": {_string(node.name)}, '
        f'"name_from": {_string_or_null(node.name_from)}, "description": {_string(node.description)}, '
        f'"value": {_string_or_null(node.value)}, "states": {_object(node.states)}, '
        f'"properties": {_object(properties)}, "xpath": {_string(xpath)}, {place}'
    )
    stop = tree.stop_numbers.get(node.element)
    if stop is not None and tree.node_of(node.element) is node:
        text += f', "tab": {stop}'
    relations = tree.relations_of(node)
    if relations:
        ids = {relation: [target.id for target in targets] for relation, targets in relations.items()}
        text += f', "relations": {json.dumps(ids)}'
    if node.parent is not None and ("lang" in node.element.attributes or "xml:lang" in node.element.attributes):
        text += f', "language": {_string(tree.language_of(node))}'
    return text + ', "children": ['


def _string_or_null(text: str | None) -> str:
    return "null" if text is None else _string(text)


def _object(facts: Mapping[str, State]) -> str:
    return (
        "{" + ", ".join([f"{_string(name)}: {_state(state)}" for name, state in facts.items()]) + "}" if facts else "{}"
    )


def _state(state: State) -> str:
    if isinstance(state, str):
        return _string(state)
    return str(state).lower() if isinstance(state, bool) else str(state)


def to_text(tree: Tree) -> Iterator[str]:
    """Yield the tree as indented lines, a node each; generic nodes are left out and their children moved up."""
    stack: list[tuple[Node, int]] = [(tree.root, 0)]
    while stack:
        node, depth = stack.pop()
        below = depth
        if node.role != GENERIC:
            yield "  " * min(depth, 40) + _line(node)
            below = depth + 1
        stack.extend((child, below) for child in reversed(node.children))


def _quoted(text: str) -> str:
    return visible(json.dumps(text, ensure_ascii=False))


def _line(node: Node) -> str:
    parts = [node.role]
    if node.name:
        parts.append(_quoted(node.name))
    if node.value:
        parts.append(f"value={_quoted(node.value)}")
    for name, state in node.states.items():
        text = str(state).lower() if isinstance(state, bool) else visible(str(state))
        parts.append(f"{name}={text}")
    if node.description:
        parts.append(f"description={_quoted(node.description)}")
    return " ".join(parts)
