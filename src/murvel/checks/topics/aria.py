"""ARIA: roles, states and properties that do not do what they were meant to (WAI-ARIA 1.2; ARIA in HTML)."""

from __future__ import annotations

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts
from murvel.checks.tables.aria_rules import ABSTRACT, CONTEXT, OWNED, REQUIRED, SUPPORTED, VALUES, problem_of_value
from murvel.checks.tables.vocabulary import plain
from murvel.dom.document import Element, Namespace
from murvel.dom.html.inputs import CHECKED, control_type
from murvel.stage.script import Deed
from murvel.tree.focus import is_focusable
from murvel.tree.roles.aria_roles import ALIASES, AUTHOR_ROLES, GENERIC
from murvel.tree.roles.html_roles import native_role

checks = Checks(Topic.ARIA)

_NATIVE_STATES: dict[str, tuple[str, frozenset[str]]] = {
    "aria-checked": ("checked", CHECKED),
    "aria-disabled": ("disabled", frozenset()),
    "aria-readonly": ("readonly", frozenset()),
    "aria-required": ("required", frozenset()),
    "aria-selected": ("selected", frozenset()),
}
_OPENS_OTHERWISE = frozenset({"popovertarget", "commandfor", "aria-haspopup"})
_CONTROLS = frozenset({"input", "select", "textarea", "button", "option"})


@checks.add(
    "role-unknown", "Unknown role", FAILS, "4.1.2",
    means="The role is ignored. Listeners hear the role the element has without it, or nothing.",
    repair="Use a role that WAI-ARIA defines, or remove the attribute.",
    expect="the role that is meant",
)  # fmt: skip
def role_unknown(page: Facts) -> Found:
    """No token of the attribute is a role (WAI-ARIA 1.2 §8.1); an abstract one (§5.3.1) is none for authors."""
    for element in page.exposed_having("role"):
        tokens = element.attributes["role"].lower().split()
        if tokens and not any(token in AUTHOR_ROLES for token in tokens):
            yield Finding(element, f"{'abstract: ' if tokens[0] in ABSTRACT else ''}{' '.join(tokens)[:40]}")


@checks.add(
    "attribute-unknown", "Unknown ARIA attribute", FAILS, "4.1.2",
    means="Browsers ignore the attribute, so listeners do not hear what it should say.",
    repair="Correct its spelling against WAI-ARIA, or remove it.",
    expect="the state or property that is meant",
)  # fmt: skip
def attribute_unknown(page: Facts) -> Found:
    """WAI-ARIA 1.2 §6.6."""
    for name in sorted(page.having):
        if name.startswith("aria-") and name not in VALUES:
            yield from (Finding(element, name) for element in page.exposed_having(name))


@checks.add(
    "value-not-allowed", "Value not allowed", FAILS, "4.1.2",
    means="Listeners hear no state, or a wrong one.",
    repair="Use one of the values that WAI-ARIA allows.",
    expect="the state that is meant",
)  # fmt: skip
def value_not_allowed(page: Facts) -> Found:
    """WAI-ARIA 1.2 §6.2.4, Value."""
    for name in sorted(page.having):
        if name in VALUES:
            for element in page.exposed_having(name):
                problem = problem_of_value(name, element.attributes[name])
                if problem is not None:
                    yield Finding(element, f"{name}: {problem}")


@checks.add(
    "property-missing", "Required state or property missing", FAILS, "4.1.2",
    means="Listeners hear what the control is, but not its state.",
    repair="Add the attribute and keep its value up to date.",
    expect="{name}, {role}, and its state",
)  # fmt: skip
def property_missing(page: Facts) -> Found:
    """WAI-ARIA 1.2 §5.2.4; native elements bring theirs along, and ARIA's default counts where there is one."""
    for element in page.exposed_having("role"):
        node = page.node(element)
        if node is None or node.role not in REQUIRED or native_role(element, page.semantics) == node.role:
            continue
        if control_type(element) in CHECKED | {"range"}:
            continue
        missing = [name for name in REQUIRED[node.role] if not element.attributes.get(name, "").strip()]
        if missing and not (node.role == "combobox" and element.tag in ("input", "select")):
            yield Finding(element, f"{node.role} without {', '.join(missing)}")


