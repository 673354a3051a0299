"""Checks of your own: the worked example of the manual, in this process and in others, and what goes wrong."""

import re
import signal
from importlib.metadata import EntryPoint
from pathlib import Path
from unittest.mock import patch

import pytest

from murvel.checks import CheckError
from murvel.checks.engine.own import load_catalogue
from murvel.checks.engine.record import PageResult
from murvel.cli.checking import Job, check_pages
from murvel.cli.pages import NamedPage
from murvel.loading.problems import ProblemKind
from tests.cli.support import murvel

MANUAL = Path(__file__).parent.parent.parent / "docs" / "how-to" / "own-checks.md"
PAGE = '<!DOCTYPE html><html lang=en><title>Plots</title><h1>Plots</h1><a href="plots/17.html">By the stream</a>'


@pytest.fixture
def house(tmp_path: Path) -> Path:
    """The example's file with its configuration beside it."""
    example, configuration = re.findall(r"```(?:python|toml)\n(.*?)```", MANUAL.read_text(), re.DOTALL)[:2]
    (tmp_path / "house_checks.py").write_text(example)
    (tmp_path / "murvel.toml").write_text(configuration)
    for number in range(5):
        (tmp_path / f"p{number}.html").write_text(PAGE)
    return tmp_path


def test_the_example_as_the_manual_tests_it(house: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(house)
    test = re.findall(r"```python\n(.*?)```", MANUAL.read_text(), re.DOTALL)[-1]
    exec(compile(test, "own-checks.md", "exec"), {})


def checked(pages: list[NamedPage], job: Job) -> list[PageResult]:
    """What came of each page."""
    return [result for result in check_pages(pages, job, lambda done, total: None).results if result is not None]


def test_it_runs_in_every_process(house: Path) -> None:
    pages = [NamedPage(Path(path.name), str(path)) for path in sorted(house.glob("*.html"))]
    job = Job(("plot-without-number",), (house / "house_checks.py",))
    results = checked(pages, job)
    assert [[record.topic for record in result.records] for result in results] == [["house"]] * 5


def test_the_commands_know_it(house: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(house)
    assert "  plot-without-number" in murvel("checks").stdout
    result = murvel("check", "p0.html", "--only", "house", "--format", "sarif")
    assert result.returncode == 1
    assert '"id": "plot-without-number"' in result.stdout
    assert "plot-without-number" in murvel("survey", "p0.html", "links").stdout


def test_a_package_offers_checks(house: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(house)
    entry = EntryPoint("house", "house_checks:checks", "murvel.checks")
    with patch("murvel.checks.engine.own.entry_points", return_value=[entry]):
        load_catalogue.__globals__["_loaded"].cache_clear()
        assert load_catalogue().get("plot-without-number") is not None
    load_catalogue.__globals__["_loaded"].cache_clear()


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("1 / 0", "cannot be loaded (ZeroDivisionError: division by zero); a file of checks has"),
        ("x = 1", "holds no checks; a file of checks has"),
        ("from murvel.checks import *\nchecks = Checks('h')\nchecks.add('a', 'A', FAILS, means='', repair='', expect='')", "names no criterion"),
        ("from murvel.checks import *\nchecks = Checks('h')\nchecks.add('a', 'A', FAILS, '9.9.9', means='', repair='', expect='')", "names 9.9.9"),
        ("from murvel.checks import *\nchecks = Checks('h')\nchecks.add('link-vague', 'A', FAILS, '2.4.4', means='', repair='', expect='')(print)", "two checks 'link-vague'"),
    ],
)  # fmt: skip
def test_a_file_that_cannot_be_used(tmp_path: Path, text: str, words: str) -> None:
    path = tmp_path / "own.py"
    path.write_text(text)
    with pytest.raises(CheckError, match=re.escape(words)):
        load_catalogue([path])


def test_a_file_that_is_not_there(tmp_path: Path) -> None:
    with pytest.raises(CheckError, match="There is no file of checks"):
        load_catalogue([tmp_path / "gone.py"])


def test_a_check_that_fails_on_one_page_leaves_the_others(tmp_path: Path) -> None:
    own = tmp_path / "own.py"
    own.write_text(
        "from murvel.checks import *\nchecks = Checks('h')\n"
        "@checks.add('odd', 'Odd', FAILS, '2.4.4', means='m.', repair='r.', expect='e')\n"
        "def odd(page):\n    'x'\n    return [Finding(page.headings[0].element)]\n"
    )
    pages = []
    for number, markup in enumerate(["<h1>A", "<p>no heading", "<h1>B", "<h1>C"]):
        pages.append(tmp_path / f"{number}.html")
        pages[-1].write_text(markup)
    results = checked([NamedPage(Path(page.name), str(page)) for page in pages], Job(("odd",), (own,)))
    assert [len(result.records) for result in results] == [1, 0, 1, 1]
    assert [result.failure for result in results] == [None] * 4
    assert [[each.text for each in result.problems if each.kind is ProblemKind.CHECK] for result in results] == [
        [],
        [
            "The check odd failed on this page (IndexError: list index out of range); what it looks for is not known; "
            "--skip odd leaves it out."
        ],
        [],
        [],
    ]
    assert [result.is_incomplete for result in results] == [False, True, False, False]


NONSENSE = {
    "raise SystemExit(0)": "SystemExit: 0",
    "raise KeyboardInterrupt": "KeyboardInterrupt",
    "raise GeneratorExit": "GeneratorExit",
    "return [5]": "it yields int, and not a Finding",
    "return 5": "not iterable",
    "return [Finding(page.root, 5)]": "whose detail or heard is no text",
    "return [Finding(None)]": "not a Finding with an element",
    "return iter(lambda: Finding(page.root), 0)": "it finds more than",
}


@pytest.mark.parametrize("body", NONSENSE)
def test_whatever_a_check_does_is_told_as_its_own_and_the_run_goes_on(
    tmp_path: Path, body: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("murvel.checks.engine.border.MOST_FINDINGS", 50)
    own = tmp_path / "own.py"
    own.write_text(
        "from murvel.checks import *\nchecks = Checks('h')\n"
        "@checks.add('odd', 'Odd', FAILS, '2.4.4', means='m.', repair='r.', expect='e')\n"
        f"def odd(page):\n    'x'\n    {body}\n"
        "@checks.add('well', 'Well', FAILS, '2.4.4', means='m.', repair='r.', expect='e')\n"
        "def well(page):\n    'x'\n    return [Finding(page.root)]\n"
    )
    page = tmp_path / "page.html"
    page.write_text("<h1>A")
    (result,) = checked([NamedPage(Path("page.html"), str(page))], Job(("odd", "well"), (own,)))
    assert [each.check for each in result.records] == ["well"]
    (text,) = [each.text for each in result.problems if each.kind is ProblemKind.CHECK]
    assert text.startswith("The check odd failed on this page (")
    assert NONSENSE[body] in text
    assert result.is_incomplete


@pytest.mark.parametrize("raised", ["SystemExit(0)", "KeyboardInterrupt"])
def test_a_file_that_ends_the_program_when_it_is_loaded(tmp_path: Path, raised: str) -> None:
    (tmp_path / "own.py").write_text(f"raise {raised}")
    with pytest.raises(CheckError, match="cannot be loaded"):
        load_catalogue([tmp_path / "own.py"])


def test_a_person_stops_a_check_that_goes_on(tmp_path: Path) -> None:
    before = signal.signal(signal.SIGINT, signal.default_int_handler)  # where tests run behind a shell it is ignored
    (tmp_path / "own.py").write_text("import os, signal\nos.kill(os.getpid(), signal.SIGINT)\nwhile True: pass")
    try:
        with pytest.raises(KeyboardInterrupt):
            load_catalogue([tmp_path / "own.py"])
    finally:
        signal.signal(signal.SIGINT, before)


WALK = "page: p0.html\nsteps:\n  - jump links: {not noticed: plot-without-number}\n"


@pytest.mark.parametrize(
    ("command", "typed", "is_said"),
    [
        (("chart", "leads", "p0.html"), "", "house"),
        (("chart", "leads", "p0.html", "--format", "json"), "", '"house"'),
        (("chart", "path", "p0.html"), "", "[plot-without-number]"),
        (("chart", "path", "p0.html", "--format", "json"), "", "plot-without-number"),
        (("listen", "p0.html"), "keyboard\n", "[plot-without-number]"),
        (("listen", "p0.html"), "survey links\n", "plot-without-number"),
        (("walk", "house.walk.yaml"), "", "noticed: "),
    ],
)
def test_each_command_asks_it(
    house: Path, monkeypatch: pytest.MonkeyPatch, command: tuple[str, ...], typed: str, is_said: str
) -> None:
    monkeypatch.chdir(house)
    (house / "house.walk.yaml").write_text(WALK)
    given = [*command, *(("--casebook", "b.murvel") if command[0] == "listen" else ())]
    assert is_said in murvel(*given, stdin=typed).stdout
    monkeypatch.chdir("/")
    assert is_said not in murvel(*(each.replace("p0", str(house / "p0")) for each in given), stdin=typed).stdout


def test_a_defect_knows_it(house: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A re-test asks the check again, also by the steps of the defect."""
    monkeypatch.chdir(house)
    murvel("listen", "p0.html", "--casebook", "b.murvel", stdin="document links 1\n\n\n\n\nyes\n")
    assert "plot-without-number" in murvel("report", "b.murvel", "--format", "markdown").stdout
    failing = murvel("retest", "b.murvel")
    assert "still" in failing.stdout
    (house / "p0.html").write_text(PAGE.replace("By the stream", "Plot 17, by the stream"))
    assert "confirmed" in murvel("retest", "b.murvel").stdout
