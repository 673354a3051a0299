"""Documenting, editing, deleting, taking back, going to the place; and what happens when keeping fails."""

from dataclasses import replace
from pathlib import Path

import pytest
from textual.pilot import Pilot
from textual.widgets import Input, OptionList, Static, TextArea

from murvel.casebook.defect import Impact
from murvel.casebook.errors import CasebookError
from murvel.casebook.store import Casebook
from murvel.tui.dialogs.defect_form import DefectForm
from murvel.tui.dialogs.retest_results import Retesting
from murvel.tui.views.defects import DefectsView
from murvel.tui.views.view import ToDocument
from murvel.tui.widgets.lines import MessageLine, TopLine
from murvel.tui.widgets.options import Options
from murvel.tui.widgets.rows import Rows
from tests.support import DEMO
from tests.tui.conftest import Opened
from tests.tui.support import heard, line, page, press, rest, text_of, until, work


def message(pilot: Pilot[None]) -> str:
    return line(pilot, MessageLine)


async def test_documenting_a_defect(opened: Opened, tmp_path: Path) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "f", "n", "n", "d")
        form = pilot.app.screen
        assert isinstance(form, DefectForm)
        assert form.query_one("#heard", TextArea).text == "text box"
        await press(pilot, *"Email", "tab", "home")
        await press(pilot, "tab", *"by ear", "tab", *"tie it", "tab", *"name, role", "enter")
        await press(pilot, "ctrl+s")
        assert "Defect 1 is kept in book.murvel" in message(pilot)
        with Casebook(tmp_path / "book.murvel", read_only=True) as book:
            (kept,) = book.defects()
        assert (kept.heard, kept.expected, kept.repair) == ("text box", "Email", "tie it")
        assert (kept.impact, kept.stopped, kept.criterion) == (Impact.BLOCKS, "by ear", "4.1.2")
        assert (kept.place.line, kept.place.column) == (82, 9)
        assert kept.steps[-1].move == "jump fields, 3 times"


async def test_a_picked_announcement_is_the_evidence(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "j", "h", "up", "up", "d")
        assert pilot.app.screen.query_one("#heard", TextArea).text == "logo.png, link"
        await press(pilot, "ctrl+s")
        assert "Nothing is written" in str(pilot.app.screen.query_one("#message", Static).content)
        await press(pilot, "ctrl+s")
        assert work(pilot).defects()[0].place.role == "link"
        assert work(pilot).defects()[0].impact is Impact.NOT_RATED


async def test_dropping_asks_when_something_was_entered(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "d", "escape")
        assert not isinstance(pilot.app.screen, DefectForm)
        await press(pilot, "d", "x", "escape")
        assert isinstance(pilot.app.screen, DefectForm)
        assert "not kept yet" in str(pilot.app.screen.query_one("#message", Static).content)
        await press(pilot, "escape")
        assert not isinstance(pilot.app.screen, DefectForm)
        assert work(pilot).defects() == []


async def test_a_defect_that_cannot_be_written_stays_in_the_form(
    opened: Opened, monkeypatch: pytest.MonkeyPatch
) -> None:
    async with opened() as pilot:
        opened_work = work(pilot)

        def full(_: object) -> None:
            raise CasebookError("The disk is full, so nothing was changed; make room and save again.")

        monkeypatch.setattr(opened_work.casebook, "keep_defect", full)
        await press(pilot, "d", *"kept?", "ctrl+s")
        form = pilot.app.screen
        assert isinstance(form, DefectForm)
        assert "disk is full" in str(form.query_one("#message", Static).content)
        assert form.query_one("#expected", TextArea).text == "kept?"
        monkeypatch.undo()
        await press(pilot, "ctrl+s")
        assert opened_work.defects()[0].expected == "kept?"