@checks.add(
    "property-not-supported", "State or property not supported by the role", FAILS, "4.1.2",
    means="Some voices announce it and others do not.",
    repair="Remove it, or use a role that supports it.",
    expect="{name}, {role}, without it",
)  # fmt: skip
def property_not_supported(page: Facts) -> Found:
    """WAI-ARIA 1.2 §5.2.3; what is exposed without an object of its own counts as generic."""
    for name in sorted(page.having.keys() & SUPPORTED.keys()):
        for element in page.exposed_having(name):
            node = page.node(element)
            role = node.role if node is not None else (page.semantics.role(element) or GENERIC)
            if role not in SUPPORTED[name] and element.namespace is Namespace.HTML and "-" not in element.tag:
                if element.attributes[name].strip():
                    yield Finding(element, f"{name} on {role}")


@checks.add(
    "owned-missing", "Required owned elements missing", FAILS, "1.3.1", "4.1.2",
    means="The container is announced, but its entries are not counted or not announced as entries.",
    repair="Give the children the roles this role requires, or remove the role.",
    expect="{role} with its entries",
)  # fmt: skip
def owned_missing(page: Facts) -> Found:
    """WAI-ARIA 1.2 §5.2.5; what is busy or empty may be filled later."""
    for element in page.exposed_having("role"):
        node = page.node(element)
        if node is None or node.role not in OWNED or node.states.get("busy") is True or not node.children:
            continue
        inside = page.tree.nodes[node.id + 1 : node.end]
        if not any(each.role in OWNED[node.role] for each in inside):
            yield Finding(element, f"{node.role} without {' or '.join(sorted(OWNED[node.role]))}")


@checks.add(
    "context-missing", "Required context role missing", FAILS, "1.3.1", "4.1.2",
    means="Listeners do not hear what it belongs to or how many there are.",
    repair="Put it into an element with the required role, or remove its own role.",
    expect="{name}, {role}, and its position",
)  # fmt: skip
def context_missing(page: Facts) -> Found:
    """WAI-ARIA 1.2 §5.2.6, by the roles that authors gave; browsers drop some of them (docs/standards.md)."""
    for element in page.exposed_having("role"):
        role = next((token for token in element.attributes["role"].lower().split() if token in AUTHOR_ROLES), "")
        role = ALIASES.get(role, role)
        if role not in CONTEXT:
            continue
        node = page.node(element)
        around = node.parent if node is not None else page.node_around(element)
        while around is not None and around.role in (GENERIC, "none", "paragraph", "label"):
            around = around.parent
        if around is None or around.role not in CONTEXT[role]:
            yield Finding(element, f"{role} outside of {' or '.join(sorted(CONTEXT[role]))}")


@checks.add(
    "presentation-with-focus", "Presentational element with focus", FAILS, "4.1.2",
    means="Tab stops there, so browsers ignore the presentational role and announce the element.",
    repair="Remove role=\"none\", or remove the element from the Tab order.",
    expect="{name}, {role}",
)  # fmt: skip
def presentation_with_focus(page: Facts) -> Found:
    """WAI-ARIA 1.2 §7.2, Presentational Roles Conflict Resolution."""
    for element in page.exposed_having("role"):
        tokens = element.attributes["role"].lower().split()
        if tokens and tokens[0] in ("none", "presentation") and is_focusable(element):
            yield Finding(element, tokens[0])


@checks.add(
    "role-redundant", "Redundant role", NEEDS_EARS, "4.1.2",
    means="Listeners hear no difference. Role and element can drift apart when one of them is changed.",
    repair="Remove the role.",
    expect="{name}, {role}, as before",
)  # fmt: skip
def role_redundant(page: Facts) -> Found:
    """ARIA in HTML §4, Document conformance requirements: it is not recommended to repeat the implicit role."""
    for element in page.exposed_having("role"):
        role = element.attributes["role"].strip().lower()
        is_usual = role == "list" or element.namespace is Namespace.SVG  # repeated for browsers that need it
        if role and role == native_role(element, page.semantics) and not is_usual:
            yield Finding(element, role)


@checks.add(
    "state-contradicts", "ARIA state contradicts the element", FAILS, "4.1.2",
    means="Listeners hear one state while the control is in another.",
    repair="Remove the ARIA attribute; the element exposes its state itself.",
    expect="{name}, {role}, and the state that is to be seen",
)  # fmt: skip
def state_contradicts(page: Facts) -> Found:
    """Native states and ARIA's on one element (ARIA in HTML §4.4); they must not differ."""
    for name, (native, types) in _NATIVE_STATES.items():
        for element in page.exposed_having(name):
            if element.tag not in _CONTROLS or (types and control_type(element) not in types):
                continue
            said = element.attributes[name].strip().lower()
            is_set = native in element.attributes
            if (said == "true" and not is_set and native == "checked") or (said == "false" and is_set):
                yield Finding(element, f'{name}="{said}" and {native if is_set else f"not {native}"}')


