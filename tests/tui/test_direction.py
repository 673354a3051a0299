"""Right-to-left text in the readout."""

from pathlib import Path

import pytest

from murvel.tui.widgets.direction import in_sight, reorders
from tests.tui.conftest import Opened
from tests.tui.support import shown, work

SHALOM = "שלום עולם"


@pytest.mark.parametrize(
    ("text", "seen"),
    [
        ("plain", "plain"),
        ("naïve", "naïve"),
        (SHALOM, SHALOM[::-1]),
        (f"{SHALOM} 12", f"12 {SHALOM[::-1]}"),
    ],
)
def test_the_order_in_which_characters_are_seen(text: str, seen: str) -> None:
    assert in_sight(text) == seen


@pytest.mark.parametrize(
    ("variables", "does"),
    [({}, False), ({"VTE_VERSION": "7200"}, True), ({"TERM_PROGRAM": "iTerm.app"}, True), ({"TERM": "xterm"}, False)],
)
def test_terminals_that_reorder_themselves(variables: dict[str, str], does: bool) -> None:
    assert reorders(variables) is does


async def test_the_readout_shows_it_readable_and_speech_keeps_its_order(opened: Opened, tmp_path: Path) -> None:
    (tmp_path / "r.html").write_text(f"<html lang=he dir=rtl><title>R</title><p>{SHALOM}</p>")
    async with opened(tmp_path / "r.html") as pilot:
        assert shown(pilot)[0].endswith(SHALOM[::-1])
        assert work(pilot).session.log[-1].utterance.text == SHALOM
