"""The survey: what is in each list, how deep, with which leads; keys that stay; the Tab order."""

from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.checks.engine.catalogue import built_in
from murvel.checks.questions.tab_order import TabOrder
from murvel.report.path_text import Crossings
from murvel.survey.counts import count_words
from murvel.survey.entry import OPEN, Entry, Judgement, Slice, Verdict
from murvel.survey.facts import facts_of
from murvel.survey.path import KeyboardPath
from murvel.survey.survey import Survey, survey_of
from tests.strategies import hostile_markup
from tests.support import session_of

PAGE = """<!DOCTYPE html><html lang=en><title>T</title>
<header><a href=/>Home</a><nav aria-label=Main><a href=a>A</a></nav></header><p>Between</p>
<main><h1>One</h1><h3>Three</h3><p>text <a href=x target=_blank>more</a></p>
<label>Name * <input required aria-describedby=d></label><p id=d>As on the key</p>
<img src=images/shed.png><table><caption>Rota</caption><tr><th>Day<tr><td>1</table><ul><li>a<li>b</ul>
<div role=status>ok</div><p lang=de>Garten</p><iframe title=Map></iframe><p><b>Look</b></p><p>{long}</p>
<a href=y hidden>gone</a></main>""".replace("{long}", "many words " * 10)


def surveyed(markup: str) -> Survey:
    return survey_of(session_of(markup), built_in())


def listed(survey: Survey, slice_: Slice) -> list[tuple[str, int, str]]:
    return [(entry.heard, entry.depth, entry.remark) for entry in survey.entries[slice_]]


@pytest.mark.parametrize(
    ("slice_", "entries"),
    [
        (Slice.HEADINGS, [("One, heading level 1", 0, ""), ("Three, heading level 3", 2, "level 2 missing")]),
        (
            Slice.LANDMARKS,
            [("banner", 0, ""), ("navigation Main", 1, ""), ("Between", 0, "in no landmark"), ("main", 0, "")],
        ),
        (
            Slice.LINKS,
            [
                ("Home, link", 0, ""),
                ("A, link", 0, ""),
                ("more, link", 0, ""),
                ("nothing", 0, "hidden by display: none: gone"),
            ],
        ),
        (Slice.FIELDS, [("Name star, text box, required, As on the key", 0, "")]),
        (Slice.IMAGES, [("image", 0, "")]),
        (Slice.TABLES, [("table Rota, 2 rows and 1 column", 0, "")]),
        (Slice.LISTS, [("list with 2 items", 0, "")]),
        (Slice.LIVE, [("status", 0, "polite")]),
        (Slice.LANGUAGES, [("T", 0, "en"), ("Garten", 1, "de")]),
        (Slice.FRAMES, [("frame Map", 0, "")]),
        (Slice.LOOKS, [("Look", 0, "Text that looks like a heading")]),
    ],
)
def test_what_is_in_a_list(slice_: Slice, entries: list[tuple[str, int, str]]) -> None:
    assert listed(surveyed(PAGE), slice_) == entries


def test_every_lead_is_in_a_list() -> None:
    survey = surveyed(PAGE)
    shown = {id(lead) for entries in survey.entries.values() for entry in entries for lead in entry.leads}
    assert shown == {id(lead) for lead in survey.leads}


@pytest.mark.parametrize(
    ("slice_", "number", "facts"),
    [
        (Slice.HEADINGS, 1, {"level": "1", "named by": "contents", "under it": "0 words before the next heading"}),
        (Slice.LANDMARKS, 2, {"role": "navigation", "in": "banner"}),
        (Slice.LINKS, 3, {"opens in": "_blank", "stands in": "text more", "under": "Three", "Tab": "stop 3 of 5"}),
        (Slice.LINKS, 4, {"hidden by": "display: none"}),
        (Slice.FIELDS, 1, {"required": "yes", "described": "As on the key (aria-describedby)"}),
        (Slice.IMAGES, 1, {"named by": "nothing", "file": "shed.png"}),
        (Slice.TABLES, 1, {"size": "2 rows, 1 columns", "headers": "1 of columns, 0 of rows"}),
        (Slice.LIVE, 1, {"live": "polite", "holds": "ok"}),
    ],
)
def test_the_facts_of_an_entry(slice_: Slice, number: int, facts: dict[str, str]) -> None:
    survey = surveyed(PAGE)
    assert facts.items() <= dict(facts_of(survey.page, survey.entries[slice_][number - 1])).items()


def test_keys_stay_when_something_is_added_above_and_tell_twins_apart() -> None:
    before = surveyed("<h2>A</h2><a href=x>more</a><a href=x>more</a>")
    after = surveyed("<h1>New</h1><p>x<h2>A</h2><a href=y>new</a><a href=x>more</a><a href=x>more</a>")

    def keys(survey: Survey) -> set[str]:
        return {entry.key for entries in (survey.entries[Slice.LINKS],) for entry in entries}

    assert len(keys(before)) == 2
    assert keys(before) < keys(after)


def test_counts() -> None:
    survey = surveyed(PAGE)
    entries = survey.entries[Slice.LINKS]
    said = {entries[0].key: Judgement(Verdict.PASS), entries[1].key: Judgement(Verdict.FAIL)}

    def judged(entry: Entry) -> Judgement:
        return said.get(entry.key, OPEN)

    assert count_words(survey, Slice.LINKS, judged) == "links: 1 pass, 1 fail, 1 open; 1 more hidden"
    assert count_words(survey, Slice.CONTRAST, judged) == "contrast: not looked at"


