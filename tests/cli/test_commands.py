"""The commands, as a shell runs them: output, errors, exit status."""

import json
import os
import subprocess
import sys
from importlib.metadata import version
from pathlib import Path

import pytest
from click import Context

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.cli.app import COMMANDS, app
from murvel.report.formats import ChartKind
from murvel.work.work import open_work
from tests.casebook.support import a_defect
from tests.cli.support import READ_FROM, assert_error, in_terminal, murvel
from tests.support import DEMO

FOUND = str(DEMO / "found" / "index.html")


def test_read_prints_the_readout() -> None:
    result = murvel("read", FOUND)
    assert result.returncode == 0
    lines = result.stdout.splitlines()
    assert lines[0] == "Fernhollow Allotments, page, no landmarks, 6 headings, 16 links, 4 fields"
    assert lines[1] == "  0:00  logo.png, link"
    assert any(line.endswith("IMG_2041_final2.jpg, image") for line in lines)
    assert "\x1b" not in result.stdout


@pytest.mark.parametrize(
    ("kind", "line"),
    [
        ("headings", "Grow something this year, heading level 2"),
        ("links", "Read more, link"),
        ("fields", "Search, search box"),
        ("stops", "checkbox, not checked"),
        ("images", "green line with leaves, image"),
        ("lists", "list with 5 items"),
    ],
)
def test_lists(kind: str, line: str) -> None:
    result = murvel("read", FOUND, "--list", kind)
    assert result.returncode == 0
    assert any(line in each and "[line " in each for each in result.stdout.splitlines())


def test_an_empty_list_has_an_exit_status_of_its_own() -> None:
    result = murvel("read", FOUND, "--list", "tables")
    assert (result.returncode, result.stdout) == (3, "")
    assert result.stderr == f"murvel: {READ_FROM}\n"


def test_standard_input_is_a_page() -> None:
    result = murvel("read", "-", stdin="<title>T</title><h1>Hello</h1>")
    assert result.stdout.splitlines()[1] == "  0:00  Hello, heading level 1"


def test_the_tree_as_json_and_text() -> None:
    tree = json.loads(murvel("tree", FOUND, "--format", "json").stdout)
    assert (tree["format"], tree["version"], tree["language"]) == ("murvel-tree", 1, "en")
    assert tree["root"]["role"] == "document"
    text = murvel("tree", FOUND).stdout.splitlines()
    assert text[0] == 'document "Fernhollow Allotments"'
    assert any("textbox states" not in line and 'searchbox "Search"' in line for line in text)


def test_width_decides_what_is_read() -> None:
    page = str(DEMO / "repaired" / "plots.html")
    wide, narrow = murvel("read", page).stdout, murvel("read", page, "--width", "400").stdout
    assert "Map of the meadow: plots 1 to 60" in wide
    assert "Map of the meadow, image" in narrow
    assert "Map of the meadow: plots 1 to 60" not in narrow


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["read", "/no/such/page.html"], "There is no file"),
        (["read"], "Missing argument 'PAGE'"),
        (["read", FOUND, "--list", "nonsense"], "'nonsense' is no value for"),
        (["read", FOUND, "--width", "3"], "--width"),
        (["read", FOUND, "--bogus"], "--bogus"),
        (["nonsense"], "No such command"),
        (["tree", FOUND, "--format", "xml"], "'xml' is no value for"),
        (["report", "/no/such.murvel"], "There is no casebook"),
        (["report", FOUND], "is not a casebook"),
        (["open", FOUND], "no terminal"),
        (["read", "http://127.0.0.1:1/"], "cannot be reached"),
        (["demo", "nonsense"], "'nonsense' is no value for"),
        (["read", "/dev/null"], "is not a file"),
    ],
)  # fmt: skip
def test_errors_are_one_line(arguments: list[str], words: str) -> None:
    assert_error(murvel(*arguments), words)


