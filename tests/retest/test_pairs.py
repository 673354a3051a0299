"""Repairs of all sorts: nothing is confirmed that a tester would not confirm."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.retest.answer import Answer, Proposal
from murvel.walks.errors import WalkError
from murvel.walks.parsing import read_walk
from murvel.walks.replay import replay
from murvel.walks.walk import Walk
from murvel.work.guards import write_guards
from murvel.work.retest_casebook import retest_page
from murvel.work.sessions import open_session
from murvel.work.work import open_work

_PAIRS = tomllib.loads((Path(__file__).parent / "cases/pairs.toml").read_text(encoding="utf-8"))["pair"]
_MOST_UNTOLD = 0.15
"""The share of answers that may be left to a person where one that knows both pages has no doubt."""

_PAGE = """<!DOCTYPE html>{html}<title>Ask for a plot — Fernhollow Allotments</title>
<header><a href="#main">Skip to content</a><nav aria-label="Site"><a href="/">Start</a> <a href="/water">Water</a></nav>
</header><main id="main"><h1>Ask for a plot</h1><p>There are 3 vacant plots near the gate and 2 by the pond.</p>
{snippet}
<p>The committee answers within two weeks.</p></main><footer><p>Fernhollow Allotments, by the mill.</p></footer></html>"""


_WRONG = (
    "<html><title>x</title></html>",
    "<html lang=en><title>404</title><main><h1>Not found</h1><button>Back</button><a href=/>Start</a><input></main></html>",
    "<html lang=en><title>Sign in</title><main><h1>Sign in</h1><label>Password <input type=password></label></main></html>",
    _PAGE.format(html="<html lang=en>", snippet="").replace("Ask for a plot", "Water"),
    _PAGE.format(html="<html lang=en>", snippet=""),
)
"""Pages on which nothing that was documented can be repaired."""


def _page(pair: dict[str, str], when: str) -> str:
    return _PAGE.format(html=pair.get(f"{when}_html", '<html lang="en">'), snippet=pair.get(when, ""))


def _documented(pair: dict[str, str], folder: Path) -> Path:
    path = folder / "page.html"
    path.write_text(_page(pair, "before"))
    work = open_work(str(path), folder / "book.murvel", built_in())
    with work.casebook:
        work.arrive()
        leads = [each for each in work.survey.leads if each.check.id == pair["check"]]
        assert len(leads) == 1, f"noticed are {[each.check.id for each in work.survey.leads]}"
        work.document(work.evidence_of_leads(leads[0].node, leads[0].heard, leads))
    return path


def _retested(pair: dict[str, str], folder: Path) -> Answer:
    path = _documented(pair, folder)
    path.write_text(_page(pair, "after"))
    with Casebook(folder / "book.murvel") as casebook:
        (known,) = casebook.pages()
        result = retest_page(casebook, known, str(path), built_in())
    assert result.failure is None
    (answer,) = result.answers
    return answer


_PARTS = 4
"""The pairs are tried in so many parts, which run beside each other."""


@pytest.mark.parametrize("part", range(_PARTS))
def test_nothing_is_confirmed_that_is_not_repaired(part: int, tmp_path: Path) -> None:
    pairs = _PAIRS[part::_PARTS]
    untold, wrong = [], []
    for at, pair in enumerate(pairs):
        folder = tmp_path / str(at)
        folder.mkdir()
        answer = _retested(pair, folder)
        if answer.proposal is Proposal.CANNOT_TELL and pair["answer"] != answer.proposal:
            untold.append(pair["name"])
        elif answer.proposal != pair["answer"]:
            wrong.append((pair["name"], answer.proposal, answer.why))
    assert wrong == []
    assert len(untold) <= _MOST_UNTOLD * len(pairs)


def _is_met(walk: Walk, path: Path, markup: str) -> bool:
    path.write_text(markup)
    try:
        return not replay(walk, open_session(str(path)), built_in()).unmet
    except WalkError:
        return False


@pytest.mark.parametrize("pair", [each for each in _PAIRS[::4] if "before" in each], ids=lambda pair: pair["name"])
def test_a_walk_that_guards_a_repair_passes_on_no_other_page(pair: dict[str, str], tmp_path: Path) -> None:
    path = _documented(pair, tmp_path)
    with Casebook(tmp_path / "book.murvel") as casebook:
        (file,) = write_guards(casebook, casebook.defects(), tmp_path, built_in())
    walk = read_walk(file, built_in())
    assert not _is_met(walk, path, _page(pair, "before"))
    assert [page for page in _WRONG if _is_met(walk, path, page)] == []
    if pair["answer"] == "still fails":
        assert not _is_met(walk, path, _page(pair, "after"))
