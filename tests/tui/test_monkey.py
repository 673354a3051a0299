"""Keys pressed at random, as fast as they can be sent: nothing ends the application."""

import asyncio
from random import Random

import pytest
from textual import events
from textual.keys import _character_to_key

from tests.tui.conftest import Opened

LETTERS = "abcdefghijklmnoprstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789][{}()<>/?.,:;-=+*#'\"! "
OTHERS = (
    "enter escape tab shift+tab up down left right pageup pagedown home end backspace delete ctrl+p ctrl+s f1 f2 "
    "shift+up shift+down shift+left shift+right shift+home shift+end"
).split()
KEYS = [(_character_to_key(letter), letter) for letter in LETTERS] + [(key, None) for key in OTHERS] * 2


async def press_at_random(opened: Opened, seed: int, count: int) -> None:
    """Press keys without a pause; q and its like, which end the application, are left out."""
    random = Random(seed)
    async with opened(size=random.choice(((80, 24), (160, 47), (40, 10)))) as pilot:
        for sent in range(count):
            key, character = random.choice(KEYS)
            pilot.app.post_message(events.Key(key, character))
            if random.random() < 0.1:
                await asyncio.sleep(0)
            if sent % 400 == 0:
                await pilot.pause(0.05)
            assert pilot.app._exception is None
        await pilot.pause(0.1)
        assert pilot.app.is_running


@pytest.mark.parametrize("seed", range(2))
async def test_random_keys(opened: Opened, seed: int) -> None:
    await press_at_random(opened, seed, 300)


@pytest.mark.thorough
@pytest.mark.parametrize("seed", range(10, 20))
async def test_thousands_of_random_keys(opened: Opened, seed: int) -> None:
    await press_at_random(opened, seed, 3000)


SEQUENCES = [
    ("right_square_bracket", "x", "y"),
    ("slash", "a", "enter", "enter", "enter"),
    ("ctrl+p", "a", "b", "pageup", "pageup", "down", "enter"),
    ("question_mark", "z", "z", "z", "pageup", "escape", "escape"),
    ("d", "escape", "escape", "d", "a", "escape", "escape", "escape"),
    ("o", "x", "pageup", "pagedown", "escape", "escape"),
]


@pytest.mark.parametrize("keys", SEQUENCES)
async def test_keys_right_behind_each_other(opened: Opened, keys: tuple[str, ...]) -> None:
    async with opened() as pilot:
        for key in keys * 3:
            pilot.app.post_message(events.Key(key, key if len(key) == 1 else None))
        await pilot.pause(0.1)
        assert pilot.app.is_running
        assert pilot.app._exception is None


@pytest.mark.parametrize("turns", range(4))
async def test_leaving_while_a_dialog_opens(opened: Opened, turns: int) -> None:
    async with opened() as pilot:
        pilot.app.post_message(events.Key("question_mark", "?"))
        for _ in range(turns):
            await asyncio.sleep(0)
    assert pilot.app._exception is None
