"""Walks: what may be expected, files that are written and read, what is refused with its place, and the command."""

import contextlib
import json
from pathlib import Path
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.checks.engine.catalogue import built_in
from murvel.reader.moves.commands import COMMANDS, command
from murvel.reader.readout.kinds import LISTS
from murvel.walks.errors import WalkError
from murvel.walks.parsing import walk_of
from murvel.walks.replay import kept, replay, updated
from murvel.walks.serialising import walk_text
from murvel.walks.walk import Expectation, Expects, Step, Walk
from tests.cli.support import murvel
from tests.support import Case, case_ids, staged

PAGE = """<title>Beds</title><h1>Plots</h1><a href=a>Rota</a>
<button aria-expanded=false id=w>Water</button><p role=status id=s></p>"""
CUES = """cues:
  - {when: activate, where: "#w", do: [{set: {where: "#w", attribute: aria-expanded, to: "true"}}]}
  - {when: activate, where: "#w", after: 0.5, do: [{text: {where: "#s", to: Water is on}}]}
"""
CASES = Path(__file__).parent / "cases"


@pytest.mark.parametrize("case", case_ids(CASES), ids=lambda case: case.title)
def test_what_is_expected(case: Case) -> None:
    walk = walk_of(f"page: page.html\nsteps:\n{case.markup}", built_in())
    outcome = replay(walk, staged(PAGE, CUES), built_in())
    assert [f"{each.expectation.words} | {each.instead}" for each in outcome.unmet] == case.expected


WORDS = st.text(st.characters(exclude_categories=["Cs", "Cc", "Co", "Cn"]), min_size=1, max_size=20)
SECONDS = st.integers(0, 900).map(lambda tenths: f"{tenths / 10:g} s")
FACTS = st.fixed_dictionaries({"name": WORDS}, optional={"role": WORDS, "state": WORDS})
TEXTS = st.sampled_from([Expects.HEARD, Expects.CONTAINS, Expects.LACKS])
MANY = st.lists(WORDS, min_size=1, max_size=3).map(tuple)
EXPECTED = st.one_of(
    st.builds(Expectation, TEXTS, WORDS),
    st.builds(Expectation, st.sampled_from([Expects.AT, Expects.FOCUS]), FACTS),
    st.builds(Expectation, st.just(Expects.FOCUS), st.just("nothing")),
    st.builds(Expectation, st.just(Expects.ANNOUNCED), st.fixed_dictionaries({"text": WORDS, "within": SECONDS})),
    st.builds(Expectation, st.just(Expects.SILENCE), st.integers(0, 900).map(lambda tenths: tenths / 10)),
    st.builds(Expectation, st.just(Expects.REACHED), FACTS.map(lambda facts: {**facts, "within": "3 stops"})),
    st.builds(Expectation, st.just(Expects.IN_ORDER), MANY),
    st.builds(Expectation, st.just(Expects.NOT_NOTICED), st.sampled_from([check.id for check in built_in()])),
    st.builds(Expectation, st.just(Expects.INCLUDES), MANY, st.sampled_from(LISTS)),
)
MOVES = st.sampled_from([each.words for each in COMMANDS if each.words.islower()] + ["jump links", "wait 2", "find a"])
STEPS = st.one_of(
    st.builds(Step, MOVES, st.lists(EXPECTED, max_size=3).map(tuple)),
    st.builds(Step, st.just(""), st.lists(EXPECTED, min_size=1, max_size=3).map(tuple)),
)
WALKS = st.builds(
    Walk,
    WORDS,
    st.lists(STEPS, min_size=1, max_size=5).map(tuple),
    WORDS,
    st.none() | st.integers(100, 10000),
    st.sampled_from(["", "browser", "built-in"]),
    st.just("") | WORDS,
)


