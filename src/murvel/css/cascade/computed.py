"""From the declarations that win for an element to its computed Style (CSS Cascade 5 §4.4, §7; CSS Display 3)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any, NamedTuple

from murvel.css.cascade.standing import Standing, in_attribute, in_rule
from murvel.css.generated.content import NO_LISTS, Content, Generated, Kind, Lists, Part, generated, replacement
from murvel.css.sheets.rules import Rule
from murvel.css.values.declared import CSS_WIDE, INHERITED, INITIAL, Pending, Value, declared
from murvel.css.values.defaults import REPLACED, WHITE_SPACE, default_display
from murvel.css.values.style import Style
from murvel.css.values.variables import Registered, substitute, substituted
from murvel.dom.document import Element, Namespace


class _Won(NamedTuple):
    """A declaration: where it stands in the cascade, what it declares, and where it is written."""

    standing: Standing
    value: Value
    where: str


Declarations = dict[tuple[str, str], _Won]
"""The winning declaration by pseudo-element and property."""


_OF_QUOTATIONS: Declarations = {
    (pseudo, "content"): _Won(Standing(False, False, -1, (0, 0, 0), 0), Content((Part(Kind.QUOTE, keyword),)), "")
    for pseudo, keyword in (("before", "open-quote"), ("after", "close-quote"))
}
"""The user agent's rules for the q element (HTML §15.3.4)."""


def declarations_of(element: Element, rules: Sequence[Rule], custom: set[str]) -> Declarations:
    """Return the declarations that win for an element: those of the rules that match it, and of its style attribute."""
    declarations: Declarations = dict(_OF_QUOTATIONS) if element.tag == "q" else {}
    for rule in rules:
        _declare(declarations, rule)
    if "style" in element.attributes:
        _declare_attribute(declarations, element.attributes["style"], custom)
    rolled_back = [key for key, won in declarations.items() if won.value == "revert-layer"]
    for key in rolled_back:
        declarations[key] = _below(declarations[key], key, rules)
    return declarations


def _below(won: _Won, key: tuple[str, str], rules: Sequence[Rule]) -> _Won:
    """Return the declaration that replaces `revert-layer` (CSS Cascade 5 §7.3.5).

    It is the winner among the lower layers. If they declare nothing, the user agent's value counts.
    """
    while won.value == "revert-layer":
        lower = [
            _Won(standing, item.value, rule.where)
            for rule in rules
            for item in rule.block.declarations
            if (rule.pseudo, item.name) == key
            for standing in (in_rule(rule, important=item.important),)
            if standing[:3] < won.standing[:3]
        ]
        if not lower:
            return won._replace(value="revert")
        won = max(reversed(lower), key=lambda each: each.standing)
    return won


def _declare(declarations: Declarations, rule: Rule) -> None:
    for item in rule.block.declarations:
        standing = in_rule(rule, important=item.important)
        key = (rule.pseudo, item.name)
        if key not in declarations or declarations[key].standing <= standing:
            declarations[key] = _Won(standing, item.value, rule.where)


def _declare_attribute(declarations: Declarations, text: str, custom: set[str]) -> None:
    for item in declared(text, custom):
        standing = in_attribute(important=item.important)
        key = ("", item.name)
        if key not in declarations or declarations[key].standing <= standing:
            declarations[key] = _Won(standing, item.value, "style attribute")


class Computer:
    """Computes styles; those that many elements share are one object."""

    def __init__(self) -> None:
        self._shared: dict[_Key, Style] = {}

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
            base = self._shared[key] = _base(key)
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


def passed_down(variables: Variables, registered: Mapping[str, Registered]) -> Variables:
    """Return what an element inherits: registered properties that do not inherit have their initial value again."""
    fixed = {name: each.initial for name, each in registered.items() if not each.inherits}
    if all(variables.get(name) == initial for name, initial in fixed.items()):
        return variables
    kept = {name: text for name, text in variables.items() if name not in fixed}
    return kept | {name: initial for name, initial in fixed.items() if initial is not None}


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


