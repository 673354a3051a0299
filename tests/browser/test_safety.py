"""A browser that is not to be trusted with anything: pages that hang, die, reach out, and processes that are killed."""

import os
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import pytest

from murvel.browser.errors import BrowserError
from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser, open_page
from murvel.browser.stage import BUSY, BrowserStage
from murvel.loading.setup import BrowserSetup, Setup
from murvel.page.captured.capture import read_capture
from murvel.page.captured.document import CapturedDocument
from murvel.stage.inputs import Activate, Keystroke, Press, Wait
from murvel.tree.build import build_tree
from murvel.tree.exchange.write import to_text
from tests.loading.web import html, serving

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

IN_BROWSER = Setup(browser=BrowserSetup())


def opened(folder: Path, markup: str) -> BrowserStage:
    (folder / "page.html").write_text(f"<!DOCTYPE html><title>Page</title><body>{markup}")
    return open_in_browser(str(folder / "page.html"), Setup(root=folder, browser=BrowserSetup()))


def key_of(stage: BrowserStage, tag: str) -> int:
    node = next(each for each in stage.tree.nodes if each.element.tag == tag and not each.is_text)
    key = stage.key_of(node.element)
    assert key is not None
    return key


def test_a_page_that_hangs_keeps_nobody(tmp_path: Path) -> None:
    stage = opened(tmp_path, "<button onclick='for (;;);'>Go</button>")
    began = time.monotonic()
    reaction = stage.perform(Activate(key_of(stage, "button")))
    assert time.monotonic() - began < 8
    assert reaction.notes == [BUSY]
    assert stage.is_busy
    assert "nothing happens yet" in stage.perform(Press(Keystroke.ESCAPE, None)).notes[0]
    assert not stage.perform(Wait(stage.now)).notes
    stage.close()
    other = opened(tmp_path, "<h1>After</h1>")
    assert any("After" in line for line in to_text(other.tree))
    other.close()


def test_what_takes_longer_than_anybody_waits_for_is_told_when_it_has_come(tmp_path: Path) -> None:
    (tmp_path / "next.html").write_text("<!DOCTYPE html><title>Next</title><h1>Next page</h1>")
    busy = "for (const end = Date.now() + 700; Date.now() < end;); document.querySelector('a').focus()"
    markup = f'<button onclick="{busy}">Go</button><a href="next.html">Next</a>'
    (tmp_path / "page.html").write_text(f"<!DOCTYPE html><title>Page</title><body>{markup}")
    setup = Setup(root=tmp_path, browser=BrowserSetup(patience=0.1))
    stage = open_in_browser(str(tmp_path / "page.html"), setup)
    assert stage.perform(Activate(key_of(stage, "button"))).notes == [BUSY]
    assert stage.perform(Activate(key_of(stage, "a"))).notes == ["nothing happens yet: the page is still busy"]
    reactions = [stage.perform(Wait(stage.now + 1)) for _ in range(4)]
    assert [each.focus for each in reactions if each.focus is not None] == [key_of(stage, "a")]
    stage.perform(Activate(key_of(stage, "a")))
    assert any(stage.perform(Wait(stage.now + 1)).has_arrived for _ in range(10))
    assert any("Next page" in line for line in to_text(stage.tree))
    stage.close()


def test_a_page_whose_process_dies_is_told(tmp_path: Path) -> None:
    stage = opened(tmp_path, "<button>Go</button>")
    with pytest.raises(BrowserError):
        stage._run(stage.tab.send("Page.crash"), 1)
    assert stage.perform(Wait(stage.now)).notes == ["the page's process has died"]
    assert stage.perform(Activate(key_of(stage, "button"))).notes == ["nothing happens: the page is gone"]
    stage.close()


def test_a_page_that_never_comes_to_rest_is_taken_all_the_same(tmp_path: Path) -> None:
    stage = opened(tmp_path, "<p id=p>0</p><script>setInterval(() => p.textContent++, 10)</script>")
    assert any("did not come to rest" in each.text for each in stage.tree.document.problems)
    began = time.monotonic()
    assert stage.perform(Wait(stage.now + 0.2)).change is not None
    assert time.monotonic() - began < 2
    stage.close()


def test_a_page_from_the_web_reaches_no_file(tmp_path: Path) -> None:
    secret = tmp_path / "secret.html"
    secret.write_text("<p>secret")
    with serving() as site:
        markup = f'<title>x</title><iframe src="{secret.as_uri()}"></iframe><a href="{secret.as_uri()}">a</a>'
        site.answers = {"/": (200, {"Content-Type": "text/html"}, markup.encode())}
        stage = open_in_browser(f"{site.address}/", IN_BROWSER)
        stage.perform(Activate(key_of(stage, "a")))
        assert not any("secret" in line and "text" in line for line in to_text(stage.tree))
        stage.close()


def test_a_frame_of_another_site_is_heard(tmp_path: Path) -> None:
    with serving() as site, serving() as other:
        other.answers = {"/": html("<p>inside</p><button onclick='this.textContent = `done`'>Go</button>")}
        site.answers = {"/": html(f'<title>x</title><iframe src="{other.address}/"></iframe>')}
        stage = open_in_browser(f"{site.address}/", IN_BROWSER)
        assert any("inside" in line for line in to_text(stage.tree))
        stage.perform(Activate(key_of(stage, "button")))
        assert any("done" in line for line in to_text(stage.tree))
        stage.look()
        assert any("frames of other origins" in each.text for each in stage.tree.document.problems)
        stage.close()


