"""Which elements scripts listen on, as the browser's debugger tells it: also where nothing in the markup shows it."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from murvel.browser.tab import Tab
from murvel.browser.worlds import World, listed
from murvel.stage.script import Event

_EVENTS = MappingProxyType(
    {
        **dict.fromkeys(("click", "dblclick", "mousedown", "mouseup", "pointerdown", "pointerup"), Event.ACTIVATE),
        **dict.fromkeys(("keydown", "keyup", "keypress"), Event.KEY),
        **dict.fromkeys(("mouseenter", "mouseover", "pointerenter", "pointerover"), Event.HOVER),
        **dict.fromkeys(("focus", "focusin"), Event.FOCUS),
        **dict.fromkeys(("blur", "focusout"), Event.LEAVE),
        **dict.fromkeys(("input", "change"), Event.INPUT),
        "submit": Event.SUBMIT,
    }
)
_OF_WINDOW = frozenset({Event.ACTIVATE, Event.KEY})
"""The events that a window gets on behalf of the elements of its page; focus and input on it are its own."""

_MOST = 5_000
"""Elements with listeners that are looked at; a page has more only where each cell of a large table has its own."""

_AT_ONCE = 500
_GROUP = "listeners"


async def listened(tab: Tab) -> Mapping[Event, list[int]]:
    """Return our numbers of the elements that scripts listen on, by event; the html element stands for the document
    and the window.

    Raises:
        BrowserError: the page does not answer.
    """
    by_event: dict[Event, list[int]] = {}
    for world, first in tab.frames.documents():
        for event, numbers in (await _listened_in(tab, world)).items():
            by_event.setdefault(event, []).extend(first + number for number in numbers)
    return by_event


async def _listened_in(tab: Tab, world: World) -> dict[Event, list[int]]:
    """The same in one document, with its own numbers."""
    found: dict[int, set[Event]] = {}
    scopes = await _scopes(tab, world)
    if scopes:
        found[await _backend_of(tab, scopes[0])] = await _of_window(tab, scopes[0])
    for scope in scopes:
        # With `pierce` Chromium goes into shadow trees by itself, and its renderer dies after a while.
        told = await tab.send("DOMDebugger.getEventListeners", {"objectId": scope, "depth": -1})
        for listener in told["listeners"]:
            event = _EVENTS.get(listener["type"])
            if event is not None and "backendNodeId" in listener and len(found) < _MOST:
                found.setdefault(listener["backendNodeId"], set()).add(event)
    nodes = list(found)
    by_event: dict[Event, list[int]] = {}
    for start in range(0, len(nodes), _AT_ONCE):
        some = nodes[start : start + _AT_ONCE]
        for node, number in zip(some, await _numbers(tab, world, some), strict=True):
            for event in found[node] if number else ():
                by_event.setdefault(event, []).append(number)
    await tab.send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
    return by_event


async def _of_window(tab: Tab, document: str) -> set[Event]:
    """What scripts listen to on a document's window; our own script is in another world, which is not asked."""
    call = {"functionDeclaration": "function() { return this.defaultView; }", "objectGroup": _GROUP}
    window = (await tab.send("Runtime.callFunctionOn", {**call, "objectId": document}))["result"]["objectId"]
    told = await tab.send("DOMDebugger.getEventListeners", {"objectId": window})
    return {_EVENTS[each["type"]] for each in told["listeners"] if each["type"] in _EVENTS} & _OF_WINDOW


async def _backend_of(tab: Tab, scope: str) -> int:
    node: int = (await tab.send("DOM.describeNode", {"objectId": scope}))["node"]["backendNodeId"]
    return node


async def _scopes(tab: Tab, world: World) -> list[str]:
    """The documents and shadow trees of the page, as the protocol names objects of the page's own world."""
    names: list[str] = []
    for each in await listed(tab.send, world, "murvel.scopes()", _GROUP):
        node = (await tab.send("DOM.describeNode", {"objectId": each["objectId"]}))["node"]
        own = {"backendNodeId": node["backendNodeId"], "objectGroup": _GROUP}
        names.append((await tab.send("DOM.resolveNode", own))["object"]["objectId"])
    return names


async def _numbers(tab: Tab, world: World, nodes: list[int]) -> list[int]:
    """Our numbers of the browser's nodes; 0 for what is no element, or is not on the page."""
    given = {"executionContextId": world.number, "objectGroup": _GROUP}
    resolved = await asyncio.gather(*(tab.send("DOM.resolveNode", {"backendNodeId": node, **given}) for node in nodes))
    arguments: list[dict[str, Any]] = [{"objectId": each["object"]["objectId"]} for each in resolved]
    call = {
        "functionDeclaration": "function(...nodes) { return nodes"
        ".map((each) => each.nodeType === 9 ? each.documentElement : each)"
        ".map((each) => each && each.nodeType === 1 && each.isConnected ? murvel.numberOf(each) : 0); }",
        "executionContextId": world.number,
        "arguments": arguments,
        "returnByValue": True,
    }
    numbers: list[int] = (await tab.send("Runtime.callFunctionOn", call))["result"]["value"]
    return numbers