@checks.add(
    "expanded-without-target", "Expandable control without a target", NEEDS_EARS, "4.1.2", "1.3.1",
    means="Listeners hear “collapsed” but cannot tell what opens or where it is.",
    repair="Put the content that opens directly after the control, or refer to it with aria-controls.",
    expect="after it opens: its content comes next",
)  # fmt: skip
def expanded_without_target(page: Facts) -> Found:
    """aria-expanded with a reference to nothing, or without one where nothing follows that could open."""
    for element in page.exposed_having("aria-expanded"):
        href = element.attributes.get("href", "")
        if href.startswith("#") and href[1:] in page.document.ids_around(element):
            continue  # it leads to what opens
        if "aria-controls" in element.attributes or "aria-owns" in element.attributes:
            names = " ".join(element.attributes.get(each, "") for each in ("aria-controls", "aria-owns")).split()
            ids = page.document.ids_around(element)
            if names and not any(name in ids for name in names) and element.attributes["aria-expanded"] == "true":
                yield Finding(element, f"aria-controls names {', '.join(names)}, which is not there")
        elif not _OPENS_OTHERWISE & element.attributes.keys() and not _opens(page, element):
            yield Finding(element)


def _opens(page: Facts, element: Element) -> bool:
    """Whether something follows that could be what opens: a sibling, or one of what is around it."""
    if element.tag in ("summary", "tr", "li"):
        return True
    for around in (element, *list(element.ancestors())[:2]):
        if page.next_element(around) is not None:
            return True
        if around.parent is not None and around.parent.tag in ("body", "main", "nav", "li"):
            return False
    return False


@checks.add(
    "toggle-renamed", "Toggle name changes with its state", NEEDS_EARS, "4.1.2",
    means="“Unmute, pressed” does not tell whether the sound is on or off.",
    repair="Keep the name and change the state, or change the name and remove the state.",
    expect="{name}, {role}, with one of the two changing",
)  # fmt: skip
def toggle_renamed(page: Facts) -> Found:
    """Where handlers change both, and pressed or expanded buttons with a name for one of two states."""
    for handler in page.handlers:
        stated: set[Element] = set()
        renamed: set[Element] = set()
        for change in handler.changes:
            if change.deed is Deed.TEXT or change.name == "aria-label":
                renamed.update(change.elements)
            elif change.name in _TOGGLES:
                stated.update(change.elements)
        for each in sorted(stated, key=_order):
            if any(each.contains(other) for other in renamed):
                yield Finding(each, "a cue changes name and state")
    for attribute in ("aria-pressed", "aria-expanded"):
        for element in page.exposed_having(attribute):
            node = page.node(element)
            if node is not None and element.attributes[attribute] == "true":
                first = plain(node.name).partition(" ")[0]
                if first in ("hide", "close", "collapse", "unmute", "deactivate", "disable"):
                    yield Finding(element, f"“{node.name.strip()}” and {attribute.removeprefix('aria-')}")


_TOGGLES = frozenset({"aria-pressed", "aria-checked", "aria-expanded", "aria-selected"})


def _order(element: Element) -> int:
    return element.order


@checks.add(
    "reference-loop", "Circular references", FAILS, "1.3.1", "4.1.2",
    means="Browsers break the loop somewhere, so part of a name or of the content is lost.",
    repair="Remove the reference that closes the loop.",
    expect="the name that is meant",
)  # fmt: skip
def reference_loop(page: Facts) -> Found:
    """aria-labelledby that comes back by way of another element, and aria-owns of what is around."""
    for element in page.exposed_having("aria-labelledby"):
        for target in page.semantics.references(element, "aria-labelledby"):
            if target is not element and element in page.semantics.references(target, "aria-labelledby"):
                yield Finding(element, "each is named by the other")
                break
    for element in page.exposed_having("aria-owns"):
        for target in page.semantics.references(element, "aria-owns"):
            back = page.semantics.references(target, "aria-owns")
            if target.contains(element) or element in back:
                yield Finding(element, "it owns what owns it")
                break
