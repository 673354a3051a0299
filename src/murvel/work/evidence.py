"""Evidence: a defect with everything filled in that a reading, or a check, knows of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import islice
from typing import NamedTuple

from murvel.casebook.defect import Defect, FurtherPlace, MoveMade, Place, in_voice
from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Certainty
from murvel.checks.engine.corrections import corrected
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.drills.found import Drilled
from murvel.drills.run import leads_of
from murvel.reader.moves.commands import acts, command
from murvel.reader.moves.moves import ABSOLUTE_MOVES, LEAD_NOWHERE, Heard
from murvel.reader.moves.routes import Routes
from murvel.reader.readout.kinds import BY_ID
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import NAME_FIRST
from murvel.reader.speech.wording.words import role_words
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.tree.trail import trail
from murvel.walks.acceptance import proposed_steps
from murvel.walks.serialising import steps_text

MOST_PLACES = 100
"""How many further places are added to a defect at once."""


def place_of(session: ReadingSession, node: Node) -> Place:
    """Return where a node's element is, exactly or not at all."""
    tree = session.tree
    position = tree.position_of(node)
    return Place(
        xpath=tree.xpath_of(node),
        line=position.line if position else None,
        column=position.column if position else None,
        snippet=tree.snippet_of(node),
        role=node.role,
        name=collapse(node.name),
        within=" › ".join(_words(each) for each in trail(session.targets(BY_ID["headings"]), node)),
    )


def _words(node: Node) -> str:
    """A landmark or heading in words, as "heading level 2 “Vacant plots”"."""
    name = collapse(node.name)
    return f"{role_words(node)} “{name}”" if name else role_words(node)


def evidence(session: ReadingSession, entry: Heard | None, page: int, take: int) -> Defect | None:
    """Return a defect with everything filled in that the session knows.

    Args:
        session: the reading in which it was found.
        entry: the announcement it is about; None for the last one that was heard.
        page, take: the casebook's numbers.

    Returns:
        None if nothing has been heard yet.
    """
    if entry is None:
        entry = next((each for each in reversed(session.log) if each.utterance.text), None)
    node = entry.node if entry is not None and entry.node is not None else session.node
    if entry is None or node is None:
        return None
    place = place_of(session, node)
    heard = collapse(entry.utterance.text)
    has_acted = session.has_changed and any(acts(words) for words, _ in session.asked)
    way = _Way(steps_to(session, entry)) if has_acted else _way(session, Routes(session), node, heard)
    return Defect(
        page=page,
        take=take,
        place=place,
        title=place.words,
        heard=heard,
        steps=(*_voice_step(session), *way.steps),
        straight=way.straight,
    )


def evidence_of_leads(
    page: Facts, catalogue: Catalogue, node: Node, heard: str, leads: Sequence[Lead], number: int, take: int
) -> Defect:
    """Return a defect with everything filled in that is known of a place: what is heard, and its surest lead.

    Args:
        page: the page.
        catalogue: the checks that a re-test asks again.
        node: the place.
        heard: what is heard there.
        leads: what checks noticed there.
        number, take: the casebook's numbers of the page and its take.
    """
    lead = min(leads, key=lambda each: each.certainty is not Certainty.FAILS, default=None)
    heard = lead.heard if lead is not None else heard
    is_of_page = lead is not None and lead.moves == ["open page"]
    way = _Way(_steps_by(page.session, [], heard)) if is_of_page else _way(page.session, page.routes, node, heard)
    check = lead.check.id if lead is not None and catalogue.get(lead.check.id) is not None else ""
    place = place_of(page.session, node)
    return Defect(
        page=number,
        take=take,
        place=place,
        title=lead.says if lead is not None else place.words,
        heard=heard,
        steps=way.steps,
        straight=way.straight,
        check=check,
        acceptance=steps_text(proposed_steps([each.words for each in way.steps], check, "")),
        expected=lead.expected if lead is not None else "",
        stopped=lead.check.means if lead is not None else "",
        criterion=lead.check.criteria[0] if lead is not None else "",
        repair=_repair(lead, page) if lead is not None else "",
    )


