"""The rules of a style sheet as pieces of its text (CSS Syntax 3 §5.4): most of a sheet is never looked at closer.

Where a rule ends is found without tokens. What a rule says is tokenised where it matters.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from murvel.css.tokens import component_values
from murvel.patterns import pattern

FOLLOWED = frozenset({"container", "layer", "media", "property", "scope", "supports"})
"""The at-rules that are read, beside @import."""


class RawRule(NamedTuple):
    """A rule as text.

    Attributes:
        keyword: the name of an at-rule in lower case; empty for a style rule.
        prelude: what stands before its block, without the at-keyword.
        content: what stands in its block, None if it has none.
        line: the line that it begins in, from 1.
        content_line: the line that its content begins in, from 1.
        start, end: where it stands in the text.
        content_start: where its content begins there.
    """

    keyword: str
    prelude: str
    content: str | None
    line: int
    content_line: int
    start: int
    end: int
    content_start: int


_IN_STRING = r"\\(?:[0-9a-fA-F]{1,6}[ \n\t]?|[\s\S])"  # a newline may end an escape
_STRING = rf""""(?:[^"\\\n]|{_IN_STRING})*+"|'(?:[^'\\\n]|{_IN_STRING})*+'"""
_PIECES = rf"""{_STRING}|\\[^\n]|/(?!\*)|\((?:[^{{}}()\[\]"'\\/])*+\)|\[(?:[^{{}}()\[\]"'\\/]|{_STRING})*+\]"""
_PLAIN = pattern(
    rf"""((?:[^{{}}()\[\]"'\\/;]++|{_PIECES})*+)\{{((?:[^{{}}()\[\]"'\\/]++|{_PIECES})*+)\}}""",
)
"""A style rule in which brackets stand in no others, and no comment stands."""

_BETWEEN = pattern(r"(?:[ \n\t]++|/\*(?:[^*]|\*(?!/))*+(?:\*/|\Z))*+")
_BETWEEN_IN_SHEET = pattern(r"(?:[ \n\t]++|<!--|-->|/\*(?:[^*]|\*(?!/))*+(?:\*/|\Z))*+")
_ESCAPED = r"\\(?:[0-9a-fA-F]{1,6}[ \n\t]?|[^\n]|\Z)"
_AT_KEYWORD = pattern(
    rf"@((?:-?(?:[a-zA-Z_]|[^\x00-\x7f]|{_ESCAPED})|--)(?:[\w-]|[^\x00-\x7f]|{_ESCAPED})*+)",
)
_ESCAPE = pattern(r"\\(?:([0-9a-fA-F]{1,6})[ \n\t]?|([^\n])|\Z)")

_SIGNIFICANT = pattern(r"""[{}()\[\]"'\\/]""")
_SIGNIFICANT_IN_PRELUDE = pattern(r"""[{}()\[\]"'\\/;]""")
_CLOSED_BY = {"{": "}", "(": ")", "[": "]"}
_WHOLE_STRING = {quote: pattern(rf"{quote}(?:[^{quote}\\\n]|{_IN_STRING})*+{quote}?") for quote in "\"'"}
_REST_OF_URL = pattern(r"""[ \n\t]*+(?!["' \n\t])(?:[^)\\]|\\[\s\S]?)*+\)?""")
_URL_NAME = pattern(
    r"(?:(?<![^\x00-\"$-,./:-?\[\]\^`{-\x7f])|(?<=<!--))"  # no character of a name before it, and none of # @ \
    r"(?:[uU]|\\0{0,4}[57]5[ \n\t]?|\\[uU])(?:[rR]|\\0{0,4}[57]2[ \n\t]?|\\[rR])"
    r"(?:[lL]|\\0{0,4}[46][cC][ \n\t]?|\\[lL])\Z"
)
_LONGEST_URL_NAME = 25
_NAME_FROM_ESCAPE = pattern(rf"(?:[\w-]|[^\x00-\x7f]|{_ESCAPED})*+")


def normalised(text: str) -> str:
    """Return the text of a sheet with its newlines as one character, and nothing of NUL (§3.3)."""
    if "\r" in text or "\f" in text or "\0" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n").replace("\f", "\n").replace("\0", "\ufffd")
    return text


def raw_rules(text: str, *, is_sheet: bool = False) -> Iterator[RawRule]:
    """Yield the rules of a sheet, or of the block of an at-rule that holds rules.

    Args:
        text: its text, `normalised`.
        is_sheet: whether it is a whole sheet, in which `<!--` and `-->` count for nothing.
    """
    between = _BETWEEN_IN_SHEET if is_sheet else _BETWEEN
    at, line, counted = 0, 1, 0
    while True:
        found = between.match(text, at)
        at = found.end() if found is not None else at
        if at >= len(text):
            return
        line += text.count("\n", counted, at)
        counted = at
        rule = rule_at(text, at, line)
        if rule is None:
            return
        yield rule
        at = rule.end


