"""Checks as a shell runs them: forms of output, exit status, configuration, known leads, many pages."""

import csv
import json
from pathlib import Path
from xml.etree import ElementTree

import pytest

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.check import Topic
from tests.cli.support import assert_error, murvel
from tests.support import DEMO

FOUND, REPAIRED = str(DEMO / "found"), str(DEMO / "repaired")
MARKUP = "<!DOCTYPE html><html lang=en><title>T</title><p>a</p>\n<button></button>\n<a href=x.html>=1+1</a><h2>\x1b[31mx</h2>"


@pytest.fixture
def page(tmp_path: Path) -> str:
    path = tmp_path / "p.html"
    path.write_text(MARKUP)
    return str(path)


def test_what_a_lead_says(page: str) -> None:
    result = murvel("check", page, "--only", "control-unnamed")
    assert result.returncode == 1
    lines = result.stdout.splitlines()
    assert lines[0] == f"{page}: 1 fail, 0 need ears"
    assert lines[1] == "     2:1  fails       Control without a name  [control-unnamed]"
    assert lines[2] == "          heard: button"
    assert lines[5] == "          then: first; jump buttons -> what it does, then “button”"
    assert lines[6].endswith("4.1.2 Name, Role, Value (A)")


@pytest.mark.parametrize("path", sorted((DEMO / "repaired").glob("*.*")), ids=lambda path: path.name)
def test_nothing_fails_on_the_repaired_demo(path: Path) -> None:
    if path.suffix not in (".js", ".yaml"):
        assert murvel("check", str(path)).returncode == 0


@pytest.mark.parametrize(
    ("arguments", "status"),
    [
        ([], 1),
        (["--fail-on", "none"], 0),
        (["--only", "level-1-missing"], 0),
        (["--only", "level-1-missing", "--fail-on", "needs-ears"], 1),
        (["--skip", "names"], 0),
        (["--only", "link-opens-window", "--level", "AA", "--fail-on", "needs-ears"], 0),
    ],
)
def test_exit_status(page: str, arguments: list[str], status: int) -> None:
    assert murvel("check", page, *arguments).returncode == status


def test_json(page: str) -> None:
    result = murvel("check", page, "--format", "json")
    data = json.loads(result.stdout)
    assert result.stdout.isascii()
    assert (data["format"], data["version"]) == ("murvel-leads", 1)
    lead = next(each for each in data["pages"][0]["leads"] if each["check"] == "control-unnamed")
    assert (lead["line"], lead["column"], lead["xpath"]) == (2, 1, "/html[1]/body[1]/button[1]")
    assert lead["moves"] == ["first", "jump buttons"]
    assert lead["criteria"] == ["4.1.2"]


def test_sarif(page: str) -> None:
    run = json.loads(murvel("check", page, "--format", "sarif").stdout)["runs"][0]
    assert run["tool"]["driver"]["name"] == "Murvel"
    for result in run["results"]:
        assert run["tool"]["driver"]["rules"][result["ruleIndex"]]["id"] == result["ruleId"]
    first = next(each for each in run["results"] if each["ruleId"] == "control-unnamed")
    assert first["level"] == "error"
    assert first["locations"][0]["physicalLocation"]["region"] == {"startLine": 2, "startColumn": 1}


def test_junit(page: str) -> None:
    root = ElementTree.fromstring(murvel("check", page, "--format", "junit").stdout)
    suite = root[0]
    assert int(suite.attrib["failures"]) == len(suite.findall("*/failure")) == 1
    assert int(suite.attrib["skipped"]) == len(suite.findall("*/skipped"))
    assert int(suite.attrib["tests"]) == len(suite)


def test_csv_holds_no_formula(page: str) -> None:
    text = murvel("check", page, "--format", "csv", "--only", "heading-first-not-1", "--only", "name-is-symbols").stdout
    rows = list(csv.DictReader(text.splitlines()))
    assert all(not value.startswith(("=", "+", "-", "@")) for row in rows for value in row.values())
    assert "\x1b" not in text


def test_many_pages_and_a_bad_one(tmp_path: Path) -> None:
    for name in "abcd":
        (tmp_path / f"{name}.html").write_text(MARKUP)
    (tmp_path / "empty.html").write_text("")
    result = murvel("check", str(tmp_path), "--only", "names", "--format", "json")
    assert result.returncode == 2
    assert "empty.html is empty" in result.stderr
    pages = json.loads(result.stdout)["pages"]
    assert [Path(each["page"]).name for each in pages] == ["a.html", "b.html", "c.html", "d.html", "empty.html"]
    assert [len(each["leads"]) for each in pages] == [1, 1, 1, 1, 0]
    assert pages[-1]["failure"]
    (tmp_path / "none").mkdir()
    assert_error(murvel("check", str(tmp_path / "none")), "There is no page")


