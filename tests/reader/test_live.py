"""Live regions and the speech queue, in time."""

from dataclasses import replace

import pytest

from murvel.loading.fetch import PageSource
from murvel.reader.live.queue import Fate, Source, SpeechQueue
from murvel.reader.live.regions import Snapshot, announce, changes
from murvel.reader.moves.commands import command
from murvel.reader.speech.timing import seconds
from murvel.reader.speech.voice import NAME_FIRST
from murvel.report.timeline import timeline_lines
from murvel.stage.html.page import LivePage
from tests.support import session_of, staged


def after(before: str, change: tuple[str, str, str]) -> tuple[list[str], list[tuple[str, str]]]:
    """What is announced of a change, and what is silent with its reason."""
    page = LivePage(PageSource(before), 1280)
    kind, where, value = change
    target = page.select(where)[0]
    if kind == "text":
        page.live.set_text(target, value)
    elif kind == "insert":
        page.live.insert(target, value, "end")
    elif kind == "remove":
        page.live.remove(target)
    elif kind == "busy":
        page.live.set_attribute(target, "aria-busy", value)
    else:
        page.live.set_attribute(target, "hidden", None if kind == "show" else "")
    became = page.follow()
    if became is None:
        return [], []
    first = Snapshot(became.old, became.before, lambda element: element)
    second = Snapshot(became.new, became.after, lambda element: element)
    said, silent = announce(changes(first, second), first, second)
    return [f"{each.region.politeness}: {each.text}" for each in said], [(c.text, c.why_silent) for c in silent]


CAME = "its region came together with its content; it has to be there before"


@pytest.mark.parametrize(
    ("before", "change", "said", "silent"),
    [
        ("<p role=status></p>", ("text", "p", "3 found"), ["polite: 3 found"], []),
        ("<p role=status>old</p>", ("text", "p", "new"), ["polite: new"], []),
        ("<p role=alert></p>", ("text", "p", "Wrong"), ["assertive: Wrong"], []),
        ("<div role=log><p>a</p></div>", ("insert", "div", "<p>b</p>"), ["polite: b"], []),
        ("<div role=status><p>a</p></div>", ("insert", "div", "<p>b</p>"), ["polite: a b"], []),
        ("<div role=status aria-atomic=false><p>a</p></div>", ("insert", "div", "<p>b</p>"), ["polite: b"], []),
        ("<div aria-live=polite><p>a</p></div>", ("insert", "div", "<p>b</p>"), ["polite: b"], []),
        ("<div aria-live=polite aria-atomic=true aria-label=N><p>a</p></div>", ("insert", "div", "b"), ["polite: N, a b"], []),
        ("<div aria-live=polite><p aria-atomic=true>a <b>1</b></p><p>z</p></div>", ("text", "b", "2"), ["polite: a 2"], []),
        ("<div aria-live=polite><p>a</p></div>", ("remove", "p", ""), [], [("a", "removals are not relevant in its region")]),
        ("<div aria-live=polite aria-relevant=removals><p>a</p></div>", ("remove", "p", ""), ["polite: a"], []),
        ("<div aria-live=polite aria-relevant=all><p>a</p></div>", ("remove", "p", ""), ["polite: a"], []),
        ("<div aria-live=polite aria-relevant=additions>a</div>", ("text", "div", "b"), [], [("b", "text are not relevant in its region")]),
        ("<div role=alert aria-live=off></div>", ("text", "div", "x"), [], [("x", "its region is off")]),
        ("<div role=timer>1</div>", ("text", "div", "2"), [], [("2", "its region is off")]),
        ("<div role=marquee>1</div>", ("text", "div", "2"), [], [("2", "its region is off")]),
        ("<div role=timer aria-live=polite>1</div>", ("text", "div", "2"), ["polite: 2"], []),
        ("<div aria-live=polite aria-busy=true>1</div>", ("text", "div", "2"), [], [("2", "its region is busy")]),
        ("<p>1</p>", ("text", "p", "2"), [], [("2", "it is in no live region")]),
        ("<div></div>", ("insert", "div", "<p role=alert>A</p>"), ["assertive: A"], []),
        ("<div></div>", ("insert", "div", "<p role=status>S</p>"), [], [("S", CAME)]),
        ("<p role=alert hidden>A</p>", ("show", "p", ""), ["assertive: A"], []),
        ("<p role=status hidden>S</p>", ("show", "p", ""), [], [("S", CAME)]),
        ("<p role=status hidden></p>", ("text", "p", "x"), [], []),
        ("<div hidden><p role=alert></p></div>", ("text", "p", "x"), [], []),
        ("<p role=alert>A</p>", ("hide", "p", ""), [], [("A", "it is in no live region")]),
        ("<p role=status>same</p>", ("text", "p", "same"), [], []),
        ("<output>1</output>", ("text", "output", "2"), ["polite: 2"], []),
        ("<div aria-live=polite><div aria-live=off><p>a</p></div></div>", ("text", "p", "b"), [], [("b", "its region is off")]),
        ("<p id=m>a</p><input aria-describedby=m>", ("text", "p", "b"), [], [("b", "it is in no live region, and heard only where something that refers to it is reached")]),
        ("<p role=status></p>", ("insert", "p", "<img alt=Done src=x>"), ["polite: Done"], []),
        ("<p role=status></p>", ("insert", "p", "<img alt='' src=x>"), [], []),
    ],
)  # fmt: skip
def test_what_a_change_announces(
    before: str, change: tuple[str, str, str], said: list[str], silent: list[tuple[str, str]]
) -> None:
    assert after(before, change) == (said, silent)


def fates(queue: SpeechQueue) -> list[tuple[str, Fate]]:
    return [(entry.text, entry.fate) for entry in queue.timeline]


