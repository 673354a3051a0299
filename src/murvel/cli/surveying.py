"""The survey in the line mode: lists of the page, single entries, and what a person says of them."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.errors import did_you_mean
from murvel.reader.errors import ReaderError
from murvel.report.survey_lines import entry_lines, slice_lines, survey_lines
from murvel.survey.choice import Choice, Which
from murvel.survey.counts import count_words
from murvel.survey.entry import Entry, Judgement, Slice, Verdict
from murvel.text import visible
from murvel.work.work import Work

SURVEY_COMMANDS = {
    "survey": "list how the judging of the page stands",
    "survey LIST": "list the entries of headings, links and so on, with what was noticed",
    "survey LIST WHICH": f"only those of one kind: {', '.join(list(Which)[1:])}, hidden, with WORDS",
    "entry LIST N": "all that is known of an entry",
    "entry next": "go on to the next entry that is not judged",
    "judge LIST N VERDICT NOTE": "say pass, fail, context or open of an entry, with a note if you like",
    "judge VERDICT NOTE": "say it of the entry named last",
}

_VERDICTS = {"pass": Verdict.PASS, "fail": Verdict.FAIL, "context": Verdict.CONTEXT, "open": None}


class Surveying:
    """The part of a dialogue that is about the survey.

    Attributes:
        work: the work.
        last: the entry that was named last, None before there was one.
    """

    def __init__(self, work: Work) -> None:
        self.work = work
        self.last: Entry | None = None

    def lists(self, words: str) -> Iterator[str]:
        """Yield how the judging stands, or the entries of the list that is named.

        Raises:
            ReaderError: there is no such list, or choice of entries.
        """
        if not words:
            yield from survey_lines(self.work.survey, self.work.judgement)
            return
        slice_, rest = _slice_of(words)
        yield from slice_lines(self.work.survey, slice_, _choice_of(rest), self.work.judgement)

    def entry(self, words: str) -> Iterator[str]:
        """Yield all that is known of an entry that is named, or of the next one that is not judged.

        Raises:
            ReaderError: there is no such entry.
        """
        if words.lower() == "next":
            at, number = (self.last.slice, self.last.number) if self.last is not None else (Slice.HEADINGS, 0)
            entry = Choice().next_open(self.work.survey, self.work.judgement, at, number)
            if entry is None:
                yield "Everything is judged."
                return
            self.last = entry
            yield f"{entry.slice} {entry.number}"
        else:
            entry, _ = self.named(words)
        yield from entry_lines(self.work.survey, entry, self.work.judgement)

    def judge(self, words: str) -> Iterator[str]:
        """Keep what is said of an entry, and yield how the judging of its list stands.

        Raises:
            ReaderError: there is no such entry or verdict.
            CasebookError: it cannot be written.
        """
        if words.partition(" ")[0].lower() in _VERDICTS:
            if self.last is None:
                raise ReaderError("No entry was named yet", "name it as well, as in: judge links 3 fail.")
            entry, said = self._now(self.last), words
        else:
            entry, said = self.named(words)
        verdict, _, note = said.partition(" ")
        if verdict.lower() not in _VERDICTS:
            raise ReaderError(f"A verdict is one of: {', '.join(_VERDICTS)}.")
        before = self.work.judgement(entry)
        self.work.judge(entry, Judgement(_VERDICTS[verdict.lower()], note or before.note))
        yield count_words(self.work.survey, entry.slice, self.work.judgement)

    def named(self, words: str) -> tuple[Entry, str]:
        """Return the entry that is named by its list and number, and what else was said.

        Raises:
            ReaderError: there is no such entry.
        """
        slice_, rest = _slice_of(words)
        number, _, said = rest.partition(" ")
        entries = self.work.survey.entries[slice_]
        at = int(number) if number.isascii() and number.isdecimal() and len(number) < 9 else 0
        if not entries:
            raise ReaderError(f"There are no {slice_} on this page.")
        if not 1 <= at <= len(entries):
            raise ReaderError(f"{slice_} has entries from 1 to {len(entries)}", "name one of these.")
        self.last = entries[at - 1]
        return self.last, said

    def _now(self, entry: Entry) -> Entry:
        """Return an entry as it is on the page as it is now."""
        entries = self.work.survey.entries[entry.slice]
        now = next((each for each in entries if each.key == entry.key), None)
        if now is None:
            raise ReaderError(f"{entry.slice} {entry.number} is no longer on the page", "name another entry.")
        return now


def _slice_of(words: str) -> tuple[Slice, str]:
    """Return the list that words begin with, and the rest of them."""
    for each in Slice:
        if words.lower() == each or words.lower().startswith(f"{each} "):
            return each, words[len(each) :].strip()
    raise ReaderError(f"There is no list {visible(words)!r}", did_you_mean(words.split(" ")[0], Slice))


def _choice_of(words: str) -> Choice:
    """Return the choice of entries that words say, as "not judged hidden with map"."""
    rest, which, hidden_too = words.lower(), Which.ALL, False
    while rest:
        named = next((each for each in Which if rest == each or rest.startswith(f"{each} ")), None)
        if named is not None:
            which, rest = named, rest[len(named) :].strip()
        elif rest.partition(" ")[0] == "hidden":
            hidden_too, rest = True, rest.partition(" ")[2].strip()
        elif rest.startswith("with "):
            return Choice(which, rest.removeprefix("with "), hidden_too)
        else:
            known = ", ".join(f"“{each}”" for each in (*Which, "hidden", "with WORDS"))
            raise ReaderError(f"There is no choice {visible(rest)!r} of entries", f"there are: {known}.")
    return Choice(which, "", hidden_too)