def test_without_a_command_the_commands_are_shown() -> None:
    result = murvel()
    assert result.returncode == 0
    for command in ("open", "demo", "read", "tree", "report"):
        assert f"  {command} " in result.stdout


def test_the_demo_without_a_terminal(tmp_path: Path) -> None:
    result = murvel("demo", home=tmp_path)
    assert result.returncode == 0
    assert "Heard on arrival: Fernhollow Allotments" in result.stdout
    assert "### Defect 1" in result.stdout
    assert not (tmp_path / "data").exists()


@pytest.mark.parametrize("form", ["html", "markdown"])
def test_report_to_a_file_and_to_output(tmp_path: Path, form: str) -> None:
    with Casebook(tmp_path / "b.murvel") as book:
        book.keep_defect(a_defect(book))
        path = tmp_path / "report"
        assert murvel("report", str(tmp_path / "b.murvel"), "--format", form, "-o", str(path)).returncode == 0
    printed = murvel("report", str(tmp_path / "b.murvel"), "--format", form)
    assert printed.stdout == path.read_text()
    assert "tie it" in printed.stdout
    assert_error(
        murvel("report", str(tmp_path / "b.murvel"), "-o", str(tmp_path / "no" / "r.html")), "cannot be written"
    )


@pytest.mark.parametrize("command", [["read"], ["read", "--list", "links"], ["tree"]])
def test_nothing_of_a_page_reaches_the_terminal(command: list[str]) -> None:
    page = "<title>\x1b[31m\u202e</title><a href=x>a\x07&#27;]0;x</a><h1 title='\x9b2J'>[bold]b[/bold]</h1>"
    result = murvel(command[0], "-", *command[1:], stdin=page)
    assert result.returncode == 0
    for character in "\x1b\x07\x9b\u202e":
        assert character not in result.stdout
    assert "[U+001B]" in result.stdout or "\\u001b" in result.stdout


def test_a_reader_that_goes_away_is_no_error() -> None:
    command = f"{sys.executable} -m murvel read - | head -1"
    page = "<p>x" * 20_000
    result = subprocess.run(["bash", "-c", command], input=page, capture_output=True, text=True, timeout=60)
    assert result.stdout == "page without a title, no landmarks, no headings, no links, no fields\n"
    assert result.stderr == ""


def test_an_output_that_cannot_be_encoded_is_written_out() -> None:
    environment = {**os.environ, "PYTHONIOENCODING": "ascii"}
    command = [sys.executable, "-m", "murvel", "read", "-"]
    result = subprocess.run(command, input="<p>Grüße".encode(), capture_output=True, env=environment, timeout=60)
    assert result.returncode == 0
    assert b"Gr\\xfc\\xdfe" in result.stdout


def test_the_takes_of_a_casebook_are_read_again(tmp_path: Path) -> None:
    page, book = tmp_path / "p.html", tmp_path / "b.murvel"
    page.write_text("<title>T</title><h1>A</h1>")
    open_work(str(page), book, built_in()).casebook.close()
    page.write_text("<title>T</title><h1>B</h1>")
    open_work(str(page), book, built_in()).casebook.close()
    lines = murvel("takes", str(book)).stdout.splitlines()
    assert [line.split(",")[0] for line in lines] == [f"   1  take 1 of {page}", f"   2  take 2 of {page}"]
    assert "<h1>A" in murvel("takes", str(book), "1", "--part", "source").stdout
    again = murvel("read", "-", stdin=murvel("takes", str(book), "1").stdout)
    assert "A, heading level 1" in again.stdout
    assert_error(murvel("takes", str(book), "9"), "does not hold what take 9 was made of; murvel takes lists them.")


