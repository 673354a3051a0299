"""An explanation as plain lines."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.dom.places import xpath
from murvel.tree.model import Tree
from murvel.tree.names.explain import Explanation, hidden_words, node_facts, step_words
from murvel.tree.names.name_sources import Outcome
from murvel.tree.roles.aria_roles import NAME_PROHIBITED

_LABEL = 13


def explanation_lines(tree: Tree, explanation: Explanation) -> Iterator[str]:
    """Yield the lines of an explanation, a label and what it says each."""
    element, node = explanation.element, explanation.node
    yield _line("element", f"{element.tag}, {tree.place_words(node or element)}")
    yield _line("XPath", xpath(element) if node is None else tree.xpath_of(node))
    yield _line("exposed", _exposure(tree, explanation))
    yield _line("role", f"{explanation.role or 'none'}, from {explanation.rule}")
    won = next((step for step in explanation.steps if step.outcome is Outcome.WON), None)
    if won is None and (explanation.role in NAME_PROHIBITED or explanation.role is None):
        yield _line("name", "this role has none")
    elif won is not None and explanation.role in NAME_PROHIBITED:
        forbidden = "which authors must not give to this role (WAI-ARIA 1.2 §5.2.8.6), but browsers take it"
        yield _line("name", f"“{won.text}”, from {won.source}, {forbidden}")
    else:
        yield _line("name", f"“{won.text}”, from {won.source}" if won else "none")
    for step in explanation.steps:
        yield _line(f"  {step.outcome.value}", step_words(step))
    if node is not None:
        for label, fact in node_facts(tree, node):
            yield _line(label, fact)


def _exposure(tree: Tree, explanation: Explanation) -> str:
    if explanation.node is not None and explanation.node.is_part:
        return "yes, but what it stands in is read as one, without its parts (WAI-ARIA 1.2 §5.2.9)"
    if explanation.node is not None:
        return "yes"
    if explanation.hidden is not None:
        return f"no: {hidden_words(explanation.hidden, tree.styles)}"
    if explanation.inside is not None:
        return f"no: it stands inside a {explanation.inside.role}, whose content is not exposed by itself"
    return "no object of its own; what is in it may be exposed"


def _line(label: str, text: str) -> str:
    return f"{label:<{_LABEL}}{text}"
