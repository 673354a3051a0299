"""What checks see of a page that a browser laid out."""

from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.run import leads_of
from murvel.loading.setup import BrowserSetup, Setup
from murvel.stage.seen import Indication
from murvel.survey.sight_order import seen_elsewhere
from murvel.work.sessions import open_session

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

PAGE = """<!DOCTYPE html><html lang=en><title>Page of beds</title><style>
.skip { position: absolute; left: -999px } .skip:focus { left: 0 } .gone { transform: translateX(-3000px) }
.same { color: #fff; background: #fff } .row:hover .tool { opacity: 1 } .tool { opacity: 0 } .big { font-size: 28px; font-weight: 700 }
.cut { height: 30px; padding: 4px; overflow: hidden } .cut p { height: 90px } .pop { position: absolute; top: 700px }
.shut { height: 0; overflow: hidden }
.rtl { overflow: auto; width: 200px; white-space: nowrap } .rtl i { display: inline-block; width: 3000px }
</style><a class=skip href=#m>Skip to the beds</a><main id=m><h1>Beds</h1><p id=p>x</p><button class=gone>Far away</button>
<button class=same>White</button><p class=row>Plot <button class=tool>Edit the plot</button></p><div class=shut><a href=a>Shut away</a></div><div
class=cut><p>Beds</p><a href=a>Cut off</a><a class=pop href=a>Pops out</a></div><div class=rtl
dir=rtl>Beds<i></i><a href=b>Scrolled away</a></div><p class=big>Looks like a heading</p><p>Text of the part that
is under it, long enough to be a text, and it goes on for some time, so that it is one.</p></main><script>document.getElementById("p").textContent = "made by a script"</script>"""


def test_checks_see_what_the_browser_computed(tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(PAGE)
    session = open_session(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    assert session.stage is not None
    found = {(lead.check.id, lead.element.text().strip()[:20]) for lead in leads_of(session, built_in())}
    session.stage.close()
    assert ("stop-not-seen", "Far away") in found
    assert ("stop-not-seen", "White") in found
    assert ("stop-not-seen", "Shut away") in found
    assert ("stop-not-seen", "Cut off") in found
    assert ("stop-not-seen", "Scrolled away") not in found
    assert ("stop-not-seen", "Pops out") not in found
    assert ("stop-not-seen", "Skip to the beds") not in found
    assert any(words == "Looks like a heading" for _, words in found)
    assert not any(check == "made-by-scripts" for check, _ in found)


def test_parts_that_are_seen_in_another_place_than_read(tmp_path: Path) -> None:
    markup = """<!DOCTYPE html><html lang=en><title>Page</title><style>
    .row { display: flex } .back { flex-direction: row-reverse } .grid { display: grid; grid-template-columns: 1fr 1fr }
    .first { order: -1 } .two { columns: 2 } .over { position: absolute; top: 0; right: 0 }</style><main>
    <div class=row><div>a<p>a2<p>a3</div><div>b<p>b2</div></div><div class="row back"><p>c</p><p>d</p></div>
    <div class=grid><p>e</p><p>f</p><p>g</p><p class=first>h</p></div><p class=over>i</p><p>j</p>
    <div dir=rtl class=row><p>k</p><p>l</p></div><ul><li>m<li>n</ul></main>"""
    (tmp_path / "page.html").write_text(markup)
    session = open_session(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    assert session.stage is not None
    assert list(seen_elsewhere(session.tree)) == []  # not measured yet
    session.stage.measure()
    assert [part.text() for part in seen_elsewhere(session.tree)] in (["c", "h"], ["d", "h"])
    session.stage.close()


def test_boxes_that_scroll_stand_where_they_stood(tmp_path: Path) -> None:
    """Looking moves each of them, one within another as well, and tells the focus at what was out of sight."""
    (tmp_path / "page.html").write_text(
        """<!DOCTYPE html><html lang=en><title>Page</title><style>html, body { height: 100%; margin: 0; overflow: hidden }
        main, div { overflow: auto } main { height: 100% } div { height: 90px; margin-top: 900px } p { height: 300px }</style>
        <main><div><p>Rota</p><a href=a>Hives</a><p>Beds</p></div></main>
        <script>const main = document.querySelector("main"), div = document.querySelector("div");
        main.scrollTop = 30; div.scrollTop = 50</script>"""
    )
    stage = open_in_browser(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    seen = stage.look()
    places = stage.tab.page.evaluate("() => [main.scrollTop, div.scrollTop]")
    assert stage.tab.browser.thread.run(places) == [30, 50]
    assert [(each.element.text(), each.indication) for each in seen.indicators] == [("Hives", Indication.CLEAR)]
    stage.close()
