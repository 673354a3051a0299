"""Documenting: every verb for what stands in the casebook about defects. Each change can be taken back."""

from __future__ import annotations

import os
from abc import ABC, abstractmethod
from collections import Counter
from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from pathlib import Path

from murvel.casebook.attaching import attach
from murvel.casebook.attachment import AS_FOUND, Attachment
from murvel.casebook.changes import Before, Change, DefectBefore, NoDefect, NoStatus
from murvel.casebook.defect import Defect, FurtherPlace
from murvel.casebook.listing import alike
from murvel.casebook.records import Page
from murvel.casebook.status import Status, StatusChange, status_in
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.errors import MurvelError
from murvel.reader.readout.kinds import DEFECTS
from murvel.reader.session import ReadingSession
from murvel.work.trying import Tried, try_steps


class Documenting(ABC):
    """What is documented in a casebook while a page is open.

    Attributes:
        casebook: the open casebook.
        session: the reading of the page.
        catalogue: the checks that look through it.
        texts: texts of the person's own for what comes again in defects, by name.
    """

    casebook: Casebook
    session: ReadingSession
    catalogue: Catalogue
    texts: Mapping[str, str] = {}

    @property
    @abstractmethod
    def page(self) -> Page:
        """The page that is open now."""

    def defects(self) -> list[Defect]:
        """Return all defects of the casebook, in the order they were documented in."""
        return self.casebook.defects()

    def document(self, defect: Defect) -> Defect:
        """Keep a new defect, and return it with its number; it can be taken back.

        Raises:
            CasebookError: it cannot be written; nothing was kept.
        """
        with self.casebook.together():
            kept = self.casebook.keep_defect(defect)
            self.casebook.drop_draft(self.page)
            assert kept.id is not None, "what is kept has an id"
            self.casebook.remember(f"documenting defect {kept.id}", NoDefect(kept.id))
        self._keep_picture(kept.id, defect.place.xpath)
        self._mark_defects()
        return kept

    def _keep_picture(self, identifier: int, path: str) -> None:
        """Keep a picture of what a defect is about, where there is one; a page that is gone does not hinder anybody."""
        node = self.session.tree.node_at(path)
        if self.session.stage is None or node is None:
            return
        with suppress(MurvelError):
            png = self.session.stage.picture(node.element)
            if png is not None:
                self.casebook.keep_attachment(identifier, png, AS_FOUND)

    def attachments(self, defect: Defect) -> list[Attachment]:
        """Return the attachments of a defect."""
        return self.casebook.attachments(defect.id) if defect.id is not None else []

    def attach(self, defect: Defect, file: str) -> None:
        """Keep a picture, a drawing or a text in a file with a defect.

        Raises:
            CasebookError: it cannot be read, is nothing that can be attached, or cannot be kept.
        """
        assert defect.id is not None, "only kept defects have attachments"
        attach(self.casebook, defect.id, Path(os.path.expanduser(file.strip())))

    def note_draft(self, defect: Defect | None) -> None:
        """Keep what is entered of a defect so far, in case Murvel ends before it is kept; None forgets it.

        Raises:
            CasebookError: it cannot be written.
        """
        if defect is None:
            self.casebook.drop_draft(self.page)
        else:
            self.casebook.keep_draft(replace(defect, page=self.page.id))

    @property
    def draft(self) -> Defect | None:
        """The defect of this page that was being written when Murvel ended, None if there is none."""
        return self.casebook.draft(self.page)

    def edit(self, before: Defect, after: Defect) -> Defect:
        """Keep a changed defect in place of the one before; it can be taken back.

        Raises:
            CasebookError: it cannot be written; the one before stands.
        """
        with self.casebook.together():
            kept = self.casebook.keep_defect(after)
            self.casebook.drop_draft(self.page)
            self.casebook.remember(f"editing defect {kept.id}", DefectBefore(before))
        self._mark_defects()
        return kept

    def statuses(self) -> dict[int, list[StatusChange]]:
        """Return the statuses that were given to each defect, the last one last."""
        return self.casebook.statuses()

    def join(self, defect: Defect, to: Defect) -> Defect:
        """Keep the place of a defect that is being written as a further place of another, and return that one.

        Raises:
            CasebookError: it cannot be written.
        """
        place = FurtherPlace(defect.page, defect.take, defect.place, defect.heard)
        return self.edit(to, replace(to, further=(*to.further, place)))

    def used(self, field: str) -> list[str]:
        """Return the texts that defects have in a field, as "repair", those used most first."""
        counts = Counter(getattr(each, field) for each in self.defects())
        return [text for text, _ in counts.most_common() if text]

    def alike(self, defect: Defect) -> list[Defect]:
        """Return the defects that may be about the same fault as one that is being written, the likeliest first."""
        return alike(defect, self.defects())

    def try_steps(self, defect: Defect) -> Tried:
        """Run the acceptance steps of a defect that is being written; `murvel.work.trying` says how.

        Raises:
            MurvelError: the steps cannot be read, or its take cannot be opened.
        """
        return try_steps(defect, self.session, self.catalogue, self.casebook.content(defect.take))

    def give_status(self, defects: Sequence[Defect], words: str) -> Status:
        """Give defects a status that is said in words, as one change.

        Raises:
            CasebookError: the words say none, or it cannot be written.
        """
        status, reason, until = status_in(words)
        before: list[Before] = []
        with self.casebook.together():
            for defect in defects:
                assert defect.id is not None, "only kept defects have a status"
                change = self.casebook.keep_status(defect.id, status, reason, until)
                before.append(NoStatus(change, defect.id))
            self.casebook.remember(f"making {named(defects)} {status}", *before)
        return status

    def tag(self, defects: Sequence[Defect], words: str) -> None:
        """Give defects tags, words with spaces between, in place of those they have, as one change.

        Raises:
            CasebookError: it cannot be written.
        """
        tags = tuple(dict.fromkeys(words.split()))
        with self.casebook.together():
            for defect in defects:
                self.casebook.keep_defect(replace(defect, tags=tags))
            self.casebook.remember(f"tagging {named(defects)}", *map(DefectBefore, defects))

    def delete(self, defects: Sequence[Defect]) -> None:
        """Delete defects, as one change.

        Raises:
            CasebookError: it cannot be written; they stand.
        """
        with self.casebook.together():
            for defect in defects:
                assert defect.id is not None, "only kept defects are deleted"
                self.casebook.delete_defect(defect.id)
            self.casebook.remember(f"deleting {named(defects)}", *map(DefectBefore, defects))
        self._mark_defects()

    def undo(self) -> Change | None:
        """Take back the last change of a defect or verdict, also one of an earlier day; None if there is none.

        Raises:
            CasebookError: it cannot be written; the change stands.
        """
        change = self.casebook.take_back()
        self._mark_defects()
        return change

    def _mark_defects(self) -> None:
        """Let jumps find the places of the defects on this page, as they are documented now."""
        places = [defect.place.xpath for defect in self.defects() if self.is_here(defect)]
        self.session.mark(DEFECTS, lambda tree: filter(None, map(tree.node_at, places)))

    def page_of(self, defect: Defect) -> Page | None:
        """Return the page a defect is on, None if the casebook has no such page."""
        return next((page for page in self.casebook.pages() if page.id == defect.page), None)

    def is_here(self, defect: Defect) -> bool:
        """Whether a defect is of the page that is open."""
        return defect.page == self.page.id


def named(defects: Sequence[Defect]) -> str:
    """Return what defects are called, by their numbers."""
    numbers = ", ".join(str(each.id) for each in defects)
    return f"defect {numbers}" if len(defects) == 1 else f"defects {numbers}"


def they_are(defects: Sequence[Defect]) -> str:
    """Return how a sentence about defects begins, as "Defects 1, 2 are"."""
    return f"{named(defects).capitalize()} {'is' if len(defects) == 1 else 'are'}"