def test_known_leads(page: str, tmp_path: Path) -> None:
    known = tmp_path / "known.json"
    assert murvel("check", page, "--write-baseline", str(known)).returncode == 0
    result = murvel("check", page, "--baseline", str(known))
    assert (result.returncode, result.stdout.count("\n")) == (0, 1)
    assert "known" in result.stdout
    Path(page).write_text(MARKUP.replace("<button>", "<p>new</p>\n<button id=new></button><button>"))
    result = murvel("check", page, "--baseline", str(known), "--only", "control-unnamed")
    assert result.stdout.splitlines()[0].endswith("1 fail, 0 need ears, 1 known")
    known.write_text("{}")
    assert_error(murvel("check", page, "--baseline", str(known)), "is no baseline")
    assert_error(murvel("check", page, "--baseline", str(tmp_path / "no")), "--write-baseline")


@pytest.mark.parametrize(
    ("name", "text", "status"),
    [
        ("murvel.toml", 'fail-on = "none"', 0),
        ("pyproject.toml", '[tool.murvel]\nskip = ["names"]', 0),
        ("pyproject.toml", "[tool.other]\nx = 1", 1),
        ("murvel.toml", 'only = ["control-unnamed"]', 1),
    ],
)
def test_configuration(page: str, tmp_path: Path, name: str, text: str, status: int) -> None:
    (tmp_path / name).write_text(text)
    assert murvel("check", page, "--config", str(tmp_path / name)).returncode == status


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('fail_onn = "none"', "fail_onn is no key; did you mean 'fail-on'?"),
        ('level = "B"', "level: "),
        ('skip = ["nams"]', "did you mean 'names'?"),
        ("= 1", "is no TOML"),
    ],
)
def test_configuration_that_is_not_usable(page: str, tmp_path: Path, text: str, said: str) -> None:
    (tmp_path / "murvel.toml").write_text(text)
    assert_error(murvel("check", page, "--config", str(tmp_path / "murvel.toml")), said)


def test_leads_are_written_to_a_file(page: str, tmp_path: Path) -> None:
    assert murvel("check", page, "-o", str(tmp_path / "leads.txt")).returncode == 1
    assert "Control without a name" in (tmp_path / "leads.txt").read_text()
    assert murvel("check", page, "-o", str(tmp_path / "no" / "leads.txt")).returncode == 2


def test_the_list_of_checks() -> None:
    lines = murvel("checks").stdout.splitlines()
    assert len(lines) == len(built_in()) + len(Topic)
    assert "  control-unnamed" in "\n".join(lines)
    assert "WCAG 2.2: 4.1.2 Name, Role, Value (A)" in murvel("checks", "control-unnamed").stdout
    assert_error(murvel("checks", "control-unamed"), "did you mean 'control-unnamed'?")


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        ([], "headings: 6 open; 2 leads"),
        (["headings"], "   2   0:45       Compost has arrived, heading level 4, level 3 missing"),
        (["links"], "link-vague"),
        (["others"], "the page as a whole"),
        (["links", "--which", "with-leads", "--with", "letter"], "shown: with-leads, “letter”; 0 of 17"),
        (["--hidden"], "shown: hidden ones too; 6 of 6"),
    ],
)
def test_the_survey_as_lines(arguments: list[str], words: str) -> None:
    assert words in murvel("survey", str(DEMO / "found" / "index.html"), *arguments).stdout


@pytest.mark.parametrize(
    ("kind", "line"),
    [
        ("path", "21 stops; no main content; no skip link"),
        ("headings", "  0:45       Compost has arrived, heading level 4  (level 3 missing)"),
        ("landmarks", ""),
        ("leads", "names         2 fail    0 need ears  ██"),
    ],
)
def test_charts_of_a_page(kind: str, line: str, tmp_path: Path) -> None:
    page = str(DEMO / "found" / "index.html")
    assert line in murvel("chart", kind, page).stdout.splitlines() or not line
    drawing = tmp_path / f"{kind}.svg"
    for each in (page, str(DEMO / "found" / "rules.html"), str(DEMO / "repaired" / "pocket.json")):
        assert murvel("chart", kind, each, "-o", str(drawing)).returncode == 0
        root = ElementTree.parse(drawing).getroot()
        assert root.get("role") == "img"
        assert root[0].text
        assert root[1].text


