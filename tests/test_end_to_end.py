"""The whole job in a real terminal: tmux runs the application, types keys and reads the screen."""

import shutil
import signal

import pytest

from tests.support import DEMO
from tests.terminal import MURVEL, PROMPT, Terminal, terminal

__all__ = ["terminal"]

pytestmark = [
    pytest.mark.thorough,
    pytest.mark.skipif(shutil.which("tmux") is None, reason="tmux is not installed"),
]


def test_hear_document_quit_reopen_report(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} demo\n")
    terminal.wait_for("6 headings")
    terminal.wait_for("IMG_2041_final2.jpg  image")
    terminal.jump("f")
    terminal.press("n", "n")
    screen = terminal.wait_for("stop 16 of 21")
    assert "▒ no name ▒" in screen
    terminal.press("d")
    terminal.wait_for("Document a defect")
    terminal.type("Email address, text box, required")
    terminal.wait_for("Email address, text box, required")  # a Tab overtakes nothing then
    terminal.tab()
    terminal.press("Up")
    terminal.tab()
    terminal.tab()
    terminal.type("for=email on the label")
    terminal.wait_for("for=email on the label")
    terminal.tab()
    terminal.type("4.1.2")
    terminal.press("Enter")
    terminal.wait_for("● 4.1.2 Name, Role, Value (A)")
    terminal.press("C-s")
    terminal.wait_for("Defect 1 is kept in fernhollow.murvel")
    terminal.press("q")
    terminal.wait_for(PROMPT)
    terminal.type(f"clear; {MURVEL} demo\n")
    terminal.wait_for("back to where you were")
    terminal.press("5")
    terminal.wait_for("line 82, column 9")  # stands in Defects alone
    terminal.wait_for("text box without a name")
    terminal.press("q")
    terminal.wait_for(PROMPT)

    report = terminal.home / "report.html"
    casebook = terminal.home / "data" / "murvel" / "demo" / "fernhollow.murvel"
    terminal.type(f"clear; {MURVEL} report {casebook} --format html -o {report}; echo ended $?\n")
    terminal.wait_for("ended 0")
    text = report.read_text()
    assert "Email address, text box, required" in text
    assert "for=email on the label" in text


