"""The survey in the line mode, on a small page of its own."""

from collections.abc import Iterator
from pathlib import Path

import pytest

from murvel.checks.engine.catalogue import built_in
from murvel.cli.surveying import Surveying
from murvel.reader.errors import ReaderError
from murvel.work.work import open_work

PAGE = """<!DOCTYPE html><html lang=en><title>Plots</title><main><h1>Plots</h1>
<p><a href=a>The rota</a> <a href=b>more</a> <a href=c hidden>The old rota</a></p></main>"""


@pytest.fixture
def surveying(tmp_path: Path) -> Iterator[Surveying]:
    page = tmp_path / "page.html"
    page.write_text(PAGE)
    work = open_work(str(page), tmp_path / "book.murvel", built_in())
    with work.casebook:
        yield Surveying(work)


def said(surveying: Surveying, *lines: str) -> list[str]:
    """Give commands, and return what the last one is answered with."""
    answer: list[str] = []
    for line in lines:
        command, _, rest = line.partition(" ")
        answer = list({"survey": surveying.lists, "entry": surveying.entry, "judge": surveying.judge}[command](rest))
    return answer


@pytest.mark.parametrize(
    ("lines", "answer"),
    [
        (["survey headings"], ["headings: 1 open", "   1   0:00 Plots, heading level 1"]),
        (["judge links 1 pass"], ["links: 1 pass, 1 open; 1 more hidden"]),
        (["judge links 1 pass", "judge links 1 open"], ["links: 2 open; 1 more hidden"]),
        (
            ["judge links 1 CONTEXT which one", "survey links needs-context"],
            [
                "links: 1 needs-context, 1 open; 1 more hidden",
                "shown: needs-context; 1 of 3",
                "   1   0:02 The rota, link (needs-context) note: which one",
            ],
        ),
        (
            ["survey links hidden with old"],
            [
                "links: 2 open; 1 more hidden",
                "shown: “old”, hidden ones too; 1 of 3",
                "   3        nothing, hidden by display: none: The old rota",
            ],
        ),
        (["survey links fail"], ["links: 2 open; 1 more hidden", "shown: fail; 0 of 3"]),
        (["entry links 1", "judge fail no day", "judge pass"], ["links: 1 pass, 1 open; 1 more hidden"]),
    ],
)
def test_what_is_answered(surveying: Surveying, lines: list[str], answer: list[str]) -> None:
    assert said(surveying, *lines) == answer


def test_a_note_stays_when_only_the_verdict_changes(surveying: Surveying) -> None:
    assert "note: no day" in said(surveying, "entry links 1", "judge fail no day", "judge pass", "entry links 1")


def test_going_on_from_entry_to_entry(surveying: Surveying) -> None:
    named = []
    while (answer := said(surveying, "entry next"))[0] != "Everything is judged.":
        named.append(answer[0])
        said(surveying, "judge pass")
    assert named[:4] == ["headings 1", "landmarks 1", "links 1", "links 2"]
    assert len(named) == len(set(named))


@pytest.mark.parametrize(
    ("line", "problem"),
    [
        ("survey songs", "There is no list 'songs'"),
        ("survey links green", "There is no choice 'green' of entries"),
        ("entry", "There is no list ''"),
        ("entry links", "links has entries from 1 to 3; name one of these."),
        ("entry links ²", "links has entries from 1 to 3; name one of these."),
        ("entry links 0000000000001", "links has entries from 1 to 3"),
        ("entry tables 1", "There are no tables on this page."),
        ("judge pass", "No entry was named yet; name it as well, as in: judge links 3 fail."),
        ("judge links 1 perhaps", "A verdict is one of: pass, fail, context, open."),
        ("judge links 1", "A verdict is one of"),
    ],
)
def test_what_cannot_be_done_is_said(surveying: Surveying, line: str, problem: str) -> None:
    with pytest.raises(ReaderError, match="^" + problem.replace(".", r"\.")):
        said(surveying, line)


def test_an_entry_that_went_away_is_not_judged(surveying: Surveying) -> None:
    said(surveying, "entry links 2")
    page = Path(surveying.work.session.tree.document.address.removeprefix("file://"))
    page.write_text(PAGE.replace("<a href=b>more</a>", ""))
    surveying.work = open_work(str(page), page.parent / "second.murvel", built_in())
    with surveying.work.casebook, pytest.raises(ReaderError, match="links 2 is no longer on the page"):
        said(surveying, "judge pass")
