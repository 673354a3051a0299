"""What custom elements say by their internals (HTML §4.13.7.4, ElementInternals and ARIAMixin).

No script but the element's own reads its internals. The browser's tree has what they say; here that becomes the
attributes that would say the same. Attributes of the author's count more, as in the browser.
"""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, Sequence
from types import MappingProxyType
from typing import Any

from murvel.browser.targets import Send
from murvel.browser.worlds import World, listed
from murvel.tree.roles.aria_roles import ROLES

_GROUP = "internals"
_SAYS_NOTHING = frozenset({"generic", "none", "presentation", "text"})
_RANGES = frozenset({"meter", "progressbar", "scrollbar", "separator", "slider", "spinbutton"})
_STATES: Mapping[str, str] = MappingProxyType(
    {
        **{name: f"aria-{name}" for name in ("checked", "pressed", "expanded", "selected", "disabled", "required")},
        **{name: f"aria-{name}" for name in ("invalid", "readonly", "multiline", "multiselectable", "modal", "busy")},
        **{name: f"aria-{name}" for name in ("level", "orientation", "valuemin", "valuemax", "valuetext", "live")},
        "hasPopup": "aria-haspopup",
        "roledescription": "aria-roledescription",
    }
)
"""The attribute for each property of a node of the browser's tree (CDP, Accessibility.AXPropertyName)."""

_SAID_WHEN_FALSE = frozenset({"checked", "pressed", "expanded", "selected"})
_FROM_OUTSIDE = frozenset({"attribute", "relatedElement"})
_NAMING = frozenset({"aria-label", "aria-labelledby", "title"})

Custom = tuple[int, Sequence[str]]
"""A custom element by its number, with the names of its attributes."""


async def said_by_internals(send: Send, world: World, elements: Sequence[Custom]) -> dict[int, dict[str, str]]:
    """Return the attributes that stand for what custom elements say by their internals.

    Args:
        send: sends a command to the page.
        world: where our script runs beside their document.
        elements: the custom elements.

    Raises:
        BrowserError: the page does not answer.
    """
    numbers = ", ".join(str(number) for number, _ in elements)
    values = await listed(send, world, f"[{numbers}].map(murvel.nodeOf)", _GROUP)
    found = await asyncio.gather(*(_node(send, value) for value in values))
    await send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
    return {
        number: {name: value for name, value in _attributes(node, names).items() if name not in names}
        for (number, names), node in zip(elements, found, strict=True)
        if node is not None and "role" not in names  # then its markup says what it is, or leaves it out
    }


async def _node(send: Send, value: dict[str, Any]) -> dict[str, Any] | None:
    """The node of an element in the browser's tree; None if it says nothing that its markup does not say."""
    if "objectId" not in value:
        return None
    asked = {"objectId": value["objectId"], "fetchRelatives": False}
    nodes: list[dict[str, Any]] = (await send("Accessibility.getPartialAXTree", asked))["nodes"]
    role = nodes[0].get("role", {}).get("value", "") if nodes and not nodes[0].get("ignored") else ""
    return nodes[0] if role in ROLES and role not in _SAYS_NOTHING else None


def _attributes(node: dict[str, Any], names: Sequence[str]) -> dict[str, str]:
    role: str = node["role"]["value"]
    found = {"role": role}
    told = {each["name"]: each["value"].get("value") for each in node.get("properties", ())}
    if not told.get("valuemin") and not told.get("valuemax"):
        told = {name: value for name, value in told.items() if name not in ("valuemin", "valuemax")}
    for name, value in told.items():
        is_said = name in _SAID_WHEN_FALSE or value not in (False, None, "", "false", "off")
        if name in _STATES and is_said:
            found[_STATES[name]] = str(value).lower() if isinstance(value, bool) else str(value)
    if role in _RANGES and "value" in node:
        found["aria-valuenow"] = str(node["value"].get("value", ""))
    name = node.get("name", {})
    used = [each for each in name.get("sources", ()) if "value" in each and not each.get("superseded")]
    source = used[0].get("type", "") if used else ""
    if name.get("value") and source in _FROM_OUTSIDE and not _NAMING.intersection(names):
        found["aria-label"] = str(name["value"])
    return found
