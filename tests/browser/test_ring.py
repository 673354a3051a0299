"""Pressing Tab through a whole page in a real browser, and the drawing of where it goes."""

from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.check import NEEDS_EARS
from murvel.checks.engine.run import leads_of
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.moves.ring import Ring, press_through
from murvel.report.charts import Subject
from murvel.report.path_chart import path_drawing
from murvel.work.sessions import open_session
from tests.support import DEMO

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]


@pytest.mark.parametrize(
    ("which", "count", "told"),
    [
        (
            "found",
            12,
            ["It does not leave the page: it stays at input."],
        ),
        ("repaired", 13, []),
    ],
)
def test_where_tab_goes_on_the_desk(which: str, count: int, told: list[str]) -> None:
    session = open_session(str(DEMO / which / "desk.html"), Setup(browser=BrowserSetup()))
    assert session.stage is not None
    ring = Ring()
    assert len(list(press_through(session, ring))) >= count
    assert ring.lines() == [f"Tab went to {count} stops by real keys.", *told]
    assert session.tree.tab_order == ring.forward
    figure = path_drawing(Subject(session, built_in()).measured_path()).figure()
    assert figure.axes[0].get_xlim() == (0, 1280)
    assert len([each for each in figure.axes[0].texts if each.get_text().isdecimal()]) == count
    session.stage.close()


FIELDS = "<a href=a>One</a><input type=datetime-local aria-label=When><textarea id=t aria-label=Code></textarea>"
AFTER = "<button id=b>Next</button><button id=c>Last</button>"
DIALOG = "<dialog id=d aria-label=Ask><button>Yes</button><button>No</button></dialog>"


@pytest.mark.parametrize(
    ("markup", "script", "expected"),
    [
        (FIELDS + AFTER, "", []),
        (FIELDS + AFTER, "t.onkeydown = (event) => { if (event.key === 'Tab') event.preventDefault(); }", ["kept t"]),
        (
            FIELDS + AFTER,
            "let free; t.onkeydown = (event) => { free ||= event.key === 'Escape';"
            " if (event.key === 'Tab' && !free) event.preventDefault(); }",
            ["kept t until Escape"],
        ),
        (FIELDS + AFTER, "b.onfocus = () => c.focus()", ["kept c"]),  # it does not go back
        (FIELDS + AFTER, "b.onfocus = () => (event.relatedTarget === c ? t : c).focus()", ["passed b"]),
        (FIELDS + AFTER, "b.onblur = () => setTimeout(() => b.focus())", ["kept b"]),
        ("<button>Alone</button>", "", []),
        (AFTER + "<a href=x id=x>Goes</a>", "x.onblur = () => { x.hidden = true; }", []),
        (AFTER + DIALOG, "d.showModal()", []),
        (
            "<a href=x>x</a><div role=dialog aria-label=Ask><button id=e>Yes</button><button id=f>No</button></div>",
            "f.onkeydown = (event) => { if (event.key === 'Tab' && !event.shiftKey) { event.preventDefault(); e.focus(); } }",
            [],
        ),
        (AFTER + "<iframe srcdoc='" + "<a href=x>x</a>" * 20 + "'></iframe>", "", []),
        ("<video controls></video><audio controls></audio>" + AFTER, "", []),
    ],
)
def test_what_keeps_tab_and_what_it_passes_by(markup: str, script: str, expected: list[str], tmp_path: Path) -> None:
    words = {"tab-kept": "kept", "tab-passes-by": "passed"}
    page = f"<!DOCTYPE html><html lang=en><title>P</title><h1>P</h1>{markup}<script>{script}</script>"
    (tmp_path / "page.html").write_text(page)
    session = open_session(str(tmp_path / "page.html"), Setup(browser=BrowserSetup()))
    assert session.stage is not None
    checks = [built_in()[each] for each in words]
    session.stage.look()
    on_copy = leads_of(session, checks)
    list(press_through(session, Ring()))
    by_hand = leads_of(session, checks)
    for found in (on_copy, by_hand):
        told = [
            f"{words[each.check.id]} {each.element.get('id')}{' until Escape' * ('Escape' in each.detail)}"
            for each in found
        ]
        assert told == expected
        assert all(
            (each.certainty is NEEDS_EARS) == ("Escape" in each.detail) for each in found if each.check.id == "tab-kept"
        )
    assert session.tabbed is not None
    session.stage.close()


def test_it_can_be_given_up_at_any_press(tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text("<!DOCTYPE html><title>P</title><button>a</button><button>b</button>")
    session = open_session(str(tmp_path / "page.html"), Setup(browser=BrowserSetup()))
    assert session.stage is not None
    before = list(session.tree.tab_order)
    pressing = press_through(session, Ring())
    next(pressing)
    next(pressing)
    pressing.close()
    assert session.tree.tab_order == before
    session.stage.close()
