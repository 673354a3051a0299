"""What checks ask of a page in a browser: what scripts listen to, and what is hidden now."""

from collections.abc import Iterator

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open import open_in_browser
from murvel.browser.stage import BrowserStage
from murvel.checks.run import leads_of, leads_of_hidden
from murvel.page.setup import BrowserSetup, Setup
from murvel.reader.session import ReadingSession
from murvel.stage.script import Event
from murvel.tree.write import to_text

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

PAGE = """<!DOCTYPE html><html lang=en><title>Plots of the garden</title><h1>Plots</h1>
<div id=show>Show the north field</div> <div id=water tabindex=0 role=button>Water</div>
<p id=tracked>Read this, which is only tracked.</p>
<div id=keys><div role=button tabindex=0 id=inner>Keys by delegation</div></div>
<div id=menu hidden><a href="#x">Hidden link</a></div>
<details><summary>More plots</summary><button></button></details>
<div id=unseen style="visibility: hidden"><b>deep <i>deeper</i></b></div>
<div popover>Popped</div><dialog>Asked</dialog>
<script>
show.style.cursor = 'pointer'; show.addEventListener('click', () => 1); water.addEventListener('click', () => 1);
tracked.addEventListener('pointerdown', () => 1); inner.onclick = () => 1; keys.addEventListener('keydown', () => 1);
</script>"""


@pytest.fixture(scope="module")
def stage(tmp_path_factory: pytest.TempPathFactory) -> Iterator[BrowserStage]:
    folder = tmp_path_factory.mktemp("page")
    (folder / "page.html").write_text(PAGE)
    stage = open_in_browser(str(folder / "page.html"), Setup(root=folder, browser=BrowserSetup()))
    yield stage
    stage.close()


def test_listeners_of_scripts_are_known(stage: BrowserStage) -> None:
    found = {
        (handler.when, element.attributes["id"]) for handler in stage.handlers() for element in handler.elements
    }
    clicked = {(Event.ACTIVATE, each) for each in ("show", "water", "tracked", "inner")}
    assert found == clicked | {(Event.KEY, "keys")}


def test_checks_use_them(stage: BrowserStage) -> None:
    leads = leads_of(ReadingSession(stage.tree, stage=stage))
    found = {(each.check.id, each.certainty.value, each.element.attributes.get("id")) for each in leads}
    assert ("click-not-reached", "fails", "show") in found
    assert ("click-not-reached", "needs-ears", "tracked") in found
    assert {where for check, _, where in found if check == "widget-without-keys"} == {"water"}


def test_what_is_hidden_now_is_shown_on_a_copy(stage: BrowserStage) -> None:
    shown, now = "\n".join(to_text(stage.revealed().tree)), "\n".join(to_text(stage.tree))
    for text in ("Hidden link", "deeper", "Popped", "Asked"):
        assert text in shown
        assert text not in now
    hidden = leads_of_hidden(ReadingSession(stage.tree, stage=stage))
    assert {each.check.id for each in hidden} >= {"control-unnamed", "link-place-missing"}
