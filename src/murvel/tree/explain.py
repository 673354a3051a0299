"""Explaining any element, exposed or not: its role and the rule that gave it, its name's ladder, what hides it."""

from __future__ import annotations

from dataclasses import dataclass

from murvel.page.document import Element
from murvel.page.styles.style import Styles
from murvel.tree.model import Tree
from murvel.tree.name_sources import Step
from murvel.tree.node import Node
from murvel.tree.rules import role_rule
from murvel.tree.semantics import Hidden, Hiding


@dataclass(frozen=True, slots=True)
class Explanation:
    """Why an element is announced as it is, or not at all.

    Attributes:
        element: the element.
        node: its node; None where it has none.
        role: its role, which it may have without being exposed; None where its mapping gives it no object.
        rule: which rule gave the role, in words.
        steps: its name's ladder.
        hidden: what hides it, None where nothing does.
        inside: the element whose children are not exposed and in which it stands, None where there is none.
    """

    element: Element
    node: Node | None
    role: str | None
    rule: str
    steps: tuple[Step, ...]
    hidden: Hidden | None
    inside: Node | None


def explain(tree: Tree, element: Element) -> Explanation:
    """Explain an element of the tree's document."""
    semantics = tree.semantics
    role = semantics.role(element)
    node = tree.node_of(element)
    hidden = semantics.hidden(element)
    inside = None
    if node is None and hidden is None and role not in (None, "none"):
        inside = next((above for above in map(tree.node_of, element.ancestors()) if above is not None), None)
    steps = tree.naming.trace(element, role)
    return Explanation(element, node, role, role_rule(semantics, element), tuple(steps), hidden, inside)


def hidden_words(hidden: Hidden, styles: Styles) -> str:
    """Return what hides an element, in words: the property or attribute, the element that has it, and the rule."""
    by = hidden.by
    words = f"{hidden.why.value} on {by.tag}"
    if hidden.why in (Hiding.NOT_DISPLAYED, Hiding.NOT_VISIBLE):
        rule = styles.of(by).hidden_by
        if rule:
            return f"{words} by {rule}"
        if "hidden" in by.attributes:
            return f"{words} by its hidden attribute"
        return f"{words} by the browser's own style sheet"
    return words
