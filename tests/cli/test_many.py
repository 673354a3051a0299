"""The trees of many pages at once."""

import json
from pathlib import Path

import pytest

from tests.cli.support import READ_FROM, assert_error, murvel
from tests.support import DEMO


def test_folders_keep_their_layout_and_bad_pages_do_not_end_the_run(tmp_path: Path) -> None:
    site, out = tmp_path / "site", tmp_path / "out"
    (site / "sub" / "deep").mkdir(parents=True)
    (site / "a.html").write_text("<title>A</title>")
    (site / "sub" / "deep" / "b.HTM").write_text("<title>B</title>")
    (site / "sub" / "empty.html").write_text("")
    (site / "note.txt").write_text("no page")
    (site / "loop").symlink_to(site)
    result = murvel(
        "tree", str(site), str(DEMO / "found" / "index.html"), str(DEMO / "repaired" / "index.html"), "-o", str(out)
    )
    assert result.returncode == 2
    assert [READ_FROM in line for line in result.stderr.splitlines()] == [False, True, True]
    assert "empty.html is empty" in result.stderr
    found = sorted(str(path.relative_to(out)) for path in out.rglob("*") if path.is_file())
    assert found == ["a.html.json", "index.html.2.json", "index.html.json", "sub/deep/b.HTM.json"]
    assert json.loads((out / "a.html.json").read_text())["title"] == "A"


def test_all_well_is_exit_status_0(tmp_path: Path) -> None:
    assert murvel("tree", str(DEMO / "found"), "-o", str(tmp_path)).returncode == 0
    assert {path.name for path in tmp_path.iterdir()} == {
        f"{path.name}.json" for path in (DEMO / "found").glob("*.html")
    }


@pytest.mark.parametrize("arguments", [["a.html", "b.html"], []])
def test_several_pages_need_a_folder(arguments: list[str]) -> None:
    assert_error(murvel("tree", *arguments), "-o" if arguments else "Missing argument")


def test_a_folder_without_pages_and_one_that_cannot_be_written(tmp_path: Path) -> None:
    (tmp_path / "empty").mkdir()
    assert_error(murvel("tree", str(tmp_path / "empty"), "-o", str(tmp_path / "out")), "no page among")
    (tmp_path / "file").write_text("x")
    assert_error(murvel("tree", str(DEMO / "found" / "index.html"), "-o", str(tmp_path / "file")), "cannot be written")


def test_the_command_that_explains() -> None:
    result = murvel("explain", str(DEMO / "found" / "index.html"), "a.skip, #email")
    assert result.returncode == 0
    assert "exposed      no: display: none on a by ../site.css:19" in result.stdout
    assert "name         none" in result.stdout
    assert_error(murvel("explain", str(DEMO / "found" / "index.html"), "zz["), "no selector")