def test_a_baseline_holds_however_a_page_is_named(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    site = tmp_path / "site"
    site.mkdir()
    (site / "a.html").write_text("<p><img src=a.png> Ninety plots.")
    monkeypatch.chdir(site)
    murvel("check", "a.html", "--write-baseline", "known.json")
    for name in ("a.html", "./a.html", str(site / "a.html"), "../site/a.html", "."):
        assert murvel("check", name, "--baseline", "known.json").returncode == 0
    monkeypatch.chdir(tmp_path)
    assert murvel("check", "site/a.html", "--baseline", "site/known.json").returncode == 0
    assert murvel("check", "site", "--baseline", str(site / "known.json")).returncode == 0


def test_a_change_elsewhere_makes_nothing_new(tmp_path: Path) -> None:
    page, known = tmp_path / "a.html", str(tmp_path / "known.json")
    words = "Ninety plots on the old mill meadow. " * 40
    before = f"<title>Plots</title><h3>Nothing</h3><h3>One</h3><p>{words * 9}<img src=a.png>"
    page.write_text(before)
    murvel("check", str(page), "--write-baseline", known)
    page.write_text(
        before.replace("Plots", "Plots to let").replace("Ninety", "Ninety-one", 5).replace("<h3>", "<p>New.</p><h3>")
    )
    again = murvel("check", str(page), "--baseline", known, "--fail-on", "needs-ears")
    assert (again.returncode, again.stdout.partition(": ")[2][:23]) == (0, "0 fail, 0 need ears, 4 ")


def test_sarif_says_where_pages_are(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "here").mkdir()
    for name in ("here/a b.html", "c.html"):
        (tmp_path / name).write_text("<p><img src=a.png>")
    monkeypatch.chdir(tmp_path / "here")
    found = murvel(
        "check", "a b.html", str(tmp_path / "here" / "a b.html"), str(tmp_path / "c.html"), "--format", "sarif"
    )
    (run,) = json.loads(found.stdout)["runs"]
    places = [each["locations"][0]["physicalLocation"]["artifactLocation"] for each in run["results"]]
    inside, outside = {"uri": "a%20b.html", "uriBaseId": "RUN"}, {"uri": (tmp_path / "c.html").as_uri()}
    assert [each for at, each in enumerate(places) if each not in places[:at]] == [inside, outside]
    assert set(run["originalUriBaseIds"]) == {"RUN"}
    rules = run["tool"]["driver"]["rules"]
    assert len(rules) == len(built_in())
    assert all(rule["helpUri"].startswith("https://www.w3.org/WAI/WCAG22/Understanding/") for rule in rules)
    for result in run["results"]:
        assert rules[result["ruleIndex"]]["id"] == result["ruleId"]


def test_a_page_at_several_widths(tmp_path: Path) -> None:
    page = tmp_path / "page.html"
    page.write_text(
        "<!DOCTYPE html><html lang=en><title>Beds of the garden</title><h1>Beds</h1>"
        "<style>@media (min-width: 600px) { button { display: none } }</style><button></button>"
    )
    arguments = ("check", str(page), "--width", "1280", "--width", "320", "--only", "control-unnamed")
    done = murvel(*arguments)
    assert done.returncode == 1
    assert f"{page} (1280 pixels wide): 0 fail" in done.stdout
    assert f"{page} (320 pixels wide): 1 fail" in done.stdout
    (run,) = json.loads(murvel(*arguments, "--format", "sarif").stdout)["runs"]
    assert [each["properties"] for each in run["results"]] == [{"width": 320}]
    pages = json.loads(murvel(*arguments, "--format", "json").stdout)["pages"]
    assert [(each["page"], each["width"], len(each["leads"])) for each in pages] == [
        (str(page), 1280, 0),
        (str(page), 320, 1),
    ]
    known = tmp_path / "known.json"
    assert murvel(*arguments, "--write-baseline", str(known)).returncode == 0
    assert murvel(*arguments, "--baseline", str(known)).returncode == 0
    assert murvel("check", str(page), "--width", "320", "--baseline", str(known)).returncode == 1


def test_what_is_gone_from_a_baseline_is_told_and_dropped(tmp_path: Path) -> None:
    page, known = tmp_path / "p.html", str(tmp_path / "known.json")
    frame = "<!DOCTYPE html><html lang=en><title>Plots</title><main><h1>Plots</h1>{}</main>"
    page.write_text(frame.format("<button></button><img src=a.png>"))
    murvel("check", str(page), "--write-baseline", known)
    page.write_text(frame.format("<button></button><a href=x></a>"))
    told = murvel("check", str(page), "--baseline", known, "--fail-on", "none")
    assert told.returncode == 0
    assert "1 lead of the baseline does not occur any more" in told.stderr
    assert "p.html: image-unnamed img" in told.stderr
    assert murvel("check", str(page), "--baseline", known, "--fail-on", "none", "--strict-baseline").returncode == 1
    other = murvel("check", str(page), "--baseline", known, "--only", "control-unnamed")
    assert "not occur" not in other.stderr  # nobody looked for images
    murvel("check", str(page), "--baseline", known, "--write-baseline", known)
    kept = json.loads(Path(known).read_text())["pages"]["p.html"]
    assert [each.partition(" ")[0] for each in kept] == ["control-unnamed"]


def test_what_was_not_judged_is_told_last(tmp_path: Path) -> None:
    page = tmp_path / "p.html"
    page.write_text("<!DOCTYPE html><html lang=en><title>Plots</title><main><h1>Plots</h1><p>Three</main>")
    checked = murvel("check", str(page))
    assert checked.returncode == 0
    assert "checks were not made, as of contrast, targets and focus" in checked.stderr.splitlines()[-1]
    assert murvel("check", str(page), "--only", "names").stderr == ""
