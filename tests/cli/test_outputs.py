"""Files that commands write: nothing is replaced that Murvel did not write, and the ending says the form."""

import os
from pathlib import Path

import pytest

from tests.cli.support import assert_error, murvel

PAGE = "<html lang=en><title>Plots</title><main><h1>Plots</h1><p>Ninety plots. <img src=a.png></main>"


@pytest.fixture
def here(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    (tmp_path / "a.html").write_text(PAGE)
    (tmp_path / "a.walk.yaml").write_text("page: a.html\nsteps:\n  - first: {heard contains: Plots}\n")
    monkeypatch.chdir(tmp_path)
    murvel(
        "listen",
        "a.html",
        "--casebook",
        "b.murvel",
        stdin="jump headings\ndocument\n\n\n\n\nMade with Murvel on\nyes\nquit\n",
    )
    return tmp_path


COMMANDS = [
    (("check", "a.html", "-o"), "out.txt", "a.html: 1 fail"),
    (("check", "a.html", "-o"), "out.json", '"format": "murvel-leads"'),
    (("check", "a.html", "-o"), "out.sarif", '"version": "2.1.0"'),
    (("check", "a.html", "-o"), "out.xml", '<testsuites name="murvel"'),
    (("check", "a.html", "-o"), "out.csv", "page,line,column"),
    (("check", "a.html", "--format", "csv", "-o"), "out.json", "page,line,column"),
    (("check", "a.html", "--write-baseline"), "out.json", '"format": "murvel-baseline"'),
    (("walk", "a.walk.yaml", "-o"), "out.txt", "1 of 1 walks as expected"),
    (("walk", "a.walk.yaml", "-o"), "out.json", '"format": "murvel-walks"'),
    (("walk", "a.walk.yaml", "-o"), "out.xml", "<testsuites"),
    (("walk", "a.walk.yaml", "--format", "json", "-o"), "out.txt", '"format": "murvel-walks"'),
    (("retest", "b.murvel", "-o"), "out.txt", "1 page: "),
    (("retest", "b.murvel", "-o"), "out.json", '"format": "murvel-retest"'),
    (("drill", "a.html", "-o"), "out.json", '"format": "murvel-leads"'),
    (("report", "b.murvel", "-o"), "out.html", "<!DOCTYPE html>"),
    (("report", "b.murvel", "-o"), "out", "<!DOCTYPE html>"),
    (("report", "b.murvel", "-o"), "out.md", "# What is heard"),
    (("report", "b.murvel", "--format", "markdown", "-o"), "out.html", "# What is heard"),
    (("chart", "headings", "a.html", "-o"), "out.svg", "<svg"),
    (("chart", "headings", "a.html", "-o"), "out.pdf", "%PDF"),
]


@pytest.mark.parametrize(("command", "name", "words"), COMMANDS)
def test_only_what_murvel_wrote_is_replaced(here: Path, command: tuple[str, ...], name: str, words: str) -> None:
    for _ in range(2):  # its own file is replaced
        assert murvel(*command, name).returncode in (0, 1, 3)
        assert words in (here / name).read_text(errors="replace")
    (here / name).write_text("what somebody else wrote")
    assert_error(
        murvel(*command, name), "is there already and Murvel did not write it; choose another name, or let --force"
    )
    assert (here / name).read_text() == "what somebody else wrote"
    assert murvel(*command, name, "--force").returncode in (0, 1, 3)
    assert words in (here / name).read_text(errors="replace")


def test_a_casebook_is_not_replaced_by_its_report(here: Path) -> None:
    before = (here / "b.murvel").read_bytes()
    assert_error(murvel("report", "b.murvel", "--format", "html", "-o", "b.murvel"), "Murvel did not write it")
    assert (here / "b.murvel").read_bytes() == before


def test_trees_replace_only_trees(here: Path) -> None:
    (here / "out").mkdir()
    (here / "out" / "a.html.json").write_text("{}")
    refused = murvel("tree", "a.html", "-o", "out")
    assert refused.returncode == 2
    assert "did not write it" in refused.stderr
    assert (here / "out" / "a.html.json").read_text() == "{}"
    assert murvel("tree", "a.html", "-o", "out", "--force").returncode == 0
    assert murvel("tree", "a.html", "-o", "out").returncode == 0


@pytest.mark.parametrize("command", [("check", "a.html"), ("report", "b.murvel"), ("chart", "headings", "a.html")])
def test_a_hyphen_is_standard_output(here: Path, command: tuple[str, ...]) -> None:
    assert murvel(*command, "-o", "-").stdout == murvel(*command).stdout
    assert not (here / "-").exists()


def test_files_are_written_as_the_umask_says(here: Path) -> None:
    before = os.umask(0o027)
    try:
        murvel("check", "a.html", "-o", "out.json")
    finally:
        os.umask(before)
    assert (here / "out.json").stat().st_mode & 0o777 == 0o640


@pytest.mark.parametrize(
    ("command", "name"),
    [
        (("report", "b.murvel"), "report.json"),
        (("report", "b.murvel"), "report.docx"),
        (("check", "a.html"), "report.html"),
        (("drill", "a.html"), "report.md"),
        (("walk", "a.walk.yaml"), "walk.csv"),
        (("retest", "b.murvel"), "retest.xml"),
        (("chart", "headings", "a.html"), "chart.png"),
    ],
)
def test_an_ending_of_no_format_is_an_error(here: Path, command: tuple[str, ...], name: str) -> None:
    before = sorted(here.iterdir())
    refused = murvel(*command, "-o", name)
    assert refused.returncode == 2
    assert name in refused.stderr
    assert sorted(here.iterdir()) == before
