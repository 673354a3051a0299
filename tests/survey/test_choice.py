"""Which entries are shown, and in which order they come to be judged."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.checks.engine.catalogue import built_in
from murvel.survey.choice import Choice, Which
from murvel.survey.entry import OPEN, Entry, Judgement, Slice, Verdict
from murvel.survey.survey import survey_of
from tests.support import session_of

MARKUP = """<title>T</title><html lang=en><main><h1>Plots</h1><p>{long}</p><h2>Water</h2><p>{long}</p>
<a href=a>Rota</a><a href=b>more</a><a href=c hidden>old rota</a><a href=d><img src=x></a></main>""".replace(
    "{long}", "words of no weight " * 12
)
SURVEY = survey_of(session_of(MARKUP), built_in())
LINKS = SURVEY.entries[Slice.LINKS]
SAID = {LINKS[0].key: Judgement(Verdict.PASS), LINKS[1].key: Judgement(Verdict.FAIL, "of what")}


def judged(entry: Entry) -> Judgement:
    return SAID.get(entry.key, OPEN)


@pytest.mark.parametrize(
    ("choice", "numbers", "about"),
    [
        (Choice(), [1, 2, 3], ""),
        (Choice(hidden_too=True), [1, 2, 3, 4], "hidden ones too"),
        (Choice(Which.PASS), [1], "pass"),
        (Choice(Which.FAIL), [2], "fail"),
        (Choice(Which.CONTEXT), [], "needs-context"),
        (Choice(Which.OPEN), [3], "not-judged"),
        (Choice(Which.OPEN, hidden_too=True), [3, 4], "not-judged, hidden ones too"),
        (Choice(Which.LEADS), [2, 3], "with-leads"),
        (Choice(words="ROTA"), [1], "“ROTA”"),
        (Choice(words="rota", hidden_too=True), [1, 4], "“rota”, hidden ones too"),
        (Choice(words="without a name"), [3], "“without a name”"),
        (Choice(Which.LEADS, "rota"), [], "with-leads, “rota”"),
        (Choice(words="\x1b[31m"), [], "“[U+001B][31m”"),
    ],
)
def test_which_links_are_shown(choice: Choice, numbers: list[int], about: str) -> None:
    assert [entry.number for entry in choice.shown(SURVEY, Slice.LINKS, judged)] == numbers
    assert choice.about == about


def test_every_way_to_choose_comes_once_in_turn() -> None:
    turn = [Which.ALL]
    while turn[-1].following is not Which.ALL:
        turn.append(turn[-1].following)
    assert turn == list(Which)


@given(st.sampled_from(list(Slice)), st.sampled_from([Choice(), Choice(Which.LEADS), Choice(hidden_too=True)]))
def test_going_on_judges_everything_that_is_shown_once(start: Slice, choice: Choice) -> None:
    said: dict[str, Judgement] = {}

    def known(entry: Entry) -> Judgement:
        return said.get(entry.key, OPEN)

    order: list[Entry] = []
    entry = choice.next_open(SURVEY, known, start)
    while entry is not None:
        assert entry.key not in said
        order.append(entry)
        said[entry.key] = Judgement(Verdict.PASS)
        entry = choice.next_open(SURVEY, known, entry.slice, entry.number)
    every = list(Slice)
    turned = every[every.index(start) :] + every[: every.index(start)]
    assert order == [each for slice_ in turned for each in choice.shown(SURVEY, slice_, known)]


def test_what_was_passed_over_comes_last() -> None:
    second = SURVEY.entries[Slice.HEADINGS][1]
    said = {entry.key for entries in SURVEY.entries.values() for entry in entries} - {second.key}
    after = Choice().next_open(
        SURVEY, lambda entry: Judgement(Verdict.PASS) if entry.key in said else OPEN, Slice.HEADINGS, second.number
    )
    assert after is second
