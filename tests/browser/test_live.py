"""Pages with scripts in a real browser: what is heard of what they do, and what stays without a word."""

from pathlib import Path
from time import sleep

import pytest

from murvel.browser.launch import find_chromium
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader import acting
from murvel.reader.moves.commands import command
from murvel.work.sessions import open_session
from tests.support import Case, case_ids

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

OTHER = "<!DOCTYPE html><title>Other</title><main><h1>Other</h1><p>text</main>"

PATIENCE = 10
"""Half seconds that what is heard may take; the page's time is real, and a machine may be busy, also with a key."""


@pytest.mark.parametrize("case", case_ids(Path(__file__).parent / "live"), ids=lambda case: case.title)
def test_what_is_heard(case: Case, tmp_path: Path) -> None:
    page = tmp_path / "page.html"
    page.write_text(f"<!DOCTYPE html><html lang=en><title>Page</title><body>\n{case.markup}\n")
    (tmp_path / "other.html").write_text(OTHER)
    session = open_session(str(page), Setup(root=tmp_path, browser=BrowserSetup(patience=20.0)))
    assert session.stage is not None
    session.arrive()
    acting.load(session)
    lines = []
    for line in case.expected:
        if line.startswith("silent:"):
            lines.append(f"silent: {'; '.join(change.text for _, change in session.silent)}")
            continue
        known, move = len(session.log), line.partition(" => ")[0]
        command(session, move)
        acting.hear_out(session)
        for _ in range(PATIENCE):
            acting.wait(session, 0.5)
            said = " / ".join(each.line for each in session.log[known:])
            said = f"{move} => {said}".replace(str(page), "PAGE").replace(str(tmp_path), "FOLDER")
            if said == line:
                break
        lines.append(said)
    session.stage.close()
    assert lines == case.expected


def test_what_came_while_nobody_looked_has_its_own_time(tmp_path: Path) -> None:
    page = tmp_path / "page.html"
    page.write_text("""<!DOCTYPE html><title>P</title><p role=status id=s></p><button onclick="
      setTimeout(() => s.textContent = 'One', 300); setTimeout(() => s.textContent = 'Two', 700)">Go</button>""")
    session = open_session(str(page), Setup(root=tmp_path, browser=BrowserSetup()))
    assert session.stage is not None
    session.arrive()
    acting.load(session)
    command(session, "activate")
    sleep(1)
    acting.wait(session, 0.0)
    asked = {each.text: each.asked for each in session.speech.timeline}
    assert asked["Two"] - asked["One"] >= 0.3
    assert session.clock - asked["Two"] >= 0.2
    session.stage.close()
