"""Closed shadow roots (DOM §4.8): the browser gives our script what no script can reach."""

from __future__ import annotations

import asyncio

from murvel.browser.targets import Send
from murvel.browser.worlds import World, listed

_GROUP = "closed"
_MOST_ROUNDS = 8
"""How deep closed roots may stand in one another."""


async def adopt_closed(send: Send, world: World, *, which: str) -> bool:
    """Give our script the closed shadow roots of its document.

    Args:
        send: sends a command to the page.
        world: where the script runs.
        which: which elements the browser is asked about first: "new", "changed" or "again" (closed.js, `suspects`).

    Returns:
        Whether it got any.

    Raises:
        BrowserError: the page does not answer.
    """
    has_any = False
    for turn in range(_MOST_ROUNDS):
        asked = f"murvel.suspects('{'new' if turn else which}')"
        elements = [each["objectId"] for each in await listed(send, world, asked, _GROUP)]
        if not elements:
            break
        described = await asyncio.gather(*(send("DOM.describeNode", {"objectId": each}) for each in elements))
        roots = [
            root["backendNodeId"]
            for each in described
            for root in each["node"].get("shadowRoots", ())
            if root["shadowRootType"] == "closed"
        ]
        for root in roots:
            await _adopt(send, world, root)
        await send("Runtime.releaseObjectGroup", {"objectGroup": _GROUP})
        has_any |= bool(roots)
        if not roots:
            break
    return has_any


async def _adopt(send: Send, world: World, root: int) -> None:
    given = {"backendNodeId": root, "executionContextId": world.number, "objectGroup": _GROUP}
    found = (await send("DOM.resolveNode", given))["object"]
    call = {"functionDeclaration": "function() { murvel.adopt(this); }", "objectId": found["objectId"]}
    await send("Runtime.callFunctionOn", call)
