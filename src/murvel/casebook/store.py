"""The casebook: what is kept of pages, takes, verdicts, notes and defects, and the one way in for every change."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from datetime import datetime
from typing import Any

import sqlalchemy as sa

from murvel.casebook import rows, schema
from murvel.casebook.attachment import Attachment, kind_of, why_not_kept
from murvel.casebook.changes import MOST, Before, Change, DefectBefore, NoAttachment, NoDefect, NoStatus
from murvel.casebook.content import (
    MAX_BYTES,
    Packed,
    PartKind,
    TakeContent,
    digest_of,
    packed,
    unpacked,
)
from murvel.casebook.defect import Defect
from murvel.casebook.errors import CasebookError
from murvel.casebook.file import CasebookFile
from murvel.casebook.records import Left, Noted, Page, Take, TakeRecord
from murvel.casebook.rows import before_as_json, storable, values_of
from murvel.casebook.status import Status, StatusChange
from murvel.dom.document import Document
from murvel.loading.problems import in_few_lines
from murvel.survey.entry import OPEN, EntryKey, Judgement, Verdict


class Casebook(CasebookFile):
    """An open casebook; `CasebookFile` says how it is opened and closed.

    Defects and statuses are asked for at every key. They are read once, and again after each of their changes: nobody
    else writes the file. One that is only read is read each time.
    """

    _defects: list[Defect] | None = None
    _statuses: dict[int, list[StatusChange]] | None = None

    # Pages and takes

    def keep_page(self, address: str, title: str, width: int) -> Page:
        """Note that a page was opened at a width, and return it."""
        address, title = storable(address), storable(title)
        with self._change() as connection:
            is_it = (schema.pages.c.address == address, schema.pages.c.width == width)
            row = connection.execute(sa.select(schema.pages).where(*is_it)).first()
            values = {"title": title, "opened": _now()}
            if row is None:
                made = connection.execute(sa.insert(schema.pages).values(address=address, width=width, **values))
                return Page(_key(made), address, title, width)
            connection.execute(sa.update(schema.pages).where(schema.pages.c.id == row.id).values(**values))
            return Page(row.id, address, title, width)

    def keep_take(
        self, page: Page, document: Document, tree: Callable[[], str], capture: Callable[[], str] = lambda: ""
    ) -> Take:
        """Return the take of a document: the last one while source and resources are the same, else a new one.

        What it was made of is kept with it, unless that is more than `murvel.casebook.content.MAX_BYTES`.

        Args:
            page: the page.
            document: the document as it arrived.
            tree: returns its tree as JSON; asked only for a take that is not kept yet.
            capture: returns the page as a browser had it, empty if none did; asked in the same case.
        """
        source, resources = document.source.text, document.resources.texts
        digest = digest_of(source, resources)
        takes = schema.takes
        query = sa.select(takes).where(takes.c.page == page.id).order_by(takes.c.number.desc()).limit(1)
        last = next(iter(self._read(query)), None)
        is_known = last is not None and last.digest == digest
        if last is not None and is_known and self._parts_of(last.id):
            return Take(last.id, last.number)
        parts = packed(TakeContent(source, tree(), resources, capture()))
        is_kept = sum(len(part.data) for part in parts) <= MAX_BYTES
        with self._change() as connection:
            if last is not None and is_known:
                take = Take(last.id, last.number, is_kept)
            else:
                number = last.number + 1 if last is not None else 1
                problems = "\n".join(in_few_lines(document.problems))
                values = {
                    "page": page.id,
                    "number": number,
                    "digest": digest,
                    "taken": _now(),
                    "problems": problems,
                }
                take = Take(_key(connection.execute(sa.insert(takes).values(**values))), number, is_kept)
            for part in parts if is_kept else ():
                _keep_part(connection, take, part)
        return take

    def content(self, take: int) -> TakeContent | None:
        """Return what a take was made of, None if that is not kept.

        Raises:
            CasebookError: it is damaged.
        """
        kept = self._parts_of(take)
        if not kept:
            return None
        contents = schema.contents
        texts: dict[tuple[str, str], str] = {}
        try:
            for part in kept:
                query = sa.select(contents.c.data).where(contents.c.digest == part.content)
                texts[part.kind, part.address] = unpacked(self._read(query)[0].data)
        except (ValueError, IndexError) as error:
            raise CasebookError(
                f"What take {take} of {self._name} was made of is damaged", "bring back a copy of the file."
            ) from error
        return TakeContent(
            texts[PartKind.SOURCE, ""],
            texts[PartKind.TREE, ""],
            {address: text for (kind, address), text in texts.items() if kind == PartKind.RESOURCE},
            texts.get((PartKind.CAPTURE, ""), ""),
        )

    def _parts_of(self, take: int) -> list[sa.Row[Any]]:
        return self._read(sa.select(schema.parts).where(schema.parts.c.take == take))

    def takes(self) -> list[TakeRecord]:
        """Return all takes, those of a page together, in the order in which they were taken."""
        takes, pages = schema.takes, schema.pages
        kept = sa.select(schema.parts.c.take).where(schema.parts.c.take == takes.c.id).exists()
        query = (
            sa.select(takes, pages.c.address, kept.label("is_kept")).join(pages).order_by(pages.c.id, takes.c.number)
        )
        return self._made(query, rows.take_of, "take")

    def pages(self) -> list[Page]:
        """Return all pages, the last opened first."""
        query = sa.select(schema.pages).order_by(schema.pages.c.opened.desc(), schema.pages.c.id.desc())
        return self._made(query, rows.page_of, "page")

    # Where reading stood

    def leave(self, page: Page, left: Left) -> None:
        """Keep where reading stands on a page."""
        with self._change() as connection:
            connection.execute(sa.delete(schema.places).where(schema.places.c.page == page.id))
            connection.execute(sa.insert(schema.places).values(page=page.id, cursor=left.cursor, focus=left.focus))

    def left(self, page: Page) -> Left | None:
        """Return where reading stood, None for a page that was never left."""
        places = sa.select(schema.places).where(schema.places.c.page == page.id)
        return next(iter(self._made(places, rows.left_of, "place of page")), None)

    # Verdicts

    def judgements(self, page: Page) -> dict[EntryKey, Judgement]:
        """Return what was said of the entries of a page's survey, by their keys, in any of its takes."""
        verdicts = sa.select(schema.verdicts).where(schema.verdicts.c.page == page.id)
        return dict(self._made(verdicts, rows.judgement_of, "verdict on page"))

    def judge(self, page: int, take: int, entry: EntryKey, judgement: Judgement) -> None:
        """Keep what is said of an entry in place of what was said before; nothing said is nothing kept.

        Args:
            page, take: the casebook's numbers of the page, and of the take in which it is said.
            entry: the entry's key.
            judgement: what is said.
        """
        table = schema.verdicts
        key = {"page": page, **asdict(entry), "slice": entry.slice.value}
        is_it = (table.c[name] == value for name, value in key.items())
        with self._change() as connection:
            connection.execute(sa.delete(table).where(*is_it))
            if judgement != OPEN:
                verdict = judgement.verdict.value if judgement.verdict is not None else None
                values = {"verdict": verdict, "note": storable(judgement.note)}
                connection.execute(sa.insert(table).values(take=take, **key, **values))

    # Notes

    def notes(self, page: Page) -> list[Noted]:
        """Return what a listener noted on a page, in the order it was noted in."""
        notes = sa.select(schema.notes).where(schema.notes.c.page == page.id).order_by(schema.notes.c.id)
        return self._made(notes, rows.noted_of, "note on page")

    def keep_note(self, page: Page, take: Take, noted: Noted) -> None:
        """Keep what a listener noted."""
        values = {name: storable(getattr(noted, name)) for name in ("move", "heard", "xpath", "note")}
        with self._change() as connection:
            connection.execute(sa.insert(schema.notes).values(page=page.id, take=take.id, **values))

    # Defects

    def defects(self) -> list[Defect]:
        """Return all defects in the order they were documented in."""
        if self._defects is None or self.is_read_only:
            query = sa.select(schema.defects).order_by(schema.defects.c.id)
            self._defects = self._made(query, rows.defect_of, "defect")
        return list(self._defects)

    def _forget(self) -> None:
        self._defects = self._statuses = None

    def keep_defect(self, defect: Defect) -> Defect:
        """Keep a defect, a new one or a changed one, and return it with its id; a deleted one comes back."""
        values = values_of(defect)
        self._forget()
        with self._change() as connection:
            if defect.id is not None:
                table = schema.defects
                changed = connection.execute(sa.update(table).where(table.c.id == defect.id).values(**values))
                if changed.rowcount:
                    return defect
                values["id"] = defect.id
            made = connection.execute(sa.insert(schema.defects).values(**values))
            return defect.with_id(_key(made))

    def delete_defect(self, identifier: int) -> None:
        """Delete a defect; its id is not used again."""
        self._forget()
        with self._change() as connection:
            connection.execute(sa.delete(schema.defects).where(schema.defects.c.id == identifier))

    # Statuses

    def statuses(self) -> dict[int, list[StatusChange]]:
        """Return the statuses that were given to each defect, in the order they were given in."""
        if self._statuses is None or self.is_read_only:
            query = sa.select(schema.statuses).order_by(schema.statuses.c.id)
            found: dict[int, list[StatusChange]] = {}
            for each in self._made(query, rows.status_of, "status"):
                found.setdefault(each.defect, []).append(each)
            self._statuses = found
        return dict(self._statuses)

    def keep_status(self, defect: int, status: Status, reason: str = "", until: str = "") -> int:
        """Give a defect a status; return the number of the change."""
        self._forget()
        values = {"defect": defect, "status": status.value, "reason": storable(reason), "until": until, "at": _now()}
        with self._change() as connection:
            return _key(connection.execute(sa.insert(schema.statuses).values(**values)))

    def drop_status(self, change: int) -> None:
        """Take back a status that was given."""
        self._forget()
        with self._change() as connection:
            connection.execute(sa.delete(schema.statuses).where(schema.statuses.c.id == change))

    # What can be taken back

    def remember(self, words: str, *before: Before) -> None:
        """Keep what stood before a change, so that it can be taken back; the last `MOST` are kept.

        Args:
            words: what the change is called.
            before: what stood before it.
        """
        values = {"at": _now(), "words": words, "before": before_as_json(before)}
        table = schema.changes
        with self._change() as connection:
            last = _key(connection.execute(sa.insert(table).values(**values)))
            oldest = sa.select(table.c.id).order_by(table.c.id.desc()).offset(MOST - 1).limit(1).scalar_subquery()
            if last > MOST:
                connection.execute(sa.delete(table).where(table.c.id < oldest))

    def take_back(self) -> Change | None:
        """Take back the last change that was remembered, and return it; None if there is none."""
        with self._change() as connection:
            query = sa.select(schema.changes).order_by(schema.changes.c.id.desc()).limit(1)
            last = next(iter(self._made(query, rows.change_of, "change")), None)
            if last is None:
                return None
            for each in reversed(last.before):
                self._put_back(each)
            connection.execute(sa.delete(schema.changes).where(schema.changes.c.id == last.id))
        return last

    def _put_back(self, before: Before) -> None:
        if isinstance(before, NoDefect):
            self.delete_defect(before.defect)
        elif isinstance(before, DefectBefore):
            self.keep_defect(before.defect)
        elif isinstance(before, NoStatus):
            self.drop_status(before.change)
        elif isinstance(before, NoAttachment):
            self.drop_attachment(before.attachment)
        else:
            verdict = Verdict(before.verdict) if before.verdict else None
            self.judge(before.page, before.take, before.entry, Judgement(verdict, before.note))

    # Attachments

    def attachments(self, defect: int | None = None) -> list[Attachment]:
        """Return the attachments of a defect, or of all, as they were added; without those of deleted ones."""
        table = schema.attachments
        query = sa.select(table).where(table.c.defect.in_(sa.select(schema.defects.c.id))).order_by(table.c.id)
        wanted = query if defect is None else query.where(table.c.defect == defect)
        return self._made(wanted, rows.attachment_of, "attachment")

    def keep_attachment(self, defect: int, data: bytes, words: str) -> int | None:
        """Keep a picture, a drawing or a text with a defect; return its number, None if it is not kept.

        What is too large, or of no kind in `murvel.casebook.attachment`, is not.

        Args:
            defect: the defect's number.
            data: what is in its file.
            words: what it shows.
        """
        kind = kind_of(data)
        if kind is None or why_not_kept(data):
            return None
        values = {"defect": defect, "added": _now(), "kind": kind.value, "words": storable(words), "data": data}
        with self._change() as connection:
            return _key(connection.execute(sa.insert(schema.attachments).values(**values)))

    def drop_attachment(self, attachment: int) -> None:
        """Delete an attachment."""
        with self._change() as connection:
            connection.execute(sa.delete(schema.attachments).where(schema.attachments.c.id == attachment))

    # A defect that is being written

    def keep_draft(self, defect: Defect) -> None:
        """Keep what is entered of a defect so far, one for each page."""
        with self._change() as connection:
            connection.execute(sa.delete(schema.drafts).where(schema.drafts.c.page == defect.page))
            values = {"defect": defect.id, **values_of(defect)}
            connection.execute(sa.insert(schema.drafts).values(**values))

    def draft(self, page: Page) -> Defect | None:
        """Return the defect of a page that was being written when Murvel ended, None if there is none."""
        drafts = self._made(sa.select(schema.drafts).where(schema.drafts.c.page == page.id), rows.draft_of, "draft")
        return drafts[0] if drafts else None

    def drop_draft(self, page: Page) -> None:
        """Forget the defect that was being written."""
        with self._change() as connection:
            connection.execute(sa.delete(schema.drafts).where(schema.drafts.c.page == page.id))


def _keep_part(connection: sa.Connection, take: Take, part: Packed) -> None:
    contents = schema.contents
    known = connection.execute(sa.select(contents.c.digest).where(contents.c.digest == part.digest)).first()
    if known is None:
        connection.execute(sa.insert(contents).values(digest=part.digest, data=part.data))
    values = {"take": take.id, "kind": part.kind.value, "address": storable(part.address), "content": part.digest}
    connection.execute(sa.insert(schema.parts).values(**values))


def _key(made: sa.CursorResult[Any]) -> int:
    key = made.inserted_primary_key
    assert key is not None, "an insert of one row has a key"
    return int(key[0])


def _now() -> str:
    return datetime.now().astimezone().isoformat(timespec="microseconds")[:25]
