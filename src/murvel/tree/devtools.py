"""The DevTools protocol's accessibility tree (Accessibility.getFullAXTree) as facts of the tree JSON."""

from __future__ import annotations

from typing import Any

from murvel.page.errors import PageError

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
"""The browser's own role names, as ours; every other one is ARIA's, but for those of MathML's elements.

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


def facts_of_dump(dump: dict[str, Any]) -> dict[str, Any]:
    """Return a dump as the root of the tree JSON: ignored nodes are left out and their children moved up.

    Raises:
        PageError: the nodes do not make a tree.
    """
    nodes = {str(node.get("nodeId")): node for node in dump["nodes"] if isinstance(node, dict)}
    children = {str(child) for node in nodes.values() for child in node.get("childIds", ())}
    roots = [identifier for identifier in nodes if identifier not in children]
    if not roots:
        raise PageError("The dump has no topmost node", "save the whole answer of Accessibility.getFullAXTree.")
    root = _facts(nodes[roots[0]])
    seen: set[str] = set()
    stack = [(identifier, root) for identifier in reversed(_ids(nodes[roots[0]]))]
    while stack:
        identifier, parent = stack.pop()
        node = nodes.get(identifier)
        if node is None or identifier in seen:
            continue
        seen.add(identifier)
        role = _value(node, "role")
        if role in _LEFT_OUT:
            continue
        below = parent
        if not node.get("ignored"):
            below = _facts(node)
            parent["children"].append(below)
        stack.extend((child, below) for child in reversed(_ids(node)))
    return root


def _ids(node: dict[str, Any]) -> list[str]:
    return [str(child) for child in node.get("childIds", ())]


def _facts(node: dict[str, Any]) -> dict[str, Any]:
    role = str(_value(node, "role") or "generic")
    return {
        "role": role_of(role),
        "name": str(_value(node, "name") or ""),
        "description": str(_value(node, "description") or ""),
        "value": str(_value(node, "value") or ""),
        "states": _states(node),
        "children": [],
    }


def _value(node: dict[str, Any], key: str) -> Any:
    holder = node.get(key)
    return holder.get("value") if isinstance(holder, dict) else None


def _states(node: dict[str, Any]) -> dict[str, Any]:
    states = {}
    for each in node.get("properties", ()):
        name = _STATES.get(each.get("name", "")) if isinstance(each, dict) else None
        if name is None:
            continue
        value = _value(each, "value")
        value = {"true": True, "false": False}.get(value, value) if isinstance(value, str) else value
        if value not in _ABSENT or (name in _SAID_WHEN_FALSE and value is False):
            states[name] = value
    return states
