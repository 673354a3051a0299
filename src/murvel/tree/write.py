"""The tree as JSON and as text (DESIGN: the tree JSON)."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from murvel.page.text import visible
from murvel.tree.model import Tree
from murvel.tree.node import Node
from murvel.tree.roles import GENERIC
from murvel.tree.values import properties_of

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
    paths = tree.xpaths()
    stack: list[Node | str] = [tree.root]
    while stack:
        item = stack.pop()
        if isinstance(item, str):
            yield item
            continue
        yield json.dumps(_facts(tree, item, paths))[:-1] + ', "children": ['
        stack.append("]}")
        for index in range(len(item.children) - 1, -1, -1):
            stack.append(item.children[index])
            if index:
                stack.append(", ")
    yield "}\n"


def _facts(tree: Tree, node: Node, paths: dict[int, str]) -> dict[str, Any]:
    position = tree.position_of(node)
    facts = {
        "id": node.id,
        "role": node.role,
        "name": node.name,
        "name_from": node.name_from,
        "description": node.description,
        "value": node.value,
        "states": node.states,
        "properties": {} if node.is_text else properties_of(node.element, node.role),
        "xpath": paths[node.id],
        "line": position.line if position else None,
        "column": position.column if position else None,
    }
    relations = tree.relations_of(node)
    if relations:
        facts["relations"] = {relation: [target.id for target in targets] for relation, targets in relations.items()}
    if node.parent is not None and ("lang" in node.element.attributes or "xml:lang" in node.element.attributes):
        facts["language"] = tree.language_of(node)
    return facts


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