def further_places(page: Facts, leads: Sequence[Lead], number: int, take: int) -> tuple[FurtherPlace, ...]:
    """Return places at which the same was noticed as further ones of a defect, `MOST_PLACES` at most.

    Args:
        page: the page.
        leads: what was noticed there.
        number, take: the casebook's numbers of the page and its take.
    """
    session = page.session
    nodes = {lead.node: lead.heard for lead in leads}
    return tuple(
        FurtherPlace(number, take, place_of(session, node), heard) for node, heard in islice(nodes.items(), MOST_PLACES)
    )


def _repair(lead: Lead, page: Facts) -> str:
    """How to repair what a lead is about; where the start tag alone is wrong, with that as it is and would be right."""
    tags = corrected(lead.check.id, page.tree.snippet_of(lead.node)) if lead.node.element is lead.element else None
    return f"{lead.check.repair}\n- {tags[0]}\n+ {tags[1]}" if tags is not None else lead.check.repair


def evidence_of_drill(page: Facts, catalogue: Catalogue, drilled: Drilled, number: int, take: int) -> Defect | None:
    """Return a defect about the surest fault that a drill found, with its keys as the way.

    Args:
        page: the page.
        drilled: what came of the drill.
        number, take: the casebook's numbers of the page and its take.

    Returns:
        None if the widget is not on the page any more, or nothing was found.
    """
    found = min(leads_of(page, drilled), key=lambda each: each[0].certainty is not Certainty.FAILS, default=None)
    if found is None:
        return None
    lead, walk = found
    steps = tuple(MoveMade(each.move, 1, collapse(each.heard)) for each in walk)
    found_there = evidence_of_leads(page, catalogue, lead.node, lead.heard, [lead], number, take)
    return replace(found_there, steps=steps, straight=(), check=lead.check.id, acceptance="")


def _voice_step(session: ReadingSession) -> tuple[MoveMade, ...]:
    """What differs between voices is no defect of the page, so another voice than the usual one is named first."""
    if session.voice.title == NAME_FIRST.title:
        return ()
    return (MoveMade(in_voice(session.voice.title), 1, "what is said depends on the voice"),)


class _Way(NamedTuple):
    """The moves to a place, and those of reading straight on, where they are others."""

    steps: tuple[MoveMade, ...]
    straight: tuple[MoveMade, ...] = ()


def _way(session: ReadingSession, routes: Routes, node: Node, heard: str) -> _Way:
    """Return the way to a node with the fewest presses, and the straight one."""
    fewest, straight = routes.fewest(node), routes.straight(node)
    if fewest is None or straight is None:
        return _Way(_steps_by(session, [], heard))
    steps = _steps_by(session, fewest.moves, heard)
    if straight.moves == fewest.moves:
        return _Way(steps)
    return _Way(steps, (*steps[: len(straight.moves)], MoveMade(straight.moves[-1], 1, heard)))


def _steps_by(session: ReadingSession, moves: Sequence[str], heard: str) -> tuple[MoveMade, ...]:
    """Return moves from the top with what is heard on each, found by making them in a reading of their own."""
    trial = session.beside()
    trial.arrive()
    steps = [MoveMade("open page", 1, collapse(trial.log[0].utterance.text))]
    for at, move in enumerate((each for each in moves if each != "open page"), 1):
        said = heard if at == len(moves) else collapse(command(trial, move).text)
        steps.append(MoveMade(move, 1, said))
    return tuple(steps)


def steps_to(session: ReadingSession, last: Heard) -> tuple[MoveMade, ...]:
    """Return all moves of a session up to an announcement, each as it can be asked for again.

    The same move in a row is one step. Asking where one is and changing the voice are left out. What came before a move
    to the page's start or end is left out where nothing of it acted on the page.

    Args:
        session: the session.
        last: the announcement.
    """
    steps = [MoveMade("open page", 1, collapse(session.log[0].utterance.text))]
    has_acted = False
    for at, (words, known) in enumerate(session.asked):
        if known >= last.number:
            break
        end = session.asked[at + 1][1] if at + 1 < len(session.asked) else len(session.log)
        made = session.log[known : min(end, last.number)]
        if made and all(each.move in LEAD_NOWHERE for each in made):
            continue
        if not has_acted and any(each.move in ABSOLUTE_MOVES for each in made):
            del steps[1:]
        has_acted = has_acted or acts(words)
        times = steps.pop().times + 1 if steps[-1].move == words else 1
        steps.append(MoveMade(words, times, collapse(made[0].utterance.text) if made else ""))
    return tuple(steps)