def rule_at(text: str, at: int, line: int) -> RawRule | None:
    """Return the rule that begins at a place in a text, None if it is a style rule without a block.

    Args:
        text: the text, normalised.
        at: the place.
        line: the line that it is in.
    """
    plain = _PLAIN.match(text, at) if text[at] != "@" else None
    if plain is not None:
        prelude, content = plain.groups()
        content_line = line + text.count("\n", at, plain.start(2))
        return RawRule("", prelude, content, line, content_line, at, plain.end(), plain.start(2))
    keyword, begin = _keyword(text, at)
    end = _find(text, begin, "{;" if keyword else "{")
    content_line = line + text.count("\n", at, end)
    if text[end : end + 1] == "{":
        after = _find(text, end + 1, "}")
        content = text[end + 1 : after]
        return RawRule(keyword, text[begin:end], content, line, content_line, at, min(after + 1, len(text)), end + 1)
    if not keyword:
        return None
    return RawRule(keyword, text[begin:end], None, line, content_line, at, min(end + 1, len(text)), end + 1)


def _keyword(text: str, at: int) -> tuple[str, int]:
    """The at-keyword that begins somewhere, in lower case, and the place after it; empty if none does."""
    found = _AT_KEYWORD.match(text, at)
    if found is None:
        return "", at
    name = found.group(1)
    return (_ESCAPE.sub(_unescaped, name) if "\\" in name else name).lower(), found.end()


def _unescaped(found: re.Match[str]) -> str:
    if found.group(2):
        return found.group(2)
    code = int(found.group(1) or "0", 16)
    return chr(code) if 0 < code < 0x110000 else "\ufffd"


def _find(text: str, at: int, stops: str) -> int:
    """Return the place of the first of some characters that stands in no bracket, string or comment; else the end."""
    significant = _SIGNIFICANT_IN_PRELUDE if ";" in stops else _SIGNIFICANT
    open_brackets: list[str] = []
    since, escape, named = at, at, at  # the last name with an escape has it at `escape`, and ends at `named`
    while (found := significant.search(text, at)) is not None:
        at = found.end()
        sign = found.group()
        if sign == "/":
            if text.startswith("*", at):
                end = text.find("*/", at + 1)
                at = end + 2 if end >= 0 else len(text)
        elif sign == "\\":
            name = _NAME_FROM_ESCAPE.match(text, at - 1)
            since, escape = named, at - 1
            at = named = max(at, name.end() if name is not None else at)
        elif sign in _WHOLE_STRING:
            string = _WHOLE_STRING[sign].match(text, at - 1)
            at = string.end() if string is not None else at
        elif open_brackets and sign == open_brackets[-1]:
            open_brackets.pop()
        elif not open_brackets and sign in stops:
            return at - 1
        elif sign == "(" and (url := _url_after(text, at, *((since, escape) if at - 1 == named else (named, at)))):
            at = url
        elif sign in _CLOSED_BY:
            open_brackets.append(_CLOSED_BY[sign])
    return len(text)


def _url_after(text: str, at: int, since: int, latest: int) -> int | None:
    """Return where a URL without quotation marks ends whose parenthesis ends here; None if it is none (§4.3.6).

    Its name begins at `since` or later, and not later than `latest`.
    """
    since = max(since, at - 1 - _LONGEST_URL_NAME)
    name = _URL_NAME.search(text[since : at - 1])
    if name is None or since + name.start() > latest:
        return None
    found = _REST_OF_URL.match(text, at)
    return found.end() if found is not None else None


_NOT_OF_NAMES = r"\x00-,./:-@\[-\^`{-\x7f"  # a class of what is in no name compiles faster
_NAME = pattern(rf"(?<![^{_NOT_OF_NAMES}])([^{_NOT_OF_NAMES}]+)\s*:")
_ANY_STRING = pattern(_STRING)


def names_declared(content: str) -> set[str]:
    """Return what may be the name of a property in the content of a rule; those of its declarations are among them.

    Those of custom properties are as written, others in lower case.
    """
    if "\\" in content or "/*" in content:
        outside = content if "(" in content else _ANY_STRING.sub("", content)
        if "\\" in outside or "/*" in outside:
            tokens = component_values(content, skip_comments=True)
            found = [str(token.value) for token in tokens if token.type == "ident"]
            return {name if name.startswith("--") else name.lower() for name in found}
    return {name if name.startswith("--") else name.lower() for name in _NAME.findall(content)}
