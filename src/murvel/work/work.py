"""A piece of work: a page that is open, its reading, and the casebook it is documented in; every verb is here."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from time import monotonic

from murvel.casebook.changes import Change, VerdictBefore
from murvel.casebook.content import MAX_BYTES
from murvel.casebook.defect import Defect, FurtherPlace
from murvel.casebook.errors import CasebookError
from murvel.casebook.records import Left, Noted, Page, Take
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.lead import NOTHING, Lead
from murvel.dom.document import Element
from murvel.dom.memory import no_collection
from murvel.dom.places import xpath
from murvel.drills.found import Drilled, Kind, Widget
from murvel.drills.run import widgets
from murvel.drills.walker import Walked
from murvel.loading.problems import in_few_lines
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.reader.acting import load, wait
from murvel.reader.moves.linear import go_to
from murvel.reader.moves.moves import Heard
from murvel.reader.readout.kinds import LEADS
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.reader.speech.voice_files import all_voices
from murvel.survey.entry import OPEN, Entry, EntryKey, Judgement
from murvel.survey.path import KeyboardPath
from murvel.survey.survey import Survey, holder, survey_of
from murvel.survey.verdicts import earlier_keys
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.work.documenting import Documenting
from murvel.work.drilling import drill_steps
from murvel.work.evidence import evidence, evidence_of_drill, evidence_of_leads, further_places
from murvel.work.sessions import open_session
from murvel.work.takes import keep_take
from murvel.work.walking import WalkBegun


class Work(Documenting):
    """An open page with its casebook; everything the application does to either goes through here.

    Attributes:
        casebook: the open casebook.
        session: the reading.
        catalogue: the checks that look through the page.
        voice_folder: where the person's own voices are, None for nowhere.
        judges_hidden: whether the survey judges what is hidden when the page arrives as well.
    """

    def __init__(self, casebook: Casebook, session: ReadingSession, catalogue: Catalogue) -> None:
        document = session.tree.document
        self.casebook = casebook
        self.session = session
        self._page: Page = casebook.keep_page(document.address, document.title, document.width)
        self._take: Take = keep_take(self.casebook, self._page, self.session)
        self.catalogue = catalogue
        self.voice_folder: Path | None = None
        self.judges_hidden = False
        self._told_at = monotonic()
        self._left: Left | None = None
        self._walk: WalkBegun | None = None
        self._survey: Survey | None = None
        self._settled: tuple[Survey, dict[EntryKey, EntryKey]] | None = None
        """A survey, and the keys of earlier versions at its entries."""
        self._path: KeyboardPath | None = None
        self._take_judgements()
        self._mark_defects()
        session.mark(LEADS, lambda _: [lead.node for lead in self.survey.leads])

    @property
    def problems(self) -> list[str]:
        """What could not be read of the page, or kept of it, a sentence each."""
        problems = in_few_lines(self.session.tree.document.problems)
        if not self.take.is_kept:
            problems.append(f"This take is not kept in the casebook: it has more than {MAX_BYTES // 2**20} MB.")
        return problems

    def arrive(self, *, goes_back: bool = True) -> None:
        """Announce the page; where it was left before, go back to that place, unless that is not wanted."""
        self.session.arrive()
        load(self.session)
        self._told_at = monotonic()
        left = self.casebook.left(self.page)
        if left is None or not goes_back:
            return
        self._left = left
        focus = self.session.tree.node_at(left.focus) if left.focus else None
        cursor = self.session.tree.node_at(left.cursor)
        is_live = self.session.stage is not None and self.session.stage.is_live
        if focus is not None and focus in self.session.tree.stops and not is_live:  # the page has no focus yet
            self.session.focus = focus
        if cursor is not None:
            position = self.session.tree.position_of(cursor)
            where = f", line {position.line}" if position else ""
            self._stand_at(cursor, f"back to where you were{where}")

    def catch_up(self) -> bool:
        """Tell the page how much time has passed since it was told last; return whether anything is heard of that."""
        now, stage = monotonic(), self.session.stage
        passed, self._told_at = now - self._told_at, now
        if stage is None:
            return False
        if not stage.is_live:
            return bool(wait(self.session, passed))
        if stage.next_due is None:
            return False
        wait(self.session, 0.0)  # its time passes by itself
        return True

    def close(self) -> None:
        """Keep where reading stands, and let go of what the page runs on.

        Raises:
            CasebookError: it cannot be written.
        """
        try:
            self.leave()
        finally:
            if self.session.stage is not None:
                self.session.stage.close()

    @property
    def page(self) -> Page:
        """The page that is open now."""
        self._keep_up()
        return self._page

    @property
    def take(self) -> Take:
        """The state of the page, as it was when it came."""
        self._keep_up()
        return self._take

    def _keep_up(self) -> None:
        """Keep the page and its take where the stage has gone on to another page."""
        document = self.session.tree.document
        if (document.address, document.width) != (self._page.address, self._page.width):
            self._page = self.casebook.keep_page(document.address, document.title, document.width)
            self._take = keep_take(self.casebook, self._page, self.session)
            self._take_judgements()
            self._mark_defects()

    def voices(self) -> tuple[list[Voice], list[str]]:
        """Return the built-in voices and the person's own, read again, with what is wrong with their files."""
        return all_voices(self.voice_folder)

    def leave(self) -> None:
        """Keep where reading stands, if it moved since it was last kept.

        Raises:
            CasebookError: it cannot be written.
        """
        node = self.session.node
        if node is None:
            return
        focus, tree = self.session.focus, self.session.tree
        left = Left(tree.xpath_of(node), tree.xpath_of(focus) if focus is not None else None)
        if left != self._left:
            self.casebook.leave(self.page, left)
            self._left = left

    def evidence(self, entry: Heard | None = None) -> Defect | None:
        """Return a defect about an announcement, the last one unless said otherwise; None if nothing was heard.

        If the focus is on a silent stop, the defect is about that stop.
        """
        silent = self.session.silent_stop
        if entry is None and silent is not None:
            leads = self.survey.leads_at(silent) if self.is_surveyed else []
            return self.evidence_of_leads(self._node_at(silent), NOTHING, leads)
        found = evidence(self.session, entry, self.page.id, self.take.id)
        return self._found_here(found) if found is not None else None

    def _found_here(self, defect: Defect) -> Defect:
        """The defect, with what the page runs on."""
        stage = self.session.stage
        return replace(defect, stage=stage.about) if stage is not None else defect

    # The survey

    @property
    def survey(self) -> Survey:
        """The lists of the page as it is now, with what checks notice there."""
        if self._survey is None or not self.is_surveyed:
            self._survey = survey_of(self.session, self.catalogue, with_hidden=self.judges_hidden)
        return self._survey

    def look_through(self, *, with_path: bool = False) -> Iterator[float]:
        """Survey the page as it is now in small steps, and yield after each which part is done, from 0 to 1.

        Where it is given up before the end, no survey is at hand.

        Args:
            with_path: whether the Tab order is worked out as well.
        """
        if not self.is_surveyed:
            survey = Survey(self.session, self.catalogue, with_hidden=self.judges_hidden)
            yield from survey.fill()
            self._survey = survey
        if with_path:
            yield 1.0
            with no_collection():
                self._path = KeyboardPath(self.survey)

    def look(self) -> Iterator[float]:
        """Look at a page in a browser, for contrast, targets and focus indicators; yield 0 before and 1 after.

        Raises:
            BrowserError: the page is busy, or does not answer.
        """
        yield 0.0
        if self.session.stage is not None:
            self.session.stage.look()
            self.forget_survey()
        yield 1.0

    def widget_at(self, element: Element) -> Widget | None:
        """Return the widget that an element is, or is a part of, if it can be drilled."""
        paths = {xpath(each) for each in (element, *element.ancestors())}
        found = [each for each in widgets(self.session, set(Kind) - {Kind.FORM}) if each.path in paths]
        return max(found, key=lambda each: len(each.path), default=None)

    def drill(self, widget: Widget) -> Iterator[Walked | Drilled]:
        """Drill a widget in steps: each key, and what came of it at last.

        Raises:
            MurvelError: the page does not answer, or the widget is not there any more.
        """
        try:
            yield from drill_steps(self.session, widget)
        finally:
            self.forget_survey()

    @property
    def is_surveyed(self) -> bool:
        """Whether the survey of the page as it is now is at hand, and asking for it takes no time."""
        known = self._survey
        is_of_now = known is not None and known.page.tree is self.session.tree
        return is_of_now and known is not None and known.with_hidden is self.judges_hidden

    @property
    def is_path_known(self) -> bool:
        """Whether asking for the Tab order takes no time."""
        return self.is_surveyed and self._path is not None and self._path.page is self.survey.page

    def forget_survey(self) -> None:
        """Survey the page again when somebody asks: the same tree says something else now."""
        self._survey = self._path = None

    def leads_at(self, node: Node) -> list[Lead]:
        """Return what checks noticed at a node; nothing while the page is not surveyed yet."""
        return self.survey.leads_at(node.element) if self.is_surveyed and not node.is_text else []

    def judgement(self, entry: Entry) -> Judgement:
        """Return what was said of an entry, in this take or an earlier one."""
        said = self._judgements.get(entry.key)
        if said is None and self._has_earlier:
            said = self._judgements.get(self._earlier_keys.get(entry.key, entry.key))
        return said if said is not None else OPEN

    def _take_judgements(self) -> None:
        """Take from the casebook what was said of the page."""
        self._judgements = self.casebook.judgements(self._page)
        self._has_earlier = any(key.earlier for key in self._judgements)

    def judge(self, entry: Entry, judgement: Judgement) -> None:
        """Keep what is said of an entry; it can be taken back.

        Raises:
            CasebookError: it cannot be written; what was said before stands.
        """
        before, page, take = self.judgement(entry), self.page.id, self.take.id
        verdict = before.verdict.value if before.verdict is not None else None
        then = self._earlier_keys.get(entry.key) if self._has_earlier else None
        with self.casebook.together():
            if then is not None:
                self.casebook.judge(page, take, then, OPEN)  # it is said anew, under the key of this version
            self.casebook.judge(page, take, entry.key, judgement)
            stood = VerdictBefore(page, take, entry.key, verdict, before.note)
            self.casebook.remember(f"what was said of {entry.slice} {entry.number}", stood)
        self._judgements[entry.key] = judgement
        if then is not None:
            self._judgements.pop(then, None)

    @property
    def _earlier_keys(self) -> dict[EntryKey, EntryKey]:
        """Keys of earlier versions under which something was said, by those that their entries have now."""
        survey = self.survey
        if self._settled is None or self._settled[0] is not survey:
            self._settled = survey, earlier_keys(self._judgements, survey)
        return self._settled[1]

    def undo(self) -> Change | None:
        """Take back the last change of a defect or verdict, also one of an earlier day; None if there is none.

        Raises:
            CasebookError: it cannot be written; the change stands.
        """
        change = super().undo()
        self._take_judgements()
        return change

    def evidence_of_entry(self, entry: Entry) -> Defect:
        """Return a defect about an entry of the survey."""
        return self.evidence_of_leads(self._node_at(entry.element), entry.heard, entry.leads)

    def evidence_of_leads(self, node: Node, heard: str, leads: Sequence[Lead]) -> Defect:
        """Return a defect about a place and what checks noticed there."""
        return self._found_here(
            evidence_of_leads(self.survey.page, self.catalogue, node, heard, leads, self.page.id, self.take.id)
        )

    def same_fault(self, defect: Defect) -> tuple[FurtherPlace, ...]:
        """Return the other places of the page at which the check of a new defect notices the same.

        Those of documented defects are left out, and all where the page is not surveyed.
        """
        if defect.id is not None or not defect.check or not self.is_surveyed:
            return ()
        here = [each for each in self.defects() if self.is_here(each) and each.check == defect.check]
        known = {place.xpath for each in here for place in (each.place, *(one.place for one in each.further))}
        known.add(defect.place.xpath)
        leads = [
            lead
            for lead in self.survey.leads
            if lead.check.id == defect.check
            and not known & {xpath(each) for each in (lead.element, holder(lead.element))}
        ]
        return further_places(self.survey.page, leads, self.page.id, self.take.id)

    def evidence_of_drill(self, drilled: Drilled) -> Defect | None:
        """Return a defect about what a drill found, with its keys as the way; None if the widget is gone."""
        found = evidence_of_drill(self.survey.page, self.catalogue, drilled, self.page.id, self.take.id)
        return self._found_here(found) if found is not None else None

    def go_to_element(self, element: Element, move: str) -> None:
        """Go to where an element stands on the page, or to what comes nearest where it is hidden."""
        self._stand_at(self._node_at(element), move)

    def _node_at(self, element: Element) -> Node:
        return self.survey.page.node_around(element)

    @property
    def path(self) -> KeyboardPath:
        """The Tab order of the page as it is now."""
        if not self.is_path_known or self._path is None:
            self._path = KeyboardPath(self.survey)
        return self._path

    def note(self, words: str) -> int:
        """Note what was heard last as puzzling, here and in the casebook; return how many notes there are."""
        number = self.session.note(words)
        if self.session.notes:
            heard = self.session.notes[-1].heard
            xpath = self.session.tree.xpath_of(heard.node) if heard.node is not None else ""
            noted = Noted(heard.move, collapse(heard.utterance.text), xpath, words)
            self.casebook.keep_note(self.page, self.take, noted)
        return number

    # Walks

    @property
    def is_walking(self) -> bool:
        """Whether what is done now is kept as a walk."""
        return self._walk is not None

    def begin_walk(self) -> None:
        """Keep what is done from now on as a walk."""
        self._walk = WalkBegun(self.session)

    def end_walk(self) -> Path:
        """Write the walk that was begun into a file beside the casebook, and return its path.

        Raises:
            WalkError: there is nothing to write, or it cannot be written; the walk is over.
        """
        assert self._walk is not None, "no walk was begun"
        walk, self._walk = self._walk, None
        return walk.end(self.casebook.path, self.page.width)

    def go_to(self, defect: Defect) -> str | None:
        """Go to a defect's place on this page; return why that cannot be done, None if it was."""
        if not self.is_here(defect):
            page = self.page_of(defect)
            address = page.address if page is not None else "another page"
            return f"Defect {defect.id} is on {address}; open that page to go there."
        node = self.session.tree.node_at(defect.place.xpath)
        if node is None:
            return f"The element of defect {defect.id} is not there any more; the page has changed."
        self._stand_at(node, f"go to defect {defect.id}")
        return None

    def _stand_at(self, node: Node, move: str) -> None:
        """Go to a node, and keep that as a move that can be asked for."""
        known = len(self.session.log)
        self.session.make(go_to(self.session, node, move))
        if self.session.item is not None:
            self.session.asked.append((f"item {self.session.item.index + 1}", known))


def open_work(
    address: str, casebook: Path, catalogue: Catalogue, setup: Setup = DEFAULT_SETUP, voice: Voice | None = None
) -> Work:
    """Open a page and the casebook it is documented in.

    Raises:
        PageError: the page cannot be loaded.
        StageError: the page's cues cannot be used.
        CasebookError: the casebook cannot be loaded.
    """
    session = open_session(address, setup, voice)
    book = Casebook(casebook)
    try:
        return Work(book, session, catalogue)
    except BaseException:
        book.close()
        raise


def last_page(casebook: Path) -> Page:
    """Return the page that was open last in a casebook.

    Raises:
        CasebookError: it is not a casebook, or holds no page yet.
    """
    with Casebook(casebook, read_only=True) as book:
        pages = book.pages()
    if not pages:
        raise CasebookError(f"{casebook} holds no page yet", "open one with murvel open PAGE --casebook FILE.")
    return pages[0]
