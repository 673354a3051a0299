"""Where pages come from, and what is said where they cannot be loaded."""

import io
import sys
import types
from collections.abc import Iterator
from pathlib import Path

import pytest

from murvel.dom.document import Element
from murvel.loading import fetch as loading
from murvel.loading import reach, web
from murvel.loading.addresses import resolve, shown, split_credentials
from murvel.loading.errors import CredentialsError, PageError
from murvel.loading.fetch import fetch
from murvel.loading.headers import read_headers
from murvel.loading.kinds import is_tree
from murvel.loading.reach import Zone, zone_of
from murvel.loading.setup import Setup
from murvel.page.open_page import open_document
from murvel.page.styled_document import StyledDocument
from tests.loading.web import Site, css, html, moved, packed, serving
from tests.support import problems_of


@pytest.fixture
def site() -> Iterator[Site]:
    with serving() as site:
        yield site


def assert_one_sentence(error: PageError) -> None:
    text = str(error)
    assert text.endswith(".")
    assert "\n" not in text
    assert "\x1b" not in text


def display(page: StyledDocument) -> dict[str, str]:
    """The computed display of the last element of each tag."""
    elements = [each for each in page.document.root.descendants() if isinstance(each, Element)]
    return {each.tag: page.styles.of(each).display for each in elements}


def test_a_page_from_the_web(site: Site) -> None:
    site.answers = {
        "/moved": moved("/page"),
        "/page": (200, {"Content-Type": "text/html; charset=iso-8859-1"}, "<title>Grüße</title>".encode("latin-1")),
    }
    document = open_document(f"{site.address}/moved").document
    assert document.title == "Grüße"
    assert document.address == f"{site.address}/page"


@pytest.mark.parametrize(
    ("answer", "words"),
    [
        ((200, {"Content-Type": "image/png"}, b"\x89PNG"), "is not HTML but image/png"),
        ((404, {}, b"<p>no"), "answered 404"),
        ((403, {}, b"<p>no"), "answered 403: it refuses this request; give --headers"),
        ((401, {"WWW-Authenticate": "Negotiate"}, b"<p>no"), "answered 401: it wants you to be signed in; give"),
        ((200, {"Content-Type": "text/html"}, b""), "is empty"),
        ((200, {"Content-Type": "text/html"}, b"%PDF-1.7 ..."), "is not a page but a PDF"),
        ((200, {"Content-Type": "application/xml"}, b"<?xml version='1.0'?><urlset/>"), "XML with the root element urlset"),
        (packed(b"<p>" + b"x" * 6_000_000), "it unpacks to more than 100 times"),
        (moved("ftp://a.example/"), "it leads to an address that is not http or https"),
        (moved("/page"), "more than 10 redirects"),
    ],
)  # fmt: skip
def test_answers_that_are_no_page(site: Site, answer: tuple[int, dict[str, str], bytes], words: str) -> None:
    site.answers = {"/page": answer}
    with pytest.raises(PageError, match=words) as caught:
        fetch(f"{site.address}/page")
    assert_one_sentence(caught.value)


