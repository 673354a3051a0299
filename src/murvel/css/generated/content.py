"""The property `content` (CSS Content 3 §2): what it declares, and the box that it makes."""

from __future__ import annotations

from collections.abc import Iterable
from enum import Enum
from typing import Any, NamedTuple

import tinycss2

from murvel.css.sheets.conditions import significant, split
from murvel.dom.document import Element
from murvel.text import transformed


class Kind(Enum):
    """The kinds of pieces that generated content has."""

    TEXT = "text"
    ATTRIBUTE = "attribute"
    COUNTER = "counter"
    QUOTE = "quotation mark"
    IMAGE = "image"


class Part(NamedTuple):
    """A piece of generated content.

    Attributes:
        kind: what it is.
        text: the text; the name of an attribute or a counter; the keyword of a quotation mark.
        more: what an attribute that is not there falls back to; what stands between nested counters, None if only
            the innermost one counts.
        numerals: how a counter is written (CSS Counter Styles 3 §6).
    """

    kind: Kind
    text: str
    more: str | None = None
    numerals: str = "decimal"


class Content(NamedTuple):
    """A declared value: its pieces, and what stands for them as text where something stands behind a slash."""

    parts: tuple[Part, ...]
    alternative: tuple[Part, ...] | None = None

    @property
    def size(self) -> int:
        """About how many characters it has."""
        return sum(len(part.text) + len(part.more or "") + 4 for part in (*self.parts, *(self.alternative or ())))

    @property
    def spoken(self) -> tuple[Part, ...]:
        """The pieces that are exposed as text."""
        return self.parts if self.alternative is None else self.alternative


class Lists(NamedTuple):
    """The properties of CSS Lists 3 and the quotation marks, as declared.

    Attributes:
        marker: `list-style-type`: a keyword, or a string in quotation marks.
        reset, increment, set: the counters that an element resets, increments and sets, each with a number.
        quotes: `quotes`: "auto", "none", or strings in quotation marks.
        content: what ::marker declares as its content.
    """

    marker: str = "disc"
    reset: str = "none"
    increment: str = "none"
    set: str = "none"
    quotes: str = "auto"
    content: Content | None = None


NO_LISTS = Lists()
"""The initial values."""


class Generated(NamedTuple):
    """A box that ::before or ::after adds.

    Attributes:
        text: what it shows as text.
        name: what of it goes into names: counters do not (docs/standards.md).
        is_apart: whether it is set off from what stands beside it in names.
        is_block: whether it begins and ends a line.
        content: what is declared, where it shows counters or quotation marks, or counts.
        lists: the counters that it resets and increments.
    """

    text: str
    name: str
    is_apart: bool = False
    is_block: bool = False
    content: Content | None = None
    lists: Lists = NO_LISTS


_IMAGES = frozenset({"cross-fade", "image-set", "url", "-webkit-cross-fade", "-webkit-image-set"})
_QUOTES = frozenset({"open-quote", "close-quote", "no-open-quote", "no-close-quote"})


def content_of(values: list[Any]) -> str | Content | None:
    """Return the value of a declaration: a keyword, or pieces; None if it is not valid.

    Args:
        values: its tokens without white space.
    """
    if len(values) == 1 and values[0].type == "ident" and values[0].lower_value in ("none", "normal"):
        return str(values[0].lower_value)
    slash = next((i for i, token in enumerate(values) if token.type == "literal" and token.value == "/"), None)
    parts = _parts(values[:slash])
    alternative = _parts(values[slash + 1 :]) if slash is not None else None
    if parts is None or not parts or (slash is not None and not alternative):
        return None
    return Content(parts, alternative)


def _parts(tokens: Iterable[Any]) -> tuple[Part, ...] | None:
    parts = [_part(token) for token in tokens]
    return None if None in parts else tuple(part for part in parts if part is not None)


def _part(token: Any) -> Part | None:
    if token.type == "string":
        return Part(Kind.TEXT, str(token.value))
    if token.type == "ident":
        return Part(Kind.QUOTE, token.lower_value) if token.lower_value in _QUOTES else None
    if token.type == "url":
        return Part(Kind.IMAGE, "")
    if token.type != "function":
        return None
    if token.lower_name in _IMAGES or token.lower_name.endswith("-gradient"):
        return Part(Kind.IMAGE, "")
    arguments = split(significant(token.arguments), ",")
    match token.lower_name:
        case "attr" if arguments and arguments[0] and arguments[0][0].type == "ident":
            return Part(Kind.ATTRIBUTE, str(arguments[0][0].value), _text(arguments[1:]))
        case "counter" if arguments and _word(arguments[0]):
            return Part(Kind.COUNTER, _word(arguments[0]), None, _word(*arguments[1:2]) or "decimal")
        case "counters" if len(arguments) > 1 and _word(arguments[0]) and _text(arguments[1:2]) is not None:
            return Part(Kind.COUNTER, _word(arguments[0]), _text(arguments[1:2]), _word(*arguments[2:3]) or "decimal")
    return None


def _word(argument: list[Any] | None = None) -> str:
    return str(argument[0].value) if argument and argument[0].type == "ident" else ""


def _text(arguments: list[list[Any]]) -> str | None:
    argument = arguments[0] if arguments else []
    if len(argument) == 1 and argument[0].type == "string":
        return str(argument[0].value)
    return str(tinycss2.serialize(argument)) if argument else None


def generated(
    element: Element, content: Content, lists: Lists, transform: str, *, is_block: bool, is_apart: bool
) -> Generated:
    """Return the box that content makes, counters and quotation marks left out.

    Args:
        element: the element that the box belongs to.
        content: what is declared.
        lists: what is declared of counters.
        transform: its text-transform.
        is_block: whether the box begins and ends a line.
        is_apart: whether it is no plain part of a line.
    """
    pieces = [_shown(element, part) for part in content.spoken]
    text = transformed("".join(pieces), transform)
    name = text
    if any(part.kind is Kind.IMAGE for part in content.spoken):  # images stand apart from text
        whole = " ".join(piece for piece in pieces if piece)
        name = transformed(whole, transform)
    apart = is_apart or content.alternative is not None
    counts = lists is not NO_LISTS or any(part.kind in (Kind.COUNTER, Kind.QUOTE) for part in content.spoken)
    return Generated(text, name, apart, is_block, content if counts else None, lists)


def replacement(element: Element, content: Content) -> str | None:
    """Return the text alternative of an image that replaces what is in an element; None where nothing is replaced."""
    if len(content.parts) != 1 or content.parts[0].kind is not Kind.IMAGE:
        return None
    return "".join(_shown(element, part) for part in content.alternative or ())


def _shown(element: Element, part: Part) -> str:
    if part.kind is Kind.TEXT:
        return part.text
    if part.kind is Kind.ATTRIBUTE:
        value = element.get(part.text.lower())
        return (part.more or "") if value is None else value
    return ""


def numbered(element: Element, box: Generated, number: dict[int, str]) -> Generated:
    """Return a box with its counters and quotation marks filled in.

    Args:
        element: the element that it belongs to.
        box: the box.
        number: what each of the pieces shows, by its place.
    """
    if box.content is None:
        return box
    text, name = [], []
    for at, part in enumerate(box.content.spoken):
        piece = number.get(at) or _shown(element, part)
        text.append(piece)
        if part.kind is not Kind.COUNTER:
            name.append(piece)
    return box._replace(text="".join(text), name="".join(name))
