"""Explaining any element, exposed or not: its role and the rule that gave it, its name's ladder, what hides it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from murvel.css.values.style import Styles
from murvel.dom.document import Element
from murvel.loading.addresses import origin_of, scheme_of, shown
from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameStep
from murvel.tree.node import Node
from murvel.tree.roles.rules import role_rule
from murvel.tree.roles.semantics import Hidden, Hiding


@dataclass(frozen=True, slots=True)
class Explanation:
    """Why an element is announced as it is, or not at all.

    Attributes:
        element: the element.
        node: its node; None if it has none.
        role: its role, which it may have without being exposed; None if its mapping gives it no object.
        rule: which rule gave the role, in words.
        steps: its name's ladder.
        hidden: what hides it, None if nothing does.
        inside: the element whose children are not exposed and in which it stands, None if there is none.
    """

    element: Element
    node: Node | None
    role: str | None
    rule: str
    steps: tuple[NameStep, ...]
    hidden: Hidden | None
    inside: Node | None


def explain(tree: Tree, element: Element) -> Explanation:
    """Explain an element of the tree's document."""
    semantics = tree.semantics
    node = tree.node_of(element)
    role = semantics.role(element) if node is None else node.role
    hidden = semantics.hidden(element)
    inside = None
    if node is None and hidden is None and role not in (None, "none"):
        inside = next((above for above in map(tree.node_of, element.ancestors()) if above is not None), None)
    steps = tree.naming.trace(element, role) if node is None else tree.name_trace(node)
    rule = role_rule(semantics, element) if node is None else tree.role_rule(node)
    return Explanation(element, node, role, rule, tuple(steps), hidden, inside)


def step_words(step: NameStep) -> str:
    """Return one rung of a name's ladder in words: what stands in the page, and the text it gives."""
    given = step.given or str(step.source)
    return given if not step.text or step.given.endswith(f'="{step.text}"') else f"{given}: “{step.text}”"


def node_facts(tree: Tree, node: Node) -> Iterator[tuple[str, str]]:
    """Yield what else is known of a node beside its role and name: what kind of fact it is, and the fact in words."""
    if node.description:
        yield "description", f"“{node.description}”, from {node.description_from}"
    if node.value:
        yield "value", f"“{node.value}”"
    for name, state in node.states.items():
        yield "state", f"{name} {str(state).lower() if isinstance(state, bool) else state}"
    for relation, targets in tree.relations_of(node).items():
        yield relation, "; ".join(map(tree.words_of, targets))
    if tree.language_of(node) != tree.document.language:
        yield "language", tree.language_of(node)
    yield from _origin(tree, node.element)
    for each in tree.opinion.about(tree, node) if tree.opinion is not None else ():
        yield "Chromium", f"says {each.words}"
    if not node.is_text and node.element in tree.stop_numbers:
        yield "Tab", f"stop {tree.stop_numbers[node.element]} of {len(tree.tab_order)}"


def _origin(tree: Tree, element: Element) -> Iterator[tuple[str, str]]:
    """The frame that an element comes from, and the closed shadow tree that it stands in."""
    around = list(element.ancestors())
    frame = next((each for each in around if each.tag in ("iframe", "frame")), None)
    if frame is not None:
        attributes = frame.attributes
        source = attributes.get("src", "").strip()
        has_markup = "srcdoc" in attributes or not source
        words = "markup of its own" if has_markup else shown(tree.document.resolve(source))
        is_apart = "sandbox" in attributes and "allow-same-origin" not in attributes["sandbox"].lower().split()
        is_apart |= scheme_of(source) == "data"
        is_apart |= not has_markup and origin_of(tree.document.resolve(source)) != origin_of(tree.document.address)
        yield "frame", f"{words}, of another origin" if is_apart else words
    if any(each.attributes.get("shadowrootmode") == "closed" and tree.document.is_shadow(each) for each in around):
        yield "shadow", "in a closed shadow tree, which other scripts do not reach"


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
