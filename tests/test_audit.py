"""A whole audit in a real terminal: listen, survey, keyboard, ten defects, report, kill, re-test, break again."""

import re
import shutil

import pytest

from tests.terminal import MURVEL, PROMPT, Terminal, terminal

__all__ = ["terminal"]

pytestmark = [
    pytest.mark.thorough,
    pytest.mark.skipif(shutil.which("tmux") is None, reason="tmux is not installed"),
]

DEFECTS = 10


def line_of(terminal: Terminal, number: int, mark: str) -> str:
    """The line of a defect in the list of a re-test; empty while the list is drawn anew."""
    row = re.compile(rf"{mark} +{number}\. ")
    return next((each.partition("││")[0] for each in terminal.screen().splitlines() if row.search(each)), "")


def retest(terminal: Terminal, address: str, mark: str) -> None:
    """Re-test the page in the application where it is found now, and accept what is proposed of each defect."""
    terminal.press("5")
    terminal.wait_for("Documented")
    terminal.press("r")
    terminal.wait_for("Re-test at:")
    terminal.press("C-u")
    terminal.wait_for("where the page is found now")
    terminal.type(address)
    terminal.wait_for(address[-20:])
    terminal.press("Enter")
    terminal.wait_for("carried over")
    for number in range(1, DEFECTS + 1):
        terminal.wait_until(lambda: line_of(terminal, number, mark))  # noqa: B023
        is_ticked = "■" in line_of(terminal, number, mark)
        terminal.press("Down" if is_ticked else "Space")
        terminal.wait_until(lambda: "■" in line_of(terminal, number, mark))  # noqa: B023
    terminal.press("Enter")
    terminal.wait_for("u takes it back")


def statuses(terminal: Terminal, status: str) -> int:
    """How many defects have a status, as the report has it."""
    book = terminal.home / "data" / "murvel" / "demo" / "fernhollow.murvel"
    report = terminal.home / f"{status}.md"
    terminal.type(f"clear; {MURVEL} report {book} --format markdown -o {report} --force; echo ended $?\n")
    terminal.wait_for("ended 0")
    return report.read_text().count(f"**Status:** {status}")


def open_demo(terminal: Terminal) -> None:
    terminal.type(f"clear; {MURVEL} demo plots\n")
    terminal.wait_for("Defects (")


def test_an_audit(terminal: Terminal) -> None:
    open_demo(terminal)
    terminal.press("j", "j")
    terminal.wait_for("next item")
    terminal.press("3")
    terminal.wait_for("Tab")
    terminal.press("2")
    terminal.wait_for("Headings, the outline of the page")
    terminal.press("Right", "Right", "Right")
    terminal.wait_for("Fields and buttons")
    terminal.press("w", "w")
    terminal.wait_for("shown: with-leads")
    for number in range(1, DEFECTS + 1):
        terminal.press("d")
        terminal.wait_for("Document a defect")
        terminal.press("C-s")
        terminal.wait_for(f"Defect {number} is kept")
        terminal.press("p", "j")
    terminal.press("q")
    terminal.wait_for(PROMPT)
    assert statuses(terminal, "open") == DEFECTS
    pages = terminal.home / "data" / "murvel" / "demo" / "pages"

    open_demo(terminal)
    retest(terminal, str(pages / "repaired" / "plots.html"), "✓ confirmed")
    terminal.kill()
    terminal.type("\nclear\n")
    assert statuses(terminal, "confirmed") == DEFECTS

    open_demo(terminal)
    retest(terminal, str(pages / "found" / "plots.html"), "▲ still fails")
    terminal.kill()
    terminal.type("\nclear\n")
    assert statuses(terminal, "reopened") == DEFECTS

    open_demo(terminal)
    terminal.press("5", "u")
    terminal.wait_for("Taken back: re-testing defects")
    terminal.press("q")
    terminal.wait_for(PROMPT)
    assert statuses(terminal, "confirmed") == DEFECTS
