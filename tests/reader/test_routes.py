"""Routes: their moves lead where they say, none is longer than reading straight on, and the shortest way is taken."""

from pathlib import Path

import pytest
from hypothesis import given

from murvel.reader.moves.commands import command
from murvel.reader.moves.routes import Route, Routes
from murvel.reader.session import ReadingSession
from tests.strategies import hostile_markup
from tests.support import DEMO, session_of

LONG = f"""<nav aria-label=Site><a href=a>Home</a> <a href=b>Rota</a></nav><main><h1>Plots</h1>{"<p>Soil and water.</p>" * 40}
<h2>Sheds</h2><p>Keys <a href=k>with the warden</a> or <a href=l>by post</a>.</p><form><label>Plot <input></label><button>Ask</button></form>
{"<p>Rain.</p>" * 9}<p>Compost is free.</p></main>"""


def leads_there(session: ReadingSession, route: Route, number: int) -> bool:
    """Whether a route leads from the top to a node, by its number; to a stop that is silent, by the focus."""
    node = session.tree.nodes[number]
    walked = ReadingSession(session.tree, session.voice)
    walked.arrive()
    for move in route.moves:
        command(walked, move)
    if walked.silent_stop is not None:
        return walked.silent_stop is node.element
    at = session.readout.first_object(node) or session.readout.nearest(node)
    assert at is not None
    assert walked.item is not None
    return walked.item.index == at.item.index


def all_lead_there(session: ReadingSession) -> None:
    routes = Routes(session)
    for number, node in enumerate(session.tree.nodes):
        fewest, straight = routes.fewest(node), routes.straight(node)
        assert (fewest is None) == (straight is None) == (not session.readout.objects)
        if fewest is None or straight is None:
            continue
        assert fewest.rank <= straight.rank
        assert leads_there(session, straight, number), straight
        assert leads_there(session, fewest, number), (fewest, node.role, node.name)


@given(hostile_markup())
def test_routes_lead_where_they_say_on_any_page(markup: str) -> None:
    all_lead_there(session_of(markup))


@pytest.mark.parametrize("path", sorted((DEMO / "found").glob("*.html")), ids=lambda path: path.stem)
def test_routes_lead_where_they_say_on_the_demo(path: Path) -> None:
    all_lead_there(session_of(path.read_text()))


@pytest.mark.parametrize(
    ("name", "moves"),
    [
        ("Home", ["first"]),
        ("Rota", ["first", "jump links"]),
        ("Plots", ["first", "jump headings"]),
        ("Sheds", ["first", "jump headings-2"]),
        ("with the warden", ["first", "jump links, 2 times"]),
        ("by post", ["first", "jump links, 3 times"]),
        ("Plot", ["first", "jump fields"]),
        ("Ask", ["first", "jump buttons"]),
        ("Compost is free.", ["first", "find free"]),
    ],
)
def test_the_way_is_the_one_with_the_fewest_presses(name: str, moves: list[str]) -> None:
    session = session_of(LONG)
    node = next(each for each in session.tree.nodes if each.name == name)
    route = Routes(session).fewest(node)
    assert route is not None
    assert list(route.moves) == moves
