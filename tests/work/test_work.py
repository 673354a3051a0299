"""A piece of work: evidence, going to defects, coming back to where one was."""

from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.casebook.defect import Defect, Place
from murvel.casebook.errors import CasebookError
from murvel.casebook.records import Noted
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.checks.tables.criteria import BY_NUMBER, CRITERIA
from murvel.loading.errors import PageError
from murvel.reader.moves.commands import command
from murvel.reader.speech.voice import BUILT_IN
from murvel.report.content import gather
from murvel.report.formats import Format
from murvel.report.write import render
from murvel.survey.entry import OPEN, EntryKey, Judgement, Slice, Verdict
from murvel.tree.trail import trail
from murvel.walks.acceptance import proposed_steps
from murvel.work.evidence import evidence, steps_to
from murvel.work.work import Work, last_page, open_work
from tests.support import DEMO, session_of, tree_of

MARKUP = "<title>T</title>\n<h1>A</h1>\n<form>\n  <input name=q>\n</form><p>end"


@pytest.fixture
def work(tmp_path: Path) -> Work:
    (tmp_path / "p.html").write_text(MARKUP)
    return open_work(str(tmp_path / "p.html"), tmp_path / "b.murvel", built_in())


def test_evidence_is_filled_in_from_the_log(work: Work) -> None:
    work.arrive()
    command(work.session, "jump fields")
    command(work.session, "where")
    defect = work.evidence()
    assert defect is not None
    assert defect.heard == "text box"
    assert [(step.move, step.times) for step in defect.steps] == [("open page", 1), ("first", 1), ("jump fields", 1)]
    place = defect.place
    assert (place.xpath, place.line, place.column) == ("/html[1]/body[1]/form[1]/input[1]", 4, 3)
    assert (place.snippet, place.role, place.name) == ("<input name=q>", "textbox", "")
    assert (place.within, defect.stage) == ("heading level 1 “A”", "the built-in stage")


@pytest.mark.parametrize(
    ("markup", "within"),
    [
        ("<p id=x>a", ""),
        ("<h1>A</h1><main aria-label=M><h2>B</h2><h3>C</h3><h2>D</h2><p id=x>a", "A, M, D"),
        ("<h1>A</h1><h3>B</h3><h2 id=x>C</h2>", "A"),
        ("<h2>A</h2><h2><a id=x href=y>B</a></h2>", ""),
        ("<nav aria-label=N><h2>A</h2></nav><form aria-label=F><p id=x>a</form>", "A, F"),
        ("<form><fieldset><legend>L</legend><input id=x></fieldset></form>", ""),
        ("<div role=heading aria-level=9>A</div><h6>B</h6><p id=x>a", "B"),
    ],
)
def test_the_way_to_a_node_by_landmarks_and_headings(markup: str, within: str) -> None:
    tree = tree_of(markup)
    node = next(each for each in tree.nodes if each.element.attributes.get("id") == "x")
    headings = [each for each in tree.nodes if each.role == "heading"]
    assert ", ".join(each.name for each in trail(headings, node)) == within


def test_evidence_from_an_earlier_announcement(work: Work) -> None:
    work.arrive()
    command(work.session, "next")
    defect = work.evidence(work.session.log[1])
    assert defect is not None
    assert (defect.heard, defect.place.role) == ("A, heading level 1", "heading")
    assert len(defect.steps) == 2


def test_jumps_find_the_defects_of_the_page(work: Work) -> None:
    work.arrive()
    session = work.session
    command(session, "jump defects")
    assert session.log[-1].line == "(no defect further on)"
    command(session, "jump fields")
    draft = work.evidence()
    assert draft is not None
    work.document(draft)
    command(session, "first")
    assert command(session, "jump defects").text == "text box"
    assert not command(session, "jump defects").parts
    work.undo()
    command(session, "back defects")
    assert session.log[-1].line == "(no defect further back)"


def test_verdicts_and_defects_are_taken_back_in_turn(work: Work) -> None:
    work.arrive()
    first, second = work.survey.entries[Slice.FIELDS][0], work.survey.entries[Slice.LANGUAGES][0]
    work.judge(first, Judgement(Verdict.FAIL, "of what"))
    work.judge(first, Judgement(Verdict.PASS, "of what"))
    work.document(work.evidence_of_entry(second))
    work.judge(second, Judgement(Verdict.CONTEXT))
    kept = []
    while (change := work.undo()) is not None:
        kept.append((change.words, len(work.defects()), work.judgement(first), work.casebook.judgements(work.page)))
    failed = Judgement(Verdict.FAIL, "of what")
    passed = Judgement(Verdict.PASS, "of what")
    assert kept == [
        ("what was said of languages 1", 1, passed, {first.key: passed}),
        ("documenting defect 1", 0, passed, {first.key: passed}),
        ("what was said of fields 1", 0, failed, {first.key: failed}),
        ("what was said of fields 1", 0, OPEN, {}),
    ]


