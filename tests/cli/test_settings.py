"""The settings of a project hold for every command that opens pages, and options come before them."""

from pathlib import Path

import pytest

from tests.cli.support import assert_error, murvel

PAGE = (
    "<!DOCTYPE html><html lang=en><title>Beds</title><link rel=stylesheet href=/shared/all.css>"
    "<style>@media (min-width: 600px) { .narrow { display: none } }</style>"
    "<h1>Beds</h1><p class=narrow>Narrow<p class=never>Never</p><a href=a.html>Rota</a>"
)
WALK = "page: pages/p.html\nsteps:\n  - jump links: Rota\n"


@pytest.fixture
def project(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A project whose pages read a style sheet beside their folder, narrow, in a voice that says roles first."""
    (tmp_path / "pages").mkdir()
    (tmp_path / "shared").mkdir()
    (tmp_path / "pages" / "p.html").write_text(PAGE)
    (tmp_path / "shared" / "all.css").write_text(".never { display: none }")
    (tmp_path / "p.walk.yaml").write_text(WALK)
    (tmp_path / "murvel.toml").write_text("root = '.'\nwidth = 400\nvoice = 'role first'\n")
    monkeypatch.chdir(tmp_path)
    return tmp_path


@pytest.mark.parametrize(
    "command",
    [
        ("read",),
        ("tree",),
        ("listen",),
        ("chart", "reach"),
        ("survey", "--format", "json"),
        ("check", "--format", "json"),
    ],
    ids=lambda each: each[0],
)
def test_settings_hold(project: Path, command: tuple[str, ...]) -> None:
    name, *more = command
    before = [more.pop(0)] if name == "chart" else []
    given = [name, *before, "pages/p.html", *more, *(("--casebook", "b.murvel") if name == "listen" else ())]
    held = murvel(*given, stdin="next\nnext\nnext\nnext\n")
    assert "Never" not in held.stdout
    if name in ("read", "tree", "listen"):
        assert "Narrow" in held.stdout
        assert "Narrow" not in murvel(*given, "--width", "1000", stdin="next\nnext\nnext\nnext\n").stdout
    if name in ("read", "listen"):
        assert "link, Rota" in held.stdout


def test_a_voice_that_is_named_comes_first(project: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    assert "link, Rota" in murvel("read", "pages/p.html").stdout
    assert "Rota, link" in murvel("read", "pages/p.html", "--voice", "name first").stdout
    (project / "own.toml").write_text("name = 'own'\nbased_on = 'spare'\n")
    (project / "murvel.toml").write_text("voice = 'own.toml'\n")
    monkeypatch.chdir(project / "pages")
    read = murvel("read", "p.html", "--root", "..").stdout
    assert read.splitlines()[1:] == ["  0:00  Beds, heading level 1", "  0:01  Rota, link"]


def test_a_walk_is_made_in_it(project: Path) -> None:
    walked = murvel("walk", "p.walk.yaml")
    assert walked.returncode == 1
    assert "link, Rota" in walked.stdout
    named = WALK.replace("Rota", '"Rota, link"')
    (project / "p.walk.yaml").write_text(f"voice: name first\n{named}")
    assert murvel("walk", "p.walk.yaml").returncode == 0


@pytest.mark.parametrize(
    ("text", "is_said"),
    [
        ("voice = 'bass'", "There is no voice 'bass'"),
        ("widht = 3", "widht is no key"),
        ("width = 'wide'", "width:"),
        ("width = ", "is no TOML"),
    ],
)
@pytest.mark.parametrize("command", ["read", "check", "survey"])
def test_settings_that_cannot_be_used(project: Path, command: str, text: str, is_said: str) -> None:
    (project / "murvel.toml").write_text(text)
    assert_error(murvel(command, str(project / "pages" / "p.html")), is_said)