async def test_the_criteria_can_be_searched_and_unpicked(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "d")
        form = pilot.app.screen
        listed = form.query_one("#criteria", OptionList)
        assert not listed.display, "none is offered before words are typed"
        form.query_one("#search", Input).focus()
        await press(pilot, *"contrast")
        assert listed.option_count == 3
        await press(pilot, "tab", "down", "enter")
        assert "1.4.6" in str(form.query_one("#picked", Static).content)
        await press(pilot, "enter")
        assert "none picked" in str(form.query_one("#picked", Static).content)
        form.query_one("#search", Input).value = "zzz"
        await pilot.pause()
        assert listed.option_count == 1
        form.query_one("#search", Input).focus()
        await press(pilot, "enter")
        assert "none picked" in str(form.query_one("#picked", Static).content)


async def test_editing_deleting_and_taking_back(opened: Opened) -> None:
    async with opened() as pilot:
        opened_work = work(pilot)
        await press(pilot, "d", *"one", "ctrl+s", "j", "d", *"two", "ctrl+s", "5", "up", "e")
        form = pilot.app.screen
        assert isinstance(form, DefectForm)
        form.query_one("#expected", TextArea).text = "changed"
        await press(pilot, "ctrl+s")
        assert [each.expected for each in opened_work.defects()] == ["changed", "two"]
        await press(pilot, "x")
        assert [each.expected for each in opened_work.defects()] == ["two"]
        assert "Defect 1 is deleted" in message(pilot)
        await press(pilot, "u")
        assert [each.expected for each in opened_work.defects()] == ["changed", "two"]
        assert "Taken back: deleting defect 1" in message(pilot)
        await press(pilot, "u", "u", "u")
        assert opened_work.defects() == []
        await press(pilot, "u")
        assert "nothing to take back" in message(pilot)


async def test_going_to_the_place_of_a_defect(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "i", "d", "ctrl+s", "ctrl+s", "home", "5", "enter")
        assert heard(pilot) == "logo.png, image, link"
        assert page(pilot).query_one("#listen").display
        assert not page(pilot).query_one("#defects").display


async def test_a_defect_of_another_page_is_gone_to(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "i", "d", "ctrl+s", "ctrl+s", "q")
    async with opened(DEMO / "found" / "plots.html") as pilot:
        await press(pilot, "5", "enter")
        await until(pilot, lambda: work(pilot).page.address.endswith("index.html"))
        await pilot.pause()
        assert heard(pilot) == "logo.png, image, link"
        assert "Fernhollow Allotments" in line(pilot, TopLine)


async def test_the_empty_view_says_what_to_do(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "5")
        assert "d documents one" in str(page(pilot).query_one(DefectsView).query_one(Static).content)
        await press(pilot, "enter", "e", "x")
        assert pilot.app.screen is page(pilot)


async def test_leaving_and_coming_back(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "tab", "right_square_bracket", "i", "q")
    async with opened() as pilot:
        assert heard(pilot) == "logo.png, image, link"
        session = work(pilot).session
        assert session.log[-1].move == "back to where you were, line 12"
        assert session.focus is not None
        assert session.focus.role == "link"


@pytest.mark.parametrize("key", ["pagedown", "pageup", "end", "home", "down", "up", "enter"])
async def test_a_terminal_too_small_for_a_list_takes_its_keys(opened: Opened, key: str) -> None:
    async with opened() as pilot:
        await press(pilot, "j", "d")
        form = pilot.app.screen
        form.query_one("#impact", Options).focus()
        await pilot.resize_terminal(20, 3)
        await press(pilot, key)
        await pilot.resize_terminal(160, 47)
        await press(pilot, key)
        assert pilot.app.screen is form


async def test_a_click_picks_a_defect_and_two_go_there(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "d", "ctrl+s", "ctrl+s", "right_square_bracket", "i", "d", "ctrl+s", "ctrl+s", "home", "5")
        listed = page(pilot).query_one(DefectsView).query_one(Rows)
        for row in (1, 2):
            await pilot.click(listed, offset=(8, row))
            await pilot.pause()
            assert page(pilot).front == "defects"
            assert listed.at == row - 1
        mark = listed.gutter.left + 2
        for row, ticked in ((1, "1 ticked"), (2, "2 ticked"), (1, "1 ticked")):
            await pilot.click(listed, offset=(mark, row))
            await pilot.pause()
            assert ticked in str(listed.border_subtitle)
            assert listed.at == row - 1
        await pilot.click(listed, offset=(8, 2), times=2)
        await pilot.pause()
        assert heard(pilot) == "logo.png, image, link"


