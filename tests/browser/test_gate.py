"""What a page in a browser may ask for."""

import asyncio
import base64
from dataclasses import replace
from pathlib import Path

import pytest

from murvel.browser import gate
from murvel.browser.gate import Answer, Gate, RefusedError, Request
from murvel.loading import reach
from murvel.loading.errors import PageError
from murvel.loading.reach import Zone
from murvel.loading.setup import Setup
from tests.loading.web import html, moved, serving

ADDRESSES = {
    "127.0.0.1": "127.0.0.1",
    "far.example": "93.184.215.14",
    "near.example": "10.0.0.7",
    "localhost": "127.0.0.1",
}


@pytest.fixture(autouse=True)
def names(monkeypatch: pytest.MonkeyPatch) -> None:
    def look_up(host: str, port: int) -> list[str]:
        if host not in ADDRESSES:
            raise OSError
        return [ADDRESSES[host]]

    for module in (gate, reach):
        monkeypatch.setattr(module, "look_up", look_up)


@pytest.fixture
def site(tmp_path: Path) -> Path:
    (tmp_path / "site" / "sub").mkdir(parents=True)
    (tmp_path / "secret.txt").write_text("secret")
    (tmp_path / "site" / "page one.html").write_text("<p>x")
    (tmp_path / "site" / "app.mjs").write_text("1")
    (tmp_path / "site" / "out").symlink_to(tmp_path / "secret.txt")
    return tmp_path / "site"


def answer(page: Gate, address: str, *, is_page: bool = False) -> Answer | str | None:
    page = replace(page, reach=page.reach.again(page.reach.zone or Zone.PUBLIC))  # each call has a loop of its own
    page.reach._resolved = {}
    try:
        return asyncio.run(page.answer(Request(address, is_page=is_page, is_document=is_page)))
    except RefusedError as error:
        return str(error)


def text(found: Answer | str | None) -> str:
    assert isinstance(found, Answer)
    return base64.b64decode(found.body).decode()


def test_a_page_on_disk_has_an_address_of_its_own(site: Path) -> None:
    page = Gate.of(str(site / "page one.html"), Setup(root=site))
    assert page.address == "https://page.invalid/page%20one.html"
    assert text(answer(page, page.address, is_page=True)) == "<p>x"
    script = answer(page, "https://page.invalid/app.mjs?v=1")
    assert isinstance(script, Answer)
    assert ("Content-Type", "text/javascript") in script.headers
    assert page.own_address(page.address + "?a=1#b") == f"{site}/page one.html?a=1#b"
    assert page.own_address("https://far.example/") == "https://far.example/"


@pytest.mark.parametrize("path", ["%2e%2e/secret.txt", "out", "sub/../../secret.txt", "%00"])
def test_it_sees_no_file_outside_of_its_folder(site: Path, path: str) -> None:
    page = Gate.of(str(site / "page one.html"), Setup(root=site))
    found = answer(page, f"https://page.invalid/{path}")
    assert isinstance(found, str) or (found is not None and found.status == 404)


@pytest.mark.parametrize(
    ("address", "refused"),
    [
        ("https://far.example/a.js", ""),
        ("data:text/css,", ""),
        ("http://near.example/", "private network"),
        ("http://localhost:80/", "this machine"),
        ("http://127.0.0.1/", "this machine"),
        ("http://gone.example/", "not known"),
        ("file:///etc/passwd", "only http"),
        ("ftp://far.example/", "only http"),
        ("chrome://version", "only http"),
    ],
)
def test_what_a_page_on_disk_asks_of_the_network(site: Path, address: str, refused: str) -> None:
    found = answer(Gate.of(str(site / "page one.html"), Setup(root=site)), address)
    assert found is None if not refused else refused in str(found)


@pytest.mark.parametrize(
    ("page", "asked", "is_let"),
    [
        ("https://far.example/", "https://far.example/x", True),
        ("https://far.example/", "http://near.example/x", False),
        ("https://far.example/", "http://localhost/x", False),
        ("http://near.example/", "http://near.example/x", True),
        ("http://near.example/", "http://localhost/x", False),
        ("http://localhost/", "http://near.example/x", True),
        ("http://localhost/", "https://far.example/x", True),
    ],
)
def test_a_page_reaches_no_machine_nearer_than_its_own(page: str, asked: str, is_let: bool) -> None:
    opened = Gate.of(page, Setup())
    assert answer(opened, page, is_page=True) is None
    assert (answer(opened, asked) is None) is is_let
    assert (answer(opened, asked, is_page=True) is None) is is_let  # nor does it lead there


def test_nothing_is_fetched_offline_but_the_page_by_ourselves() -> None:
    with serving() as server:
        server.answers = {"/": moved("/page"), "/page": html("<p>here")}
        page = Gate.of(f"{server.address}/", Setup(is_offline=True))

        async def asked() -> list[Answer | str | None]:
            found: list[Answer | str | None] = []
            for path, is_page in (("/a.css", False), ("/", True), ("/page", True), ("/page", True), ("/a.js", False)):
                try:
                    found.append(await page.answer(Request(server.address + path, is_page, is_document=is_page)))
                except RefusedError as error:
                    found.append(str(error))
            return found

        before, redirect, arrived, again, after = asyncio.run(asked())
        assert isinstance(redirect, Answer)
        assert redirect.status == 302
        assert text(arrived) == "<p>here"
        assert all("--offline" in str(each) for each in (before, again, after))
        assert server.paths == ["/", "/page"]


def test_a_page_reaches_no_nearer_than_the_furthest_it_came_by() -> None:
    page = Gate.of("http://localhost/", Setup())

    async def asked() -> list[str]:
        wanted = [
            Request("http://localhost/api", frame="a"),
            Request("https://far.example/frame", frame="b", is_document=True),
            Request("http://localhost/api", frame="b"),  # a frame from far away asks
            Request("https://far.example/on", frame="a", chain="1"),
            Request("http://localhost/api", frame="a", chain="2", before="1"),  # redirected from far away
            Request("http://localhost/api", frame="a"),
            Request("https://far.example/", frame="a", is_page=True, is_document=True),
            Request("http://localhost/api", frame="a"),  # another page has come
        ]
        found = []
        for each in wanted:
            try:
                await page.answer(each)
            except RefusedError:
                found.append("refused")
            else:
                found.append("let through")
        return found

    let, refused = "let through", "refused"
    assert asyncio.run(asked()) == [let, let, refused, let, refused, let, let, refused]


def test_headers_go_to_the_page_s_own_server() -> None:
    page = Gate.of("https://jo:pw@far.example/", Setup(headers=(("X-Key", "1"),)))
    assert page.address == "https://far.example/"
    own = {name.lower(): value for name, value in page.headers_for("https://far.example/a")}
    assert own["x-key"] == "1"
    assert own["authorization"].startswith("Basic ")
    other = {name.lower() for name, _ in page.headers_for("https://near.example/")}
    assert not other & {"x-key", "authorization", "host"}


def test_what_is_no_page_is_told_as_ever(tmp_path: Path) -> None:
    with pytest.raises(PageError, match="There is no file"):
        Gate.of(str(tmp_path / "gone.html"), Setup())