@given(WALKS)
def test_a_walk_reads_back_as_it_was_written(walk: Walk) -> None:
    assert walk_of(walk_text(walk), built_in()) == walk


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("page: a\nsteps:\n  - nxt", "line 3, column 5: There is no command 'nxt'; did you mean 'next'"),
        ("page: a\nsteps:\n  - jmp links", "did you mean 'jump'"),
        ("page: a\nsteps:\n  - jump heading: {heard: x}\n  - back lnks", "line 4, column 5: There is no kind"),
        ("page: a\nsteps:\n  - tab: {herd: x}", "line 3, column 11: Nothing is called 'herd'.*mean 'heard'"),
        ("page: a\nsteps:\n  - expect: {hedings includes: x}", "There is no list 'hedings'; did you mean 'headings'"),
        ("page: a\nstep:\n  - tab", "line 2, column 1: There is nothing called 'step'.*did you mean 'steps'"),
        ("page: a\nsteps: tab", "The steps are no list"),
        ("page: a\nsteps: []", "It has no steps"),
        ("steps: [tab]", "It has no page"),
        ("page: a\npage: b\nsteps: [tab]", "'page' stands twice"),
        ("page: a\nsteps:\n  - expect: {heard matches: '('}", "This is no pattern"),
        ("page: a\nsteps:\n  - expect: {nothing announced for: soon}", "'soon' is no time"),
        ("page: a\nsteps:\n  - expect: {at: {nam: x}}", "did you mean 'name'"),
        ("page: a\nsteps:\n  - expect: {not noticed: control-unamed}", "did you mean .control-unnamed."),
        ("page: a\nsteps:\n  - expect: {reached: {name: x}}", "within stops or seconds"),
        ("page: a\nwidth: wide\nsteps: [tab]", "is no width"),
        ("page: a\nstage: brwser\nsteps: [tab]", "did you mean 'browser'"),
        ("page: a\nmode: focs\nsteps: [tab]", "did you mean 'focus'"),
        ("page: &a x\nsteps: [*a]", "refers to another part"),
        ("page: a\nsteps: " + "[" * 40, "nested too deeply|no YAML"),
        ("page: 'a\nsteps:", "this is no YAML"),
        ("", "is empty"),
    ],
)
def test_what_is_refused_says_where_and_what_is_meant(text: str, words: str) -> None:
    with pytest.raises(WalkError, match=words):
        walk_of(text, built_in())


@given(st.text(max_size=80))
def test_any_text_is_a_walk_or_a_sentence(text: str) -> None:
    with contextlib.suppress(WalkError):
        walk_of(text, built_in())


def test_a_pattern_that_tries_too_many_ways_is_given_up() -> None:
    page = f"<h1>{'a' * 40}</h1>"
    walk = walk_of("page: a\nsteps:\n  - first: {heard matches: '^(a|aa)+$'}", built_in())
    (unmet,) = replay(walk, staged(page), built_in()).unmet
    assert "it tries too many ways" in unmet.instead


@pytest.mark.parametrize(("mode", "then"), [("", "focus"), ("browse", "focus"), ("focus", "browse")])
def test_a_walk_begins_in_the_mode_of_its_head(mode: str, then: str) -> None:
    session = staged(PAGE, CUES)
    replay(walk_of(walk_text(Walk("page.html", (Step("mode"),), mode=mode)), built_in()), session, built_in())
    assert session.mode == then


def test_what_was_done_is_kept_and_made_again() -> None:
    session = staged(PAGE, CUES)
    session.arrive()
    for words in ("next", "tab, 2 times", "space", "wait 1"):
        command(session, words)
    walk = Walk("page.html", tuple(kept(session)))
    assert [each.move for each in walk.steps] == ["next", "tab", "tab", "space", "wait 1"]
    assert replay(walk_of(walk_text(walk), built_in()), staged(PAGE, CUES), built_in()).unmet == []
    assert len(replay(walk, staged("<h1>Other</h1>"), built_in()).unmet) == 4


