"""The rules that change what is exposed or said, out of all rules of a document's style sheets."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator

from murvel.page.problems import ProblemKind, Problems
from murvel.page.styles.content import Content
from murvel.page.styles.limits import LONGEST_CONTENT
from murvel.page.styles.raw import names_declared
from murvel.page.styles.rules import Rule, StyleRule
from murvel.page.styles.values import PROPERTIES, Declared, Pending, declared
from murvel.page.styles.variables import names_in


def is_spoken(prelude: str, content: str) -> bool:
    """Whether a rule may set one of our properties, or a custom one that one of them rests on."""
    names = names_declared(content)
    return not PROPERTIES.isdisjoint(names) or any(name.startswith("--") for name in names)


def spoken_rules(
    blocks: Iterable[StyleRule], attributes: list[str], asked: Iterable[str], problems: Problems
) -> tuple[list[Rule], set[str]]:
    """Return the rules that set our properties, and the custom properties that these rest on, by way of others too.

    Args:
        blocks: the rules for which `is_spoken` holds.
        attributes: the style attributes that declare or ask for custom properties.
        asked: custom properties that are asked for elsewhere.
        problems: what is not understood is added to it.
    """
    read = [(block, [*_short(declared(block.content), block.where, problems)]) for block in blocks]
    custom = set(asked)
    for items in (*(items for _, items in read), *map(declared, attributes)):
        custom |= _references(items)
    if custom:
        custom = _with_sources(custom, [*(block.content for block, _ in read), *attributes])
    rules: list[Rule] = []
    for block, items in read:
        if custom and not custom.isdisjoint(names_declared(block.content)):
            items = [*_short(declared(block.content, custom), block.where, problems)]
        if items:
            rules.extend(block.rules(tuple(items), problems))
    return rules, custom


def _short(items: Iterable[Declared], where: str, problems: Problems) -> Iterator[Declared]:
    """Leave out generated content that is longer than is followed."""
    for item in items:
        if isinstance(item.value, Content) and item.value.size > LONGEST_CONTENT:
            what = f"Generated content at {where} has more than {LONGEST_CONTENT} characters and is left out."
            problems.add(ProblemKind.LIMIT, what)
        else:
            yield item


def _references(items: Iterable[Declared]) -> set[str]:
    return {name for item in items if isinstance(item.value, Pending) for name in names_in(item.value.text)}


def _with_sources(custom: set[str], texts: list[str]) -> set[str]:
    """Return custom properties with those that they rest on, by way of others too."""
    found = set(custom)
    declaring: dict[str, list[int]] = defaultdict(list)
    for at, text in enumerate(texts):
        for name in names_declared(text) if "--" in text else ():
            declaring[name].append(at)
    read: dict[int, dict[str, set[str]]] = {}
    waiting = list(found)
    while waiting:
        name = waiting.pop()
        for at in declaring[name]:
            if at not in read:
                read[at] = _referred_to(texts[at])
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