def test_the_page_from_standard_input(terminal: Terminal) -> None:
    terminal.type(f"cat {DEMO}/repaired/index.html | {MURVEL} open - --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("► ")
    terminal.jump("m")
    terminal.wait_for("next landmark")
    terminal.press("q")
    terminal.wait_for(PROMPT)


def test_a_killed_application_has_kept_what_it_said(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} open {DEMO}/found --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("6 headings")
    terminal.press("d")
    terminal.wait_for("Document a defect")
    terminal.press("C-s")
    terminal.wait_for("Nothing is written")
    terminal.press("C-s")
    terminal.wait_for("Defect 1 is kept")
    terminal.kill()
    # The terminal is left in the application's state by the kill; a new shell line still works.
    terminal.type(f"\nclear; {MURVEL} report {terminal.home}/b.murvel --format markdown | head -1\n")
    terminal.wait_for("What is heard: 1 defect")


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGHUP])
def test_ended_from_outside_it_keeps_the_place_and_leaves_the_terminal_as_it_was(
    terminal: Terminal, how: signal.Signals
) -> None:
    terminal.type(f"{MURVEL} open {DEMO}/found --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("6 headings")
    terminal.jump("f")
    terminal.wait_for("stop 8 of 22")
    terminal.kill(how)
    terminal.type("echo status $?; stty -a | grep -o ' echo '\n")
    screen = terminal.wait_for(" echo\n")
    assert f"status {128 + how}" in screen
    assert "6 headings" not in screen
    terminal.type(f"{MURVEL} open {DEMO}/found --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("stop 8 of 22")


def test_an_error_is_a_plain_line(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} open /no/such/page; echo ended $?\n")
    screen = terminal.wait_for("ended 2")
    assert "murvel: There is no file /no/such/page; check the path." in screen


def test_a_small_terminal(terminal: Terminal) -> None:
    terminal._tmux("resize-window", "-x", "80", "-y", "20")
    terminal.type(f"{MURVEL} open {DEMO}/found --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("► ")
    terminal.press("?")
    terminal.wait_for("show only keys with these words")
    terminal.press("Escape")  # a key right behind it would make another key of both
    terminal.wait_until_gone("show only keys with these words")
    terminal.press("q")
    terminal.wait_for(PROMPT)


def test_a_form_is_worked_and_its_timeline_read(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} open {DEMO}/repaired/waiting.html --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("► ")
    terminal.press("/")
    terminal.wait_for("Find")
    terminal.type("Send")
    terminal.wait_for("Send")
    terminal.press("Enter")
    terminal.wait_for("find “Send”")
    terminal.press("Enter")
    terminal.wait_for("Two fields need your attention")
    terminal.wait_for("focus mode")
    terminal.type("Ada")
    terminal.wait_for("= Ada")
    terminal.press("Escape")
    terminal.wait_until_gone("goes to the page")
    terminal.press("4")
    terminal.wait_for("What was spoken")
    terminal.wait_for("visible but never announced")
    terminal.press("1")
    terminal.wait_for("Here")
    terminal.press("E")
    terminal.wait_for("The page is hidden")
    terminal.press("q")
    terminal.wait_for(PROMPT)


def test_the_line_mode(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} listen {DEMO}/repaired/rota.html --casebook {terminal.home}/b.murvel\n")
    terminal.wait_for("Skip to the content, link")
    terminal.type("jump tables\n")
    terminal.wait_for("table Who waters in which week")
    terminal.type("cell right\n")
    terminal.wait_for("Week, column header")
    terminal.type("quit\n")
    terminal.wait_for(PROMPT)


def test_a_page_is_surveyed_and_its_keyboard_looked_at(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} demo members\n")
    terminal.wait_for("of 1:")
    terminal.press("2")
    terminal.wait_for("Headings, the outline of the page")
    terminal.press("Right", "Right", "Right")
    terminal.wait_for("Fields and buttons")
    terminal.press("f")
    terminal.wait_for("d documents it")
    terminal.wait_for("1 fail")
    terminal.press("d")
    terminal.wait_for("What should be heard")
    terminal.press("C-s")
    terminal.wait_for("Nothing is written")
    terminal.press("C-s")
    terminal.wait_for("Defect 1 is kept")
    terminal.press("3")
    screen = terminal.wait_for("skip link: first stop; it leads nowhere")
    assert "Tab order, and reading order beside it" in screen
    terminal.press("q")
    terminal.wait_for(PROMPT)
    terminal.type(f"{MURVEL} check {terminal.home}/data/murvel/demo/pages/found/members.html --only names; echo =$?\n")
    terminal.wait_for("=1")


BURSTS = {
    "search": ("/free\rnn", "free"),
    "help": ("?plots", "plots"),
    "actions": ("\x10heading", "heading"),
    "jump": ("]hjj", "Listen"),
    "form": ("jjdWhy it fails", "Why it fails"),
    "open": ("oharvest", "harvest"),
    "note": ("2mMind the gap\r", "Mind the gap"),
    "colours": ("\x12#777777", "#777777"),
}


@pytest.mark.parametrize(("keys", "words"), BURSTS.values(), ids=BURSTS)
def test_a_dialog_takes_all_that_is_typed_at_full_speed(terminal: Terminal, keys: str, words: str) -> None:
    terminal.type(f"{MURVEL} demo{chr(13)}")
    terminal.wait_for("1 Listen")
    terminal.type(keys)
    assert words in terminal.wait_for(words)


def test_keys_typed_before_the_page_is_there_are_taken(terminal: Terminal) -> None:
    terminal.type(f"{MURVEL} demo{chr(13)}")
    terminal.type("2pp")
    terminal.wait_for("2 pass")