def test_a_page_that_is_too_large(site: Site, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(web, "MAX_BYTES", 1000)
    site.answers = {"/large": html("<p>" + "x" * 2000)}
    with pytest.raises(PageError, match="is too large"):
        fetch(f"{site.address}/large")


@pytest.mark.parametrize("path", ["/slow", "/to-slow"])
def test_one_deadline_for_headers_and_redirects_together(
    site: Site, path: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(web, "MAX_SECONDS", 0.5)
    site.answers = {"/to-slow": moved("/slow")}
    with pytest.raises(PageError, match="took longer than"):
        fetch(f"{site.address}{path}")


@pytest.mark.parametrize("address", ["http://127.0.0.1:1/", "http://[bad/", "http://", "https://nothing.invalid/"])
def test_addresses_that_cannot_be_reached(address: str) -> None:
    with pytest.raises(PageError, match="cannot be reached") as caught:
        fetch(address)
    assert_one_sentence(caught.value)


# Credentials


def test_credentials_in_an_address_are_used_and_shown_nowhere(site: Site) -> None:
    site.answers = {"/page": html("<link rel=stylesheet href=a.css><p>x"), "/a.css": css("p{}")}
    address = site.address.replace("://", "://jo:se%40cret@") + "/page"
    document = open_document(address).document
    assert document.address == f"{site.address}/page"
    assert [headers["Authorization"] for _, headers in site.asked] == ["Basic am86c2VAY3JldA=="] * 2
    with pytest.raises(PageError) as caught:
        fetch(address.replace("page", "gone"))
    assert "cret" not in str(caught.value)


def test_credentials_and_headers_go_to_the_page_s_own_origin_only(site: Site) -> None:
    with serving() as other:
        site.answers = {
            "/page": html(f"<link rel=stylesheet href={other.address}/a.css><p>x"),
            "/moved": moved(f"{other.address}/b"),
        }
        other.answers = {"/a.css": css("p{}"), "/b": html("<link rel=stylesheet href=a.css><p>x")}
        setup = Setup(headers=(("X-Key", "secret"),))
        open_document(site.address.replace("://", "://jo:pw@") + "/page", setup)
        open_document(site.address.replace("://", "://jo:pw@") + "/moved", setup)
        assert site.asked[0][1]["X-Key"] == "secret"
        assert other.paths == ["/a.css", "/b", "/a.css"]
        assert not any({"X-Key", "Authorization"} & headers.keys() for _, headers in other.asked)


def test_a_server_that_wants_credentials(site: Site, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    site.answers = {"/page": (401, {"WWW-Authenticate": "Basic realm=x"}, b"")}
    with pytest.raises(CredentialsError, match="it wants a user name and password") as caught:
        fetch(f"{site.address}/page")
    assert caught.value.origin == site.address
    (tmp_path / ".netrc").write_text("machine 127.0.0.1 login jo password pw\n")
    (tmp_path / ".netrc").chmod(0o600)
    monkeypatch.setenv("HOME", str(tmp_path))
    with pytest.raises(CredentialsError):
        fetch(f"{site.address}/page")
    assert site.asked[-1][1]["Authorization"] == "Basic am86cHc="


def test_cookies_go_where_they_belong(site: Site, tmp_path: Path) -> None:
    jar = tmp_path / "cookies.txt"
    jar.write_text(
        "# Netscape HTTP Cookie File\n127.0.0.1\tFALSE\t/\tFALSE\t0\tseat\t17\nother.example\tFALSE\t/\tFALSE\t0\ta\tb\n"
    )
    site.answers = {"/page": html("<p>x")}
    fetch(f"{site.address}/page", Setup(cookies=jar))
    assert site.asked[0][1]["Cookie"] == "seat=17"
    jar.write_text("nothing of the kind")
    with pytest.raises(PageError, match=r"cookies .* cannot be read"):
        fetch(f"{site.address}/page", Setup(cookies=jar))


@pytest.mark.parametrize(
    ("address", "clean", "credentials"),
    [
        ("http://a:b@h/x@y", "http://h/x@y", ("a", "b")),
        ("HTTPS://a@h", "HTTPS://h", ("a", None)),
        ("http://a:b:c@d@h/", "http://h/", ("a", "b:c@d")),
        ("http:\\\\a:b@h/", "http://h/", ("a", "b")),
        ("http://h/a:b@c", "http://h/a:b@c", None),
        ("a@b.html", "a@b.html", None),
        ("http://h?a@b", "http://h?a@b", None),
    ],
)
def test_splitting_credentials(address: str, clean: str, credentials: tuple[str, str | None] | None) -> None:
    assert split_credentials(address) == (clean, credentials)
    assert "b@h" not in shown(address)


def test_headers_from_a_file(tmp_path: Path) -> None:
    path = tmp_path / "h"
    path.write_text("# mine\nX-A: b c \n\nCookie:d=e\n")
    assert read_headers(path) == (("X-A", "b c"), ("Cookie", "d=e"))
    path.write_text("X-A: b\nsecret without a name\n")
    with pytest.raises(PageError, match="Line 2 of the headers") as caught:
        read_headers(path)
    assert "secret" not in str(caught.value)


# What a page from the web may reach

SHEETS = "<link rel=stylesheet href={}><p>x"


@pytest.mark.parametrize(
    ("address", "zone"),
    [
        ("127.0.0.1", Zone.LOOPBACK), ("127.9.9.9", Zone.LOOPBACK), ("::1", Zone.LOOPBACK), ("0.0.0.0", Zone.LOOPBACK),
        ("::", Zone.LOOPBACK), ("::ffff:127.0.0.1", Zone.LOOPBACK), ("64:ff9b::7f00:1", Zone.LOOPBACK),
        ("2002:7f00:1::", Zone.LOOPBACK), ("::127.0.0.1", Zone.LOOPBACK),
        ("10.1.2.3", Zone.PRIVATE), ("192.168.1.1", Zone.PRIVATE), ("172.16.0.1", Zone.PRIVATE), ("169.254.169.254", Zone.PRIVATE),
        ("100.64.0.1", Zone.PRIVATE), ("fe80::1%eth0", Zone.PRIVATE), ("fd00::1", Zone.PRIVATE), ("::ffff:10.0.0.1", Zone.PRIVATE),
        ("224.0.0.1", Zone.PRIVATE), ("255.255.255.255", Zone.PRIVATE),
        ("93.184.216.34", Zone.PUBLIC), ("2606:2800:220:1::1", Zone.PUBLIC),
    ],
)  # fmt: skip
def test_zones(address: str, zone: Zone) -> None:
    assert zone_of(address) is zone


@pytest.fixture
def far_away(monkeypatch: pytest.MonkeyPatch) -> None:
    """Let the loopback address of tests count as public, except under the name localhost."""
    known = {"localhost": ["127.0.0.2"], "both.example": ["127.0.0.1", "127.0.0.2"], "inside.example": ["10.0.0.1"]}
    monkeypatch.setattr(reach, "look_up", lambda host, port: known.get(host, ["127.0.0.1"]))
    monkeypatch.setattr(reach, "zone_of", lambda ip: Zone.PUBLIC if ip == "127.0.0.1" else zone_of(ip))


@pytest.mark.usefixtures("far_away")
@pytest.mark.parametrize("host", ["localhost", "both.example", "inside.example"])
@pytest.mark.parametrize("way", ["link", "redirect", "import", "frame", "page"])
def test_a_public_page_reaches_nothing_nearer(site: Site, host: str, way: str) -> None:
    port = site.address.rpartition(":")[2]
    near = f"http://{host}:{port}/secret.css"
    site.answers = {
        "/secret.css": css("p{display:none}"),
        "/link": html(SHEETS.format(near)),
        "/redirect": html(SHEETS.format("to.css")),
        "/import": html(SHEETS.format("im.css")),
        "/frame": html(f"<iframe src={near}></iframe><iframe src=to.css></iframe>"),
        "/to.css": moved(near),
        "/im.css": css(f"@import '{near}';"),
        "/page": moved(near),
    }
    if way == "page":
        with pytest.raises(PageError, match="was not fetched: it leads to"):
            open_document(f"{site.address}/page")
    else:
        document = open_document(f"{site.address}/{way}").document
        assert problems_of(document)
    assert "/secret.css" not in site.paths


def test_a_page_on_this_machine_reaches_this_machine(site: Site) -> None:
    with serving() as other:
        site.answers = {"/page": html(SHEETS.format(f"{other.address}/a.css"))}
        other.answers = {"/a.css": css("p{display:none}")}
        assert display(open_document(f"{site.address}/page"))["p"] == "none"


def test_sheets_and_frames_of_a_page_from_the_web(site: Site) -> None:
    with serving() as other:
        site.answers = {
            "/page": html(
                "<link rel=stylesheet href=a.css><link rel=stylesheet href=gone.css><link rel=stylesheet href=not.css>"
                "<link rel=stylesheet href=print.css media=print><p>x<b>y</b><i>z</i>"
                f"<iframe src=/frame></iframe><iframe src={other.address}/page></iframe>"
            ),
            "/a.css": css("/* @import 'never.css'; */ @import url(b.css); p{display:none}"),
            "/b.css": css("@import 'c.css'; b{display:block}"),
            "/c.css": css("i{display:grid}"),
            "/not.css": html("i{display:none}"),
            "/frame": html("<h1>Inside</h1><link rel=stylesheet href=c.css><i>q</i>"),
        }
        page = open_document(f"{site.address}/page")
        assert sorted(site.paths) == sorted(["/page", "/a.css", "/b.css", "/c.css", "/gone.css", "/not.css", "/frame"])
        assert other.paths == []
    shown = display(page)
    assert (shown["p"], shown["b"], shown["i"], shown["h1"]) == ("none", "block", "grid", "block")
    assert [problem.partition(" was not read: ")[2] for problem in problems_of(page.document)] == [
        "its server refused: 404 Not Found.",
        "it is not text/css but text/html.",
        "frames of other origins are not; open it as a page of its own.",
    ]


def test_nothing_beside_the_page_is_fetched_offline(site: Site) -> None:
    site.answers = {"/page": html(SHEETS.format("a.css"))}
    document = open_document(f"{site.address}/page", Setup(is_offline=True)).document
    assert site.paths == ["/page"]
    assert problems_of(document) == [
        "The style sheet a.css was not read: nothing beside the page is fetched with --offline."
    ]


def test_all_that_belongs_to_a_page_has_one_deadline(site: Site, monkeypatch: pytest.MonkeyPatch) -> None:
    site.answers = {
        "/page": html("<link rel=stylesheet href=/slow>" * 3 + SHEETS.format("a.css")),
        "/a.css": css("p{}"),
    }
    source = fetch(f"{site.address}/page")
    monkeypatch.setattr(source.resources, "_seconds", 0.5)
    source.resources.prepare([f"{site.address}/slow", f"{site.address}/a.css"], ())
    assert source.resources.sheet(f"{site.address}/a.css").text == "p{}"
    with pytest.raises(Exception, match="took longer than"):
        source.resources.sheet(f"{site.address}/slow")


# Files


def test_a_folder_means_its_index(tmp_path: Path) -> None:
    with pytest.raises(PageError, match=r"has no index\.html"):
        fetch(str(tmp_path))
    (tmp_path / "index.htm").write_text("<p>x")
    assert fetch(str(tmp_path)).address == str(tmp_path / "index.htm")


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (None, "There is no file"),
        (b"", "is empty"),
        (b" \n ", "is empty"),
        (b"\x89PNG\x00\x00\x00\x00\x00\x00", "is not a page but an image"),
        (b"\0\1\0\2\0\3\0\4", "is not a page but binary data"),
        (b"<?xml version='1.0'?>\n<!-- <html> --><rss version=2></rss>", "XML with the root element rss"),
        (b"<?xml version='1.0'?><html><title>x</title></html>", ""),
        (b"<svg><title>x</title></svg>", ""),
        (b"BM is no bitmap", ""),
    ],
)
def test_files_that_are_no_page(tmp_path: Path, content: bytes | None, words: str) -> None:
    path = tmp_path / "a\x1b[31m.html"
    if content is not None:
        path.write_bytes(content)
    if not words:
        assert fetch(str(path)).text
        return
    with pytest.raises(PageError, match=words) as caught:
        fetch(str(path))
    assert_one_sentence(caught.value)


@pytest.mark.parametrize(
    "path", ["/dev/null", "~nobody-such/x", "a\0b", "ftp://a.example/x", "about:blank", "data:text/html,x"]
)
def test_odd_paths(path: str) -> None:
    with pytest.raises(PageError) as caught:
        fetch(path)
    assert_one_sentence(caught.value)


def test_a_style_sheet_is_no_page(tmp_path: Path) -> None:
    (tmp_path / "a.css").write_text("p { color: red }")
    with pytest.raises(PageError, match="is not a page but a style sheet"):
        fetch(str(tmp_path / "a.css"))


def test_a_file_that_is_too_large(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(loading, "MAX_BYTES", 2)
    (tmp_path / "a.html").write_text("<p>x")
    with pytest.raises(PageError, match="is larger than"):
        fetch(str(tmp_path / "a.html"))


def test_standard_input(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    (tmp_path / "a.css").write_text("p{display:none}")
    markup = b"<base href=file:///etc/><title>piped</title><link rel=stylesheet href=a.css><p>x"
    monkeypatch.setattr(sys, "stdin", types.SimpleNamespace(buffer=io.BytesIO(markup)))
    document = open_document("-").document
    assert document.title == "piped"
    assert "came from standard input; name the folder it belongs to with --root" in problems_of(document)[0]
    monkeypatch.setattr(
        sys, "stdin", types.SimpleNamespace(buffer=io.BytesIO(markup.replace(b"<base href=file:///etc/>", b"")))
    )
    assert problems_of(open_document("-", Setup(root=tmp_path)).document) == []


def test_a_single_null_does_not_make_a_page_binary(tmp_path: Path) -> None:
    (tmp_path / "a.html").write_bytes(b"<p>a\x00b")
    assert fetch(str(tmp_path / "a.html")).text == "<p>a\x00b"


@pytest.mark.parametrize(
    ("base", "reference", "address"),
    [
        ("https://a.example/b/c.html", "d.html", "https://a.example/b/d.html"),
        ("/srv/a/b.html", "../c.css", "file:///srv/c.css"),
        ("/srv/a/b.html", "https://a.example/", "https://a.example/"),
        ("-", " x.css ", "x.css"),
        ("https://a.example/", "http://[", "http://["),
    ],
)
def test_resolving(base: str, reference: str, address: str) -> None:
    assert resolve(base, reference) == address


@pytest.mark.parametrize(
    ("text", "is_one"),
    [
        ('{"nodes": []}', True),
        (' \n{ "format": 1', True),
        ("{}", True),
        ("{% extends x %}<p>", False),
        ("{# x #}", False),
        ("<p>{", False),
    ],
)
def test_what_is_a_tree(text: str, is_one: bool) -> None:
    assert is_tree(text) is is_one