def test_a_frame_that_did_not_come_is_told_of(tmp_path: Path) -> None:
    stage = opened(tmp_path, '<iframe src="https://127.0.0.1:9/pay" title="Pay"></iframe>')
    assert any("127.0.0.1:9/pay has no document" in each.text for each in stage.tree.document.problems)
    stage.close()


def test_a_redirect_does_not_lead_nearer(tmp_path: Path) -> None:
    with serving() as site:
        site.answers = {"/far": (302, {"Location": "file:///etc/passwd"}, b"")}
        with pytest.raises(BrowserError, match="cannot be opened"):
            open_in_browser(f"{site.address}/far", IN_BROWSER)


def test_scripts_of_a_page_see_and_change_nothing_of_ours(tmp_path: Path) -> None:
    script = """<script>
      p.textContent = typeof murvel + " " + typeof murvelNews;
      MutationObserver = JSON = null; Element.prototype.attachShadow = null;
      window.getComputedStyle = () => { throw 1; }; Map.prototype.set = () => { throw 1; };
    </script>"""
    stage = opened(tmp_path, f"<p id=p></p>{script}<button onclick=\"p.textContent = 'changed'\">Go</button>")
    assert any("undefined undefined" in line for line in to_text(stage.tree))
    stage.perform(Activate(key_of(stage, "button")))
    assert any("changed" in line for line in to_text(stage.tree))
    stage.close()


def test_a_capture_opens_without_a_browser_and_gives_the_same_tree(tmp_path: Path) -> None:
    markup = """<style>.q::before { content: "("; } .gone { display: none } td { border: 1px solid }</style>
      <h1 class=q>Beds</h1><p class=gone>no</p><x-a><b slot=s>slotted</b></x-a>
      <table><tr><th>A<th>B<tr><td>1<td>2</table><label>N <input id=n></label><pre> a
      b</pre><iframe title=F srcdoc="<p>inside"></iframe><ol><li>x</ol>
      <script>n.value = "typed"; const r = document.querySelector("x-a").attachShadow({mode: "open"});
      r.innerHTML = "<i>in shadow</i><slot name=s></slot>";</script>"""
    stage = opened(tmp_path, markup)
    text = stage.take().to_json()
    again = build_tree(CapturedDocument(read_capture(text, "x")).styled)
    assert list(to_text(again)) == list(to_text(stage.tree))
    lines = "\n".join(to_text(again))
    for words in ("(Beds", "in shadow", "slotted", "inside", "typed", "table"):
        assert words in lines
    file = tmp_path / "page.json"
    file.write_text(text)
    assert list(to_text(open_page(str(file)).tree)) == list(to_text(again))
    stage.close()


@pytest.mark.parametrize("number", [signal.SIGKILL, signal.SIGTERM])
def test_nothing_is_left_when_we_are_killed(number: signal.Signals, tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text("<title>Page</title><p>x")
    program = f"""
import sys, time
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
open_in_browser({str(tmp_path / "page.html")!r}, Setup(browser=BrowserSetup()))
print("open", flush=True)
time.sleep(60)
"""
    temporary = Path(tempfile.mkdtemp(prefix="mv", dir="/tmp"))
    environment = {**os.environ, "TMPDIR": str(temporary)}
    with subprocess.Popen([sys.executable, "-c", program], stdout=subprocess.PIPE, env=environment) as process:
        assert process.stdout is not None
        assert process.stdout.readline() == b"open\n"
        assert browsers(temporary)
        process.send_signal(number)
        process.wait(10)
    end = time.monotonic() + 10
    while browsers(temporary) and time.monotonic() < end:
        time.sleep(0.1)
    assert browsers(temporary) == []
    before = tempfile.tempdir
    tempfile.tempdir = str(temporary)
    try:
        from murvel.browser.launch import Chromium

        Chromium(BrowserSetup()).close()  # the next one takes away what a killed one could not
    finally:
        tempfile.tempdir = before
    assert list(temporary.iterdir()) == []
    temporary.rmdir()


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP])
def test_a_command_that_is_ended_takes_its_files_with_it(number: signal.Signals, tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text("<title>Page</title><p>Beds</p>")
    temporary = Path(tempfile.mkdtemp(prefix="mv", dir="/tmp"))
    command = [sys.executable, "-m", "murvel", "listen", str(tmp_path / "page.html"), "--browser"]
    environment = {**os.environ, "TMPDIR": str(temporary), "HOME": str(tmp_path)}
    given = {"stdin": subprocess.PIPE, "stdout": subprocess.PIPE, "stderr": subprocess.DEVNULL, "env": environment}
    with subprocess.Popen(command, **given) as process:  # type: ignore[call-overload]
        assert process.stdout is not None
        assert process.stdout.readline()
        assert any(temporary.iterdir())
        process.send_signal(number)
        assert process.wait(20) == 128 + number
    assert list(temporary.iterdir()) == []
    temporary.rmdir()


def browsers(temporary: Path) -> list[str]:
    """The processes that keep their temporary files in a folder, those that are over left out."""
    found = []
    for each in Path("/proc").glob("[0-9]*"):
        try:
            is_ours = str(temporary).encode() in (each / "environ").read_bytes()
            if is_ours and each.name != str(os.getpid()) and "State:\tZ" not in (each / "status").read_text():
                found.append((each / "comm").read_text().strip())
        except OSError:
            continue
    return [name for name in found if name != "python"]
