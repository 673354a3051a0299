"""Clicks on copies of a page: what they do there is known, and nothing of it reaches a network or the page itself."""

from collections.abc import Iterator

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.browser.seen import clicks
from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.run import leads_of
from murvel.checks.questions.delegated import delegation
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.session import ReadingSession
from tests.loading.web import html, serving

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

CLICKS = {
    "text": ("out.textContent = 'Plot 7 is deleted.'", "the text there is now “Plot 7 is deleted.”"),
    "shows": ("box.hidden = !box.hidden", "“Seeds and tools” appears"),
    "itself": ("t.classList.toggle('open')", "the page changes (class)"),
    "value": ("amount.value = +amount.value + 1", "a field gets the value “2”"),
    "posts": ("fetch('/order', {method: 'POST', body: 'x'})", "the page asks for"),
    "beacon": ("navigator.sendBeacon('/beacon', 'x')", "the page asks for"),
    "image": ("new Image().src = '/counted.png'", "the page asks for"),
    "socket": ("socket.send('order')", ""),
    "leaves": ("location.href = '/elsewhere'", "the page wants to go to"),
    "asks": ("if (confirm('Delete?')) fetch('/deleted')", "the page shows a browser dialog (confirm)"),
    "nothing": ("", ""),
    "counts": ("t.dataset.seen = 1", ""),
}
"""What a click on the element of an id does, and the beginning of what is told of it."""

PAGE = """<!DOCTYPE html><html lang=en><title>Plots of the garden</title><style>.b {{ cursor: pointer }}</style>
<main><h1>Plots</h1><p id=clock>12:00</p><div id=out></div><div id=box hidden>Seeds and tools</div>
<input id=amount value=1 aria-label=Amount>{elements}</main><p id=anywhere></p><script>
let ticks = 0; setInterval(() => clock.textContent = `12:0${{ticks++}}`, 200);
const does = {{{scripts}}};
document.addEventListener('click', (event) => {{
  anywhere.textContent = 'Clicked at ' + performance.now();
  const t = event.target; does[t.id]?.(t);
}});
</script>"""


@pytest.fixture(scope="module")
def looked() -> Iterator[tuple[Facts, list[str]]]:
    """The page after a look at it, and what its server was asked for in all."""
    elements = "".join(f"<div class='b of-{each}' id={each}>Do {each}</div>" for each in CLICKS)
    scripts = ", ".join(f"{each}: (t) => {{ {script} }}" for each, (script, _) in CLICKS.items())
    with serving() as site, pytest.MonkeyPatch.context() as patched:
        patched.setattr(clicks, "_MOST_SECONDS", 150.0)  # a busy machine is no reason to leave some out
        socket = f"const socket = new WebSocket('{site.address.replace('http', 'ws')}/socket');"
        site.answers["/"] = html(PAGE.format(elements=elements, scripts=scripts) + f"<script>{socket}</script>")
        stage = open_in_browser(f"{site.address}/", Setup(browser=BrowserSetup()))
        stage.look()
        yield Facts(ReadingSession(stage.tree, stage=stage)), site.paths
        stage.close()


@pytest.mark.parametrize("which", CLICKS)
def test_what_a_click_does_is_known(which: str, looked: tuple[Facts, list[str]]) -> None:
    words = {element.attributes["id"]: words for element, words in looked[0].clicks.items()}
    expected = CLICKS[which][1]
    assert words[which].startswith(expected)
    assert bool(words[which]) == bool(expected)


def test_nothing_of_it_reaches_the_server_or_the_page(looked: tuple[Facts, list[str]]) -> None:
    page, asked = looked
    assert set(asked) <= {"/", "/socket", "/favicon.ico"}
    assert not page.tags["div"][0].text()
    assert not any("open" in each.attributes.get("class", "") for each in page.elements("div"))


def test_the_leads_rest_on_it(looked: tuple[Facts, list[str]]) -> None:
    page, _ = looked
    leads = {each.element.get("id"): each for each in leads_of(page.session, built_in()) if "reach" in each.check.id}
    for which, (_, expected) in CLICKS.items():
        assert leads[which].check.id == ("click-not-reached" if expected else "pointer-style-not-reached")
        assert leads[which].certainty.value == ("fails" if expected else "needs-ears")
    assert "12 elements that look clickable took a click" in delegation(page)
