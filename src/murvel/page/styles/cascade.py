"""The cascade (CSS Cascade 5 §6): rules on elements, and from them the computed Style of each."""

from __future__ import annotations

from dataclasses import replace
from typing import NamedTuple

from selectolax.lexbor import SelectolaxError

from murvel.page.document import Document, Element, Namespace, Style
from murvel.page.parse import Parsed, Part
from murvel.page.styles.defaults import REPLACED, WHITE_SPACE, default_display
from murvel.page.styles.looks import Looks
from murvel.page.styles.media import Screen
from murvel.page.styles.rules import UNLAYERED, Block, Reach, Rule
from murvel.page.styles.sheets import Sheets, sheet_sources
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
from murvel.page.styles.variables import substitute
from murvel.page.styles.words import Words


class _Won(NamedTuple):
    """A declaration's standing in the cascade, compared left to right, and what it declares."""

    important: bool
    layer: int
    in_attribute: bool
    specificity: tuple[int, int, int]
    order: int
    value: Value
    where: str


_Declarations = dict[tuple[str, str], _Won]
"""The winning declaration by pseudo-element and property."""


def apply_styles(parsed: Parsed) -> None:
    """Collect the document's style sheets and set the style of every element."""
    document = parsed.document
    matched: dict[int, _Declarations] = {}
    custom: set[str] = set()
    kept: list[tuple[Part, list[Block]]] = []
    for number, part in enumerate(parsed.parts):
        sheets = _sheets(parsed, number, part)
        _match(part, sheets, matched)
        if part is not parsed.parts[0]:
            _match_outwards(parsed, part, sheets, matched)
        custom |= sheets.custom
        kept.append((part, sheets.looks))
        document.problems.extend(dict.fromkeys(sheets.problems))
    document.looks = Looks(kept)
    _compute(document, matched, custom)


def _sheets(parsed: Parsed, number: int, part: Part) -> Sheets:
    """Return the sheets of a part; those it had before, where a change of the page left them as they were."""
    document = parsed.document
    sources = sheet_sources(part)
    known = parsed.sheets.get(number)
    if known is not None and known.sources == sources:
        return known
    sheets = Sheets(Screen(document.width), document.base, sources)
    sheets.collect(document, part)
    parsed.sheets[number] = sheets
    return sheets


def _match(part: Part, sheets: Sheets, matched: dict[int, _Declarations]) -> None:
    words = Words(part)
    for rule in sheets.rules:
        if rule.reach is Reach.INSIDE and words.may_match(rule.selector):
            _match_rule(rule, part, sheets, matched, None)


def _match_outwards(parsed: Parsed, part: Part, sheets: Sheets, matched: dict[int, _Declarations]) -> None:
    """Try the rules of a shadow tree that speak of its host and of what its slots take."""
    host, around = part.root.parent, part.around
    if host is None or around is None:
        return
    slots = [element for element in part.by_memory.values() if element in parsed.document.flat]
    taken = {node for slot in slots for node in parsed.document.flat[slot] if isinstance(node, Element)}
    for rule in sheets.rules:
        if rule.reach is not Reach.INSIDE:
            reached = {host} if rule.reach is Reach.HOST else taken
            _match_rule(rule, around, sheets, matched, reached)


def _match_rule(
    rule: Rule, part: Part, sheets: Sheets, matched: dict[int, _Declarations], among: set[Element] | None
) -> None:
    """Note a rule's declarations for the elements of a part that it matches, or for those `among` certain ones."""
    try:
        nodes = part.parser.css(rule.selector)
    except SelectolaxError:
        sheets.problems.append(f"The selector {rule.selector!r} at {rule.where} was not understood.")
        return
    for node in nodes:
        element = part.by_memory.get(node.mem_id)
        if element is not None and (among is None or element in among):
            _declare(matched.setdefault(element.order, {}), rule)


def _declare(declarations: _Declarations, rule: Rule) -> None:
    for item in rule.declarations:
        # Among important declarations the earlier layer wins (CSS Cascade 5 §6.1).
        layer = -rule.layer if item.important else rule.layer
        won = _Won(item.important, layer, False, rule.specificity, rule.order, item.value, rule.where)
        key = (rule.pseudo, item.name)
        if key not in declarations or declarations[key][:5] <= won[:5]:
            declarations[key] = won


def _declare_attribute(declarations: _Declarations, text: str, custom: set[str]) -> None:
    for item in declared(text, custom):
        layer = -UNLAYERED if item.important else UNLAYERED
        won = _Won(item.important, layer, True, (0, 0, 0), 0, item.value, "style attribute")
        key = ("", item.name)
        if key not in declarations or declarations[key][:3] <= won[:3]:
            declarations[key] = won


def _compute(document: Document, matched: dict[int, _Declarations], custom: set[str]) -> None:
    shared: dict[tuple[str, str, str, str, str], Style] = {}
    initial = Style()
    stack: list[tuple[Element, Style, _Variables]] = [(document.root, initial, {})]
    while stack:
        element, inherited, variables = stack.pop()
        declarations = matched.get(element.order)
        attributes = element.attributes
        if "style" in attributes:
            declarations = declarations if declarations is not None else {}
            _declare_attribute(declarations, attributes["style"], custom)
        if custom and declarations:
            variables = _variables(declarations, custom, variables)
            declarations = _settled(declarations, variables)
        key = _defaults(element, inherited)
        base = shared.get(key)
        if base is None:
            base = shared[key] = Style(*key)
        if declarations:
            style = _computed(element, declarations, base)
        elif base.visibility != "visible":
            style = replace(base, hidden_by=inherited.hidden_by)
        else:
            style = base
        element.style = style
        for child in document.shown_in(element):
            if isinstance(child, Element):
                stack.append((child, style, variables))


_Variables = dict[str, str]
"""The custom properties of an element that are of interest, by name."""


def _variables(declarations: _Declarations, custom: set[str], inherited: _Variables) -> _Variables:
    """Return the custom properties of an element: its own before those of its parent.

    References in their values are replaced here, where they are declared (§2); what ends invalid has no value.
    """
    given = {name: declarations["", name].value for name in custom if ("", name) in declarations}
    own = {name: value.text for name, value in given.items() if isinstance(value, Pending)}
    if not own:
        return inherited
    around = {name: text for name, text in inherited.items() if own.get(name, "inherit") in ("inherit", "unset")}
    scope = {**around, **{name: text for name, text in own.items() if text not in CSS_WIDE}}
    values = {name: substitute(text, scope, (name,)) if name in own else text for name, text in scope.items()}
    return {name: text for name, text in (around | values).items() if text is not None}


def _settled(declarations: _Declarations, variables: _Variables) -> _Declarations:
    """Return declarations with their references replaced; those that end invalid count as unset (§3.1)."""
    settled: _Declarations = {}
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
        default_display(tag, is_html, attributes),
        inherited.visibility,
        WHITE_SPACE.get(tag, inherited.white_space) if is_html else inherited.white_space,
        inherited.text_transform,
        "hidden" if skipped else "visible",
    )


def _computed(element: Element, declarations: _Declarations, base: Style) -> Style:
    defaults = {name: str(getattr(base, name.replace("-", "_"))) for name in KEYWORDS}
    parent = element.parent.style if element.parent is not None else Style()
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


def _painted(declarations: _Declarations, name: str) -> bool:
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


def _generated(element: Element, declarations: _Declarations, pseudo: str) -> str | None:
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
