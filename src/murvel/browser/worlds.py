"""The worlds of our scripts, one beside each document (CDP, Runtime.executionContextCreated)."""

from __future__ import annotations

from typing import Any, NamedTuple

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