def test_an_image_in_a_link_is_repaired_itself_and_is_no_place_beside_the_link(tmp_path: Path) -> None:
    (tmp_path / "p.html").write_text(
        "<html lang=en><title>T</title><a href=a><img src=a.png alt=a.png></a><img src=b alt=b.png>"
    )
    done = open_work(str(tmp_path / "p.html"), tmp_path / "b.murvel", built_in())
    entry = done.survey.entries[Slice.LINKS][0]
    defect = done.evidence_of_entry(entry)
    assert defect.place.role == "link"
    assert defect.repair_tags.startswith("- <img src=a.png alt=a.png>")
    assert [each.place.name for each in done.same_fault(defect)] == ["b.png"]


def test_nothing_heard_is_no_evidence(work: Work) -> None:
    assert work.evidence() is None


def test_the_moves_of_a_session_are_steps_that_can_be_made_again() -> None:
    session = session_of("<p>a<p>b<p>c<p>d<button>e</button>")
    session.arrive()
    for _ in range(3):
        command(session, "next")
    command(session, "where")
    assert [(step.words, step.heard) for step in steps_to(session, session.log[-1])][-1] == ("next, 3 times", "d")
    command(session, "first")
    command(session, "jump buttons")
    command(session, "space")
    command(session, "first")
    command(session, "next")
    words = [step.words for step in steps_to(session, session.log[-1])]
    assert words == ["open page", "first", "jump buttons", "space", "first", "next"]


@pytest.mark.parametrize("before", [["escape"], ["tab", "escape"], ["next", "escape", "where"]])
def test_a_stray_key_leaves_a_way_that_leads_to_the_place(work: Work, before: list[str]) -> None:
    work.arrive()
    for words in [*before, "jump fields"]:
        command(work.session, words)
    defect = work.evidence()
    assert defect is not None
    assert [step.words for step in defect.steps] == ["open page", "first", "jump fields"]
    steps = proposed_steps([step.words for step in defect.steps], "", "Name, text box")
    assert [step.move for step in steps] == ["first", "jump fields"]


def test_coming_back_to_where_one_was(work: Work, tmp_path: Path) -> None:
    work.arrive()
    command(work.session, "tab")
    command(work.session, "next")
    work.leave()
    work.leave()
    work.casebook.close()
    again = open_work(str(tmp_path / "p.html"), tmp_path / "b.murvel", built_in())
    again.arrive()
    assert again.session.log[-1].move == "back to where you were, line 5"
    assert again.session.log[-1].utterance.text == "end"
    assert again.session.focus is not None
    assert again.session.focus.role == "textbox"
    again.casebook.close()
    assert last_page(tmp_path / "b.murvel").address == str(tmp_path / "p.html")


def test_coming_back_to_a_page_that_has_changed(work: Work, tmp_path: Path) -> None:
    work.arrive()
    command(work.session, "tab")
    work.leave()
    work.casebook.close()
    (tmp_path / "p.html").write_text("<p>all new")
    again = open_work(str(tmp_path / "p.html"), tmp_path / "b.murvel", built_in())
    again.arrive()
    assert again.take.number == 2
    assert again.session.focus is None
    again.leave()
    again.casebook.close()


def test_going_to_a_defect(work: Work) -> None:
    work.arrive()
    command(work.session, "tab")
    draft = work.evidence()
    assert draft is not None
    kept = work.document(draft)
    command(work.session, "first")
    assert work.go_to(kept) is None
    assert work.session.node is not None
    assert work.session.node.role == "textbox"
    gone = replace(kept, place=replace(kept.place, xpath="/html[1]/body[1]/p[9]"))
    assert "the page has changed" in (work.go_to(gone) or "")
    other = work.casebook.keep_page("/other.html", "O", 1280)
    assert "/other.html" in (work.go_to(replace(kept, page=other.id)) or "")
    work.casebook.close()


def test_a_page_that_cannot_be_opened_leaves_no_casebook(tmp_path: Path) -> None:
    with pytest.raises(PageError):
        open_work(str(tmp_path / "gone.html"), tmp_path / "b.murvel", built_in())
    assert not (tmp_path / "b.murvel").exists()