_Key = tuple[str, str, str, str, str, bool, Lists]

_HOLD_ITEMS = frozenset({"flex", "inline-flex", "grid", "inline-grid"})
_AS_ITEM = {
    "inline-flex": "flex", "inline-grid": "grid", "inline-table": "table", "none": "none", "contents": "contents",
    "block": "block", "flex": "flex", "grid": "grid", "table": "table", "list-item": "list-item",
    "flow-root": "flow-root",
}  # fmt: skip
"""What the display of an item, a float or an absolute box becomes (CSS Display 3 §2.7); all else becomes a block."""

_MARKERS = {"ol": "decimal", "ul": "disc", "menu": "disc", "dir": "disc"}
_MARKER_TYPES = {
    "1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman",
    "disc": "disc", "circle": "circle", "square": "square", "none": "none",
}  # fmt: skip
"""The attribute type of lists and items (HTML §15.3.8)."""


def _defaults(element: Element, inherited: Style) -> _Key:
    """The user agent's values and the inherited ones: display is as declared, not what the box becomes."""
    tag, attributes = element.tag, element.attributes
    is_html = element.namespace is Namespace.HTML
    skipped = "hidden" in attributes and attributes["hidden"].lower() == "until-found"
    lists = inherited.lists
    if lists is not NO_LISTS or tag in _MARKERS or tag == "li":
        marker = _marker(element) or lists.marker
        lists = NO_LISTS if (marker, lists.quotes) == ("disc", "auto") else Lists(marker, quotes=lists.quotes)
    return (
        default_display(element),
        inherited.visibility,
        WHITE_SPACE.get(tag, inherited.white_space) if is_html else inherited.white_space,
        inherited.text_transform,
        "hidden" if skipped else "visible",
        inherited.holds_items,
        lists,
    )


def _marker(element: Element) -> str | None:
    """The user agent's list-style-type of a list, None if it is inherited."""
    if element.tag not in _MARKERS and element.tag != "li":
        return None
    kind = element.attributes.get("type", "")
    return _MARKER_TYPES.get(kind) or _MARKER_TYPES.get(kind.lower()) or _MARKERS.get(element.tag)


def _base(key: _Key) -> Style:
    display, visibility, white_space, text_transform, content_visibility, among_items, lists = key
    return Style(
        _AS_ITEM.get(display, "block") if among_items else display,
        visibility,
        white_space,
        text_transform,
        "visible" if display in _NOT_CONTAINED else content_visibility,
        display in _HOLD_ITEMS or (display == "contents" and among_items),
        lists=lists,
    )


def _computed(element: Element, declarations: Declarations, base: Style, parent: Style) -> Style:
    defaults = {
        "display": default_display(element),
        "visibility": base.visibility,
        "white-space": base.white_space,
        "text-transform": base.text_transform,
        "content-visibility": base.content_visibility,
        "float": "none",
        "position": "static",
    }
    values = dict(defaults)
    for name in values:
        won = declarations.get(("", name))
        if won is not None and isinstance(won.value, str):
            # What a parent's box is out of the flow by is not kept, so nothing is inherited of that.
            inherited = getattr(parent, name.replace("-", "_"), defaults[name])
            values[name] = _resolve(name, won.value, defaults[name], inherited)
    display = values["display"]
    if display in ("table-column", "table-column-group") and element.tag not in ("col", "colgroup"):
        display = "none"  # nothing in it is shown (CSS 2 §17.2)
    if display == "contents" and element.tag in REPLACED and element.namespace is Namespace.HTML:
        display = "none"  # CSS Display 3, Appendix B
    hidden_by = None
    if display == "none" and ("", "display") in declarations:
        hidden_by = declarations["", "display"].where
    elif values["visibility"] != "visible":
        set_here = declarations.get(("", "visibility"))
        hidden_by = set_here.where if set_here else parent.hidden_by
    skipped = values["content-visibility"]
    if skipped == "hidden" and display in _NOT_CONTAINED:
        skipped = "visible"  # size containment does not apply to it (CSS Containment 2 §3.1, §4)
    out_of_flow = _is_out_of_flow(values["position"], values["float"], parent)
    holds_items = display in _HOLD_ITEMS or (display == "contents" and parent.holds_items)
    return Style(
        _AS_ITEM.get(display, "block") if out_of_flow or parent.holds_items else display,
        values["visibility"],
        values["white-space"],
        values["text-transform"],
        skipped,
        holds_items,
        out_of_flow and display != "contents",
        _generated(element, declarations, "before", values["text-transform"], holds_items=holds_items),
        _generated(element, declarations, "after", values["text-transform"], holds_items=holds_items),
        hidden_by,
        _lists(declarations, base.lists, parent.lists),
        shows_closed=_shows_closed(declarations),
        replaced=_replaced(element, declarations),
    )


