"""Work grows with the page and not faster: calls are counted, not seconds, on pages of one shape that double."""

from collections.abc import Callable
from functools import partial
from itertools import repeat

import pytest

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.record import record_of
from murvel.checks.engine.run import leads_of
from murvel.page.open_page import document_from_text
from murvel.reader.moves.commands import COMMANDS, command
from murvel.reader.moves.linear import go_to
from murvel.reader.moves.reach import Ways, important
from murvel.reader.session import ReadingSession
from murvel.report.page_charts import heading_lines, landmark_lines, leads_lines
from murvel.report.path_text import path_lines
from murvel.report.timeline import timeline_lines
from murvel.survey.path import KeyboardPath
from murvel.survey.survey import survey_of
from murvel.tree.build import build_tree
from tests.support import calls, staged

pytestmark = pytest.mark.thorough

SMALL = 120
"""How often the shape stands on the smaller page."""

MOST = 2.4
"""How many times the calls may be of half the page: twice, and something for what is searched by halving."""

SHAPES = {
    "links on one line": "<a href=x{i}>more</a> ",
    "the same link": "<a href=x>more</a> ",
    "sections": "<section><p>some words of part {i}</p></section>",
    "labels before fields": "<label>Name {i}</label><input>",
    "labels for one field": "<label for=one>Name {i}</label>",
    "images": "<img src=a.png alt='pic {i}.png'> ",
    "cells of a row": "<td>x{i}",
    "rows": "<tr><th>r{i}<td>x<td>y",
    "rows of headers": "<tr><th>r{i}",
    "list items": "<li>a{i}",
    "buttons": "<button>Show</button>",
    "clicked texts": "<span onclick=x>c{i}</span>",
    "radios": "<input type=radio name=r id=r{i}><label for=r{i}>R{i}</label>",
    "options": "<option>o{i}",
    "selected options": "<option selected>o{i}",
    "headings": "<h2>H {i}</h2>",
    "live regions": "<div aria-live=polite>l{i}</div>",
    "owned elsewhere": "<div role=list aria-owns=o{i}></div><div role=listitem id=o{i}>x</div>",
    "described fields": "<input aria-describedby='d1 d2 d3'><p id=d{i}>d",
    "landmarks": "<nav><a href=#n{i}>N{i}</a></nav>",
    "lines": "line {i}<br>",
    "tree items": "<div role=treeitem>t{i}</div>",
    "summaries": "<details><summary>s{i}</summary>x</details>",
    "drawings": "<svg><title>t{i}</title><path/></svg>",
    "areas": "<area href=a{i} alt=A{i}>",
    "bold paragraphs": "<p><b>Bold {i}</b></p>",
    "tabs": "<div role=tab aria-controls=x{i} aria-labelledby='y1 y2' id=y{i}>t</div>",
    "styles": "<style>.c{i} p { color: red }</style><p class=c{i}>x",
}

AROUND = {
    "cells of a row": "<table border=1><tr>",
    "rows": "<table border=1>",
    "rows of headers": "<table border=1>",
    "options": "<select>",
    "selected options": "<select>",
    "tree items": "<div role=tree>",
    "labels for one field": "<input id=one>",
    "areas": "<img src=x alt=Plots usemap=#m><map name=m>",
}


def moves(session: ReadingSession) -> None:
    """Make every move there is, far on in the page; what is asked for in words is left out."""
    for each in COMMANDS:
        if each.words.islower():
            command(session, "last")
            command(session, each.words)


def ways(session: ReadingSession) -> None:
    found = Ways(session)
    for node in important(session):
        found.to(node)


def act(where: str) -> Callable[[ReadingSession], object]:
    """Return what activates the element with an id on the page, and hears what comes of it."""

    def work(session: ReadingSession) -> object:
        element = session.tree.document.ids[where]
        node = session.tree.node_of(element)
        assert node is not None
        session.make(go_to(session, node))
        return command(session, "activate"), session.spoken.total

    return work


WORKS: dict[str, Callable[[ReadingSession], object]] = {
    "tree": lambda session: build_tree(document_from_text(session.tree.document.source.text)),
    "readout": lambda session: ReadingSession(session.tree).spoken,
    "records of leads": lambda session: [record_of(lead) for lead in leads_of(session, built_in())],
    "survey": lambda session: survey_of(session, built_in()),
    "keyboard": lambda session: list(path_lines(KeyboardPath(survey_of(session, built_in())))),
    "reach": ways,
    "charts": lambda session: [*heading_lines(session), *landmark_lines(session), *leads_lines(session, built_in())],
    "timeline": lambda session: list(timeline_lines(session)),
    "moves": moves,
    "a key that changes an attribute": act("press"),
    "a key that ticks a box": act("tick"),
    "a key that opens": act("open"),
    "a key that fills a live region": act("fill"),
    "a key that hides all": act("hide"),
}

CONTROLS = (
    "<button id=press>Press</button><input type=checkbox id=tick aria-label=Tick>"
    "<details><summary id=open>Open</summary>more</details><button id=fill>Fill</button><button id=hide>Hide</button>"
    "<ul role=log aria-label=News id=news></ul>"
)
CUES = """
cues:
  - {when: activate, where: "#press", do: [{set: {where: "#press", attribute: aria-pressed, to: "true"}}]}
  - {when: activate, where: "#fill", do: [{insert: {where: "#news", html: "ITEMS"}}]}
  - {when: activate, where: "#hide", do: [{hide: "main"}]}
"""


def session_with(shape: str, count: int) -> ReadingSession:
    body = "".join(SHAPES[shape].replace("{i}", str(number)) for number in range(count))
    head = f"<!DOCTYPE html><html lang=en><title>T</title>{CONTROLS}<main><h1>T</h1>"
    cues = CUES.replace("ITEMS", "".join(f"<li>item {number}" for number in range(count)))
    session = staged(f"{head}{AROUND.get(shape, '')}{body}", cues)
    session.arrive()
    return session


@pytest.mark.parametrize("shape", SHAPES)
def test_twice_the_page_is_twice_the_work(shape: str) -> None:
    small, large = session_with(shape, SMALL), session_with(shape, 2 * SMALL)
    grown = {}
    for name, work in WORKS.items():
        before, after = (calls(partial(work, each)) for each in (small, large))
        if after > 2_000 and after > MOST * before:
            grown[name] = f"{before} to {after}"
    assert grown == {}


def test_the_count_tells_work_that_grows_faster() -> None:
    def squared(session: ReadingSession) -> None:
        for _ in session.tree.nodes:
            for _ in map(len, repeat("", len(session.tree.nodes))):
                session.tree.node_of(session.tree.document.root)

    small, large = session_with("headings", 60), session_with("headings", 120)
    assert calls(lambda: squared(large)) > 3 * calls(lambda: squared(small))
