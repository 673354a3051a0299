"""The worlds of our scripts, one beside each document (CDP, Runtime.executionContextCreated)."""

from __future__ import annotations

from typing import Any, NamedTuple

from murvel.browser.targets import Send

NAME = "murvel"
"""The name of our worlds."""


class World(NamedTuple):
    """Where our scripts run beside one document.

    Attributes:
        frame: the frame of the document, as the protocol names it.
        name: the world's own name, which no other ever has.
        number: its number, which some commands of the protocol ask for in place of the name.
    """

    frame: str = ""
    name: str = ""
    number: int = 0


class Worlds:
    """The worlds that are there now.

    Attributes:
        page: that of the page itself.
    """

    def __init__(self) -> None:
        self.page = World()
        self._frame = ""
        self._others: dict[str, World] = {}

    def begin(self, frame: str) -> None:
        """Say which frame is the page's own."""
        self._frame = frame

    def note_created(self, event: dict[str, Any]) -> bool:
        """Note a world that came; return whether it is one of ours."""
        context = event["context"]
        if context["name"] != NAME:
            return False
        world = World(context.get("auxData", {}).get("frameId", ""), context["uniqueId"], context["id"])
        if world.frame == self._frame:
            self.page = world
        else:
            self._others[world.name] = world
        return True

    def note_destroyed(self, event: dict[str, Any]) -> None:
        """Note a world that went; the page's own counts until another one takes its place."""
        self._others.pop(event.get("executionContextUniqueId", ""), None)

    def clear(self) -> None:
        """Note that all worlds of frames went."""
        self._others.clear()

    def others(self) -> list[World]:
        """Return the worlds beside the documents in frames, in the order in which they came."""
        return list(self._others.values())


async def listed(send: Send, world: World, expression: str, group: str) -> list[dict[str, Any]]:
    """Return the entries of a list that our script returns, as the protocol describes values.

    Args:
        send: sends a command to the page.
        world: where our script runs.
        expression: what is evaluated; it may also return null, for no entries.
        group: the group of objects that the entries belong to until it is released.

    Raises:
        BrowserError: the page does not answer.
    """
    asked = {"expression": expression, "uniqueContextId": world.name, "objectGroup": group}
    found = (await send("Runtime.evaluate", asked))["result"]
    if "objectId" not in found:
        return []
    entries = await send("Runtime.getProperties", {"objectId": found["objectId"], "ownProperties": True})
    return [each["value"] for each in entries["result"] if each["name"].isdecimal()]
