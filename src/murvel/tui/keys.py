"""Keys: how they are written for people and in settings, and what they mean to the page in focus mode."""

from __future__ import annotations

from textual import events
from textual.keys import Keys

_SHOWN = {
    "up": "↑", "down": "↓", "left": "←", "right": "→", "pageup": "PgUp", "pagedown": "PgDn", "home": "Home",
    "end": "End", "enter": "Enter", "escape": "Esc", "tab": "Tab", "space": "Space", "backspace": "Backspace",
    "delete": "Del", "insert": "Ins",
}  # fmt: skip
"""Keys that print nothing, as they are written for people."""

_MODIFIERS = ("ctrl", "alt", "shift")

_PRINTED = {
    "right_square_bracket": "]", "left_square_bracket": "[", "right_curly_bracket": "}", "left_curly_bracket": "{",
    "greater_than_sign": ">", "less_than_sign": "<", "full_stop": ".", "comma": ",", "slash": "/", "plus": "+",
    "minus": "-", "question_mark": "?", "colon": ":", "semicolon": ";", "apostrophe": "'", "quotation_mark": '"',
    "backslash": "\\", "vertical_line": "|", "equals_sign": "=", "asterisk": "*", "underscore": "_", "tilde": "~",
    "grave_accent": "`", "exclamation_mark": "!", "at": "@", "number_sign": "#", "dollar_sign": "$",
    "percent_sign": "%", "circumflex_accent": "^", "ampersand": "&", "left_parenthesis": "(",
    "right_parenthesis": ")",
}  # fmt: skip
"""The library's names of keys that print something else than a letter or digit."""

_NAMED = {shown: name for name, shown in _PRINTED.items()}

KEY_NAMES = frozenset(
    [*_SHOWN, *(key.value for key in Keys if key.value.startswith("f") and key.value[1:].isdecimal())]
)
"""Names of keys that print nothing; modifiers stand before them, as in "ctrl+right"."""

_KEYS_FOR_PAGE = {
    "space": "space",
    "backspace": "delete",
    "enter": "enter",
    "down": "arrow down",
    "right": "arrow right",
    "up": "arrow up",
    "left": "arrow left",
    "escape": "escape",
}
"""Keys that go to the page in focus mode, beside those that print, as commands."""


def key_words(key: str) -> str:
    """Return how a key is written for people: "Ctrl+→" for "ctrl+right", "]" for "right_square_bracket"."""
    *modifiers, last = key.strip().split("+")
    shown = _SHOWN.get(last) or _PRINTED.get(last) or (last.upper() if last in KEY_NAMES or modifiers else last)
    return "+".join([*(each.capitalize() for each in modifiers), shown])


def key_named(written: str) -> str | None:
    """Return the library's name of a key as a person writes it in settings, None if there is no such key.

    Args:
        written: a character ("j", "]"), a name ("pagedown"), or modifiers with either ("ctrl+right").
    """
    if len(written) == 1:
        return _NAMED.get(written, written if written.isalnum() else None)
    *modifiers, last = written.strip().lower().split("+")
    if not set(modifiers) <= set(_MODIFIERS) or len(set(modifiers)) != len(modifiers):
        return None
    if last not in KEY_NAMES and not (len(last) == 1 and last.isalnum() and modifiers) and last not in _PRINTED:
        return None
    return "+".join([*(each for each in _MODIFIERS if each in modifiers), last])


def command_for(event: events.Key) -> str | None:
    """Return the command that a key means to the page, None if it means nothing there."""
    if event.key in _KEYS_FOR_PAGE:
        return _KEYS_FOR_PAGE[event.key]
    if event.is_printable and event.character:
        return f"type {event.character}"
    return None
