"""Keys that go to the page in focus mode."""

from __future__ import annotations

from textual import events

_KEYS_FOR_PAGE = {
    "space": "space",
    "backspace": "delete",
    "enter": "enter",
    "down": "arrow down",
    "right": "arrow down",
    "up": "arrow up",
    "left": "arrow up",
    "escape": "escape",
}
"""Keys that go to the page in focus mode, beside those that print, as commands."""


def command_for(event: events.Key) -> str | None:
    """Return the command that a key means to the page, None where it means nothing there."""
    if event.key in _KEYS_FOR_PAGE:
        return _KEYS_FOR_PAGE[event.key]
    if event.is_printable and event.character:
        return f"type {event.character}"
    return None
