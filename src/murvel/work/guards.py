"""Walks out of a casebook: the acceptance steps of its defects as files that guard the repairs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from contextlib import suppress
from dataclasses import replace
from functools import cached_property
from pathlib import Path

from murvel.casebook.defect import Defect, voice_of
from murvel.casebook.records import Page
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.tables.forms_of_faults import REPAIRED_BY_GOING, is_about_names
from murvel.errors import MurvelError
from murvel.files.outputs import write_into
from murvel.reader.moves.commands import command
from murvel.reader.readout.kinds import BY_ID
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import NAME_FIRST, Voice
from murvel.retest.takes import session_of_take
from murvel.text import collapse
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import PLAIN_ROLES
from murvel.tree.trail import heading_over
from murvel.walks.acceptance import proves, way_of, work_the_page
from murvel.walks.addresses import page_for
from murvel.walks.errors import WalkError
from murvel.walks.meant import PageMeant, meant_by
from murvel.walks.parsing import SUFFIXES, steps_of
from murvel.walks.serialising import walk_text
from murvel.walks.walk import Expectation, Expects, Step, Walk

_TITLED = "2.4.2"
"""The criterion of titles: a page whose title is at fault is not known by it."""
_LONGEST = 60


def write_guards(
    casebook: Casebook, defects: Iterable[Defect], folder: Path, catalogue: Catalogue, *, force: bool = False
) -> Iterator[Path]:
    """Write a walk for each defect that has acceptance steps, and yield the paths.

    Args:
        casebook: the casebook.
        defects: defects of it.
        folder: where the files are written; made where it is not there.
        catalogue: the checks that steps may name.
        force: whether a file that holds something else is replaced.

    Raises:
        WalkError: a file cannot be written, or the steps of a defect cannot be read.
        CasebookError: the casebook cannot be read.
    """
    pages = {page.id: page for page in casebook.pages()}
    takes: dict[int, _Taken] = {}
    for defect in defects:
        steps = steps_of(defect.acceptance, catalogue, f"the steps of defect {defect.id}")
        page = pages.get(defect.page)
        if page is None or not proves(steps):
            continue
        taken = takes.setdefault(defect.take, _Taken(casebook, page, defect.take))
        walk = _guard(defect, steps, page, taken, folder)
        name, data = f"defect-{defect.id}{SUFFIXES[0]}", walk_text(walk).encode("utf-8", "backslashreplace")
        yield write_into(folder, name, data, "walk", WalkError, force=force)


class _Taken:
    """A take of a casebook, opened when somebody asks."""

    def __init__(self, casebook: Casebook, page: Page, number: int) -> None:
        self._page = page
        self._content = casebook.content(number)

    @property
    def stage(self) -> str:
        """What the page ran on; empty if the take is not kept."""
        if self._content is None:
            return ""
        return "browser" if self._content.capture else "built-in"

    @cached_property
    def session(self) -> ReadingSession | None:
        """The page as it was; None if the take is not kept, or cannot be opened any more."""
        with suppress(MurvelError):
            return session_of_take(self._content, self._page.address, self._page.width) if self._content else None
        return None


def _guard(defect: Defect, steps: tuple[Step, ...], page: Page, taken: _Taken, folder: Path) -> Walk:
    voice = voice_of(defect).title
    return Walk(
        page_for(page.address, folder),
        _at_the_place(defect, steps, taken.session),
        f"Defect {defect.id}: {defect.headline}",
        page.width,
        taken.stage,
        voice if voice != NAME_FIRST.title else "",
        meant=_meant(defect, page, taken.session),
    )


def _meant(defect: Defect, page: Page, session: ReadingSession | None) -> PageMeant:
    by_title = defect.criterion != _TITLED
    if session is None:
        return PageMeant(collapse(page.title) if by_title else "")
    return meant_by(session.tree, by_title=by_title, without=session.tree.node_at(defect.place.xpath))


def _at_the_place(defect: Defect, steps: tuple[Step, ...], session: ReadingSession | None) -> tuple[Step, ...]:
    """The steps, where a check is asked with what its place is known by: elsewhere it has nothing to notice."""
    node = session.tree.node_at(defect.place.xpath) if session is not None else None
    if session is None or node is None or node.element is session.tree.document.root or work_the_page(steps):
        return steps
    voice = voice_of(defect)
    way = way_of(steps)
    stood = _led_by(session, voice, way)
    if stood is None:
        return steps
    found = _find(stood)
    says_so = stood.is_text or (stood.name_from is NameFrom.CONTENTS and not is_about_names(defect.check))
    if says_so and _led_by(session, voice, found) is stood:  # a text stays where its element gets another role
        way = found
    proof = next(step for step in steps if step.expected)
    rest = steps[steps.index(proof) + 1 :]
    facts = _known_by(defect, node, stood, session)
    asks = any(one.expects is Expects.NOT_NOTICED for one in proof.expected)
    at = (Expectation(Expects.AT, facts),) if asks and way and facts else ()
    last = replace(proof, move=way[-1] if way else "", expected=(*at, *proof.expected))
    return (*map(Step, way[:-1]), last, *rest)


def _led_by(session: ReadingSession, voice: Voice, moves: Sequence[str]) -> Node | None:
    """Where moves from the top of a page lead; None if they lead nowhere."""
    trial = ReadingSession(session.tree, voice)
    trial.arrive()
    for move in moves:
        command(trial, move)
        if trial.failure:
            return None
    return trial.node


def _find(text: Node) -> tuple[str, ...]:
    """The moves that find a node by the first words of its text."""
    words = collapse(text.name)
    return "first", f"find {words if len(words) <= _LONGEST else words[:_LONGEST].rpartition(' ')[0]}"


def _known_by(defect: Defect, node: Node, stood: Node, session: ReadingSession) -> dict[str, str]:
    """The facts of where the way leads that a repair leaves: its id or else its name, and the heading over it.

    A text is known by what it says, which `find` has found.
    """
    facts = {}
    if stood is node and node.element.attributes.get("id", "").strip():
        facts["id"] = node.element.attributes["id"]
    elif stood.name and not stood.is_text and not is_about_names(defect.check):
        facts["name"] = collapse(stood.name)
    if stood.role not in PLAIN_ROLES and defect.check not in REPAIRED_BY_GOING:
        facts["role"] = stood.role
    heading = heading_over(session.targets(BY_ID["headings"]), stood)
    if heading is not None and heading is not node and heading.name.strip():
        facts["under"] = collapse(heading.name)
    return facts