def test_what_is_heard_now_is_written_in_place() -> None:
    text = "page: a  # ours\nsteps:\n  - first\n  - tab: 'Rotta, link'  # the rota\n  - tab: \"Water\"\n"
    after = updated(text, replay(walk_of(text, built_in()), staged(PAGE, CUES), built_in()))
    assert after == text.replace("'Rotta, link'", '"Rota, link"').replace('"Water"', '"Water, button, collapsed"')
    assert replay(walk_of(after, built_in()), staged(PAGE, CUES), built_in()).unmet == []


def test_the_command(tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(PAGE)
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "well.walk.yaml").write_text("page: ../page.html\nsteps:\n  - jump links: Rota, link\n")
    bad = tmp_path / "in" / "bad.walk.yaml"
    bad.write_text("walk: Bad\npage: ../page.html\nsteps:\n  - jump links: Rot\n")
    told = murvel("walk", str(tmp_path / "in"))
    assert told.returncode == 1
    assert "1 of 2 walks as expected" in told.stdout
    assert "step 1, line 4: jump links\n    expected  heard: Rot\n    instead   Rota, link" in told.stdout
    data = json.loads(murvel("walk", str(tmp_path / "in"), "--format", "json").stdout)
    assert [each["is_met"] for each in data["walks"]] == [False, True]
    suites = ElementTree.fromstring(murvel("walk", str(bad), "--format", "junit").stdout)
    assert [each.get("name") for each in suites.iter("testcase")] == ["Bad"]
    assert suites.find(".//failure") is not None
    updated_run = murvel("walk", str(bad), "--update")
    assert '+  - jump links: "Rota, link"' in updated_run.stdout
    assert murvel("walk", str(bad)).returncode == 0
    (tmp_path / "other.html").write_text("<p>Nothing</p>")
    assert murvel("walk", str(bad), "--page", str(tmp_path / "other.html")).returncode == 1
    bad.write_text("page: gone.html\nsteps: [tab]")
    gone = murvel("walk", str(tmp_path / "in"))
    assert (gone.returncode, "gone.html" in gone.stdout) == (2, True)


WRONG_PAGES = {
    "an error page": "<title>404</title><h1>404 not found</h1><a href=/>Home</a>",
    "an empty page": "<title></title>",
    "a login page": "<title>Sign in</title><h1>Sign in</h1><label>Name <input></label><button>Go</button>",
    "another page": "<title>Rota</title><h1>Rota</h1><p>Rain",
    "the page without its widgets": "<title>Beds</title><h1>Plots</h1>",
}
GUARD = (
    Step("jump buttons", (Expectation(Expects.LACKS, "unnamed"),)),
    Step("jump links", (Expectation(Expects.NOT_NOTICED, "control-unnamed"),)),
    Step("jump buttons"),
)


@pytest.mark.parametrize("markup", WRONG_PAGES.values(), ids=WRONG_PAGES)
def test_a_walk_does_not_pass_on_a_wrong_page(markup: str) -> None:
    outcome = replay(Walk("page.html", GUARD), staged(markup), built_in())
    assert Expects.ARRIVES in {each.expectation.expects for each in outcome.unmet}


def test_what_does_not_arrive_says_what_there_is() -> None:
    (unmet,) = replay(Walk("page.html", (Step("jump links, 2 times"),)), staged(PAGE, CUES), built_in()).unmet
    assert unmet.words == (
        "“jump links, 2 times” leads nowhere: no link further on at number 2 of 2; there is link “Rota”"
    )


def test_nothing_empty_is_written_into_a_walk() -> None:
    text = (
        "page: a\nsteps:\n  - jump links: Rota, link\n  - jump links: Rota, link\n  - escape: Closed\n  - first: Beds\n"
    )
    after = updated(text, replay(walk_of(text, built_in()), staged(PAGE, CUES), built_in()))
    assert after == text.replace("first: Beds", 'first: "Plots, heading level 1"')


def test_moves_that_lead_nowhere_are_not_kept() -> None:
    session = staged(PAGE, CUES)
    session.arrive()
    for move in ("jump tables", "jump links", "jump links", "find shed", "tab"):
        command(session, move)
    assert [step.move for step in kept(session)] == ["jump links", "tab"]
