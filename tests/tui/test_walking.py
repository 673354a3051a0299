"""A walk in the open: its steps are made on the page, and what is not as expected is told."""

from pathlib import Path

from textual.widgets import Input, Static

from murvel.reader.moves.moves import Mode
from murvel.tui.dialogs.walking import Walking
from murvel.tui.widgets.lines import MessageLine
from tests.tui.conftest import Opened
from tests.tui.support import heard, line, press, until, work


async def test_a_walk_is_made_again_step_by_step(opened: Opened, tmp_path: Path) -> None:
    async with opened() as pilot:
        await press(pilot, "W", "tab", "tab", "W")
        assert "The walk is kept" in line(pilot, MessageLine) or ".walk.yaml" in line(pilot, MessageLine)
        await press(pilot, "ctrl+w")
        path = Path(pilot.app.screen.query_one(Input).value)
        assert path.name.endswith(".walk.yaml")
        text = path.read_text()
        path.write_text(text.replace(heard(pilot), "Something else"))
        await press(pilot, "enter")
        await until(pilot, lambda: isinstance(pilot.app.screen, Walking) and pilot.app.screen.is_asking)
        dialog = pilot.app.screen
        assert isinstance(dialog, Walking)
        await press(pilot, "space")
        assert len(dialog._made) == 1
        assert work(pilot).session.focus is not None
        await press(pilot, "a", "a")
        told = str(dialog.query_one(Static).render())
        assert "1 not as expected" in told
        assert "expected is “heard: Something else”" in told
        work(pilot).session.mode = Mode.FOCUS
        await press(pilot, "escape")
        assert work(pilot).session.mode is Mode.BROWSE
        await press(pilot, "ctrl+w")
        pilot.app.screen.query_one(Input).value = "/no/such.walk.yaml"
        await press(pilot, "enter")
        assert "cannot be read" in line(pilot, MessageLine)