def test_a_casebook_without_a_page(tmp_path: Path) -> None:
    (tmp_path / "p.html").write_text("<p>x")
    open_work(str(tmp_path / "p.html"), tmp_path / "b.murvel", built_in()).casebook.close()
    assert last_page(tmp_path / "b.murvel").title == ""
    from murvel.casebook.store import Casebook

    Casebook(tmp_path / "empty.murvel").close()
    with pytest.raises(CasebookError, match="holds no page yet"):
        last_page(tmp_path / "empty.murvel")


def test_the_criteria_are_those_of_wcag_2_2() -> None:
    levels = [criterion.level for criterion in CRITERIA]
    assert (levels.count("A"), levels.count("AA"), levels.count("AAA")) == (31, 24, 31)
    assert "4.1.1" not in BY_NUMBER
    assert all(criterion.gist.endswith(".") and len(criterion.gist) < 120 for criterion in CRITERIA)
    assert [each.number for each in CRITERIA] == sorted(
        BY_NUMBER, key=lambda number: [int(n) for n in number.split(".")]
    )


@pytest.mark.parametrize(
    ("words", "numbers"),
    [
        ("1.4.3", ["1.4.3"]),
        ("focus visible", ["2.4.7"]),
        ("LABEL name aa", []),
        ("zzz", []),
        ("target size", ["2.5.5", "2.5.8"]),
    ],
)
def test_searching_the_criteria(words: str, numbers: list[str]) -> None:
    assert [criterion.number for criterion in CRITERIA if criterion.matches(words)] == numbers


@pytest.mark.parametrize("page", ["found/index.html", "found/plots.html", "repaired/index.html", "repaired/plots.html"])
def test_every_element_of_the_demo_is_documented_at_its_exact_place(page: str, tmp_path: Path) -> None:
    work = open_work(str(DEMO / page), tmp_path / "b.murvel", built_in())
    source = (DEMO / page).read_text().splitlines()
    work.arrive()
    for _ in work.session.readout.items:
        draft = work.evidence()
        assert draft is not None
        assert draft.place.line is not None
        assert draft.place.column is not None
        tag = draft.place.xpath.rsplit("/", 1)[1].split("[")[0]
        assert source[draft.place.line - 1][draft.place.column - 1 :].startswith(f"<{tag}")
        command(work.session, "next")
    work.casebook.close()


def test_a_defect_heard_in_another_voice_says_so() -> None:
    session = session_of("<button>Save</button>")
    session.arrive()
    session.change_voice(BUILT_IN[2])
    found = evidence(session, None, 1, 1)
    assert found is not None
    assert found.heard == "Save, button"
    assert found.steps[0].move == "in the voice “spare”"
    session.change_voice(BUILT_IN[0])
    usual = evidence(session, None, 1, 1)
    assert usual is not None
    assert not any("voice" in step.move for step in usual.steps)


def a_draft(work: Work, heard: str = "x") -> Defect:
    return Defect(work.page.id, work.take.id, Place("/html[1]", None, None, "", "button", ""), heard)


def test_undo_takes_back_one_change_after_the_other(work: Work) -> None:
    kept = work.document(replace(a_draft(work), expected="Email"))
    work.delete([work.edit(kept, replace(kept, expected="other"))])
    assert work.defects() == []
    words = []
    while (change := work.undo()) is not None:
        words.append((change.words, [each.expected for each in work.defects()]))
    assert words == [
        ("deleting defect 1", ["other"]),
        ("editing defect 1", ["Email"]),
        ("documenting defect 1", []),
    ]


@given(st.lists(st.sampled_from(["document", "edit", "delete", "undo"]), max_size=15))
def test_undo_brings_back_what_was(tmp_path_factory: pytest.TempPathFactory, changes: list[str]) -> None:
    with Casebook(tmp_path_factory.mktemp("book") / "x.murvel") as book:
        work = Work(book, session_of("<p>a"), built_in())
        states = [work.defects()]
        for number, change in enumerate(changes):
            present = work.defects()
            if change == "document":
                work.document(a_draft(work, f"heard {number}"))
            elif change == "edit" and present:
                work.edit(present[-1], replace(present[-1], repair=f"repair {number}"))
            elif change == "delete" and present:
                work.delete([present[0]])
            elif change == "undo" and len(states) > 1:
                work.undo()
                states.pop()
                assert work.defects() == states[-1]
                continue
            else:
                continue
            states.append(work.defects())


