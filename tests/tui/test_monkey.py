"""Keys pressed at random, as fast as they can be sent: nothing ends the application."""

import asyncio
from random import Random

import pytest
from textual import events

from tests.tui.conftest import Opened
from tests.tui.support import press_at_random


async def play(opened: Opened, seed: int, count: int) -> None:
    random = Random(seed)
    async with opened(size=random.choice(((80, 24), (160, 47), (40, 10)))) as pilot:
        await press_at_random(pilot, random, count)


@pytest.mark.parametrize("seed", range(2))
async def test_random_keys(opened: Opened, seed: int) -> None:
    await play(opened, seed, 300)


@pytest.mark.thorough
@pytest.mark.parametrize("seed", range(10, 20))
async def test_thousands_of_random_keys(opened: Opened, seed: int) -> None:
    await play(opened, seed, 3000)


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