async def test_a_status_is_given_shown_and_taken_back(opened: Opened) -> None:
    async with opened(DEMO / "found" / "plots.html") as pilot:
        await press(pilot, "j", "d", *"Odd", "ctrl+s", "5")
        await until(pilot, lambda: bool(work(pilot).defects()))
        await press(pilot, "s", *"repared", "enter")
        await until(pilot, lambda: "did you mean 'repaired'" in line(pilot, MessageLine))
        await press(pilot, "s", *"repaired in 4", "enter")
        await until(pilot, lambda: "Defect 1 is repaired" in line(pilot, MessageLine))
        assert [each.words for each in work(pilot).statuses()[1]] == ["repaired: in 4"]
        await press(pilot, "u")
        await until(pilot, lambda: "Taken back: making defect 1 repaired" in line(pilot, MessageLine))
        assert work(pilot).statuses() == {}


async def test_several_are_changed_filtered_and_ordered(opened: Opened, tmp_path: Path) -> None:
    async with opened() as pilot:
        done = work(pilot)
        for title in ("one", "two", "three"):
            draft = done.evidence()
            assert draft is not None
            impact = Impact.SLOWS if title == "two" else Impact.BLOCKS
            done.document(replace(draft, title=title, expected="x", impact=impact))
        await press(pilot, "5", "space", "space", "t", *"gate late", "enter")
        assert "Defects 1, 2 are tagged gate late" in message(pilot)
        await press(pilot, "s", *"repaired soon", "enter")
        assert [each[-1].status.value for each in done.statuses().values()] == ["repaired", "repaired"]
        view = page(pilot).query_one(DefectsView)
        await press(pilot, "slash", *"late slows", "enter")
        assert [each.title for each in view._shown] == ["two"]
        await press(pilot, "slash", *["backspace"] * 10, "enter", "b")
        assert [each.title for each in view._shown] == ["one", "three", "two"]
        picked = []
        await press(pilot, "home")
        for key in ("j", "j", "j", "k", "k", "k", "end", "home"):
            await press(pilot, key)
            picked.append(view.picked.title if view.picked is not None else "")
        assert picked == ["three", "two", "two", "three", "one", "one", "two", "one"]
        await press(pilot, "a", "x")
        assert done.defects() == []
        await press(pilot, "u", "u", "u")
        assert [(each.title, each.tags) for each in done.defects()] == [("one", ()), ("two", ()), ("three", ())]
        assert done.statuses() == {}


async def test_a_retest_in_the_application(opened: Opened, tmp_path: Path) -> None:
    async with opened() as pilot:
        done = work(pilot)
        leads = {lead.check.id: lead for lead in reversed(done.survey.leads)}
        for each in ("control-unnamed", "image-says-file"):
            done.document(done.evidence_of_leads(leads[each].node, leads[each].heard, [leads[each]]))
        there = Path(done.page.address)
        repaired = tmp_path / "repaired.html"
        repaired.write_text(there.read_text().replace('alt="logo.png"', 'alt="Fernhollow"'))
        await press(pilot, "5", "r")
        pilot.app.screen.query_one(Input).value = str(repaired)
        await press(pilot, "enter")
        dialog = pilot.app.screen
        assert isinstance(dialog, Retesting)
        await until(pilot, lambda: bool(dialog._rows))
        assert [each.proposal.value for each in dialog._rows[:2]] == ["still fails", "confirmed"]
        await press(pilot, "enter")
        assert "1 defect confirmed. u takes it back" in message(pilot)
        assert {number: changes[-1].status.value for number, changes in done.statuses().items()} == {2: "confirmed"}
        await press(pilot, "u")
        assert done.statuses() == {}


