"""The line mode, the voices and the charts, as a shell runs them."""

from pathlib import Path
from xml.etree import ElementTree

import pytest

from murvel.reader.moves.reach import Strategy, Ways, important, stretches
from tests.cli.support import assert_error, murvel
from tests.support import DEMO, session_of

WAITING = str(DEMO / "repaired" / "waiting.html")


def dialogue(tmp_path: Path, page: str, *lines: str) -> list[str]:
    result = murvel(
        "listen", page, "--casebook", str(tmp_path / "b.murvel"), stdin="\n".join(lines) + "\n", home=tmp_path
    )
    assert result.returncode == 0
    assert result.stderr == ""
    assert "\x1b" not in result.stdout
    return result.stdout.splitlines()


def test_a_page_is_worked_line_by_line(tmp_path: Path) -> None:
    lines = dialogue(tmp_path, WAITING, "find Send", "activate", "type Fern", "timeline", "quit", "next")
    assert lines[:2] == [
        "Join the waiting list, Fernhollow Allotments, page, 4 landmarks, 1 heading, 5 links, 7 fields",
        "Skip to the content, link",
    ]
    assert lines[2] == "main, Send, button (1 of 1)"
    assert "Two fields need your attention: name and email address." in lines
    assert any("type n: n (" in line for line in lines)
    assert not any("collapsed" in line for line in lines)


def test_a_defect_is_documented_question_by_question(tmp_path: Path) -> None:
    lines = dialogue(
        tmp_path,
        WAITING,
        "jump fields",
        "document",
        "Your name",
        "terrible",
        "slows",
        "2.4.6",
        "",
        "Nameless",
        "defects",
        "document",
        ".",
    )
    assert "It is one of: blocks, hinders, slows, irritates, not rated." in lines
    assert "Defect 1 is kept in b.murvel." in lines
    assert (
        "1. Nameless (open): heard main, group About you, Name (required), text box, required, should be Your name"
        in lines
    )
    assert lines[-1] == "Nothing was documented."


@pytest.mark.parametrize(
    ("typed", "answer"),
    [
        ("", "Skip to the content"),
        ("fly", "There is no command 'fly'"),
        ("jump hedings", "did you mean 'headings'?"),
        ("wait long", "Waiting takes a number of seconds"),
        ("voice spare", "(voice spare)\nSkip to the content, link"),
        ("voice loud", "There is no voice 'loud'"),
        ("said as", "role first: link, Skip to the content"),
        ("why", "role         link, from the element a in its context"),
        ("help", "past: go past the end of the container"),
        ("history", "1. open page: Join the waiting list"),
        ("read on", "content information"),
    ],
)
def test_single_lines(tmp_path: Path, typed: str, answer: str) -> None:
    assert answer in "\n".join(dialogue(tmp_path, WAITING, typed))


def test_the_found_filter_is_silent_and_the_repaired_one_speaks(tmp_path: Path) -> None:
    found = dialogue(
        tmp_path, str(DEMO / "found" / "plots.html"), "jump images", *["next"] * 9, "find Apply", "timeline"
    )
    assert not any("2 plots found" in line for line in found)
    lines = dialogue(tmp_path, str(DEMO / "repaired" / "plots.html"), "jump buttons", "activate", "wait 1")
    assert lines[-1] == "2 plots found"


def test_the_voices(tmp_path: Path) -> None:
    result = murvel("voices", home=tmp_path)
    assert [line.split("  ")[0] for line in result.stdout.splitlines()[:4]] == [
        "name first",
        "role first",
        "spare",
        "full",
    ]
    assert 'order = ["name", "role", "value", "states"]' in murvel("voices", "spare").stdout
    assert_error(murvel("voices", "loud", home=tmp_path), "There is no voice 'loud'")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("name = ", "is no TOML"),
        ("about = 'x'", "name: field required"),
        ("name = 'm'\nspeed = 3", "speed is no key; there are: name"),
        ("name = 'm'\nrate = 5", "rate: input should be greater"),
        ("name = 'm'\norder = ['name', 'colour']", "order.1: input should be"),
        ("name = 'm'\nbased_on = 'none'", "there is only: name first"),
    ],
)
def test_what_is_wrong_with_a_voice(tmp_path: Path, text: str, said: str) -> None:
    path = tmp_path / "mine.toml"
    path.write_text(text)
    assert_error(murvel("voices", str(path)), said)


