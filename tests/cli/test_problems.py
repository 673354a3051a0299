"""What of a page could not be honoured is told by every command, in every form, and --strict fails on it."""

import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from xml.etree import ElementTree

import pytest

from murvel.cli.pool import work_on
from tests.cli.support import murvel

MARKUP = (
    "<html lang=en><title>Plots</title><link rel=stylesheet href=gone.css><main><h1>Plots</h1><p>Ninety plots.</main>"
)
WORDS = "The style sheet gone.css was not read: there is no such file."
SCRIPTED = "<html lang=en><title>Plots</title><main><div id=root></div></main><script src=a.js></script>"


@pytest.fixture
def page(tmp_path: Path) -> str:
    (tmp_path / "a.html").write_text(MARKUP)
    return str(tmp_path / "a.html")


COMMANDS = [
    ("read", "{}"),
    ("read", "{}", "--format", "json"),
    ("tree", "{}"),
    ("survey", "{}"),
    ("check", "{}", "--fail-on", "none"),
    ("explain", "{}", "h1"),
    ("chart", "headings", "{}"),
]


@pytest.mark.parametrize("command", COMMANDS)
def test_every_command_tells_it(page: str, command: tuple[str, ...]) -> None:
    arguments = [each.replace("{}", page) for each in command]
    plain = murvel(*arguments)
    assert (plain.stderr.splitlines()[0], plain.returncode) == (f"murvel: {WORDS}", 0)
    strict = murvel(*arguments, "--strict")
    assert (strict.stdout, strict.returncode) == (plain.stdout, 2)


def test_trees_of_many_pages(page: str, tmp_path: Path) -> None:
    written = murvel("tree", page, "-o", str(tmp_path / "out"), "--strict")
    assert (written.stderr, written.returncode) == (f"murvel: {page}: {WORDS}\n", 2)
    assert (tmp_path / "out" / "a.html.json").exists()


def test_in_the_forms_for_machines(page: str) -> None:
    kinds = [{"kind": "not-read", "text": WORDS}]
    assert json.loads(murvel("read", page, "--format", "json").stdout)["problems"] == kinds
    (leads,) = json.loads(murvel("check", page, "--format", "json").stdout)["pages"]
    assert (leads["problems"], leads["is_judged"], leads["failure"]) == (kinds, True, None)
    (run,) = json.loads(murvel("check", page, "--format", "sarif").stdout)["runs"]
    (note,) = run["invocations"][0]["toolExecutionNotifications"]
    assert (note["level"], note["message"]["text"]) == ("warning", WORDS)
    assert run["invocations"][0]["executionSuccessful"] is True
    suite = ElementTree.fromstring(murvel("check", page, "--format", "junit").stdout)[0]
    assert [each.attrib for each in suite.iter("property")] == [
        {"name": "judged", "value": "true"},
        {"name": "problem not-read", "value": WORDS},
    ]


def test_a_page_that_scripts_make_is_not_judged(page: str, tmp_path: Path) -> None:
    Path(page).write_text(SCRIPTED)
    checked = murvel("check", page)
    assert checked.returncode == 0
    assert checked.stdout.startswith(f"{page}: not judged, scripts make it; before them ")
    assert "made by scripts, which do not run here: its element #root is empty" in checked.stderr
    assert murvel("check", page, "--strict").returncode == 2
    (result,) = json.loads(murvel("check", page, "--format", "json").stdout)["pages"]
    assert result["is_judged"] is False
    (tmp_path / "b.html").write_text("<p><img src=a.png>")
    assert murvel("check", str(tmp_path)).returncode == 1


def test_problems_stand_in_the_report(page: str, tmp_path: Path) -> None:
    book = str(tmp_path / "b.murvel")
    murvel("listen", page, "--casebook", book, stdin="jump heading\ndocument\n\n\n\n\n\nyes\nquit\n")
    for form in ("html", "markdown"):
        report = murvel("report", book, "--format", form).stdout
        assert "Not all of the page could be judged:" in report
        assert "gone" in report


# Many pages


def dies(job: int) -> str:
    if job == 7:
        os._exit(3)
    return f"done {job}"


def test_a_page_that_kills_its_process_takes_no_other_along() -> None:
    done = work_on(range(20), dies, lambda job: f"died {job}", lambda done, total: None, lambda job: 1)
    assert done.results == [f"died {job}" if job == 7 else f"done {job}" for job in range(20)]


SLOW = """
import signal, sys, time
signal.signal(signal.SIGINT, signal.default_int_handler)  # a shell's background jobs are started without it
from murvel.cli.pool import work_on
def work(job):
    time.sleep(0 if job < 3 else 60)
    return job
if __name__ == "__main__":
    print("begins", flush=True)
    done = work_on(list(range(8)), work, lambda job: job, lambda done, total: print(done, flush=True), lambda job: 1)
    print(done.results, done.is_stopped)
"""


@pytest.mark.parametrize("how", [signal.SIGINT, signal.SIGKILL])
def test_a_run_that_is_stopped_leaves_no_process_behind(tmp_path: Path, how: signal.Signals) -> None:
    (tmp_path / "slow.py").write_text(SLOW)
    process = subprocess.Popen(
        [sys.executable, tmp_path / "slow.py"], stdout=subprocess.PIPE, text=True, start_new_session=True
    )
    assert process.stdout is not None
    while process.stdout.readline().strip() != "3":
        pass
    if how is signal.SIGINT:
        os.killpg(process.pid, how)  # as a terminal does
    else:
        process.kill()
    rest = process.stdout.read()  # ends once nobody holds the pipe any more
    process.wait(10)
    if how is signal.SIGINT:
        assert rest == "[0, 1, 2, None, None, None, None, None] True\n"
    deadline = time.monotonic() + 10
    while time.monotonic() < deadline:
        try:
            os.killpg(process.pid, 0)
        except ProcessLookupError:
            return
        time.sleep(0.02)
    pytest.fail("a process is left")
