"""Start tags in HTML source: where each begins.

The scan follows the tokenizer (HTML §13.2.5) far enough to take nothing else for a tag. Which element a tag makes, if
any, only a parser knows: `murvel.page.starts`.
"""

import re
from collections.abc import Iterator
from typing import NamedTuple

_S = r"\t\n\f\r "

ATTRIBUTES = (
    rf"(?:[{_S}/]*+[^{_S}/>][^{_S}/>=]*+"
    rf"""(?:[{_S}]*+=[{_S}]*+(?:"[^"]*+"|'[^']*+'|[^{_S}>"'][^{_S}>]*+|(?=>))|(?![{_S}]*+=)))*+"""
    rf"[{_S}/]*+>"
)
"""The rest of a tag after its name (HTML §13.2.5.32 to .40): attributes, and the closing bracket."""

START_TAG = re.compile(rf"<([a-zA-Z][^{_S}/>]*+)" + ATTRIBUTES)
"""A whole start tag; its group 1 is the tag's name."""

_CONSTRUCT = re.compile(
    rf"<(?:(?P<start>[a-zA-Z][^{_S}/>]*+)(?=(?P<rest>{ATTRIBUTES}))"
    rf"|/[a-zA-Z][^{_S}/>]*+{ATTRIBUTES}"
    r"|!--(?:-?>|(?:(?!--!?>)[\s\S])*+(?:--!?>|\Z))"
    r"|(?P<unfinished>/?[a-zA-Z])"
    r"|[!?/][^>]*+(?:>|\Z))"
)

# Elements whose content the tokenizer takes as text (HTML §13.2.6.4: RCDATA, RAWTEXT, script data, PLAINTEXT).
_TEXT_ONLY = frozenset({"script", "style", "textarea", "title", "xmp", "iframe", "noembed", "noframes", "plaintext"})
_CLOSING = {name: re.compile(rf"</{name}(?=[{_S}/>])", re.IGNORECASE) for name in _TEXT_ONLY}


class StartTag(NamedTuple):
    """A start tag in a source: its name in lower case, where it begins, and where its name ends."""

    name: str
    start: int
    name_end: int


def start_tags(source: str) -> Iterator[StartTag]:
    """Yield the start tags of a source in order."""
    place = 0
    search = _CONSTRUCT.search
    while (found := search(source, place)) is not None:
        if found.group("unfinished"):
            break  # a tag that the source ends in: the tokenizer drops it
        place = found.end()
        name = found.group("start")
        if name is None:
            continue
        name = name.lower()
        yield StartTag(name, found.start(), place)
        place = found.end("rest")
        if name in _TEXT_ONLY:
            closing = _CLOSING[name].search(source, place)
            if closing is None:
                break
            place = closing.start()
