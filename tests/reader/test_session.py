"""What holds for every session, whatever the page and the moves."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.reader.moves.commands import COMMANDS, command
from murvel.reader.moves.linear import go_to, jump
from murvel.reader.moves.moves import Direction
from murvel.reader.readout.kinds import BY_ID, KINDS, LISTS, STOPS, Kind
from murvel.reader.readout.lists import entries
from murvel.reader.readout.readout import Readout
from murvel.reader.readout.spoken import Spoken
from murvel.reader.speech.scripts import words_in
from murvel.reader.speech.timing import FASTEST, PAUSE, SLOWEST, clock, seconds
from murvel.reader.speech.utterance import Part, PartKind, Utterance
from murvel.reader.speech.voice import Piece
from murvel.tree.roles.aria_roles import TEXT
from tests.strategies import hostile_markup
from tests.support import node, session_of, tree_of

MOVES = st.one_of(
    st.sampled_from([*(each.words for each in COMMANDS if each.words.islower()), "find t"]),
    st.builds("{} {}".format, st.sampled_from(["jump", "back"]), st.sampled_from(sorted(BY_ID))),
)


@given(hostile_markup(), st.lists(MOVES, max_size=12))
def test_every_move_is_logged_and_leaves_a_cursor(markup: str, moves: list[str]) -> None:
    session = session_of(markup)
    session.arrive()
    for move in moves:
        before = len(session.log)
        heard = command(session, move)
        assert len(session.log) == before + 1
        assert session.log[-1].utterance is heard
        assert session.log[-1].number == len(session.log)
        assert (session.cursor is None) == (not session.readout.objects)
        assert session.log[-1].line or heard.parts


@given(hostile_markup())
def test_forward_and_back_give_the_same_items(markup: str) -> None:
    session = session_of(markup)
    count = len(session.readout.items)
    forward, back = [], []
    for _ in range(count):
        forward.append(session.item)
        command(session, "next")
    for _ in range(count):
        back.append(session.item)
        command(session, "previous")
    assert forward == session.readout.items
    assert back == forward[::-1]


@given(hostile_markup())
def test_every_text_outside_a_control_is_in_the_readout_once(markup: str) -> None:
    tree = tree_of(markup)
    readout = Readout(tree)
    read = [each.node for each in readout.objects]
    inside: set[int] = set()
    for each in read:
        inside.update(range(each.id + 1, each.end))
    texts = [each for each in tree.nodes if each.role == TEXT and each.id not in inside and each.name.strip()]
    assert [each for each in read if each.role == TEXT and each.name.strip()] == texts
    assert [each.id for each in read] == sorted(each.id for each in read)


@given(hostile_markup(), st.sampled_from(KINDS), st.sampled_from(list(Direction)))
def test_a_jump_lands_on_its_kind_or_stays(markup: str, kind: Kind, direction: Direction) -> None:
    session = session_of(markup)
    visited = []
    for _ in range(len(session.tree.nodes) + 1):
        before = session.cursor
        heard = session.make(jump(session, kind, direction))
        if not heard.parts:
            assert session.cursor is before
            break
        assert session.node is not None
        assert kind.matches(session.node)
        visited.append(session.node.id)
    else:
        raise AssertionError("a jump goes round for ever")
    assert visited == sorted(visited, reverse=direction is Direction.BACK)
    assert len(set(visited)) == len(visited)


def test_arrival_announces_title_counts_and_the_first_item() -> None:
    session = session_of("<title>T</title><h1>A</h1><a href=x>l</a><main><input></main>")
    assert session.arrive().text == "T, page, 1 landmark, 1 heading, 1 link, 1 field"
    assert [entry.move for entry in session.log] == ["open page", "read"]
    assert session.log[1].utterance.text == "A, heading level 1"
    assert session_of("<p>x").arrive().text == "page without a title, no landmarks, no headings, no links, no fields"


def test_focus_and_cursor_are_apart() -> None:
    session = session_of("<a href=x>a</a><p>b</p>")
    command(session, "tab")
    command(session, "next")
    assert session.focus is node(session.tree, "link")
    assert session.node is not None
    assert session.node.role == TEXT


def test_going_to_a_node_that_is_not_read_itself() -> None:
    session = session_of("<main><p>a</p></main><ul></ul><p>b</p>")
    empty = node(session.tree, "list")
    assert session.make(go_to(session, empty)).text == "b"
    session.make(go_to(session, node(session.tree, "main")))
    assert session.log[-1].move == "go to"
    assert session.node is node(session.tree, "main")


def test_a_missing_name_is_a_part_that_is_not_heard() -> None:
    utterance = session_of("<button></button>").spoken.utterances[0]
    assert utterance.parts[0] == Part(PartKind.NAME, "")
    assert utterance.parts[0].is_missing_name
    assert utterance.text == "button"


@pytest.mark.parametrize(
    ("parts", "text"),
    [
        ([(PartKind.TEXT, "See "), (PartKind.NAME, "rules"), (PartKind.ROLE, "link"), (PartKind.TEXT, " now")], "See rules, link, now"),
        ([(PartKind.TEXT, "a"), (PartKind.TEXT, "b")], "ab"),
        ([(PartKind.TEXT, "End."), (PartKind.POSITION, "1 of 2")], "End. 1 of 2"),
        ([(PartKind.NAME, "x"), (PartKind.ROLE, "link"), (PartKind.TEXT, ".")], "x, link."),
        ([(PartKind.CONTEXT, "main"), (PartKind.NAME, ""), (PartKind.ROLE, "button")], "main, button"),
        ([], ""),
    ],
)  # fmt: skip
def test_how_parts_are_joined(parts: list[tuple[PartKind, str]], text: str) -> None:
    assert Utterance(tuple(Part(kind, words) for kind, words in parts)).text == text


def test_listening_time_grows_with_the_words_and_the_rate() -> None:
    text = "Seeds are swapped in the shed on the first Sunday of each month, from ten to noon"
    assert seconds(text, 180) == pytest.approx(17 / 3 + PAUSE, rel=0.15)
    assert seconds(text, 360) - PAUSE == pytest.approx((seconds(text, 180) - PAUSE) / 2)
    assert seconds("") == PAUSE
    assert [clock(0), clock(59.9), clock(61), clock(3600)] == ["0:00", "0:59", "1:01", "60:00"]


@pytest.mark.parametrize(
    ("text", "language", "time"),
    [
        ("この区画の予約は毎月第一日曜日の午前九時から受け付けていますので、お早めにお申し込みください", "", 9.9),
        ("区画的预订从每月第一个星期日上午九点开始", "zh", 6.2),
        ("区画の予約は九時", "ja", 2.0),
        ("구획 예약은 매월 첫째 일요일에 시작됩니다", "", 4.0),
        ("การจองแปลงเริ่มทุกวันอาทิตย์แรก", "th", 3.1),
        ("2026-11-26", "", 3.0),
        ("Die Beete werden am ersten Sonntag vergeben", "de", 3.4),
    ],
)
def test_listening_time_by_script_and_language(text: str, language: str, time: float) -> None:
    assert seconds(text, 180, language) == pytest.approx(time, abs=0.15)


def test_words_are_told_apart_where_no_spaces_are_written() -> None:
    said = "Rota: 第一日 don't ที่"
    assert [said[start:end] for start, end in words_in(said)] == ["Rota:", "第", "一", "日", "don't", "ที่"]


def test_times_add_up() -> None:
    spoken = session_of("<p>a b<p>c<p>d e f").spoken
    lengths = [seconds(utterance.text) for utterance in spoken.utterances]
    assert [spoken.start(index) for index in range(3)] == pytest.approx([0, lengths[0], lengths[0] + lengths[1]])
    assert spoken.total == pytest.approx(sum(lengths))


@given(hostile_markup(), st.integers(SLOWEST, FASTEST))
def test_another_rate_says_the_same_at_other_times(markup: str, rate: int) -> None:
    session = session_of(markup)
    before = session.spoken
    assert before.total >= 0
    session.change_voice(replace(session.voice, rate=rate))
    afresh = Spoken(Readout(session.tree), session.voice)
    assert session.spoken.utterances == afresh.utterances
    assert session.spoken.says_the_same_as(before)
    starts = [[each.start(index) for index in range(len(each.readout.items) + 1)] for each in (session.spoken, afresh)]
    assert starts[0] == pytest.approx(starts[1])


def test_another_voice_says_it_anew() -> None:
    session = session_of("<nav><a href=x>home</a></nav>")
    before = session.spoken
    session.change_voice(replace(session.voice, order=(Piece.ROLE, Piece.NAME)))
    assert [each.text for each in before.utterances] != [each.text for each in session.spoken.utterances]
    assert not session.spoken.says_the_same_as(before)


@pytest.mark.parametrize("name", LISTS)
def test_every_list_of_a_full_page(name: str) -> None:
    session = session_of(
        "<main>"
        + "".join(f"<h{n}>H{n}</h{n}>" for n in range(1, 7))
        + "<a href=x>L</a><input aria-label=F accesskey=f><button>B</button>"
        "<ul><li>x</ul><table><caption>C</caption><tr><td>y</table><img alt=I></main>"
        "<input type=checkbox aria-label=X><input type=radio aria-label=R><select aria-label=S></select><hr>"
        "<blockquote>Q</blockquote><div role=status>V</div><iframe title=W></iframe>"
    )
    found = entries(session, name)
    assert found
    for entry in found:
        assert entry.utterance.text
        assert entry.time is not None
        assert entry.position is not None
    if name == STOPS:
        assert [entry.utterance.text for entry in found] == [
            "L, link",
            "F, text box",
            "B, button",
            "X, checkbox, not checked",
            "R, radio, not checked",
            "S, combobox, collapsed",
            "frame W",
        ]


def test_an_icon_of_a_font_is_a_hole() -> None:
    session = session_of("<p>\uf001</p><button>\uf002</button>")
    assert [each.parts[0].is_missing_name for each in session.spoken.utterances] == [True, True]


@given(st.text(alphabet=st.characters(max_codepoint=127), max_size=60))
def test_plain_text_takes_as_long_as_beside_other_scripts(text: str) -> None:
    assert seconds(f"{text} é") == pytest.approx(seconds(f"{text} e"))
