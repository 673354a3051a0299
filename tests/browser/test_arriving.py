"""Pages that go on to another page before they have come to rest."""

import pytest

from murvel.browser.errors import BrowserError
from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
from murvel.tree.exchange.write import to_text
from tests.loading.web import Site, html, moved, serving
from tests.support import problems_of

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

IN_BROWSER = Setup(browser=BrowserSetup())

PAGES = {
    "refresh": '<title>a</title><meta http-equiv=refresh content="0;url=/end"><h1>Start</h1>',
    "later": "<title>a</title><h1>Start</h1><script>setTimeout(() => location = '/end', 100)</script>",
    "at-once": "<title>a</title><script>location = '/end'</script><h1>Start</h1>",
    "replaced": "<title>a</title><h1>Start</h1><script>onload = () => location.replace('/end')</script>",
    "two": '<title>a</title><meta http-equiv=refresh content="0;url=/later"><h1>Start</h1>',
    "form": "<title>a</title><form action=/end method=post></form><script>document.forms[0].submit()</script>",
    "stays": "<title>a</title><h1>Garden end</h1><script>history.replaceState(0, '', '/stays')</script>",
    "once": "<title>a</title><h1>Garden end</h1><script>if (!sessionStorage.a) { sessionStorage.a = 1; location.reload() }</script>",
    "end": "<title>b</title><h1>Garden end</h1>",
    "for-ever": "<title>a</title><h1>Again</h1><script>onload = () => location.reload()</script>",
    "ping": '<title>a</title><meta http-equiv=refresh content="0;url=/pong">',
    "pong": '<title>a</title><meta http-equiv=refresh content="0;url=/ping">',
    "local": "<title>a</title><h1>Garden end</h1><script>setTimeout(() => location = 'file:///etc/passwd', 50)</script>",
}


def site_with_pages(site: Site) -> Site:
    site.answers = {f"/{name}": html(markup) for name, markup in PAGES.items()}
    site.answers["/redirected"] = moved("/later")
    return site


@pytest.mark.parametrize(
    ("name", "is_told"),
    [
        ("refresh", "/refresh led to {}/end; that is"),
        ("later", "/later led to {}/end; that is"),
        ("at-once", "/at-once led to {}/end; that is"),
        ("replaced", "/replaced led to {}/end; that is"),
        ("two", "/two led to {}/end by way of {}/later; that is"),
        ("form", "/form led to {}/end; that is"),
        ("redirected", "/redirected led to {}/end by way of {}/later; that is"),
        ("stays", ""),
        ("once", ""),
        ("local", ""),
    ],
)
def test_the_page_that_was_arrived_at_is_heard(name: str, is_told: str) -> None:
    with serving() as server:
        stage = open_in_browser(f"{site_with_pages(server).address}/{name}", IN_BROWSER)
        lines = "\n".join(to_text(stage.tree))
        assert "Garden end" in lines
        assert "Start" not in lines
        told = [each for each in problems_of(stage.tree.document) if " led to " in each]
        assert [is_told.replace("{}", server.address) in each for each in told] == [True] * bool(is_told)
        stage.close()


@pytest.mark.parametrize(
    ("name", "words"),
    [
        ("for-ever", r"/for-ever loads itself again and again, 1\d times in \d+ seconds"),
        ("ping", r"/ping goes on to other addresses without end, 1\d times in \d+ seconds, at last to"),
        ("gone", r"/gone|nothing here"),
    ],
)
def test_what_never_arrives_is_one_sentence(name: str, words: str) -> None:
    with serving() as server:
        address = f"{site_with_pages(server).address}/{name}"
        if name == "gone":
            stage = open_in_browser(address, IN_BROWSER)
            assert any("the server says 404" in each for each in problems_of(stage.tree.document))
            stage.close()
            return
        with pytest.raises(BrowserError, match=words):
            open_in_browser(address, IN_BROWSER)


def test_a_server_that_is_not_there_is_no_page() -> None:
    with serving() as server:
        address = server.address
    with pytest.raises(BrowserError, match=r"cannot be opened in the browser \(Connect call failed|refused"):
        open_in_browser(f"{address}/", IN_BROWSER)


def test_a_page_that_leads_nearer_is_said_to_be_refused() -> None:
    with serving() as server:
        server.answers = {"/": moved("file:///etc/passwd")}
        with pytest.raises(BrowserError):
            open_in_browser(f"{server.address}/", IN_BROWSER)
