"""Walks out of files: YAML, with words that a person guesses, and errors with line and column."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any, NoReturn

import regex
import yaml

from murvel.checks.engine.catalogue import Catalogue
from murvel.errors import did_you_mean
from murvel.patterns import pattern
from murvel.reader.errors import ReaderError
from murvel.reader.moves.commands import refuse_unknown
from murvel.reader.moves.moves import Mode
from murvel.reader.readout.kinds import LISTS
from murvel.text import visible
from murvel.walks.errors import WalkError
from murvel.walks.meant import ANY_PAGE, PageMeant
from murvel.walks.walk import Expectation, Expects, Step, Walk

SUFFIXES = (".walk.yaml", ".walk.yml")
"""The endings of walks, by which they are found in folders."""

MAX_BYTES, MAX_DEPTH = 1_000_000, 12

_HEAD = ("walk", "page", "is", "width", "stage", "voice", "mode", "steps", "given", "when", "then")
_STAGES = ("browser", "built-in")
_FACTS = ("role", "name", "state", "id", "under", "within")
_SECONDS = pattern(r"(\d{1,4}(?:\.\d{1,3})?)\s*s(?:econds?)?")
_STOPS = pattern(r"(\d{1,3}) stops?")
_TEXTS = frozenset({Expects.HEARD, Expects.CONTAINS, Expects.LACKS, Expects.MATCHES, Expects.ANNOUNCED})
_FACTUAL = frozenset({Expects.AT, Expects.FOCUS, Expects.REACHED})
_WORDS: dict[str, Expects] = {each.value: each for each in Expects if each not in (Expects.INCLUDES, Expects.ARRIVES)}


def read_walk(path: Path, catalogue: Catalogue) -> Walk:
    """Return the walk in a file.

    Args:
        path: the file.
        catalogue: the checks that a walk may name.

    Raises:
        WalkError: it cannot be read, or is no walk; the message says where, and what could be meant.
    """
    name = visible(str(path))
    try:
        if path.stat().st_size > MAX_BYTES:
            raise WalkError(f"{name} is larger than {MAX_BYTES:,} bytes", "keep one walk in a file.")
        text = path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise WalkError(f"{name} cannot be read as text ({visible(str(error))})", "check the path.") from error
    return walk_of(text, catalogue, name)


def walk_of(text: str, catalogue: Catalogue, name: str = "the walk") -> Walk:
    """Return the walk that a text holds.

    Args:
        text: YAML.
        catalogue: the checks that it may name.
        name: what errors call it.

    Raises:
        WalkError: it is no walk.
    """
    return _Reader(text, catalogue, name).walk()


def steps_of(text: str, catalogue: Catalogue, name: str = "the steps") -> tuple[Step, ...]:
    """Return the steps that a text holds, as they stand behind `steps:` in a walk; none for an empty text.

    Args:
        text: YAML.
        catalogue: the checks that they may name.
        name: what errors call it.

    Raises:
        WalkError: they are no steps.
    """
    return _Reader(text, catalogue, name).steps() if text.strip() else ()


class _Reader:
    def __init__(self, text: str, catalogue: Catalogue, name: str) -> None:
        self._text, self._catalogue, self._name = text, catalogue, name

    def walk(self) -> Walk:
        root = self._root()
        head = self._mapping(root, "a walk", _HEAD)
        steps = [*self._steps(head["steps"])] if "steps" in head else []
        for word in ("given", "when", "then"):
            if word in head:
                steps += self._told(word, head[word])
        if "page" not in head:
            self._refuse(root, "It has no page", "write page: and an address.")
        if not steps:
            self._refuse(root, "It has no steps", "write steps: and a list, or given, when and then.")
        stage = self._text_of(head["stage"]) if "stage" in head else ""
        if stage and stage not in _STAGES:
            self._refuse(head["stage"], f"There is no stage {visible(stage)!r}", did_you_mean(stage, _STAGES))
        mode = self._text_of(head["mode"]) if "mode" in head else ""
        if mode and mode not in list(Mode):
            self._refuse(
                head["mode"], f"There is no mode {visible(mode)!r}", did_you_mean(mode, [each.value for each in Mode])
            )
        return Walk(
            self._text_of(head["page"]),
            tuple(steps),
            self._text_of(head["walk"]) if "walk" in head else "",
            self._width(head["width"]) if "width" in head else None,
            stage,
            self._text_of(head["voice"]) if "voice" in head else "",
            mode,
            self._meant(head["is"]) if "is" in head else ANY_PAGE,
        )

    def _meant(self, node: yaml.Node) -> PageMeant:
        facts = self._mapping(node, "what a page is known by", ("title", "heading"))
        return PageMeant(**{word: self._text_of(value) for word, value in facts.items()})

    def steps(self) -> tuple[Step, ...]:
        return tuple(self._steps(self._root()))

    def _root(self) -> yaml.Node:
        try:
            depth = 0
            for event in yaml.parse(self._text, Loader=yaml.SafeLoader):
                depth += isinstance(event, yaml.CollectionStartEvent) - isinstance(event, yaml.CollectionEndEvent)
                if isinstance(event, yaml.AliasEvent) or depth > MAX_DEPTH:
                    what = "refers to another part" if isinstance(event, yaml.AliasEvent) else "is nested too deeply"
                    self._refuse(event, f"A part {what}", "write it out.")
            root = yaml.compose(self._text, Loader=yaml.SafeLoader)
        except (yaml.YAMLError, ValueError) as error:
            mark = getattr(error, "problem_mark", None)
            where = f" line {mark.line + 1}, column {mark.column + 1}:" if mark is not None else ""
            words = visible(str(getattr(error, "problem", None) or error).splitlines()[0])
            raise WalkError(f"{self._name}:{where} this is no YAML ({words})", "look at the quotes there.") from error
        if root is None:
            raise WalkError(f"{self._name} is empty", "write page: and steps:.")
        return root

    # Steps

    def _steps(self, node: yaml.Node) -> Iterator[Step]:
        if not isinstance(node, yaml.SequenceNode):
            self._refuse(node, "The steps are no list", "begin each with a dash.")
        for each in node.value:
            yield from self._step(each)

    def _step(self, node: yaml.Node) -> Iterator[Step]:
        """A move; a move with what is heard, or with expectations; expect, given, when, then."""
        if isinstance(node, yaml.ScalarNode):
            yield self._move(node)
            return
        if not isinstance(node, yaml.MappingNode) or len(node.value) != 1:
            self._refuse(node, "A step is a move, or one word with something behind it", "write - tab: Rota, link.")
        key, value = node.value[0]
        word = self._text_of(key)
        if word in ("given", "when", "then"):
            yield from self._told(word, value)
        elif word == "expect":
            yield Step("", tuple(self._expectations(value)), _line(node))
        elif isinstance(value, yaml.ScalarNode):
            heard = Expectation(Expects.HEARD, self._text_of(value), "", _line(value), _span(value))
            yield Step(self._move(key).move, (heard,), _line(node))
        else:
            yield Step(self._move(key).move, tuple(self._expectations(value)), _line(node))

    def _told(self, word: str, node: yaml.Node) -> Iterator[Step]:
        """What stands behind given, when or then: moves, or expectations."""
        if word == "then":
            yield Step("", tuple(self._expectations(node)), _line(node))
        else:
            for each in node.value if isinstance(node, yaml.SequenceNode) else [node]:
                yield from self._step(each)

    def _move(self, node: yaml.Node) -> Step:
        words = self._text_of(node)
        try:
            refuse_unknown(words)
        except ReaderError as error:
            self._refuse(node, error.message, error.hint)
        return Step(" ".join(words.split()), (), _line(node))

    def _expectations(self, node: yaml.Node) -> Iterator[Expectation]:
        if isinstance(node, yaml.SequenceNode):
            for each in node.value:
                yield from self._expectations(each)
            return
        if not isinstance(node, yaml.MappingNode):
            self._refuse(node, "What is expected has no name", "write heard: and the words.")
        given = {self._text_of(key): (key, value) for key, value in node.value}
        for word, (key, value) in given.items():
            if word == "within" and "announced" in given:
                continue
            yield self._expectation(word, key, value, given.get("within", (None, None))[1])

    def _expectation(self, word: str, key: yaml.Node, value: yaml.Node, within: yaml.Node | None) -> Expectation:
        list_, _, includes = word.rpartition(" ")
        if includes == Expects.INCLUDES and list_:
            if list_ not in LISTS:
                self._refuse(key, f"There is no list {visible(list_)!r}", did_you_mean(list_, LISTS))
            return Expectation(Expects.INCLUDES, self._texts(value), list_, _line(key))
        expects = _WORDS.get(word)
        if expects is None:
            known = [*_WORDS, "headings includes"]
            self._refuse(key, f"Nothing is called {visible(word)!r} that can be expected", did_you_mean(word, known))
        span = _span(value)
        if expects is Expects.SILENCE:
            return Expectation(expects, self._seconds(value), "", _line(key), span)
        if expects is Expects.IN_ORDER:
            return Expectation(expects, self._texts(value), "", _line(key), span)
        if expects in _FACTUAL and not (expects is Expects.FOCUS and isinstance(value, yaml.ScalarNode)):
            return Expectation(expects, self._facts(value, expects), "", _line(key), span)
        text = self._text_of(value)
        if expects is Expects.MATCHES:
            try:
                regex.compile(text)
            except regex.error as error:
                self._refuse(value, f"This is no pattern ({error})", "escape what is meant as it stands.")
        if expects is Expects.NOT_NOTICED and self._catalogue.get(text) is None:
            known = [check.id for check in self._catalogue]
            self._refuse(value, f"There is no check {visible(text)!r}", did_you_mean(text, known))
        if expects is Expects.FOCUS and text != "nothing":
            self._refuse(
                value, "The focus is on nothing, or on something with a role or name", "write focus: {name: Rota}."
            )
        if expects is Expects.ANNOUNCED:
            seconds = self._seconds(within) if within is not None else 0.0
            return Expectation(expects, {"text": text, "within": f"{seconds:g} s"}, "", _line(key), span)
        return Expectation(expects, text, "", _line(key), span)

    def _facts(self, node: yaml.Node, expects: Expects) -> dict[str, str]:
        known = _FACTS if expects is Expects.REACHED else _FACTS[:-1]
        facts = {word: self._text_of(value) for word, value in self._mapping(node, "a place", known).items()}
        if not facts.keys() - {"within"}:
            self._refuse(
                node,
                "A place has a role, a name, a state, an id or a heading over it",
                "write {role: button, name: Ask}.",
            )
        if expects is Expects.REACHED and not (
            _SECONDS.fullmatch(facts.get("within", "")) or _STOPS.fullmatch(facts.get("within", ""))
        ):
            self._refuse(node, "What is reached is reached within stops or seconds", "write within: 3 stops, or 10 s.")
        return facts

    # Values

    def _mapping(self, node: yaml.Node, what: str, known: tuple[str, ...]) -> dict[str, yaml.Node]:
        if not isinstance(node, yaml.MappingNode):
            self._refuse(node, f"This is not {what}", f"it has {', '.join(known)}.")
        found: dict[str, yaml.Node] = {}
        for key, value in node.value:
            word = self._text_of(key)
            if word not in known or word in found:
                twice = word in found
                says = f"{word!r} stands twice" if twice else f"There is nothing called {visible(word)!r} in {what}"
                self._refuse(key, says, "keep one." if twice else did_you_mean(word, known))
            found[word] = value
        return found

    def _text_of(self, node: yaml.Node) -> str:
        if not isinstance(node, yaml.ScalarNode):
            self._refuse(node, "Words are wanted here, not a list", "put them into one line.")
        return str(node.value)

    def _texts(self, node: yaml.Node) -> tuple[str, ...]:
        return tuple(map(self._text_of, node.value)) if isinstance(node, yaml.SequenceNode) else (self._text_of(node),)

    def _seconds(self, node: yaml.Node) -> float:
        found = _SECONDS.fullmatch(self._text_of(node))
        if found is None:
            self._refuse(node, f"{visible(self._text_of(node))!r} is no time", "write 2 s.")
        return float(found[1])

    def _width(self, node: yaml.Node) -> int:
        text = self._text_of(node)
        if not (text.isascii() and text.isdecimal() and 100 <= int(text[:6]) <= 10000):
            self._refuse(node, f"{visible(text)!r} is no width", "write pixels from 100 to 10000.")
        return int(text)

    def _refuse(self, at: Any, message: str, hint: str) -> NoReturn:
        mark = at.start_mark
        raise WalkError(f"{self._name}: line {mark.line + 1}, column {mark.column + 1}: {message}", hint)


def seconds_of(within: str) -> float | None:
    """Return the seconds of a time as it is written, "2 s"; None if it is none."""
    found = _SECONDS.fullmatch(within)
    return float(found[1]) if found is not None else None


def stops_of(within: str) -> int | None:
    """Return the number of stops as it is written, "3 stops"; None if it is none."""
    found = _STOPS.fullmatch(within)
    return int(found[1]) if found is not None else None


def _line(node: yaml.Node) -> int:
    return int(node.start_mark.line) + 1


def _span(node: yaml.Node) -> tuple[int, int]:
    return int(node.start_mark.index), int(node.end_mark.index)
