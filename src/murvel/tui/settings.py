"""Settings of the application: the keys a person chose, in config.toml in the usual folder."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from pathlib import Path

from pydantic import BaseModel, ConfigDict

from murvel.errors import MurvelError, did_you_mean
from murvel.files.toml import checked, read_toml
from murvel.text import visible
from murvel.tui.actions import ANYWHERE, Action, Keymap
from murvel.tui.keys import KEY_NAMES, key_named, key_words
from murvel.tui.remembered import Remembered

NAME = "config.toml"

_HINT = "murvel keys lists the actions, and the names of keys."


class SettingsError(MurvelError):
    """Settings that cannot be used."""


@dataclass(frozen=True, slots=True)
class Settings:
    """What the application is started with.

    Attributes:
        keymap: keys by the ids of actions, where a person chose others.
        voice_folder: where the person's own voices are, None for nowhere.
        file: where keys can be chosen.
        remembered: what was left so by the last session.
        texts: texts of the person's own for what comes again in defects, by name.
    """

    keymap: Keymap = field(default_factory=dict)
    voice_folder: Path | None = None
    file: Path = Path(NAME)
    remembered: Remembered = field(default_factory=Remembered)
    texts: dict[str, str] = field(default_factory=dict)


class _File(BaseModel):
    model_config = ConfigDict(extra="forbid")

    keys: dict[str, dict[str, str | list[str]]] = {}
    texts: dict[str, str] = {}


def read_texts(path: Path) -> dict[str, str]:
    """Return the texts in a settings file by name, as its table `texts` has them; none where there is no such file.

    Raises:
        SettingsError: the file cannot be used.
    """
    return _read(path).texts if path.exists() else {}


def _read(path: Path) -> _File:
    subject = f"The settings {visible(str(path))}"
    return checked(_File, read_toml(path, "settings", SettingsError), subject, SettingsError)


def read_keymap(path: Path, actions: Iterable[Action]) -> Keymap:
    """Return the keys that a settings file gives to actions; none where there is no such file.

    Args:
        path: the file; its table `keys.PLACE` has actions of a place, each with a key or a list of keys.
        actions: every action.

    Raises:
        SettingsError: the file cannot be used; the message names the file, the key and the nearest spelling.
    """
    if not path.exists():
        return {}
    subject = f"The settings {visible(str(path))}"
    tables = _read(path).keys
    by_id = {action.id: action for action in actions}
    keymap: Keymap = {}
    for place, chosen in tables.items():
        for name, keys in chosen.items():
            action = f"{place}.{name}"
            if action not in by_id:
                raise SettingsError(
                    f"{subject}: keys.{visible(action)} is no action", did_you_mean(action, by_id, _HINT)
                )
            keymap[action] = ",".join(_keys(subject, action, [keys] if isinstance(keys, str) else keys))
    _must_be_unique(subject, keymap, by_id)
    return keymap


def _keys(subject: str, action: str, written: list[str]) -> list[str]:
    if not written:
        raise SettingsError(f"{subject}: keys.{action} has no key", "give it one, or take the line out.")
    keys = []
    for each in written:
        key = key_named(each)
        if key is None:
            raise SettingsError(
                f"{subject}: keys.{action}: {visible(each)!r} is no key", did_you_mean(each, KEY_NAMES, _HINT)
            )
        keys.append(key)
    return keys


def _must_be_unique(subject: str, keymap: Keymap, by_id: dict[str, Action]) -> None:
    """Two actions of one place, or of one place and of anywhere, cannot share a key."""
    for place in {action.place for action in by_id.values()}:
        taken: dict[str, str] = {}
        for action in by_id.values():
            if action.place not in (place, ANYWHERE):
                continue
            for key in keymap.get(action.id, action.keys).split(","):
                other = taken.setdefault(key, action.id)
                if other != action.id and (action.id in keymap or other in keymap):
                    raise SettingsError(
                        f"{subject}: {key_words(key)} is the key of {other} and of {action.id}",
                        "give one of them another key.",
                    )
