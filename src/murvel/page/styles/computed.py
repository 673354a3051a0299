"""From the declarations that win for an element to its computed Style (CSS Cascade 5 §4.4, §7; CSS Display 3)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import NamedTuple

from murvel.page.document import Element, Namespace
from murvel.page.styles.defaults import REPLACED, WHITE_SPACE, default_display
from murvel.page.styles.rules import UNLAYERED, Rule
from murvel.page.styles.style import Style
from murvel.page.styles.values import (
    CSS_WIDE,
    INHERITED,
    INITIAL,
    KEYWORDS,
    PAINTED,
    ContentPart,
    Pending,
    Value,
    declared,
)
from murvel.page.styles.variables import substitute, substituted


class _Won(NamedTuple):
    """A declaration's standing in the cascade, compared left to right, and what it declares."""

    important: bool
    layer: int
    in_attribute: bool
    specificity: tuple[int, int, int]
    order: int
    value: Value
    where: str


Declarations = dict[tuple[str, str], _Won]
"""The winning declaration by pseudo-element and property."""


def declarations_of(element: Element, rules: Iterable[Rule], custom: set[str]) -> Declarations:
    """Return the declarations that win for an element: those of the rules that match it, and of its style attribute."""
    declarations: Declarations = {}
    for rule in rules:
        _declare(declarations, rule)
    if "style" in element.attributes:
        _declare_attribute(declarations, element.attributes["style"], custom)
    return declarations


def _declare(declarations: Declarations, rule: Rule) -> None:
    for item in rule.declarations:
        # Among important declarations the earlier layer wins (CSS Cascade 5 §6.1).
        layer = -rule.layer if item.important else rule.layer
        won = _Won(item.important, layer, False, rule.specificity, rule.order, item.value, rule.where)
        key = (rule.pseudo, item.name)
        if key not in declarations or declarations[key][:5] <= won[:5]:
            declarations[key] = won


def _declare_attribute(declarations: Declarations, text: str, custom: set[str]) -> None:
    for item in declared(text, custom):
        layer = -UNLAYERED if item.important else UNLAYERED
        won = _Won(item.important, layer, True, (0, 0, 0), 0, item.value, "style attribute")
        key = ("", item.name)
        if key not in declarations or declarations[key][:3] <= won[:3]:
            declarations[key] = won


class Computer:
    """Computes styles; those that many elements share are one object."""

    def __init__(self) -> None:
        self._shared: dict[tuple[str, str, str, str, str], Style] = {}

    def style(self, element: Element, declarations: Declarations, inherited: Style) -> Style:
        """Return an element's computed style.

        Args:
            element: the element.
            declarations: those that win, without references to custom properties.
            inherited: the style of the element around it in the flat tree.
        """
        key = _defaults(element, inherited)
        base = self._shared.get(key)
        if base is None:
            base = self._shared[key] = Style(*key)
        if declarations:
            return _computed(element, declarations, base, inherited)
        if base.visibility != "visible":
            return replace(base, hidden_by=inherited.hidden_by)
        return base


Variables = dict[str, str]
"""The custom properties of an element that are of interest, by name."""


def variables_of(declarations: Declarations, custom: set[str], inherited: Variables) -> Variables:
    """Return the custom properties of an element: its own before those of its parent.

    References in their values are replaced here, where they are declared (§2); what ends invalid has no value.
    """
    given = {name: declarations["", name].value for name in custom if ("", name) in declarations}
    own = {name: value.text for name, value in given.items() if isinstance(value, Pending)}
    if not own:
        return inherited
    around = {name: text for name, text in inherited.items() if own.get(name, "inherit") in ("inherit", "unset")}
    return around | substituted({name: text for name, text in own.items() if text not in CSS_WIDE}, around)


def settled(declarations: Declarations, variables: Variables) -> Declarations:
    """Return declarations with their references replaced; those that end invalid count as unset (§3.1)."""
    settled: Declarations = {}
    for key, won in declarations.items():
        if isinstance(won.value, Pending):
            if key[1].startswith("--"):
                continue
            text = substitute(won.value.text, variables)
            items = list(declared(f"{key[1]}: {text}")) if text is not None else []
            won = won._replace(value=items[0].value if items else "unset")
        settled[key] = won
    return settled


def _defaults(element: Element, inherited: Style) -> tuple[str, str, str, str, str]:
    """The user agent's values and the inherited ones, in the order of Style's fields."""
    tag, attributes = element.tag, element.attributes
    is_html = element.namespace is Namespace.HTML
    skipped = "hidden" in attributes and attributes["hidden"].lower() == "until-found"
    return (
        default_display(element),
        inherited.visibility,
        WHITE_SPACE.get(tag, inherited.white_space) if is_html else inherited.white_space,
        inherited.text_transform,
        "hidden" if skipped else "visible",
    )


def _computed(element: Element, declarations: Declarations, base: Style, parent: Style) -> Style:
    defaults = {name: str(getattr(base, name.replace("-", "_"))) for name in KEYWORDS}
    values = dict(defaults)
    for name in values:
        won = declarations.get(("", name))
        if won is not None and isinstance(won.value, str):
            values[name] = _resolve(name, won.value, defaults[name], parent)
    if values["display"] == "contents" and element.tag in REPLACED and element.namespace is Namespace.HTML:
        values["display"] = "none"  # CSS Display 3, Appendix B
    hidden_by = None
    if values["display"] == "none" and ("", "display") in declarations:
        hidden_by = declarations["", "display"].where
    elif values["visibility"] != "visible":
        set_here = declarations.get(("", "visibility"))
        hidden_by = set_here.where if set_here else parent.hidden_by
    return Style(
        values["display"],
        values["visibility"],
        values["white-space"],
        values["text-transform"],
        values["content-visibility"],
        _painted(declarations, "border"),
        _painted(declarations, "background"),
        _painted(declarations, "border-collapse"),
        _generated(element, declarations, "before"),
        _generated(element, declarations, "after"),
        hidden_by,
    )


def _painted(declarations: Declarations, name: str) -> bool:
    won = declarations.get(("", name))
    return won is not None and won.value == PAINTED


def _resolve(name: str, value: str, default: str, parent: Style) -> str:
    """CSS-wide keywords (CSS Cascade 5 §7.3)."""
    if value == "initial":
        return INITIAL[name]
    if value in ("revert", "revert-layer"):
        return default
    if value == "inherit" or (value == "unset" and name in INHERITED):
        return str(getattr(parent, name.replace("-", "_")))
    return INITIAL[name] if value == "unset" else value


def _generated_part(element: Element, part: ContentPart) -> str:
    if isinstance(part, str):
        return part
    kind, text = part
    if kind == "attr":
        return element.get(text.lower()) or ""
    return f" {text} " if text else ""


def _generated(element: Element, declarations: Declarations, pseudo: str) -> str | None:
    content = declarations.get((pseudo, "content"))
    if content is None or isinstance(content.value, str):
        return None
    display = declarations.get((pseudo, "display"))
    if display is not None and display.value == "none":
        return None
    visibility = declarations.get((pseudo, "visibility"))
    if visibility is not None and visibility.value != "visible":
        return None
    text = "".join(_generated_part(element, part) for part in content.value)
    # A block-level box puts its text apart from the element's own.
    block = display is not None and isinstance(display.value, str) and not Style(display.value).is_inline
    return f" {text} " if block else text
