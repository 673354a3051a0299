"""A re-test in a browser: what scripts make is found again, steps act on a page of their own, and what is seen is looked at."""

from dataclasses import replace
from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.loading.setup import BrowserSetup, Setup
from murvel.retest.answer import Proposal, Sureness
from murvel.work.retest_casebook import accept, retest_page
from murvel.work.work import open_work

pytestmark = [
    pytest.mark.thorough,
    pytest.mark.skipif(find_chromium() is None, reason="there is no Chromium"),
]

PAGE = """<html lang=en><title>Gate</title><h1>Gate</h1><p id=said></p><p style="color: #aaa">Open on Sunday.</p><main></main><script>
const lock = document.createElement("button"); lock.className = "lock"; document.querySelector("main").append(lock);
lock.addEventListener("click", () => { document.getElementById("said").textContent = "Locked"; });
</script>"""
REPAIRED = PAGE.replace('lock.className = "lock";', 'lock.className = "lock"; lock.textContent = "Lock";').replace(
    "#aaa", "#333"
)
STEPS = "- jump buttons\n- activate:\n    announced: Locked\n    within: 2 s\n"


def test_what_a_browser_shows_is_re_tested(tmp_path: Path) -> None:
    page, book = tmp_path / "gate.html", tmp_path / "book.murvel"
    page.write_text(PAGE)
    setup = Setup(root=tmp_path, browser=BrowserSetup())
    work = open_work(str(page), book, built_in(), setup)
    with work.casebook:
        for _ in work.look():
            pass
        leads = {lead.check.id: lead for lead in work.survey.leads}
        for each in ("control-unnamed", "text-contrast"):
            work.document(work.evidence_of_leads(leads[each].node, leads[each].heard, [leads[each]]))
        lead = leads["control-unnamed"]
        silent = work.evidence_of_leads(lead.node, lead.heard, [lead])
        work.document(replace(silent, title="Nothing is announced", check="", acceptance=STEPS))
        work.close()
    with Casebook(book) as casebook:
        (known,) = casebook.pages()
        same = retest_page(casebook, known, str(page), built_in(), setup)
        assert same.failure is None
        assert [each.proposal for each in same.answers] == [Proposal.STILL_FAILS] * 3
        assert {each.sureness for each in same.answers} == {Sureness.CERTAIN}
        page.write_text(REPAIRED.replace("<p id=said>", "<p id=said role=status>"))
        repaired = retest_page(casebook, known, str(page), built_in(), setup)
        assert [(each.proposal, each.sureness) for each in repaired.answers] == [
            (Proposal.CONFIRMED, Sureness.CERTAIN)
        ] * 3
        accept(casebook, repaired.answers, "re-tested")
        told = [each.words for each in casebook.attachments(1)]
        assert told == ["as it was found", "as it was re-tested: confirmed"]
        assert casebook.defects()[0].stage.startswith("Chromium ")
        casebook.take_back()
        assert len(casebook.attachments(1)) == 1
        without = retest_page(casebook, known, str(page), built_in(), Setup(root=tmp_path))
        assert without.answers[1].proposal is Proposal.CANNOT_TELL
        assert "in a browser only" in without.answers[1].why


def test_what_is_seen_is_not_confirmed_by_ear(tmp_path: Path) -> None:
    """Steps of a person's own, which hear that all is well, do not stand for contrast."""
    page, book = tmp_path / "gate.html", tmp_path / "book.murvel"
    markup = (
        "<!DOCTYPE html><html lang=en><title>Gate</title><main><h1>Gate</h1><p style='color:{}'>Bring a key</p></main>"
    )
    page.write_text(markup.format("#999"))
    setup = Setup(root=tmp_path, browser=BrowserSetup())
    work = open_work(str(page), book, built_in(), setup)
    with work.casebook:
        for _ in work.look():
            pass
        (lead,) = [lead for lead in work.survey.leads if lead.check.id == "text-contrast"]
        draft = work.evidence_of_leads(lead.node, lead.heard, [lead])
        work.document(replace(draft, acceptance="- where\n- find key:\n    heard contains: Bring a key\n"))
        work.close()
    proposals = []
    for colour, tested in (("#808080", setup), ("#000", setup), ("#000", Setup(root=tmp_path))):
        page.write_text(markup.format(colour))
        with Casebook(book) as casebook:
            proposals += [
                each.proposal
                for each in retest_page(casebook, *casebook.pages(), str(page), built_in(), tested).answers
            ]
    assert proposals == [Proposal.STILL_FAILS, Proposal.CONFIRMED, Proposal.CANNOT_TELL]


WIDGET = """<html lang=en><title>Rules</title><h1>Rules</h1><div id=b {button} tabindex=0 aria-expanded=false>Gate rules</div>
<p id=p hidden>Close the gate.</p><script>
const turn = () => {{ p.hidden = !p.hidden; b.setAttribute("aria-expanded", !p.hidden); }};
b.onclick = () => {{ if (!b.hasAttribute("data-broken")) turn(); }}; b.onkeydown = (event) => {{ if ({keys}.includes(event.key)) turn(); }};
</script>"""


@pytest.mark.parametrize(
    ("button", "keys", "proposal", "why"),
    [
        ("role=button", "[]", Proposal.STILL_FAILS, "the drill finds it again: A click works it, keys do not"),
        ("role=button", "['Enter', ' ']", Proposal.CONFIRMED, "the drill does not find it any more, with tab, enter"),
        (
            "role=button",
            "['Enter']",
            Proposal.CANNOT_TELL,
            "the drill finds something else now: One of Enter and Space",
        ),
        ("role=button data-broken", "[]", Proposal.CANNOT_TELL, "the drill finds something else now: Nothing opens"),
        ("role=button hidden", "[]", Proposal.CANNOT_TELL, "no widget that is drilled any more"),
    ],
)
def test_what_a_drill_found_is_drilled_again(
    button: str, keys: str, proposal: Proposal, why: str, tmp_path: Path
) -> None:
    page, book = tmp_path / "rules.html", tmp_path / "book.murvel"
    page.write_text(WIDGET.format(button="role=button", keys="[]"))
    setup = Setup(root=tmp_path, browser=BrowserSetup())
    work = open_work(str(page), book, built_in(), setup)
    with work.casebook:
        work.session.arrive()
        widget = work.widget_at(work.session.tree.document.ids["b"])
        assert widget is not None
        *_, drilled = work.drill(widget)
        draft = work.evidence_of_drill(drilled)
        assert draft is not None
        work.document(draft)
        work.close()
    page.write_text(WIDGET.format(button=button, keys=keys))
    with Casebook(book) as casebook:
        (known,) = casebook.pages()
        (answer,) = retest_page(casebook, known, str(page), built_in(), setup).answers
    assert (answer.proposal, why in answer.why) == (proposal, True), answer.why
