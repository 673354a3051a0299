"""Where the link at the cursor leads, and which pages may be opened from which."""

import pytest

from murvel.loading.errors import PageError
from murvel.page.open_page import document_from_text
from murvel.reader.session import ReadingSession
from murvel.tree.build import build_tree
from murvel.work.links import page_behind_link

WEB, FILE = "https://fernhollow.example/plots/index.html", "/home/fern/site/index.html"


def at_link(address: str, href: str) -> ReadingSession:
    session = ReadingSession(build_tree(document_from_text(f"<a href='{href}'>x</a>", address)))
    session.arrive()
    return session


@pytest.mark.parametrize(
    ("address", "href", "leads_to"),
    [
        (WEB, "one.html#top", "https://fernhollow.example/plots/one.html"),
        (WEB, "//other.example/", "https://other.example/"),
        (FILE, "a%20b.html?x#y", "/home/fern/site/a b.html"),
        (FILE, "../rota.html", "/home/fern/rota.html"),
        (FILE, "https://fernhollow.example/", "https://fernhollow.example/"),
    ],
)
def test_a_link_leads_to_a_page(address: str, href: str, leads_to: str) -> None:
    assert page_behind_link(at_link(address, href)) == leads_to


@pytest.mark.parametrize(
    ("address", "href", "problem"),
    [
        (WEB, "file:///etc/passwd", "is no page that can be opened from here"),
        (WEB, "mailto:fern@fernhollow.example", "is no page that can be opened from here"),
        (WEB, "javascript:go()", "is no page that can be opened from here"),
        (FILE, "file://server/share.html", "is no page that can be opened from here"),
        (FILE, "#place", "leads to a place on this page"),
        (WEB, "", "leads to a place on this page"),
    ],
)
def test_what_a_link_does_not_open(address: str, href: str, problem: str) -> None:
    with pytest.raises(PageError, match=problem):
        page_behind_link(at_link(address, href))


def test_where_there_is_no_link() -> None:
    session = ReadingSession(build_tree(document_from_text("<p>x", FILE)))
    session.arrive()
    with pytest.raises(PageError, match="There is no link at the cursor"):
        page_behind_link(session)
