"""What many pages have in common: leads by topic, and the same fault on many pages as one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from murvel.checks.engine.check import Certainty
from murvel.checks.engine.record import PageResult, Record
from murvel.patterns import pattern

_INDEX = pattern(r"\[\d+\]")
_START = pattern(r"<([a-zA-Z][\w:-]*)([^>]*)")
_ATTRIBUTE = pattern(r"([\w:.-]+)(?:\s*=\s*(?:\"([^\"]*)\"|'([^']*)'|(\S+)))?")
_NUMBER = pattern(r"\d+")


@dataclass(frozen=True, slots=True)
class TopicCount:
    """How many leads of a topic there are.

    Attributes:
        topic: the topic.
        fails, ears: how many are sure and how many need ears.
        pages: on how many pages.
    """

    topic: str
    fails: int
    ears: int
    pages: int


@dataclass(frozen=True, slots=True)
class Same:
    """The same fault: of one check, on elements of one shape, at one place in the frame of a site.

    Attributes:
        record: the first lead about it.
        page: the page of that.
        times: how many leads there are about it.
        pages: the pages they are on, in the order they were checked in.
    """

    record: Record
    page: str
    times: int
    pages: tuple[str, ...]


def by_topic(results: Iterable[PageResult]) -> list[TopicCount]:
    """Return how many leads there are of each topic that has any, those with most that fail first."""
    counts: dict[str, dict[Certainty, int]] = defaultdict(lambda: dict.fromkeys(Certainty, 0))
    pages: dict[str, set[str]] = defaultdict(set)
    for result in results:
        for record in result.records:
            counts[record.topic][record.certainty] += 1
            pages[record.topic].add(result.name)
    found = [
        TopicCount(topic, count[Certainty.FAILS], count[Certainty.NEEDS_EARS], len(pages[topic]))
        for topic, count in counts.items()
    ]
    return sorted(found, key=lambda each: (-each.fails, -each.ears, each.topic))


def same_faults(results: Iterable[PageResult]) -> list[Same]:
    """Return every fault once, with how often and where it is; what fails on most pages first."""
    records: dict[tuple[str, ...], list[tuple[str, Record]]] = {}
    for result in results:
        for record in result.records:
            records.setdefault(_key(record), []).append((result.name, record))
    found = [
        Same(several[0][1], several[0][0], len(several), tuple(dict.fromkeys(page for page, _ in several)))
        for several in records.values()
    ]
    return sorted(found, key=lambda each: (each.record.certainty is not Certainty.FAILS, -len(each.pages), -each.times))


def summarised(results: list[PageResult]) -> list[PageResult]:
    """Return results in which each fault stands once, at its first place, with how often it was noticed."""
    first: dict[str, list[Record]] = defaultdict(list)
    for same in same_faults(results):
        first[same.page].append(replace(same.record, times=same.times, on_pages=len(same.pages)))
    return [replace(result, records=first[result.name]) for result in results]


def _key(record: Record) -> tuple[str, ...]:
    return record.check, record.certainty, _INDEX.sub("", record.xpath), *_shape(record.snippet)


def _shape(snippet: str) -> Iterator[str]:
    """What a start tag looks like: its tag, the names of its attributes, and its classes without numbers."""
    found = _START.match(snippet)
    if found is None:
        return
    yield found.group(1).lower()
    for name, *values in sorted(_ATTRIBUTE.findall(found.group(2))):
        yield (
            f"{name.lower()}={_NUMBER.sub('#', ''.join(values))}" if name.lower() in ("class", "role") else name.lower()
        )
