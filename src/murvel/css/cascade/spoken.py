"""The rules that change what is exposed or said, out of all rules of a document's style sheets."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import replace

from murvel.css.sheets.limits import LONGEST_CONTENT
from murvel.css.sheets.raw import names_declared
from murvel.css.sheets.rules import StyleRule, is_too_long, references_in
from murvel.css.values.declared import PROPERTIES, Pending, declared
from murvel.css.values.variables import names_in
from murvel.loading.problems import ProblemKind, Problems

_IN_NAMES = (
    "display", "visib", "white-space", "text-transform", "float", "position", "content", "list-style", "counter-",
    "quotes", "all", "--", "\\",
)  # fmt: skip
"""What stands in the name of each property that is of interest: to look for these is the quickest way past a rule."""


def is_spoken(prelude: str, content: str) -> bool:
    """Whether a rule may set one of our properties, or a custom one that one of them rests on."""
    text = content.lower()
    for part in _IN_NAMES:
        if part in text:
            names = names_declared(content)
            return not PROPERTIES.isdisjoint(names) or ("--" in text and any(name[:2] == "--" for name in names))
    return False


def with_custom(
    blocks: list[StyleRule], attributes: list[str], asked: Iterable[str]
) -> tuple[list[StyleRule], set[str]]:
    """Return rules with the custom properties that are of interest in them, and all that are of interest.

    Those are what our properties rest on, by way of others too.

    Args:
        blocks: the rules for which `is_spoken` holds.
        attributes: the style attributes that declare or ask for custom properties.
        asked: custom properties that are asked for elsewhere.
    """
    custom = set(asked).union(*(block.references for block in blocks))
    custom = custom.union(*(references_in(declared(text)) for text in attributes))
    if not custom:
        return blocks, custom
    declaring = [block for block in blocks if "--" in block.content]
    named = [(block.content, block.names) for block in declaring]
    custom = _with_sources(custom, named + [(text, names_declared(text)) for text in attributes])
    changed = {id(block): replace(block, custom=custom) for block in declaring if not custom.isdisjoint(block.names)}
    return [changed.get(id(block), block) for block in blocks], custom


_LONG = LONGEST_CONTENT // 2
"""Declarations of no more characters generate no more than is followed."""


def report_long(blocks: Iterable[StyleRule], problems: Problems) -> None:
    """Add to the problems which rules generate more content than is followed: it is left out."""
    for block in blocks:
        if len(block.content) > _LONG and any(map(is_too_long, declared(block.content))):
            what = f"Generated content at {block.where} has more than {LONGEST_CONTENT} characters and is left out."
            problems.add(ProblemKind.LIMIT, what)


def _with_sources(custom: set[str], named: list[tuple[str, set[str]]]) -> set[str]:
    """Return custom properties with those that they rest on, by way of others too.

    Args:
        custom: the custom properties.
        named: declarations as text, each with what may be the names in it.
    """
    found = set(custom)
    declaring: dict[str, list[int]] = defaultdict(list)
    for at, (_, names) in enumerate(named):
        for name in names:
            declaring[name].append(at)
    read: dict[int, dict[str, set[str]]] = {}
    waiting = list(found)
    while waiting:
        name = waiting.pop()
        for at in declaring[name]:
            if at not in read:
                read[at] = _referred_to(named[at][0])
            more = read[at].get(name, set()) - found
            found |= more
            waiting += more
    return found


class _AllCustom:
    """The names of all custom properties there may be."""

    def __contains__(self, name: object) -> bool:
        return str(name).startswith("--")


def _referred_to(text: str) -> dict[str, set[str]]:
    """Return the custom properties that each custom property of a block refers to."""
    found: dict[str, set[str]] = defaultdict(set)
    for item in declared(text, _AllCustom()):
        if isinstance(item.value, Pending) and item.name.startswith("--"):
            found[item.name] |= names_in(item.value.text)
    return found