def test_a_voice_of_ones_own(tmp_path: Path) -> None:
    path = tmp_path / "mine.toml"
    path.write_text('name = "mine"\nbased_on = "spare"\norder = ["role", "name"]\npunctuation = "all"\nrate = 200\n')
    result = murvel("read", "-", "--voice", str(path), stdin="<button>Go!</button>")
    assert result.stdout.splitlines()[-1].split() == ["0:00", "button,", "Go", "exclamation", "mark"]


def test_the_cost_to_reach_as_text_and_drawn(tmp_path: Path) -> None:
    lines = murvel("chart", "reach", WAITING).stdout.splitlines()
    assert any("Name (required), text box, required" in line for line in lines)
    assert lines[-1] == "Longest stretch without a heading: 52 s."
    drawing = tmp_path / "reach.svg"
    assert murvel("chart", "reach", WAITING, "-o", str(drawing)).returncode == 0
    root = ElementTree.parse(drawing).getroot()
    assert root.get("role") == "img"
    assert [child.tag.partition("}")[2] for child in root][:2] == ["title", "desc"]
    assert "Email address (required)" in (root[1].text or "")
    assert murvel("chart", "reach", WAITING, "-o", str(tmp_path / "reach.pdf")).returncode == 0
    assert (tmp_path / "reach.pdf").read_bytes().startswith(b"%PDF")
    assert_error(murvel("chart", "reach", WAITING, "-o", str(tmp_path / "reach.png")), "an .svg or a .pdf file")


def test_the_timeline_after_moves(tmp_path: Path) -> None:
    moves = ["--do", "find Send", "--do", "activate", "--do", "wait 2"]
    lines = murvel("chart", "timeline", WAITING, *moves).stdout.splitlines()
    assert lines[2] == "0.0 s: find “Send”: main, Send, button (spoken, spoken 0.0 to 1.4)"
    assert any("never announced, it is in no live region" in line for line in lines)
    drawing = tmp_path / "timeline.svg"
    assert murvel("chart", "timeline", WAITING, *moves, "-o", str(drawing)).returncode == 0
    assert "Two fields need your attention" in drawing.read_text()
    assert_error(murvel("chart", "timeline", WAITING, "--do", "dance"), "There is no command 'dance'")


def test_text_of_a_page_is_only_text_in_a_drawing(tmp_path: Path) -> None:
    page = tmp_path / "p.html"
    page.write_text("<title>$\\frac{1}{0}$ </title><h1>&lt;script&gt; $x_{ &amp; \x1b[31m</h1>")
    drawing = tmp_path / "d.svg"
    assert murvel("chart", "reach", str(page), "-o", str(drawing)).returncode == 0
    assert "<script" not in drawing.read_text()
    ElementTree.parse(drawing)


MARKUP = (
    "<a href=#m>Skip</a><nav><a href=#>a</a><a href=#>b</a><a href=#>c</a></nav><main id=m><p>x<h1>T</h1><p>y"
    "<input aria-label=F></main>"
)


def test_each_strategy_is_counted_in_presses_and_seconds() -> None:
    session = session_of(MARKUP)
    field = next(node for node in important(session) if node.role == "textbox")
    costs = Ways(session).to(field).costs
    assert {strategy: cost.presses for strategy, cost in costs.items()} == {
        Strategy.READING: 5,
        Strategy.TAB: 5,
        Strategy.HEADINGS: 3,
        Strategy.LANDMARKS: 5,
        Strategy.SKIP_LINK: 5,
    }
    assert costs[Strategy.READING].seconds == pytest.approx(session.spoken.start(5))
    best = Ways(session).to(field).best
    assert best is not None
    assert best[0] is Strategy.HEADINGS
    assert sorted({node.role for node in important(session)}) == ["heading", "link", "main", "textbox"]


