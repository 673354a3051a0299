"""The commands on a page in a browser, and what they say if there is none."""

import json
from pathlib import Path

import pytest

from murvel.browser import launch
from murvel.browser.open_in_browser import open_page, opened_tree
from murvel.loading.problems import ProblemKind
from murvel.loading.setup import BrowserSetup, Setup
from murvel.tree.exchange.write import to_text
from tests.cli.support import murvel

has_browser = pytest.mark.skipif(launch.find_chromium() is None, reason="Chromium is not installed")

PAGE = """<!DOCTYPE html><html lang=en><title>Beds</title><body><div id=app></div><script>
setTimeout(() => app.innerHTML = `<main><h1>Beds</h1><p>${innerWidth < 500 ? "narrow" : "wide"} ${matchMedia("(prefers-color-scheme: dark)").matches}</main>`, 100);
</script>"""


@pytest.fixture
def page(tmp_path: Path) -> str:
    (tmp_path / "site").mkdir()
    (tmp_path / "site" / "beds.html").write_text(PAGE)
    return str(tmp_path / "site" / "beds.html")


@has_browser
@pytest.mark.thorough
@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["read"], "main, Beds, heading level 1"),
        (["read", "--width", "320"], "narrow false"),
        (["read", "--zoom", "400"], "narrow false"),
        (["read", "--prefer", "dark"], "wide true"),
        (["read", "--wait-for", "text=wide"], "wide false"),
        (["tree"], 'heading "Beds" level=1'),
        (["tree", "--compare-browser"], "0 differences among"),
        (["survey"], "headings: 1 open"),
        (["listen"], "(the focus left the page: there is no further tab stop)"),
    ],
)
def test_commands(arguments: list[str], words: str, page: str, tmp_path: Path) -> None:
    done = murvel(*arguments, "--browser", page, stdin="tab\nquit\n", home=tmp_path)
    assert words in done.stdout, done.stderr
    assert "made by scripts" not in done.stderr


@has_browser
@pytest.mark.thorough
def test_captures_of_several_widths(page: str, tmp_path: Path) -> None:
    kept = tmp_path / "kept"
    assert murvel("capture", page, "--width", "1280", "--width", "320", "-o", str(kept), home=tmp_path).returncode == 0
    wide, narrow = sorted(kept.iterdir())
    assert json.loads(wide.read_text())["format"] == "murvel-capture"
    assert "wide" in murvel("read", str(wide), home=tmp_path).stdout
    assert "narrow" in murvel("read", str(narrow), home=tmp_path).stdout
    assert murvel("check", str(narrow), home=tmp_path).returncode in (0, 1)
    assert "Beds" in murvel("explain", str(wide), "h1", home=tmp_path).stdout


@pytest.mark.parametrize(
    "damage", ["[", '"nodes":[[1,0,"html",0,[],9,0]]', '"nodes":[[1]]', '"nodes":5', '"version":2']
)
def test_a_damaged_capture_is_told(damage: str, tmp_path: Path) -> None:
    text = '{"format":"murvel-capture","version":1,"address":"x","nodes":[]' + f",{damage}" + "}"
    (tmp_path / "kept.json").write_text(text)
    done = murvel("read", str(tmp_path / "kept.json"), home=tmp_path)
    assert done.returncode == 2
    assert done.stderr.startswith("murvel: ")
    assert done.stderr.count("\n") == 1


def test_without_a_browser_the_page_is_opened_all_the_same(page: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(launch, "_running", {})
    monkeypatch.setattr(launch, "find_chromium", lambda program=None: None)
    setup = Setup(browser=BrowserSetup())
    problems = [each for each in open_page(page, setup).tree.document.problems if each.kind is ProblemKind.BROWSER]
    assert [each.text for each in problems] == [
        "The page is opened without its scripts: No Chromium was found; install your system's chromium package."
    ]
    with opened_tree(page, setup) as tree:
        assert next(iter(to_text(tree))) == 'document "Beds"'


@has_browser
@pytest.mark.thorough
def test_a_casebook_keeps_what_the_browser_had(page: str, tmp_path: Path) -> None:
    book = tmp_path / "book.murvel"
    command = ("listen", "--browser", page, "--casebook", str(book))
    assert murvel(*command, stdin="document\nquit\n", home=tmp_path).returncode == 0
    kept = murvel("takes", str(book), "1", "--part", "capture", home=tmp_path)
    (tmp_path / "capture.json").write_text(kept.stdout)
    assert "wide" in murvel("read", str(tmp_path / "capture.json"), home=tmp_path).stdout


def test_a_take_without_a_browser_has_no_capture(page: str, tmp_path: Path) -> None:
    book = tmp_path / "book.murvel"
    assert murvel("listen", page, "--casebook", str(book), stdin="quit\n", home=tmp_path).returncode == 0
    kept = murvel("takes", str(book), "1", "--part", "capture", home=tmp_path)
    assert (kept.returncode, kept.stdout) == (2, "")
    assert "not opened in a browser" in kept.stderr
