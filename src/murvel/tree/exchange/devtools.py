"""The DevTools protocol's accessibility tree (Accessibility.getFullAXTree) as facts of the tree JSON."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, Field

from murvel.loading.errors import PageError
from murvel.tree.exchange.validated import checked_at

ROLE_OF: dict[str, str] = {
    "Abbr": "abbr",
    "Audio": "audio",
    "Canvas": "canvas",
    "ColorWell": "colorwell",
    "Date": "datefield",
    "DateTime": "datefield",
    "DescriptionList": "list",
    "Details": "group",
    "DisclosureTriangle": "disclosure",
    "DisclosureTriangleGrouped": "disclosure",
    "EmbeddedObject": "embeddedobject",
    "Figcaption": "caption",
    "Iframe": "iframe",
    "IframePresentational": "iframe",
    "InputTime": "datefield",
    "LabelText": "label",
    "LayoutTable": "generic",
    "LayoutTableCell": "generic",
    "LayoutTableRow": "generic",
    "Legend": "legend",
    "MathMLMath": "math",
    "PluginObject": "embeddedobject",
    "RootWebArea": "document",
    "Ruby": "ruby",
    "StaticText": "text",
    "SvgRoot": "graphics-document",
    "Video": "video",
    "image": "img",
    "sectionfooter": "generic",
    "sectionheader": "generic",
}
"""The browser's own role names, as ours; all others are ARIA's, except those of MathML's elements.

`sectionheader` and `sectionfooter` are roles of ARIA 1.3 for what HTML-AAM 1.0 maps to generic.
"""


def role_of(browser_role: str) -> str:
    """Return a role of the browser's as ours; the elements within a formula have none (MathML-AAM, Core elements)."""
    return ROLE_OF.get(browser_role) or ("generic" if browser_role.startswith("MathML") else browser_role)


_LEFT_OUT = frozenset({"InlineTextBox", "LineBreak", "ListMarker"})
_STATES = {
    "hasPopup": "haspopup",
    **{
        name: name
        for name in (
            "checked pressed expanded selected disabled required invalid readonly multiselectable multiline level "
            "modal busy live atomic orientation"
        ).split()
    },
}
_ABSENT = (None, "", "false", "none", False)
_SAID_WHEN_FALSE = frozenset({"checked", "pressed", "expanded", "selected"})


class _Value(BaseModel):
    """What the protocol calls an AXValue."""

    value: str | bool | int | float | list[Any] | dict[str, Any] | None = None

    @property
    def text(self) -> str:
        """It as text; what is no single value is left out."""
        return str(self.value) if self.value and isinstance(self.value, str | int | float) else ""


class _Property(BaseModel):
    """What the protocol calls an AXProperty."""

    name: str
    value: _Value = _Value()


class _Node(BaseModel):
    """What the protocol calls an AXNode."""

    identifier: str = Field(alias="nodeId", coerce_numbers_to_str=True)
    ignored: bool = False
    role: _Value = _Value()
    name: _Value = _Value()
    description: _Value = _Value()
    value: _Value = _Value()
    properties: list[_Property] = []
    children: list[Annotated[str, Field(coerce_numbers_to_str=True)]] = Field(default=[], alias="childIds")


def facts_of_dump(dump: dict[str, Any]) -> dict[str, Any]:
    """Return a dump as the root of the tree JSON: ignored nodes are left out and their children moved up.

    Raises:
        PageError: a node is none, or the nodes do not make a tree; the message names the place.
    """
    read = [checked_at(_Node, node, f"nodes[{at}]") for at, node in enumerate(dump["nodes"])]
    nodes = {node.identifier: node for node in read}
    children = {child for node in read for child in node.children}
    roots = [identifier for identifier in nodes if identifier not in children]
    if not roots:
        raise PageError("The dump has no topmost node", "save the whole answer of Accessibility.getFullAXTree.")
    root = _facts(nodes[roots[0]])
    seen: set[str] = set()
    stack = [(identifier, root) for identifier in reversed(nodes[roots[0]].children)]
    while stack:
        identifier, parent = stack.pop()
        node = nodes.get(identifier)
        if node is None or identifier in seen:
            continue
        seen.add(identifier)
        if node.role.text in _LEFT_OUT:
            continue
        below = parent
        if not node.ignored:
            below = _facts(node)
            parent["children"].append(below)
        stack.extend((child, below) for child in reversed(node.children))
    return root


def _facts(node: _Node) -> dict[str, Any]:
    return {
        "role": role_of(node.role.text or "generic"),
        "name": node.name.text,
        "description": node.description.text,
        "value": node.value.text,
        "states": _states(node),
        "children": [],
    }


def _states(node: _Node) -> dict[str, Any]:
    states = {}
    for each in node.properties:
        name = _STATES.get(each.name)
        if name is None:
            continue
        value: Any = each.value.value
        value = {"true": True, "false": False}.get(value, value) if isinstance(value, str) else value
        if value not in _ABSENT or (name in _SAID_WHEN_FALSE and value is False):
            states[name] = value
    return states