def test_polite_waits_for_the_end_of_what_is_spoken() -> None:
    queue = SpeechQueue(60)
    first, status, other = (seconds(text, 60) for text in ("one two", "status", "other"))
    queue.ask(0.0, "one two", Source.KEY, "next")
    queue.ask(0.5, "status", Source.POLITE, "s")
    queue.ask(0.6, "other", Source.POLITE, "o")
    queue.advance(first + 0.1)
    assert fates(queue) == [("one two", Fate.SPOKEN), ("status", Fate.SPEAKING), ("other", Fate.WAITING)]
    assert queue.timeline[1].begun == pytest.approx(first)
    assert queue.free_at == pytest.approx(first + status + other)
    queue.advance(10)
    assert fates(queue)[1:] == [("status", Fate.SPOKEN), ("other", Fate.SPOKEN)]


def test_assertive_cuts_in_and_what_was_cut_is_lost() -> None:
    queue = SpeechQueue(60)
    queue.ask(0.0, "one two three", Source.KEY, "next")
    queue.ask(1.0, "alert", Source.ASSERTIVE, "a")
    queue.advance(9)
    first, second = queue.timeline
    assert (first.fate, first.ended, first.why) == (Fate.CUT_OFF, 1.0, "a cut in")
    assert (second.fate, second.begun) == (Fate.SPOKEN, 1.0)


def test_keys_interrupt_everything_and_drop_what_waits() -> None:
    queue = SpeechQueue(60)
    queue.ask(0.0, "alert", Source.ASSERTIVE, "a")
    queue.ask(0.1, "status", Source.POLITE, "s")
    queue.ask(0.2, "next", Source.KEY, "n")
    assert fates(queue) == [("alert", Fate.CUT_OFF), ("status", Fate.DROPPED), ("next", Fate.SPEAKING)]
    assert queue.timeline[1].why == "a key was pressed before its turn came"


def test_of_several_alerts_the_last_is_heard() -> None:
    queue = SpeechQueue(180)
    for text in ("first", "second", "third"):
        queue.ask(1.0, text, Source.ASSERTIVE, text)
    queue.never(1.0, "silent", "text", "it is in no live region")
    queue.advance(5)
    assert [fate for _, fate in fates(queue)] == [Fate.CUT_OFF, Fate.CUT_OFF, Fate.SPOKEN, Fate.NEVER]


def test_a_polite_one_in_silence_is_spoken_at_once() -> None:
    queue = SpeechQueue(180)
    queue.ask(0.0, "a", Source.KEY, "n")
    queue.ask(5.0, "b", Source.POLITE, "s")
    assert queue.timeline[1].begun == 5.0


def test_tab_into_a_field_is_one_entry_of_the_timeline() -> None:
    session = staged("<input aria-label=A>")
    session.arrive()
    command(session, "tab")
    assert session.speech.timeline[-1].text == "A, text box"
    assert session.log[-1].notice == "focus mode"
    assert [entry.about for entry in session.speech.timeline] == ["open page", "read", "Tab"]


def test_another_voice_speaks_at_its_own_rate() -> None:
    session = session_of("<p>one two three")
    session.change_voice(replace(NAME_FIRST, name="slow", rate=60))
    command(session, "first")
    last = session.speech.timeline[-1]
    assert last.begun is not None
    assert last.ended == pytest.approx(last.begun + seconds("one two three", 60))


# What becomes of it, and why

ALERT = """<button id=b>Go</button><p role=alert id=s></p><input id=i aria-label=Name>
~~~
cues:
  - {when: activate, where: "#b", do: [{text: {where: "#s", to: "Something is missing"}}, {focus: "#i"}]}
  - {when: 9s, do: [{title: "Another title"}]}"""
OPENS = """<title>T</title><button id=b>Go</button><div hidden id=d role=dialog aria-label=D><p>In it</p><button>Close</button></div>
~~~
cues:
  - {when: activate, where: "#b", do: [{show: "#d"}, {focus: "#d button"}]}"""


@pytest.mark.parametrize(
    ("page", "moves", "line"),
    [
        (ALERT, ["activate"], ": Something is missing (cut off, spoken 0.0 to 0.0, the page moved the focus)"),
        (ALERT, ["wait 1", "activate", "next"], "activate: Name, text box (cut off, spoken 1.0 to 1.0, a key was pressed)"),
        (ALERT, ["wait 1", "jump headings"], "open page: page without a title, no landmarks, no headings, no links, 1 field (cut off, spoken 0.0 to 1.0, a key was pressed)"),
        (ALERT, ["wait 9"], "text: Another title (never announced, a new title is heard only when the page is opened, or asked for)"),
    ],
)  # fmt: skip
def test_the_timeline_names_causes(page: str, moves: list[str], line: str) -> None:
    markup, _, cues = page.partition("\n~~~\n")
    session = staged(f"<title></title>{markup}", cues)
    session.arrive()
    for move in moves:
        command(session, move)
    assert any(each.endswith(line) for each in timeline_lines(session)), list(timeline_lines(session))


def test_what_is_in_a_dialog_that_takes_the_focus_is_not_silent() -> None:
    markup, _, cues = OPENS.partition("\n~~~\n")
    session = staged(markup, cues)
    session.arrive()
    assert command(session, "activate").text == "dialog D, Close, button"
    assert session.silent == []
    assert not any("further on" in each for each in timeline_lines(session))


def test_notices_are_not_spoken() -> None:
    session = session_of("<p>x")
    session.arrive()
    command(session, "jump headings")
    command(session, "where")
    assert [entry.about for entry in session.speech.timeline] == ["open page", "read"]
