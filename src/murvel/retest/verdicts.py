"""What became of judged entries of the survey: verdicts stand where nothing changed; all else is listed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from murvel.retest.again import find_again
from murvel.retest.answer import ChangedEntry, Sureness
from murvel.survey.entry import Entry, EntryKey, Judgement
from murvel.survey.survey import Survey


def changed_entries(judged: Mapping[EntryKey, Judgement], old: Survey | None, new: Survey) -> Iterator[ChangedEntry]:
    """Yield the entries that were judged and are not the same any more, in the order they were judged in.

    An entry is the same where its key is, and no check notices there what it did not notice before.

    Args:
        judged: what was said, by the keys of entries.
        old: the survey of the take before, None if that is not kept.
        new: the survey of the page as it is now.
    """
    then = _by_key(old) if old is not None else {}
    now = _by_key(new)
    lost = [then[key].element for key in judged if key not in now and key in then]
    found = find_again(old.page.tree, new.page.tree, lost) if old is not None else {}
    for key, judgement in judged.items():
        before, after = then.get(key), now.get(key)
        heard = before.heard if before is not None else key.heard
        if after is not None:
            more = _noticed(after) - _noticed(before) if before is not None else set[str]()
            if more:
                change = f"now noticed there: {', '.join(sorted(more))}"
                yield ChangedEntry(key, judgement, heard, after.heard, Sureness.CERTAIN, change)
            continue
        again = found.get(before.element) if before is not None else None
        if again is None:
            yield ChangedEntry(key, judgement, heard, "", Sureness.GONE, "not there any more")
            continue
        sureness = Sureness.CERTAIN if again.is_certain else Sureness.LIKELY
        same = next((each for each in new.entries[key.slice] if each.element is again.element), None)
        if same is None:
            yield ChangedEntry(key, judgement, heard, "", sureness, "not in this list any more")
        else:
            change = "heard in another way" if same.heard != heard else "leads elsewhere, or stands in another order"
            yield ChangedEntry(key, judgement, heard, same.heard, sureness, change)


def _by_key(survey: Survey) -> dict[EntryKey, Entry]:
    return {entry.key: entry for entries in survey.entries.values() for entry in entries}


def _noticed(entry: Entry) -> set[str]:
    return {lead.check.title for lead in entry.leads}