def _replaced(element: Element, declarations: Declarations) -> str | None:
    """What stands for the content of an element in words, where an image replaces it."""
    won = declarations.get(("", "content"))
    return replacement(element, won.value) if won is not None and isinstance(won.value, Content) else None


def _shows_closed(declarations: Declarations) -> bool:
    """Whether ::details-content is shown where its details element is closed (HTML §15.5.4)."""
    won = declarations.get(("details-content", "content-visibility"))
    return won is not None and won.value in ("visible", "auto")


_NOT_CONTAINED = frozenset(
    "inline contents ruby ruby-text table inline-table table-row table-row-group table-header-group table-footer-group "
    "table-cell".split()
)


def _is_out_of_flow(position: str, floats: str, parent: Style) -> bool:
    """CSS 2 §9.7; items do not float (CSS Flexbox 1 §3)."""
    return position in ("absolute", "fixed") or (floats != "none" and not parent.holds_items)


def _lists(declarations: Declarations, base: Lists, parent: Lists, pseudo: str = "") -> Lists:
    values: dict[str, Any] = {}
    for field, name in _LIST_PROPERTIES.items():
        won = declarations.get((pseudo, name))
        if won is not None and isinstance(won.value, str):
            values[field] = _resolve(name, won.value, getattr(base, field), getattr(parent, field))
    marker = declarations.get(("marker", "content"))
    if not pseudo and marker is not None and isinstance(marker.value, Content):
        values["content"] = marker.value
    return base._replace(**values) if values else base


_LIST_PROPERTIES = {
    "marker": "list-style-type",
    "reset": "counter-reset",
    "increment": "counter-increment",
    "set": "counter-set",
    "quotes": "quotes",
}


def _resolve(name: str, value: str, default: str, inherited: str) -> str:
    """CSS-wide keywords (CSS Cascade 5 §7.3)."""
    if value == "initial":
        return INITIAL[name]
    if value in ("revert", "revert-layer"):
        return default
    if value == "inherit" or (value == "unset" and name in INHERITED):
        return inherited
    return INITIAL[name] if value == "unset" else value


def _generated(
    element: Element, declarations: Declarations, pseudo: str, transform: str, *, holds_items: bool
) -> Generated | None:
    content = declarations.get((pseudo, "content"))
    if content is None or not isinstance(content.value, Content) or element.tag in REPLACED:
        return None
    given = {name: declarations[pseudo, name].value for name in _OF_PSEUDO if (pseudo, name) in declarations}
    display = given.get("display", "inline")
    if display == "none" or given.get("visibility", "visible") != "visible":
        return None
    floats = given.get("position") in ("absolute", "fixed") or given.get("float", "none") != "none"
    if floats or holds_items:
        display = _AS_ITEM.get(str(display), "block")
    box = Style(str(display))
    lists = _lists(declarations, NO_LISTS, NO_LISTS, pseudo)
    own = given.get("text-transform", transform)
    apart = display != "inline"
    return generated(element, content.value, lists, str(own), is_block=not box.is_inline, is_apart=apart)


_OF_PSEUDO = ("display", "visibility", "position", "float", "text-transform")
