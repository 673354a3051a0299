"""Whether what is expected is so: each kind of expectation is one function, in a table."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from difflib import get_close_matches

import regex

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Check
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.checks.engine.run import leads_by_check
from murvel.checks.tables.forms_of_faults import ABOUT_WHAT_IS_AROUND, may_be_the_same
from murvel.reader import acting
from murvel.reader.moves.commands import command
from murvel.reader.readout.items import WITH_TEXT
from murvel.reader.readout.kinds import BY_ID, TARGETS_BY_ID, TARGETS_BY_SINGULAR
from murvel.reader.readout.lists import entries
from murvel.reader.session import ReadingSession
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.tree.trail import heading_over
from murvel.walks.parsing import seconds_of, stops_of
from murvel.walks.walk import Expectation, Expects, Step

_PATIENCE = 1.0
"""The seconds for which a pattern is sought."""

_NEAR = 3
_LEAST_LIKE = 0.3


@dataclass(frozen=True, slots=True)
class Unmet:
    """An expectation that is not met.

    Attributes:
        expectation: what was expected.
        instead: what was so instead, in words.
        nearest: what comes nearest to it on the page, empty if nothing does.
        there: what could have been asked for: roles with names, or entries of a list.
        is_unknown: whether nobody knows if it is so, on this stage.
    """

    expectation: Expectation
    instead: str
    nearest: str = ""
    there: tuple[str, ...] = ()
    is_unknown: bool = False

    @property
    def words(self) -> str:
        """What was expected, and what was so instead, in a sentence without its full stop."""
        if self.expectation.expects is Expects.NOT_NOTICED:
            return f"still {self.instead}"
        if self.expectation.expects is Expects.ARRIVES:
            there = f"; there {'is' if len(self.there) == 1 else 'are'} {', '.join(self.there)}" if self.there else ""
            return f"“{self.expectation.wanted}” leads nowhere: {self.instead}{there}"
        return f"expected is “{self.expectation.words}”, and instead: {self.instead}"


@dataclass(slots=True)
class Moment:
    """What a move led to.

    Attributes:
        session: the reading.
        catalogue: the checks.
        heard: what was heard on the move and since, the first on the move itself.
        since_order: what was heard since an order was judged last.
        page: the page as checks see it, where that is known already.
    """

    session: ReadingSession
    catalogue: Catalogue
    heard: list[str]
    since_order: list[str]
    page: Facts | None = None

    def facts(self) -> Facts:
        """The page as checks see it now."""
        is_known = self.page is not None and self.page.tree is self.session.tree
        return self.page if self.page is not None and is_known else Facts(self.session)

    @property
    def own(self) -> str:
        """What was heard on the move itself."""
        return self.heard[0] if self.heard else ""

    @property
    def all(self) -> str:
        """All that was heard, as one text."""
        return " / ".join(filter(None, self.heard))

    def listen(self, seconds: float) -> list[str]:
        """Let time pass, and return what is heard meanwhile."""
        known = len(self.session.log)
        acting.wait(self.session, seconds)
        new = texts_of(self.session, known)
        self.heard += new
        self.since_order += new
        return new


def texts_of(session: ReadingSession, since: int) -> list[str]:
    """Return what was heard since the log had a length; what the tool tells is never heard."""
    return [collapse(each.utterance.text) for each in session.log[since:]]


def unarrived(session: ReadingSession, step: Step) -> Unmet:
    """Return that the move of a step did not arrive, with why, and what it could have gone to."""
    first, _, rest = step.move.partition(",")[0].partition(" ")
    kind = TARGETS_BY_ID.get(rest) or TARGETS_BY_SINGULAR.get(rest) if first in ("jump", "back") else None
    nodes = session.targets(kind) if kind is not None else ()
    there = tuple(session.tree.words_of(each) for each in nodes[:_MOST_THERE])
    more = len(nodes) - len(there)
    named = (*there, f"{more} more") if more else there
    return Unmet(Expectation(Expects.ARRIVES, step.move, line=step.line), session.failure, there=named)


_MOST_THERE = 8
"""The most things that are named of a kind."""


def judge(expectation: Expectation, moment: Moment) -> Unmet | None:
    """Return None if what is expected is so, and what is so instead if not."""
    return _JUDGES[expectation.expects](expectation, moment)


def _text(expectation: Expectation) -> str:
    assert isinstance(expectation.wanted, str)
    return collapse(expectation.wanted)


def _unheard(expectation: Expectation, moment: Moment, instead: str) -> Unmet:
    wanted = expectation.wanted if isinstance(expectation.wanted, str) else ""
    lines = [collapse(each.text) for each in moment.session.spoken.utterances]
    return Unmet(expectation, instead or "nothing", _nearest(wanted, [*moment.since_order, *lines]))


def _nearest(wanted: str, among: Sequence[str]) -> str:
    return next(iter(get_close_matches(wanted, [each for each in dict.fromkeys(among) if each], 1, _LEAST_LIKE)), "")


def _heard(expectation: Expectation, moment: Moment) -> Unmet | None:
    is_so = _text(expectation) in (*moment.heard, moment.all)
    return None if is_so else _unheard(expectation, moment, moment.own)


def _contains(expectation: Expectation, moment: Moment) -> Unmet | None:
    return None if _text(expectation) in moment.all else _unheard(expectation, moment, moment.all)


def _lacks(expectation: Expectation, moment: Moment) -> Unmet | None:
    return Unmet(expectation, moment.all) if _text(expectation) in moment.all else None


def _matches(expectation: Expectation, moment: Moment) -> Unmet | None:
    try:
        is_found = regex.search(_text(expectation), moment.all, timeout=_PATIENCE)
    except TimeoutError:
        return Unmet(expectation, f"the pattern is sought for more than {_PATIENCE:g} second: it tries too many ways")
    return None if is_found else Unmet(expectation, moment.all or "nothing")


def _announced(expectation: Expectation, moment: Moment) -> Unmet | None:
    assert isinstance(expectation.wanted, Mapping)
    text = collapse(expectation.wanted["text"])
    found = [*moment.heard, *moment.listen(seconds_of(expectation.wanted["within"]) or 0.0)]
    if any(text in each for each in found):
        return None
    return Unmet(expectation, " / ".join(filter(None, found)) or "nothing", _nearest(text, found))


def _silence(expectation: Expectation, moment: Moment) -> Unmet | None:
    assert isinstance(expectation.wanted, float)
    found = [*moment.heard[1:], *moment.listen(expectation.wanted)]
    return Unmet(expectation, " / ".join(filter(None, found))) if any(found) else None


def _in_order(expectation: Expectation, moment: Moment) -> Unmet | None:
    assert isinstance(expectation.wanted, tuple)
    at, heard = 0, list(moment.since_order)
    moment.since_order.clear()
    for text in map(collapse, expectation.wanted):
        found = next((place for place in range(at, len(heard)) if text in heard[place]), None)
        if found is None:
            so_far = f"“{text}” is not heard in its place; heard: {' / '.join(filter(None, heard)) or 'nothing'}"
            return Unmet(expectation, so_far, _nearest(text, heard))
        at = found + 1
    return None


def _at(expectation: Expectation, moment: Moment) -> Unmet | None:
    return _place(expectation, moment.session, moment.session.node)


def _focus(expectation: Expectation, moment: Moment) -> Unmet | None:
    session = moment.session
    if expectation.wanted == "nothing":
        return None if session.focus is None else Unmet(expectation, _words(session, session.focus))
    return _place(expectation, session, session.focus)


def _place(expectation: Expectation, session: ReadingSession, node: Node | None) -> Unmet | None:
    assert isinstance(expectation.wanted, Mapping)
    if node is not None and is_it(session, node, expectation.wanted):
        return None
    return Unmet(expectation, _words(session, node), there=_there(session, expectation.wanted))


def is_it(session: ReadingSession, node: Node, facts: Mapping[str, str]) -> bool:
    """Whether a node has a role, a name and states.

    Args:
        session: the reading.
        node: the node.
        facts: `role`, `name`, `id`, `under` for the heading before it, and `state` with states as they are said,
            parted by commas; each may be missing.
    """
    if facts.get("role", node.role) != node.role or collapse(facts.get("name", node.name)) != collapse(node.name):
        return False
    if "id" in facts and facts["id"] != node.element.attributes.get("id"):
        return False
    if "under" in facts:
        heading = heading_over(session.targets(BY_ID["headings"]), node)
        if heading is None or collapse(heading.name) != collapse(facts["under"]):
            return False
    wanted = filter(None, map(str.strip, facts.get("state", "").split(",")))
    said = collapse(session.speaker.say_alone(node).text)
    return all(re.search(rf"(?:^|, ){re.escape(each)}(?:,|$)", said) for each in wanted)


def _there(session: ReadingSession, facts: Mapping[str, str]) -> tuple[str, ...]:
    """The roles and names on the page that come nearest to one that was asked for."""
    named = [each for each in session.tree.nodes if each.name and not each.is_text]
    alike = [each for each in named if each.role == facts.get("role")] or named
    names = {f"{each.role} “{collapse(each.name)}”": None for each in alike}
    wanted = f"{facts.get('role', '')} “{facts.get('name', '')}”"
    return tuple(get_close_matches(wanted, names, _NEAR, 0.0))


def _words(session: ReadingSession, node: Node | None) -> str:
    return session.tree.words_of(node) if node is not None else "nothing"


def _reached(expectation: Expectation, moment: Moment) -> Unmet | None:
    assert isinstance(expectation.wanted, Mapping)
    session, wanted = moment.session, expectation.wanted
    stops, seconds = stops_of(wanted["within"]), seconds_of(wanted["within"])
    if stops is not None:
        passed = []
        for _ in range(stops):
            command(session, "tab")
            if session.focus is not None and is_it(session, session.focus, wanted):
                return None
            passed.append(_words(session, session.focus))
        return Unmet(expectation, ", ".join(passed), there=_there(session, wanted))
    start = session.item.index if session.item is not None else 0
    begins = session.spoken.start(start)
    nodes = (each for each in session.tree.nodes if not each.is_text and is_it(session, each, wanted))
    found = map(session.readout.first_object, nodes)
    times = [session.spoken.start(each.item.index) - begins for each in found if each is not None]
    least = min((time for time in times if time >= 0), default=None)
    if least is not None and seconds is not None and least <= seconds:
        return None
    instead = f"it is heard after {least:.1f} s" if least is not None else "it is not heard further on"
    return Unmet(expectation, instead, there=_there(session, wanted))


def _includes(expectation: Expectation, moment: Moment) -> Unmet | None:
    assert isinstance(expectation.wanted, tuple)
    found = [collapse(each.utterance.text) for each in entries(moment.session, expectation.list)]
    missing = [each for each in map(collapse, expectation.wanted) if not any(each in entry for entry in found)]
    if not missing:
        return None
    return Unmet(expectation, f"missing: {', '.join(missing)}", _nearest(missing[0], found), tuple(found[:_NEAR]))


def _not_noticed(expectation: Expectation, moment: Moment) -> Unmet | None:
    """What a check notices where one stands, or another one of the same fault; before the first move, on the page."""
    session = moment.session
    check = moment.catalogue[_text(expectation)]
    if check.needs_browser:
        if session.stage is None or not session.stage.is_live:
            return Unmet(expectation, "this check looks at a page in a browser only", is_unknown=True)
        session.stage.look()
    others = [each for each in moment.catalogue if each is not check and may_be_the_same(check.id, each.id)]
    asked = [check, *(each for each in others if check.needs_browser or not each.needs_browser)]
    noticed = [lead for found in leads_by_check(moment.facts(), asked) for lead in found]
    leads = [lead for lead in noticed if _is_meant(lead, check, session)]
    return Unmet(expectation, f"noticed: {leads[0].says}") if leads else None


def _is_meant(lead: Lead, check: Check, session: ReadingSession) -> bool:
    if not session.asked:
        return lead.check is check or lead.element is session.tree.document.root
    around = [*session.node.ancestors()] if check.id in ABOUT_WHAT_IS_AROUND and session.node is not None else []
    return stands_at(session, lead.node) or lead.node in around


def stands_at(session: ReadingSession, node: Node) -> bool:
    """Whether reading stands at a node, or at what is read in its place."""
    stood = session.node
    if stood is not None and (node is stood or (stood.role in WITH_TEXT and stood.contains(node))):
        return True
    at = session.readout.first_object(node) or session.readout.nearest(node)
    if at is None or at is session.cursor:
        return at is not None
    return stood is not None and at.item is session.item and (stood.is_text or at.node.is_text)


_JUDGES: Mapping[Expects, Callable[[Expectation, Moment], Unmet | None]] = {
    Expects.HEARD: _heard,
    Expects.CONTAINS: _contains,
    Expects.LACKS: _lacks,
    Expects.MATCHES: _matches,
    Expects.AT: _at,
    Expects.FOCUS: _focus,
    Expects.ANNOUNCED: _announced,
    Expects.SILENCE: _silence,
    Expects.REACHED: _reached,
    Expects.IN_ORDER: _in_order,
    Expects.NOT_NOTICED: _not_noticed,
    Expects.INCLUDES: _includes,
}
assert set(_JUDGES) == set(Expects) - {Expects.ARRIVES}, "an expectation has no judge"
