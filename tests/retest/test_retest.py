"""Re-test: what is proposed of each defect, what is new, what became of verdicts, and what is kept when it is accepted."""

import json
from dataclasses import replace
from pathlib import Path

import pytest

from murvel.casebook.status import Status, standing
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.demo import site
from murvel.reader.moves.commands import command
from murvel.retest.answer import Ground, PageRetest, Proposal, Sureness
from murvel.survey.entry import Judgement, Slice, Verdict
from murvel.work.retest_casebook import accept, retest_page
from murvel.work.work import open_work
from tests.casebook.support import PICTURE
from tests.cli.support import murvel

PAGE = """<html lang=en><title>Sheds</title><main><h1>Sheds</h1><p>Open on Sunday.</p><button class=lock></button>
<a href=k>Keys</a><a href=map>Map</a><img src=m.png><p>Ask the warden.</p></main>"""


@pytest.fixture
def page(tmp_path: Path) -> Path:
    path = tmp_path / "sheds.html"
    path.write_text(PAGE)
    return path


def documented(page: Path, *checks: str, change: dict[str, str] | None = None) -> Path:
    """A casebook with a defect for each check, and one about the last paragraph that no check noticed."""
    book = page.with_name("book.murvel")
    work = open_work(str(page), book, built_in())
    with work.casebook:
        work.arrive()
        for lead in work.survey.leads:
            if lead.check.id in checks:
                work.document(replace(work.evidence_of_leads(lead.node, lead.heard, [lead]), **(change or {})))
        command(work.session, "last")
        heard = work.evidence()
        assert heard is not None
        work.document(replace(heard, expected="Ask the warden at the gate."))
        for slice_, verdict in ((Slice.HEADINGS, Verdict.PASS), (Slice.LINKS, Verdict.FAIL)):
            for entry in work.survey.entries[slice_]:
                work.judge(entry, Judgement(verdict, "noted"))
    return book


def retested(book: Path, page: Path) -> PageRetest:
    with Casebook(book) as casebook:
        (known,) = casebook.pages()
        return retest_page(casebook, known, str(page), built_in())


def said(result: PageRetest) -> list[tuple[Proposal, Sureness]]:
    assert result.failure is None
    return [(each.proposal, each.sureness) for each in result.answers]


def test_nothing_is_repaired_while_nothing_changes(page: Path) -> None:
    result = retested(documented(page, "control-unnamed", "image-without-alt"), page)
    assert {each.proposal for each in result.answers} == {Proposal.STILL_FAILS}
    assert {each.sureness for each in result.answers} == {Sureness.CERTAIN}
    assert (result.take, result.new_leads, result.changed, result.carried) == (1, [], [], 3)


REPAIRS = [("<button class=lock></button>", "<button class=lock>Lock</button>")]


@pytest.mark.parametrize(
    ("changes", "proposals"),
    [
        (REPAIRS, ["confirmed", "still fails"]),
        ([("Ask the warden.", "Ask the warden at the gate.")], ["still fails", "confirmed"]),
        ([("Ask the warden.", "Ask at the gate.")], ["still fails", "cannot tell"]),
        ([("<h1>", "<nav><button>Menu</button></nav><h1>"), *REPAIRS], ["confirmed", "still fails"]),
        ([("<p>Ask the warden.</p>", "")], ["still fails", "cannot tell"]),
        ([("<button class=lock></button>", "")], ["cannot tell", "still fails"]),
    ],
)
def test_what_is_proposed(page: Path, changes: list[tuple[str, str]], proposals: list[str]) -> None:
    book = documented(page, "control-unnamed")
    markup = PAGE
    for before, after in changes:
        assert before in markup
        markup = markup.replace(before, after)
    page.write_text(markup)
    result = retested(book, page)
    assert [each.proposal.value for each in result.answers] == proposals
    assert all(each.why for each in result.answers)
    assert result.take == 2


def test_steps_of_a_persons_own_are_run(page: Path) -> None:
    steps = "- where\n- jump buttons:\n    heard: Lock, button\n"
    book = documented(page, "control-unnamed", change={"acceptance": steps})
    page.write_text(PAGE.replace("lock>", "lock>Lock"))
    assert said(retested(book, page))[0] == (Proposal.CONFIRMED, Sureness.CERTAIN)
    page.write_text(PAGE.replace("<p>Open", "<button>Menu</button><p>Open"))
    answer = retested(book, page).answers[0]
    assert (answer.proposal, "element stands elsewhere" in answer.why) == (Proposal.CANNOT_TELL, True)


