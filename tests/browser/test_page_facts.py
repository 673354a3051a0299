"""What a page in a browser tells beside its tree: what scripts listen to, what is hidden now, which boxes are stops."""

from collections.abc import Iterator
from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.browser.stage import BrowserStage
from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.record import record_of
from murvel.checks.engine.run import leads_by_check, leads_of, leads_of_hidden
from murvel.checks.questions.delegated import is_delegating
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.session import ReadingSession
from murvel.stage.inputs import Tab, Wait
from murvel.stage.script import Event
from murvel.tree.exchange.write import to_text

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

PAGE = """<!DOCTYPE html><html lang=en><title>Plots of the garden</title><h1>Plots</h1>
<div id=show>Show the north field</div> <div id=water tabindex=0 role=button>Water</div>
<p id=tracked>Read this, which is only tracked.</p>
<div id=keys><div role=button tabindex=0 id=inner>Keys by delegation</div></div>
<div id=menu hidden><a href="#x">Hidden link</a></div>
<details><summary>More plots</summary><button></button></details>
<div id=unseen style="visibility: hidden"><b>deep <i>deeper</i></b></div>
<div id=host></div><div popover>Popped</div><dialog>Asked</dialog>
<script>
show.style.cursor = 'pointer'; show.addEventListener('click', () => 1); water.addEventListener('click', () => 1);
tracked.addEventListener('pointerdown', () => 1); inner.onclick = () => 1; keys.addEventListener('keydown', () => 1);
host.attachShadow({mode: 'open'}).innerHTML = '<b id=deep>In the shadow</b>';
host.shadowRoot.firstChild.addEventListener('click', () => 1);
</script>"""


@pytest.fixture(scope="module")
def stage(tmp_path_factory: pytest.TempPathFactory) -> Iterator[BrowserStage]:
    folder = tmp_path_factory.mktemp("page")
    (folder / "page.html").write_text(PAGE)
    stage = open_in_browser(str(folder / "page.html"), Setup(root=folder, browser=BrowserSetup()))
    yield stage
    stage.close()


def test_listeners_of_scripts_are_known(stage: BrowserStage) -> None:
    found = {(handler.when, element.attributes["id"]) for handler in stage.handlers() for element in handler.elements}
    clicked = {(Event.ACTIVATE, each) for each in ("show", "water", "tracked", "inner", "deep")}
    assert found == clicked | {(Event.KEY, "keys")}


def test_checks_use_them(stage: BrowserStage) -> None:
    leads = leads_of(ReadingSession(stage.tree, stage=stage), built_in())
    found = {(each.check.id, each.certainty.value, each.element.attributes.get("id")) for each in leads}
    assert ("click-not-reached", "fails", "show") in found
    assert ("click-not-reached", "needs-ears", "tracked") in found
    assert {where for check, _, where in found if check == "widget-without-keys"} == {"water"}


def test_what_is_hidden_now_is_shown_on_a_copy(stage: BrowserStage) -> None:
    shown, now = "\n".join(to_text(stage.revealed().tree)), "\n".join(to_text(stage.tree))
    for text in ("Hidden link", "deeper", "Popped", "Asked"):
        assert text in shown
        assert text not in now
    hidden = leads_of_hidden(ReadingSession(stage.tree, stage=stage), built_in())
    assert {each.check.id for each in hidden} >= {"control-unnamed", "link-place-missing"}


SCROLLED = """<!DOCTYPE html><html lang=en><title>Boxes</title><style>
div, pre, ul, section { height: 50px; overflow: auto } p, li { height: 200px } pre { width: 50px }</style>
<div id=text><p>tall</p></div> <div><p>tall <a id=link href="#">link</a></p></div>
<pre id=wide>a very long line of code which is wide</pre> <div tabindex=-1><p>tall</p></div>
<div id=reached-by-script><p>tall <span tabindex=-1>m</span></p></div> <div style="overflow: hidden"><p>tall</p></div>
<div style="height: 500px"><p>short</p></div> <ul id=list><li>tall</ul> <section id=named aria-label=Named><p>tall</p></section>
<div id=disabled><button disabled>x</button><p>tall</p></div> <div><div id=inner><p>tall in tall</p></div><p>tall</p></div>
<div><p id=late style="height: 10px">grows</p></div>"""