@pytest.mark.parametrize(
    ("arguments", "format_"),
    [
        (("read", FOUND), "murvel-reading"),
        (("read", FOUND, "--list", "links"), "murvel-list"),
        (("survey", FOUND), "murvel-survey"),
        (("survey", FOUND, "links", "--which", "with-leads"), "murvel-survey"),
        (("checks",), "murvel-checks"),
        (("voices",), "murvel-voices"),
        *((("chart", kind, FOUND), f"murvel-{kind}") for kind in ChartKind),
    ],
)
def test_json_says_what_the_lines_say(arguments: tuple[str, ...], format_: str) -> None:
    result = murvel(*arguments, "--format", "json")
    data = json.loads(result.stdout)
    assert (data["format"], data["version"]) == (format_, 1)
    said = json.dumps(data)
    lines = [line for line in murvel(*arguments).stdout.splitlines() if line.startswith("  0:00")]
    assert all(json.dumps(line[6:].split(",")[0].strip())[1:-1] in said for line in lines)


def test_json_of_an_explanation_and_of_an_empty_list() -> None:
    (button,) = json.loads(murvel("explain", FOUND, "header button, button", "--format", "json").stdout)[:1]
    assert (button["element"], button["role"], button["name"], button["is_exposed"]) == ("button", "button", "", True)
    assert "aria-label" in [step["source"] for step in button["name_steps"]]
    empty = murvel("read", FOUND, "--list", "tables", "--format", "json")
    assert (empty.returncode, json.loads(empty.stdout)["entries"]) == (3, [])


@pytest.mark.parametrize(
    ("arguments", "hint"),
    [
        (("demo", "welcom"), "'welcom' is no value for PAGE; did you mean 'welcome'?"),
        (("read", FOUND, "--list", "hedings"), "'hedings' is no value for --list; did you mean 'headings'?"),
        (("read", FOUND.replace("index", "indx")), "did you mean 'index.html'?"),
        (("read", FOUND, "--voice", "spar"), "There is no voice 'spar'; did you mean 'spare'?"),
        (("checks", "link-unamed"), "did you mean 'link-unnamed'?"),
        (("raed", FOUND), "Did you mean 'read'?"),
    ],
)
def test_the_nearest_name_is_offered(arguments: tuple[str, ...], hint: str) -> None:
    result = murvel(*arguments)
    assert result.returncode == 2
    assert hint in result.stderr


def test_version_help_manual_and_keys() -> None:
    assert murvel("--version").stdout == f"murvel {version('murvel')}\n"
    assert murvel("-h").stdout == murvel("--help").stdout
    manual = murvel("man").stdout
    assert manual.startswith('.TH MURVEL 1 "" "murvel ')
    for words in ("\\-\\-write\\-baseline", ".SS murvel listen \\fIPAGE\\fR", ".B 3"):
        assert words in manual
    assert "listen.next" in murvel("keys").stdout
    assert "{" not in murvel("checks", "heading-empty").stdout


def test_a_page_of_the_demo_is_read_where_there_is_no_terminal(tmp_path: Path) -> None:
    lines = murvel("demo", "rota", "--repaired", home=tmp_path).stdout.splitlines()
    assert lines[0].startswith("Watering rota, Fernhollow Allotments, page")
    assert any(line.strip().startswith("0:0") for line in lines)


def test_a_terminal_that_cannot_show_a_full_screen_is_told_of_the_line_mode(tmp_path: Path) -> None:
    command = [sys.executable, "-m", "murvel", "open", FOUND]
    said = in_terminal(command, {"TERM": "dumb", "HOME": str(tmp_path)})
    assert "use murvel listen PAGE, the line mode." in said


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_words_are_completed_in_shells(shell: str) -> None:
    assert "_MURVEL_COMPLETE" in murvel("completion", shell).stdout


def test_a_group_alone_prints_its_help() -> None:
    shown = murvel("casebook")
    assert (shown.returncode, shown.stderr) == (0, "")
    assert "attach" in shown.stdout


def test_each_command_is_where_the_table_says_and_does_what_it_says() -> None:
    context = Context(app)
    for name, (module, about) in COMMANDS.items():
        found = app.get_command(context, name)
        assert found is not None
        assert found.get_short_help_str(limit=200) == about
        assert found.callback is None or found.callback.__module__ == module
    assert set(app.commands) == set(COMMANDS)