@given(hostile_markup())
def test_no_page_stops_a_survey(markup: str) -> None:
    survey = surveyed(markup)
    for entries in survey.entries.values():
        keys = [entry.key for entry in entries]
        assert len(keys) == len(set(keys))
        for entry in entries:
            assert facts_of(survey.page, entry) is not None
    path = KeyboardPath(survey)
    assert sorted(stop.rank for stop in path.stops) == [stop.number for stop in path.stops]


# The Tab order


def path_of(markup: str) -> KeyboardPath:
    return KeyboardPath(surveyed(markup))


def test_where_the_orders_part_lines_cross() -> None:
    path = path_of("<a href=a>A</a><a href=b tabindex=1>B</a><a href=c>C</a>")
    assert [(stop.utterance.text, stop.number, stop.rank) for stop in path.stops] == [
        ("B, link", 1, 2),
        ("A, link", 2, 1),
        ("C, link", 3, 3),
    ]
    assert [stop.utterance.text for stop in path.stops if stop.is_moved] == ["B, link"]
    crossings = Crossings(path.stops)
    assert [crossings.at(row) for row in range(3)] == ["╳", "╳", "─"]
    assert [crossings.past(row, 5) for row in range(3)] == ["──╳──", "──╳──", "─────"]


def test_silent_stops_stand_in_the_order_and_nothing_is_heard_of_them() -> None:
    path = path_of(
        "<a href=a>A</a><div aria-hidden=true><a href=b>B</a></div><a href=c>C</a><p tabindex=0></p><main>{x}</main>"
    )
    assert [(stop.number, stop.rank, stop.utterance.text, stop.words) for stop in path.stops] == [
        (1, 1, "A, link", "A, link"),
        (2, 2, "", "nothing is heard: a “B”"),
        (3, 3, "C, link", "C, link"),
        (4, 4, "", "nothing is heard: p"),
    ]
    assert (path.silent, path.moved, path.before_main[0]) == (2, 0, 4)
    links = survey_of(path.page.session, built_in()).entries[Slice.LINKS]
    assert [
        ("Tab", f"stop {at} of 4") in facts_of(path.page, link) for at, link in zip((1, 3, 2), links, strict=True)
    ] == [True] * 3


@given(st.permutations(range(8)))
def test_the_fewest_stops_are_called_moved(order: list[int]) -> None:
    elements = session_of("<a href=x>L</a>" * 8).tree.tab_order
    found = TabOrder(elements, order)
    left = [rank for at, rank in enumerate(found.ranks) if at not in found.moved]
    assert left == sorted(left)
    assert len(left) == max(
        size for size in range(9) for some in combinations(order, size) if list(some) == sorted(some)
    )


@given(st.permutations(range(8)), st.integers(3, 12))
def test_every_line_begins_and_ends_at_its_rows(order: list[int], width: int) -> None:
    path = path_of("".join(f"<a href=p{at} tabindex={order.index(at) + 1}>L{at}</a>" for at in range(8)))
    assert [stop.utterance.text for stop in path.stops] == [f"L{at}, link" for at in order]
    crossings = Crossings(path.stops)
    for row in range(8):
        drawn = crossings.past(row, width)
        assert len(drawn) == width
        assert drawn[0] != " "
        assert drawn[-1] != " "


@pytest.mark.parametrize(
    ("markup", "words"),
    [
        ("<main>x</main>", "no skip link"),
        ("<a href=#m>Skip</a><main id=m>x</main>", "skip link: first stop; it lands on main"),
        ("<a href=#no>Skip</a><main>x</main>", "skip link: first stop; it leads nowhere"),
        (
            "<a href=h>Home</a><a href=#m>Skip</a><main id=m>x</main>",
            "skip link: not the first stop; it lands on main",
        ),
    ],
)
def test_the_way_past_the_menu(markup: str, words: str) -> None:
    assert path_of(markup).way_past() == words


def test_what_tab_misses_and_what_repeats() -> None:
    path = path_of(
        "<header><a href=a>A</a><a href=a>B</a></header><main><p onclick=x()>Click</p><a href=c>C</a></main>"
    )
    assert [lead.check.id for lead in path.missed] == ["click-not-reached"]
    assert [stop.repeats for stop in path.stops] == [False, True, False]
    assert [stop.region for stop in path.stops] == ["banner", "banner", "main"]
    assert path.before_main[0] == 2


@pytest.mark.parametrize(
    "markup",
    [
        "<ul><li>a<li>b<ul><li>c</ul></ul>",
        "<dl><div><dt>a<dd>b</div><div><dt>c<dd>d</div></dl>",
        "<dl><dt>a<dd>b<dl><dt>c<dd>d</dl></dl>",
        "<ol><li>a</ol>",
        "<div role=list><div><div role=listitem>a</div><div role=listitem>b</div></div></div>",
        "<ul><div><li>a</div><li>b</ul>",
    ],
)
def test_a_list_has_as_many_entries_as_are_announced(markup: str) -> None:
    survey = surveyed(markup)
    for entry in survey.entries[Slice.LISTS]:
        counted = dict(facts_of(survey.page, entry))["entries"]
        assert f"list with {counted} item" in survey.page.heard(entry.node)
