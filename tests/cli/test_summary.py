"""Many pages at once: what they have in common, in each form."""

import csv
import io
import json
from pathlib import Path
from xml.etree import ElementTree

import pytest

from tests.cli.support import murvel

FRAME = "<!DOCTYPE html><html lang=en><title>{0}</title><header><a class='logo' href=/{0}></a></header><main><h1>{0}</h1>{1}</main>"


@pytest.fixture
def site(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    for name, more in (("a", "<img src=p.png>"), ("b", ""), ("c", "<button></button>")):
        (tmp_path / f"{name}.html").write_text(FRAME.format(name, more))
    monkeypatch.chdir(tmp_path)
    return tmp_path


def test_a_table_and_what_is_the_same_end_a_run_over_many_pages(site: Path) -> None:
    lines = murvel("check", ".", "--only", "names", "--only", "images").stdout.splitlines()
    at = lines.index("3 pages checked, 0 not")
    assert lines[at + 1].split() == ["topic", "fail", "need", "ears", "pages"]
    assert lines[at + 2].split() == ["names", "4", "0", "3"]
    assert lines[at + 3].split() == ["images", "1", "0", "1"]
    assert lines[at + 4].split() == ["in", "all", "5", "0"]
    assert lines[at + 6 :] == [
        "     3 on 3 pages: fails Link without a name [link-unnamed]",
        "          first: a.html, line 1: heard: link",
    ]


def test_only_the_summary(site: Path) -> None:
    run = ("check", ".", "--only", "names", "--only", "images", "--summary")
    assert murvel(*run).stdout.startswith("3 pages checked, 0 not\n")
    pages = json.loads(murvel(*run, "--format", "json").stdout)["pages"]
    found = {(lead["check"], lead["times"], lead["on_pages"]) for page in pages for lead in page["leads"]}
    assert found == {("link-unnamed", 3, 3), ("image-unnamed", 1, 1), ("control-unnamed", 1, 1)}
    results = json.loads(murvel(*run, "--format", "sarif").stdout)["runs"][0]["results"]
    assert [each.get("occurrenceCount", 1) for each in results] == [3, 1, 1]
    suites = ElementTree.fromstring(murvel(*run, "--format", "junit").stdout)
    assert any("3 times on 3 pages" in case.get("name", "") for case in suites.iter("testcase"))
    rows = list(csv.DictReader(io.StringIO(murvel(*run, "--format", "csv").stdout)))
    assert {(row["check"], row["times"], row["on_pages"]) for row in rows} == {
        ("link-unnamed", "3", "3"),
        ("image-unnamed", "1", "1"),
        ("control-unnamed", "1", "1"),
    }


def test_the_whole_has_a_summary_in_json(site: Path) -> None:
    data = json.loads(murvel("check", ".", "--only", "names", "--format", "json").stdout)
    assert data["summary"]["topics"] == [{"topic": "names", "fails": 4, "ears": 0, "pages": 3}]
    assert [(same["check"], same["times"], len(same["pages"])) for same in data["summary"]["same"]] == [
        ("link-unnamed", 3, 3)
    ]


CLOSED = """<!DOCTYPE html><html lang=en><title>Plots</title><style>.off{display:none}</style><main><h1>Plots</h1>
<button aria-expanded=false aria-controls=m>Menu</button><ul id=m class=off><li><a href=a></a></ul>
<dialog aria-label=Swap><button></button></dialog><details><summary>Map of the plots</summary><img src=p.png></details>
<div hidden><div style="visibility:hidden"><img src=q.png></div></div><img src=r.png aria-hidden=true></main>"""


def test_what_is_hidden_now_is_judged_on_request(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "a.html").write_text(CLOSED)
    monkeypatch.chdir(tmp_path)
    run = ("check", "a.html", "--only", "names", "--only", "images")
    assert murvel(*run).stdout == "a.html: 0 fail, 0 need ears\n"
    lines = murvel(*run, "--hidden").stdout.splitlines()
    assert [line[10:].strip() for line in lines if "[" in line and "fails" in line] == [
        "fails       Link without a name (hidden now)  [link-unnamed]",
        "fails       Control without a name (hidden now)  [control-unnamed]",
        "fails       Image without a text alternative (hidden now)  [image-unnamed]",
        "fails       Image without a text alternative (hidden now)  [image-unnamed]",
    ]
    leads = json.loads(murvel(*run, "--hidden", "--format", "json").stdout)["pages"][0]["leads"]
    assert [lead["is_hidden_now"] for lead in leads] == [True] * 4
    results = json.loads(murvel(*run, "--hidden", "--format", "sarif").stdout)["runs"][0]["results"]
    assert all(each["properties"] == {"hiddenNow": True} for each in results)
    survey = murvel("survey", "a.html", "links", "--hidden").stdout
    assert "hidden by display: none" in survey
    assert "fails: Link without a name: hidden now [link-unnamed]" in survey