async def test_steps_are_tried_while_a_defect_is_written(opened: Opened) -> None:
    async with opened() as pilot:
        await press(pilot, "right_square_bracket", "f", "d")
        form = pilot.app.screen
        assert isinstance(form, DefectForm)
        message_line = form.query_one("#message", Static)
        await press(pilot, "ctrl+t")
        await until(pilot, lambda: "nothing to try" in str(message_line.render()))
        heard_now = form.query_one("#heard", TextArea).text
        for expected, words in (
            ("Email, text box", "1 of 1 fail now, as they should"),
            (heard_now, "These pass already"),
        ):
            form.query_one("#expected", TextArea).text = expected
            form.query_one("#acceptance", TextArea).text = ""
            await press(pilot, "ctrl+t")
            await until(pilot, lambda words=words: words in str(message_line.render()))
        passing = form.query_one("#acceptance", TextArea).text
        assert "heard" not in passing.splitlines()[0]
        form.query_one("#acceptance", TextArea).text = "- jmp links"
        await press(pilot, "ctrl+s")
        assert "did you mean 'jump'" in str(message_line.render())
        form.query_one("#acceptance", TextArea).text = passing
        await press(pilot, "ctrl+s")
        await until(pilot, lambda: "Ctrl+S again keeps them so" in str(message_line.render()))
        assert work(pilot).defects() == []
        await press(pilot, "ctrl+s")
        await until(pilot, lambda: len(work(pilot).defects()) == 1)


async def test_the_same_fault_again_is_a_further_place(opened: Opened) -> None:
    async with opened() as pilot:
        done = work(pilot)
        first, second, *_ = (
            lead for lead in done.survey.leads if lead.check.id == "control-unnamed" or lead.check.id == "link-unnamed"
        )
        kept = done.document(done.evidence_of_leads(first.node, first.heard, [first]))
        other = replace(done.evidence_of_leads(second.node, second.heard, [second]), check=kept.check)
        page(pilot).post_message(ToDocument(other))
        await until(pilot, lambda: isinstance(pilot.app.screen, DefectForm) and pilot.app.screen.is_mounted)
        await rest(pilot)
        assert "Perhaps the same as 1." in str(pilot.app.screen.query_one("#message", Static).render())
        await press(pilot, "ctrl+l", "escape", "ctrl+l", "ctrl+s")
        (joined,) = done.defects()
        assert [each.place for each in joined.further] == [other.place]
        assert "Defect 1 is kept" in message(pilot)


async def test_all_places_of_a_fault_are_documented_at_once(opened: Opened) -> None:
    async with opened() as pilot:
        done = work(pilot)
        lead, *others = [lead for lead in done.survey.leads if lead.check.id == "link-vague"]
        page(pilot).post_message(ToDocument(done.evidence_of_leads(lead.node, lead.heard, [lead])))
        await until(pilot, lambda: isinstance(pilot.app.screen, DefectForm) and pilot.app.screen.is_mounted)
        await rest(pilot)
        form = pilot.app.screen
        assert f"at {len(others)} more place" in str(form.query_one("#message", Static).render())
        await press(pilot, "ctrl+g", "ctrl+g", "ctrl+g")
        assert "also at: " in text_of(form.query_one("#evidence", Static))
        await press(pilot, "ctrl+s")
        (kept,) = done.defects()
        assert {each.place.xpath for each in kept.further} == {done.session.tree.xpath_of(each.node) for each in others}
        assert done.same_fault(replace(kept, id=None)) == ()


async def test_a_text_that_comes_again_is_put_in(opened: Opened) -> None:
    async with opened() as pilot:
        done = work(pilot)
        done.texts = {"agreed": "Agreed with the developers."}
        draft = done.evidence()
        assert draft is not None
        done.document(replace(draft, repair="Give it a label.", expected="x"))
        await press(pilot, "d", "tab", "tab", "tab", "ctrl+o", *"label", "enter")
        form = pilot.app.screen
        assert isinstance(form, DefectForm)
        assert form.query_one("#repair", TextArea).text == "Give it a label."
        await press(pilot, "ctrl+o", *"agreed", "enter")
        assert form.query_one("#repair", TextArea).text == "Give it a label.Agreed with the developers."
