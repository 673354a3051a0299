"""What checks see of a page that a browser laid out."""

from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.checks.catalogue import built_in
from murvel.checks.run import leads_of
from murvel.page.setup import BrowserSetup, Setup
from murvel.work.sessions import open_session

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

PAGE = """<!DOCTYPE html><html lang=en><title>Page of beds</title><style>
.skip { position: absolute; left: -999px } .skip:focus { left: 0 } .gone { transform: translateX(-3000px) }
.same { color: #fff; background: #fff } .row:hover .tool { opacity: 1 } .tool { opacity: 0 } .big { font-size: 28px; font-weight: 700 }
</style><a class=skip href=#m>Skip to the beds</a><main id=m><h1>Beds</h1><p id=p>x</p><button class=gone>Far away</button>
<button class=same>White</button><p class=row>Plot <button class=tool>Edit the plot</button></p><p class=big>Looks like a heading</p><p>Text of the part that
is under it, long enough to be a text, and it goes on for some time, so that it is one.</p></main><script>document.getElementById("p").textContent = "made by a script"</script>"""


def test_checks_see_what_the_browser_computed(tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(PAGE)
    session = open_session(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    assert session.stage is not None
    found = {(lead.check.id, lead.element.text().strip()[:20]) for lead in leads_of(session, built_in())}
    session.stage.close()
    assert ("stop-not-seen", "Far away") in found
    assert ("stop-not-seen", "White") in found
    assert ("stop-not-seen", "Skip to the beds") not in found
    assert any(words == "Looks like a heading" for _, words in found)
    assert not any(check == "made-by-scripts" for check, _ in found)