def test_long_stretches() -> None:
    session = session_of(MARKUP)
    found = stretches(session)
    assert found.links_before_main == 4
    assert found.without_heading == pytest.approx(session.spoken.start(3))
    assert stretches(session_of("")).links_before_main == 0


def test_the_survey_is_judged_and_documented_line_by_line(tmp_path: Path) -> None:
    typed = (
        "survey fields\njudge fields 2 fail says nothing\nentry fields 2\nsurvey songs\njudge fields 99 pass\n"
        "judge fields 1 maybe\ndocument fields 2\n\n\n\n\n\ndefects\nkeyboard\nquit\n"
    )
    lines = murvel("listen", str(DEMO / "found" / "index.html"), stdin=typed, home=tmp_path).stdout.splitlines()
    text = "\n".join(lines)
    assert "fields and buttons: 1 fail, 4 open" in lines
    assert "note: says nothing" in lines
    assert "fails: Control without a name" in text
    assert "There is no list 'songs'" in text
    assert "fields has entries from 1 to 5; name one of these." in lines
    assert "A verdict is one of: pass, fail, context, open." in lines
    assert "1. Control without a name (open): heard button, should be what it does, then “button”" in lines
    assert "21 stops; no main content; no skip link" in lines


def test_the_same_fault_in_all_places_is_one_defect(tmp_path: Path) -> None:
    page = tmp_path / "gate.html"
    page.write_text("<html lang=en><title>Gate</title><h1>Gate</h1><img src=a.png><img src=b.png><p>or<img src=c.png>")
    answers = [""] * 5
    lines = dialogue(tmp_path, str(page), "document images 2 all", *answers, "document images 1 all", ".", "defect 1")
    places = [line for line in lines if line.startswith("also at: ")]
    assert len(places) == 2 + 2
    assert "Defect 1 is kept in b.murvel." in lines
    assert places[:2] == places[2:]
    assert places[0] == "also at: image without a name, line 1, column 47"


def test_defects_are_listed_changed_tried_and_re_tested_line_by_line(tmp_path: Path) -> None:
    page = tmp_path / "gate.html"
    page.write_text("<html lang=en><title>Gate</title><h1>Gate</h1><button></button><img src=a.png>")
    repaired = tmp_path / "new.html"
    repaired.write_text(page.read_text().replace("</button>", "Open the gate</button>"))
    lines = dialogue(
        tmp_path, str(page), "survey fields", "document fields 1", "", "", "", "", "", "document images 1", "", "", "", "", "",
        "tag 1,2 gate", "status 1 repaired", "edit 2 impact slows", "edit 2 impct x", "edit 1 stopped nobody", f"attach 1 {repaired}", "attach 1", "defects by status gate", "defects by colour",
        "defect 1", "steps 1", f"retest {repaired}", "retest accept", "retest accept", "defect 9", "delete 2", "undo", "undo",
    )  # fmt: skip
    text = "\n".join(lines)
    assert "Defects 1, 2 are tagged gate." in lines
    assert "There is no field 'impct'; did you mean 'impact'?" in lines
    assert {"who is stopped: nobody", "It is attached to defect 1.", "Name a file: attach N FILE."} <= set(lines)
    assert "attached: defect-1-attachment-1.txt, new.html" in lines
    assert text.index("\nopen\n2. ") < text.index("\nrepaired\n1. ")
    assert "2 documented." in lines
    assert "There is no order 'colour'" in text
    assert "repaired when:     not noticed: control-unnamed" in lines
    assert any(line.startswith("1 of 1 fail now, as they should: still noticed") for line in lines)
    assert "    confirmed: it is not noticed any more" in lines
    assert lines[-6:] == [
        "Defect 1 is confirmed.",
        "Nothing was re-tested yet.",
        "There is no defect '9'; defects lists them.",
        "Defect 2 is deleted.",
        "Taken back: deleting defect 2.",
        "Taken back: re-testing defect 1.",
    ]