def test_what_was_judged_and_noted_stands_in_the_report(work: Work) -> None:
    work.arrive()
    command(work.session, "jump fields")
    assert work.note("which | field?") == 1
    work.judge(work.survey.entries[Slice.HEADINGS][0], Judgement(Verdict.PASS, "says *all*"))
    (section,) = gather(work.casebook, date(2026, 3, 1)).sections
    assert [(each.list, each.heard, each.verdict) for each in section.judged] == [
        ("headings", "A, heading level 1", "pass")
    ]
    assert section.notes == (Noted("next field", "text box", "/html[1]/body[1]/form[1]/input[1]", "which | field?"),)
    for form in Format:
        text = render(work.casebook, form, date(2026, 3, 1))
        assert "A, heading level 1" in text
        assert "1280 pixels wide" in text
        assert "field?" in text


def test_the_way_of_a_lead_says_what_is_heard_on_it(work: Work) -> None:
    (entry,) = work.survey.entries[Slice.FIELDS]
    defect = work.evidence_of_entry(entry)
    assert [(step.move, step.heard) for step in defect.steps] == [
        ("open page", "T, page, no landmarks, 1 heading, no links, 1 field"),
        ("first", "A, heading level 1"),
        ("jump fields", "text box"),
    ]


def test_a_silent_stop_is_documented_as_what_it_is(tmp_path: Path) -> None:
    (tmp_path / "s.html").write_text("<main><button>A</button><a href=x aria-hidden=true>Lost</a></main>")
    work = open_work(str(tmp_path / "s.html"), tmp_path / "s.murvel", built_in())
    work.arrive()
    command(work.session, "tab")
    assert work.survey.leads
    command(work.session, "tab")
    defect = work.evidence()
    assert defect is not None
    assert (defect.heard, defect.title) == ("nothing", "Tab stop in hidden content")


LONG_ADDRESS = f"/plots?{'north=' * 40}"
TWO_LINKS = f"<a href='{LONG_ADDRESS}1'>Plot</a><a href='{LONG_ADDRESS}2'>Plot</a>"


def verdicts_of(work: Work) -> dict[str, Verdict | None]:
    """What was said of the links of a page, by the ends of their addresses."""
    entries = work.survey.entries[Slice.LINKS]
    return {entry.element.attributes["href"][-1]: work.judgement(entry).verdict for entry in entries}


def test_verdicts_stay_with_links_that_change_places(tmp_path: Path) -> None:
    page, book = tmp_path / "p.html", tmp_path / "b.murvel"
    said = {"1": Verdict.PASS, "2": Verdict.FAIL}
    page.write_text(TWO_LINKS)
    work = open_work(str(page), book, built_in())
    for entry in work.survey.entries[Slice.LINKS]:
        work.judge(entry, Judgement(said[entry.element.attributes["href"][-1]]))
    work.casebook.close()
    first, second = TWO_LINKS.split("</a>")[:2]
    page.write_text(f"{second}</a>{first}</a>")
    again = open_work(str(page), book, built_in())
    assert verdicts_of(again) == said
    for voice in BUILT_IN:
        again.session.change_voice(voice)
        assert verdicts_of(again) == said
    again.casebook.close()


def test_verdicts_of_an_earlier_version_are_found_and_given_anew(tmp_path: Path) -> None:
    page, book = tmp_path / "p.html", tmp_path / "b.murvel"
    page.write_text(TWO_LINKS)
    work = open_work(str(page), book, built_in())
    cut = f"links|a|{LONG_ADDRESS}"[:200]
    for number, verdict in ((1, Verdict.PASS), (2, Verdict.FAIL)):
        earlier = EntryKey(Slice.LINKS, "a", LONG_ADDRESS, "", number, f"{cut}|{number}")
        work.casebook.judge(work.page.id, work.take.id, earlier, Judgement(verdict))
    work.casebook.close()
    work = open_work(str(page), book, built_in())
    assert verdicts_of(work) == {"1": Verdict.PASS, "2": Verdict.FAIL}
    work.judge(work.survey.entries[Slice.LINKS][0], Judgement(Verdict.CONTEXT))
    assert verdicts_of(work) == {"1": Verdict.CONTEXT, "2": Verdict.FAIL}
    assert sorted(key.earlier[-1:] for key in work.casebook.judgements(work.page)) == ["", "2"]
    work.undo()
    assert verdicts_of(work) == {"1": Verdict.PASS, "2": Verdict.FAIL}
    work.judge(work.survey.entries[Slice.LINKS][1], OPEN)
    assert verdicts_of(work) == {"1": Verdict.PASS, "2": None}
    work.casebook.close()