def test_what_is_new_and_what_became_of_verdicts(page: Path) -> None:
    book = documented(page)
    page.write_text(
        PAGE.replace("<a href=k>Keys</a>", "<a href=k>Keys of the sheds</a><h2></h2>").replace(
            "<a href=map>Map</a>", ""
        )
    )
    result = retested(book, page)
    assert "heading-empty" in {each.check for each in result.new_leads}
    assert (result.carried, len(result.changed)) == (1, 2)
    assert {(each.heard, each.now, each.change) for each in result.changed} == {
        ("Keys, link", "Keys of the sheds, link", "heard in another way"),
        ("Map, link", "", "not there any more"),
    }
    assert {each.judgement for each in result.changed} == {Judgement(Verdict.FAIL, "noted")}


def statuses(book: Path) -> list[Status]:
    with Casebook(book) as casebook:
        given = casebook.statuses()
        return [standing(each, given) for each in casebook.defects()]


def test_what_is_accepted_is_one_change_and_what_breaks_again_is_reopened(page: Path) -> None:
    book = documented(page, "control-unnamed")
    with Casebook(book) as casebook:
        (known,) = casebook.pages()
        for markup, after in (
            (PAGE.replace("lock>", "lock>Lock"), [Status.CONFIRMED, Status.OPEN]),
            (PAGE, [Status.REOPENED, Status.OPEN]),
        ):
            page.write_text(markup)
            result = retest_page(casebook, known, str(page), built_in())
            changed = accept(casebook, [each for each in result.answers if each.is_sure], "re-tested")
            assert [each.defect.id for each in changed] == [1]
            given = casebook.statuses()
            assert [standing(each, given) for each in casebook.defects()] == after
        taken_back = casebook.take_back()
        assert taken_back is not None
        assert taken_back.words == "re-testing defect 1"
    assert statuses(book)[0] is Status.CONFIRMED


def test_what_cannot_be_opened_is_told_and_loses_nothing(page: Path) -> None:
    book = documented(page, "control-unnamed")
    page.unlink()
    result = retested(book, page)
    assert result.failure is not None
    assert result.answers == []
    assert statuses(book) == [Status.OPEN, Status.OPEN]


@pytest.mark.parametrize("status", list(Status))
@pytest.mark.parametrize("proposal", list(Proposal))
def test_a_proposal_never_gives_the_status_that_is_there(status: Status, proposal: Proposal) -> None:
    assert proposal.status_after(status) is not status


def test_the_demo_is_found_repaired(tmp_path: Path) -> None:
    site.install(tmp_path)
    book = tmp_path / "b.murvel"
    address = str(site.page_path(tmp_path, "plots", repaired=False))
    work = open_work(address, book, built_in())
    with work.casebook:
        for lead in work.survey.leads:
            if lead.certainty.value == "fails":
                work.document(work.evidence_of_leads(lead.node, lead.heard, [lead]))
    result = retested(book, site.page_path(tmp_path, "plots", repaired=True))
    assert len(result.answers) > 10
    confirmed = [each for each in result.answers if each.proposal is Proposal.CONFIRMED]
    assert {each.proposal for each in result.answers} == {Proposal.CONFIRMED, Proposal.CANNOT_TELL}
    assert len(confirmed) >= 0.7 * len(result.answers)
    again = retested(book, Path(address))
    assert {each.proposal for each in again.answers} == {Proposal.STILL_FAILS}


def test_the_command(page: Path, tmp_path: Path) -> None:
    book = documented(page, "control-unnamed")
    there = tmp_path / "new" / "sheds.html"
    there.parent.mkdir()
    there.write_text(PAGE.replace("lock>", "lock>Lock"))
    same = murvel("retest", str(book))
    assert (same.returncode, same.stdout.splitlines()[-1]) == (
        1,
        "1 page: 0 confirmed, 2 still fails, 0 cannot tell; no new leads, 0 of what was judged changed",
    )
    told = murvel("retest", str(book), "sheds.html", "--from", str(tmp_path), "--to", str(there.parent), "--confirm")
    assert told.returncode == 1
    assert "defect 1 is confirmed" in told.stderr
    assert statuses(book) == [Status.CONFIRMED, Status.OPEN]
    data = json.loads(murvel("retest", str(book), "--format", "json").stdout)
    assert [each["proposal"] for each in data["pages"][0]["defects"]] == ["still fails", "still fails"]
    assert murvel("retest", str(book), "shed.html").returncode == 2
    assert "did you mean" in murvel("retest", str(book), "shed.html").stderr
    assert murvel("retest", str(book), "--from", "x").returncode == 2


