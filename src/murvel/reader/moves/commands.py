"""Every move by its words, as one table: what the line commands, replays and tests say to a session."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from murvel.errors import did_you_mean
from murvel.patterns import pattern
from murvel.reader import acting
from murvel.reader.errors import ReaderError
from murvel.reader.moves import cells, finding, groups, units
from murvel.reader.moves import linear as reading
from murvel.reader.moves.cells import Way
from murvel.reader.moves.moves import Direction
from murvel.reader.moves.roles import move_by_role
from murvel.reader.readout.kinds import TARGETS_BY_ID, TARGETS_BY_SINGULAR, Kind
from murvel.reader.readout.position import Step
from murvel.reader.session import ReadingSession
from murvel.reader.speech.utterance import SILENCE, Utterance
from murvel.stage.inputs import BACKSPACE, Keystroke
from murvel.text import visible

_LONGEST_WAIT = 3600
_OFTEN = pattern(r"([^,]+), ([1-9]\d{0,3}) times")
_ON, _BACK = Direction.FORWARD, Direction.BACK
_DOWN, _UP = Keystroke.DOWN, Keystroke.UP


@dataclass(frozen=True, slots=True)
class Command:
    """A move that can be asked for in words.

    Attributes:
        words: how it is asked for; `KIND` and `TEXT` stand for what is filled in.
        about: what it does.
        do: returns the step that is to be made, with what was filled in; what goes to the page is done at once.
    """

    words: str
    about: str
    do: Callable[[ReadingSession, str], Step | Utterance]


def _plain(words: str, about: str, do: Callable[[ReadingSession], Step | Utterance]) -> Command:
    return Command(words, about, lambda session, _: do(session))


def _wait(session: ReadingSession, text: str) -> Utterance:
    try:
        seconds = float(text)
    except ValueError:
        seconds = -1.0
    if not 0 <= seconds <= _LONGEST_WAIT:
        raise ReaderError(f"Waiting takes a number of seconds from 0 to {_LONGEST_WAIT}, not {visible(text)!r}.")
    heard = acting.wait(session, seconds)
    parts = [part for each in heard for part in each.parts]
    return Utterance(tuple(parts))


def _item(session: ReadingSession, text: str) -> Step:
    if not (text.isascii() and text.isdecimal() and 0 < len(text) < 9):
        raise ReaderError(f"An item is named by its number, not {visible(text)!r}.")
    return reading.item_at(session, int(text) - 1)


COMMANDS: tuple[Command, ...] = (
    _plain("next", "read the next item", reading.next_item),
    _plain("previous", "read the previous item", reading.previous_item),
    _plain("first", "read the first item", reading.first_item),
    _plain("last", "read the last item", reading.last_item),
    Command("item NUMBER", "read an item by its number", _item),
    Command("jump KIND", "go to the next of a kind", lambda session, kind: reading.jump(session, _kind(kind), _ON)),
    Command(
        "back KIND", "go to the previous of a kind", lambda session, kind: reading.jump(session, _kind(kind), _BACK)
    ),
    _plain("again", "repeat the last jump or search", lambda session: finding.repeat(session, _ON)),
    _plain("again back", "repeat it the other way", lambda session: finding.repeat(session, _BACK)),
    Command("find TEXT", "go to where a text is heard", lambda session, text: finding.find(session, text)),
    _plain("where", "say where the cursor is", reading.where_am_i),
    _plain("tab", "press Tab", lambda session: acting.tab(session, _ON)),
    _plain("shift+tab", "press Shift+Tab", lambda session: acting.tab(session, _BACK)),
    _plain("object", "read the next object", lambda session: units.move_by_object(session, _ON)),
    _plain("object back", "read the previous object", lambda session: units.move_by_object(session, _BACK)),
    _plain("word", "read the next word", lambda session: units.move_by_word(session, _ON)),
    _plain("word back", "read the previous word", lambda session: units.move_by_word(session, _BACK)),
    _plain("character", "read the next character", lambda session: units.move_by_character(session, _ON)),
    _plain("character back", "read the previous character", lambda session: units.move_by_character(session, _BACK)),
    _plain("spell", "spell the word at the cursor", units.spell),
    _plain("this role", "go to the next with this role", lambda session: move_by_role(session, _ON, same=True)),
    _plain(
        "this role back", "go to the previous with this role", lambda session: move_by_role(session, _BACK, same=True)
    ),
    _plain("other role", "go to the next with another role", lambda session: move_by_role(session, _ON, same=False)),
    _plain(
        "other role back",
        "go to the previous with another role",
        lambda session: move_by_role(session, _BACK, same=False),
    ),
    _plain("into", "go into the container", groups.into),
    _plain("out", "go out to the container around", groups.out),
    _plain("beside", "go to what stands beside", lambda session: groups.beside(session, _ON)),
    _plain("beside back", "go back to what stands beside", lambda session: groups.beside(session, _BACK)),
    _plain("past", "go past the end of the container", groups.past_the_end),
    _plain("cell right", "go to the cell on the right", lambda session: cells.move_by_cell(session, Way.RIGHT)),
    _plain("cell left", "go to the cell on the left", lambda session: cells.move_by_cell(session, Way.LEFT)),
    _plain("cell down", "go to the cell below", lambda session: cells.move_by_cell(session, Way.DOWN)),
    _plain("cell up", "go to the cell above", lambda session: cells.move_by_cell(session, Way.UP)),
    _plain("row start", "go to the row's first cell", lambda session: cells.move_by_cell(session, Way.ROW_START)),
    _plain("row end", "go to the row's last cell", lambda session: cells.move_by_cell(session, Way.ROW_END)),
    _plain("column top", "go to the column's first cell", lambda session: cells.move_by_cell(session, Way.TOP)),
    _plain("column bottom", "go to the column's last cell", lambda session: cells.move_by_cell(session, Way.BOTTOM)),
    _plain("activate", "activate what is at the cursor", acting.activate),
    _plain("enter", "press Enter", acting.press_enter),
    _plain("space", "press Space", acting.press_space),
    _plain("escape", "press Escape", acting.press_escape),
    _plain(
        "arrow down", "press the down arrow, in focus mode", lambda session: acting.press_arrow(session, Keystroke.DOWN)
    ),
    _plain("arrow up", "press the up arrow, in focus mode", lambda session: acting.press_arrow(session, Keystroke.UP)),
    _plain(
        "arrow left", "press the left arrow, in focus mode", lambda session: acting.press_arrow(session, Keystroke.LEFT)
    ),
    _plain(
        "arrow right",
        "press the right arrow, in focus mode",
        lambda session: acting.press_arrow(session, Keystroke.RIGHT),
    ),
    _plain("hover", "put the pointer on what is at the cursor, in a browser", acting.hover),
    Command("type TEXT", "type into the field that has the focus", acting.type_text),
    _plain("delete", "take back the last character", lambda session: acting.type_text(session, BACKSPACE)),
    _plain("mode", "change between browse and focus mode", acting.toggle_mode),
    Command("wait SECONDS", "let time pass on the page", _wait),
    _plain("read row", "read the row", cells.read_row),
    _plain("read column", "read the column", cells.read_column),
)

_EXACT = {each.words: each for each in COMMANDS if each.words.islower()}
_FILLED = {each.words.split()[0]: each for each in COMMANDS if not each.words.islower()}
assert len(_EXACT) + len(_FILLED) == len(COMMANDS), "a command stands twice"


_ACTS = frozenset("activate enter space escape arrow hover type delete wait".split())


def acts(words: str) -> bool:
    """Whether a page may answer to a move by changing."""
    return words.split()[:1] != [] and words.split()[0] in _ACTS


def repeated(words: str, times: int) -> str:
    """Return the words for a move that is made several times."""
    return words if times == 1 else f"{words}, {times} times"


def command(session: ReadingSession, words: str) -> Utterance:
    """Do what is asked for in words, and return what is heard; of what is done several times, the last.

    `session.failure` says afterwards why it did not arrive.

    Raises:
        ReaderError: there is no such command or kind; the message suggests the nearest name.
    """
    words = " ".join(words.split())
    often = _OFTEN.fullmatch(words)
    times = int(often.group(2)) if often is not None else 1
    words = often.group(1) if often is not None else words
    found, rest = _found(words)
    heard, failure = SILENCE, ""
    for at in range(1, times + 1):
        session.asked.append((words, len(session.log)))
        done = found.do(session, rest)
        if isinstance(done, Step) and done.failure:
            session.asked.pop()  # it leads nowhere, so it is no part of a way
            failure = failure or done.failure + (f" at number {at} of {times}" if times > 1 else "")
        heard = _made(session, done)
    session.failure = failure
    return heard


def refuse_unknown(words: str) -> None:
    """Refuse what is no command, without doing it.

    Raises:
        ReaderError: there is no such command or kind; the message suggests the nearest name.
    """
    words = " ".join(words.split())
    often = _OFTEN.fullmatch(words)
    found, rest = _found(often.group(1) if often is not None else words)
    if found.words.endswith("KIND"):
        _kind(rest)


def _found(words: str) -> tuple[Command, str]:
    """A command, and what is filled in."""
    exact = _EXACT.get(words.lower())
    if exact is not None:
        return exact, ""
    first, _, rest = words.partition(" ")
    filled = _FILLED.get(first.lower())
    if filled is None:
        nearest_first = did_you_mean(first, _FILLED) if rest else ""
        hint = did_you_mean(words, [*_EXACT, *_FILLED], nearest_first if nearest_first.startswith("did") else "")
        raise ReaderError(f"There is no command {visible(words)!r}", hint)
    return filled, rest


def _made(session: ReadingSession, done: Step | Utterance) -> Utterance:
    return session.make(done) if isinstance(done, Step) else done


def _kind(name: str) -> Kind:
    kind = TARGETS_BY_ID.get(name.lower()) or TARGETS_BY_SINGULAR.get(name.lower())
    if kind is None:
        raise ReaderError(f"There is no kind {visible(name)!r}", did_you_mean(name, TARGETS_BY_ID))
    return kind
