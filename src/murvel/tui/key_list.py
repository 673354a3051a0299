"""All keys as lines, and as the Markdown of docs/reference/keys.md."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from murvel.reader.readout.kinds import TARGETS
from murvel.tui.actions import ANYWHERE, Keymap, keys_of
from murvel.tui.keys import KEY_NAMES
from murvel.tui.registry import ALL_ACTIONS, VIEWS

_HOW = (
    "[keys.listen]",
    'next = ["down", "n"]',
    'again = "j"',
)


def key_lines(keymap: Keymap, file: Path) -> Iterator[str]:
    """Yield a line for each action: its id, its keys, what it does; and how keys are chosen.

    Args:
        keymap: the keys a person chose.
        file: where they are chosen.
    """
    for action in sorted(ALL_ACTIONS, key=lambda action: action.place == ANYWHERE):
        yield f"{action.id:<24}{', '.join(keys_of(action, keymap)):<20}{action.words}"
    yield from ("", f"Keys are chosen in {file}, in a table for each view, as in:", *_HOW)
    yield f"A key is a character or one of: {', '.join(sorted(KEY_NAMES))}."
    yield "The words ctrl+, alt+ and shift+ may stand before it."


def keys_markdown() -> Iterator[str]:
    """Yield the lines of the document about the usual keys."""
    yield from ("# Keys", "", "Made by `murvel keys --markdown`. A test keeps the two alike.")
    titles = {ANYWHERE: "In every view", **{view.NAME: view.TITLE for view in VIEWS}}
    for place, title in titles.items():
        yield from ("", f"## {title}", "", "| keys | what they do | id |", "| --- | --- | --- |")
        for action in ALL_ACTIONS:
            if action.place == place:
                keys = " ".join(f"`{key}`" for key in keys_of(action, {})).replace("|", "\\|")
                yield f"| {keys} | {action.words} | `{action.id}` |"
    yield from ("", "## Letters after ] and [", "", "| letter | what it jumps to |", "| --- | --- |")
    yield from (f"| `{kind.letter}` | {kind.singular} |" for kind in TARGETS)
    yield from (
        "",
        "## Choosing keys",
        "",
        "`config.toml` has a table for each view, with keys by the names of actions:",
    )
    yield from ("", "```toml", *_HOW, "```", "")
    yield "A key is a character, or a name as `pagedown` or `f2`. `ctrl+`, `alt+` and `shift+` may stand before it."
    yield "`murvel keys` names the file and all keys. What is wrong in the file is said before the application opens."