def test_the_same_fault_in_several_places_is_repaired_where_all_are(tmp_path: Path) -> None:
    names = ("a.html", "b.html")
    broken = "<html lang=en><title>T</title><h1>T</h1><button class=x></button>"
    book = tmp_path / "book.murvel"
    for name in names:
        (tmp_path / name).write_text(f"{broken}<p>and</p><button class=y></button>")
        work = open_work(str(tmp_path / name), book, built_in())
        with work.casebook:
            for lead in work.survey.leads:
                if lead.check.id == "control-unnamed":
                    defect = work.evidence_of_leads(lead.node, lead.heard, [lead])
                    known = work.defects()
                    _ = work.join(defect, known[0]) if known else work.document(defect)
    with Casebook(book) as casebook:
        (kept,) = casebook.defects()
        assert len(kept.further) == 3
    assert murvel("retest", str(book), "--confirm").stdout.count("0 of 2 places are repaired") == 2
    (tmp_path / "a.html").write_text((tmp_path / "a.html").read_text().replace("></button>", ">Lock</button>"))
    one = murvel("retest", str(book), "a.html", "--confirm")
    assert (one.returncode, "places on 1 other page" in one.stdout) == (1, True)
    assert "no status has changed" in one.stderr
    (tmp_path / "b.html").write_text((tmp_path / "a.html").read_text())
    both = murvel("retest", str(book), "--confirm")
    assert (both.returncode, both.stderr) == (0, "murvel: defect 1 is confirmed\n")
    assert statuses(book) == [Status.CONFIRMED]


def test_steps_become_walks_that_guard_the_repair(page: Path, tmp_path: Path) -> None:
    book = documented(page, "control-unnamed")
    told = murvel("casebook", "walks", str(book), "--to", str(tmp_path / "walks"))
    assert told.stdout.splitlines() == [str(tmp_path / "walks" / "defect-1.walk.yaml")]
    assert murvel("walk", str(tmp_path / "walks")).returncode == 1
    page.write_text(PAGE.replace("lock>", "lock>Lock"))
    assert murvel("walk", str(tmp_path / "walks")).returncode == 0
    assert murvel("casebook", "walks", str(book), "--defect", "2").returncode == 3


def test_a_file_is_attached(page: Path, tmp_path: Path) -> None:
    book = documented(page)
    file = tmp_path / "drawing.png"
    file.write_bytes(PICTURE)
    assert murvel("casebook", "attach", str(book), "1", str(file)).returncode == 0
    with Casebook(book, read_only=True) as casebook:
        assert [(each.data, each.words) for each in casebook.attachments(1)] == [(PICTURE, "drawing.png")]
    file.write_bytes(b"GIF89a\0")
    for number, path, words in (
        (1, file, "no PNG"),
        (9, file, "no defect 9"),
        (1, tmp_path / "gone", "There is no file"),
        (1, tmp_path, "There is no file"),
    ):
        refused = murvel("casebook", "attach", str(book), str(number), str(path))
        assert (refused.returncode, words in refused.stderr) == (2, True)


def test_steps_that_lead_nowhere_cannot_tell(page: Path) -> None:
    book = documented(
        page, "control-unnamed", change={"acceptance": "- where\n- jump buttons:\n    heard lacks: Lock\n"}
    )
    page.write_text(PAGE.replace("<button class=lock></button>", ""))
    answer = retested(book, page).answers[0]
    assert answer.proposal is Proposal.CANNOT_TELL
    assert "“jump buttons” leads nowhere: no button further on" in answer.why


@pytest.mark.parametrize("markup", ["<title>404</title><h1>404 not found</h1>", "<title>Sheds</title>"])
def test_another_page_stops_a_re_test_and_is_not_kept(page: Path, markup: str) -> None:
    book = documented(page, "control-unnamed")
    page.write_text(markup)
    result = retested(book, page)
    assert result.failure is not None
    assert "is not the page that was tested" in result.failure
    assert result.answers == []
    with Casebook(book) as casebook:
        assert len(casebook.takes()) == 1


def test_an_answer_says_what_it_rests_on(page: Path) -> None:
    first, last = retested(documented(page, "control-unnamed"), page).answers
    assert (first.ground, last.ground) == (Ground.STEPS, Ground.HEARD)
    assert first.found == "certain, line 1"