def test_boxes_that_scroll_are_stops_as_the_browser_has_it(tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(SCROLLED)
    stage = open_in_browser(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    listed = [each.attributes.get("id") for each in stage.tree.tab_order]
    assert listed == ["text", "link", "wide", "reached-by-script", "list", "named", "disabled", "inner"]
    pressed = []
    while (element := stage.element(stage.perform(Tab(False, None)).focus)) is not None and len(pressed) < 20:
        pressed.append(element.attributes.get("id"))
    assert pressed == listed
    stage.ask("nodeOf(1) && (document.getElementById('late').style.height = '300px')")
    for _ in range(3):
        stage.perform(Wait(stage.now + 0.3))
    assert len(stage.tree.tab_order) == len(listed) + 1
    stage.close()


WHOLE = """<!DOCTYPE html><html lang=en><title>Plots of the garden</title><main><h1>Plots</h1>
<div data-action=save id=save style="cursor:pointer">Save the plan</div> <span data-action=remove id=remove>Remove</span>
<div tabindex=0 data-action=edit id=edit style="cursor:pointer">Edit plot 7</div>
<button data-action=add id=add>Add a plot</button> <p data-track=seen id=counted>Only counted</p></main>{script}"""


@pytest.mark.parametrize("target", ["document", "window", "document.body", "document.querySelector('main')"])
def test_clicks_that_the_page_takes_as_a_whole(target: str, tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(
        WHOLE.format(script=f"<script>{target}.addEventListener('click', () => 1)</script>")
    )
    stage = open_in_browser(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    page = Facts(ReadingSession(stage.tree, stage=stage))
    leads = [lead for found in leads_by_check(page, built_in()) for lead in found]
    found = {(each.check.id, each.certainty.value, each.element.attributes.get("id")) for each in leads}
    stage.close()
    assert is_delegating(page)
    assert {("click-not-reached", "needs-ears", each) for each in ("save", "remove")} <= found
    assert ("handler-without-role", "needs-ears", "edit") in found
    assert not any(where in ("add", "counted") for _, _, where in found)


@pytest.mark.parametrize(
    "script",
    [
        "<script>onscroll = () => 1; oninput = () => 1</script>",
        "<div id=card>A card</div><script>card.addEventListener('click', () => 1)</script>",
    ],
)
def test_a_page_that_listens_elsewhere_delegates_nothing(script: str, tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(WHOLE.format(script=script))
    stage = open_in_browser(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    page = Facts(ReadingSession(stage.tree, stage=stage))
    assert not is_delegating(page)
    leads = leads_of(page.session, built_in())
    assert "save" not in {each.element.get("id") for each in leads if each.check.id == "click-not-reached"}
    stage.close()


def test_lines_are_those_of_the_file(tmp_path: Path) -> None:
    file = tmp_path / "page.html"
    file.write_text(
        "<!DOCTYPE html><html lang=en><title>Plots</title><main><h1>Plots</h1><div id=n></div>\n\n<img src=a.png>"
        "<details><summary>More</summary>\n<button id=hidden></button></details></main>\n"
        "<script>n.innerHTML = '<button id=made></button>'; document.querySelector('h1').className = 'x'</script>"
    )
    setup = Setup(root=tmp_path, browser=BrowserSetup())
    stage = open_in_browser(str(file), setup)
    session = ReadingSession(stage.tree, stage=stage)
    shown = {each.element.get("id") or each.element.tag: record_of(each) for each in leads_of(session, built_in())}
    hidden = {
        record_of(each).line for each in leads_of_hidden(session, built_in()) if each.check.id == "control-unnamed"
    }
    stage.close()
    assert (shown["img"].line, shown["img"].column) == (3, 1)
    assert (shown["made"].line, shown["made"].line_above) == (None, 1)
    assert hidden == {4}
