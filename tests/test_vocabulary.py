"""Roles, elements, states and attributes are strings; no line of the program compares with one that there is not.

A role that is misspelled (`image` for `img`) raises nothing: the line just never applies.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

import pytest

import murvel
from murvel.checks.tables.aria_rules import VALUES
from murvel.tree.roles.aria_roles import ROLES, TEXT
from murvel.tree.states.states import ARIA

_ELEMENTS = frozenset(
    "a abbr acronym address applet area article aside audio b base bdi bdo big blink blockquote body br button canvas "
    "caption center cite code col colgroup data datalist dd del details dfn dialog dir div dl dt em embed fieldset "
    "figcaption figure font footer form frame frameset h1 h2 h3 h4 h5 h6 head header hgroup hr html i iframe img input "
    "ins kbd label legend li link main map mark marquee menu meta meter nav nobr noembed noframes noscript object ol "
    "optgroup option output p param picture plaintext pre progress q rb rp rt rtc ruby s samp script search section "
    "select selectedcontent slot small source span strike strong style sub summary sup svg table tbody td template "
    "textarea tfoot th thead time title tr track tt u ul use var video wbr xmp math circle ellipse line path polygon "
    "polyline rect g text tspan symbol defs image foreignobject foreignObject desc annotation annotation-xml mi mo mn "
    "ms mtext mglyph malignmark semantics msqrt mroot mfrac msub msup msubsup munder mover munderover mtable mtr "
    "mtd".split()
)
"""HTML's elements (HTML, Index of elements, with those of §16.2), and those of SVG and MathML that are named."""

_VOCABULARIES = {
    "role": ROLES.keys() | {TEXT, ""},
    "tag": _ELEMENTS | {"-"},  # in the name of each custom element
    "states": ARIA.keys() | {"modal", "visited", "active"},
    "attributes": VALUES.keys(),
}
"""By the name of what is compared or asked, the strings that there are."""


def _strings(node: ast.expr) -> Iterator[str]:
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.Tuple | ast.Set | ast.List):
        for each in node.elts:
            yield from _strings(each)


def _asked(node: ast.AST) -> Iterator[tuple[ast.expr, ast.expr]]:
    """Yield what is asked, and the strings that it is asked for: `a == "b"`, `"b" in a`, `a["b"]`, `a.get("b")`."""
    match node:
        case ast.Compare(left=left, comparators=comparators):
            for each in comparators:
                yield left, each
                yield each, left
        case ast.Subscript(value=value, slice=key):
            yield value, key
        case ast.Call(func=ast.Attribute(value=value, attr="get" | "pop" | "setdefault"), args=[key, *_]):
            yield value, key


def _uses() -> Iterator[tuple[str, str, str]]:
    for path in sorted(Path(murvel.__path__[0]).rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            for asked, key in _asked(node):
                name = asked.attr if isinstance(asked, ast.Attribute) else getattr(asked, "id", "")
                for string in _strings(key):
                    yield name, string, f"{path.name}:{asked.lineno}"


@pytest.mark.parametrize("name", _VOCABULARIES)
def test_each_string_that_is_compared_is_one_of_the_vocabulary(name: str) -> None:
    known = _VOCABULARIES[name]
    used = [(string, where) for asked, string, where in _uses() if asked == name]
    if name == "attributes":  # HTML lets pages have any but those of ARIA
        used = [(string, where) for string, where in used if string.startswith("aria-")]
    assert len(used) > 20
    assert [each for each in used if each[0] not in known] == []
