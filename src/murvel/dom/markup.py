"""Tags in HTML source: where each begins.

The scan follows the tokenizer (HTML §13.2.5) far enough to take nothing else for a tag. Which element a tag makes, if
any, only a parser knows: `murvel.dom.starts`.
"""

import re
from collections.abc import Iterator
from typing import NamedTuple

from murvel.patterns import pattern

_S = r"\t\n\f\r "

ATTRIBUTES = (
    rf"(?:[{_S}/]*+[^{_S}/>][^{_S}/>=]*+"
    rf"""(?:[{_S}]*+=[{_S}]*+(?:"[^"]*+"|'[^']*+'|[^{_S}>"'][^{_S}>]*+|(?=>))|(?![{_S}]*+=)))*+"""
    rf"[{_S}/]*+>"
)
"""The rest of a tag after its name (HTML §13.2.5.32 to .40): attributes, and the closing bracket."""

START_TAG = pattern(rf"<([a-zA-Z][^{_S}/>]*+)" + ATTRIBUTES)
"""A whole start tag; its group 1 is the tag's name."""

_CONSTRUCT = pattern(
    rf"<(?:(?P<start>[a-zA-Z][^{_S}/>]*+)(?=(?P<rest>{ATTRIBUTES}))"
    rf"|/(?P<end>[a-zA-Z][^{_S}/>]*+){ATTRIBUTES}"
    r"|!--(?:-?>|(?:(?!--!?>)[\s\S])*+(?:--!?>|\Z))"
    r"|(?P<unfinished>/?[a-zA-Z])"
    r"|[!?/][^>]*+(?:>|\Z))"
)

# Elements whose content the tokenizer takes as text (HTML §13.2.6.4: RCDATA, RAWTEXT, script data, PLAINTEXT).
_TEXT_ONLY = frozenset({"script", "style", "textarea", "title", "xmp", "iframe", "noembed", "noframes", "plaintext"})
_CLOSING = {name: pattern(rf"</{name}(?=[{_S}/>])", re.IGNORECASE) for name in _TEXT_ONLY}


class Tag(NamedTuple):
    """A tag in a source: its name in lower case, where it begins and ends, where its name ends, and which tag it is."""

    name: str
    start: int
    name_end: int
    end: int
    is_end_tag: bool = False


def start_tags(source: str) -> Iterator[Tag]:
    """Yield the start tags of a source in order."""
    return (tag for tag in tags(source) if not tag.is_end_tag)


def tags(source: str) -> Iterator[Tag]:
    """Yield the tags of a source in order."""
    place = 0
    search = _CONSTRUCT.search
    while (found := search(source, place)) is not None:
        if found.group("unfinished"):
            break  # a tag that the source ends in: the tokenizer drops it
        place = found.end()
        name = found.group("start")
        if name is None:
            if found.group("end"):
                yield Tag(found.group("end").lower(), found.start(), found.end("end"), place, is_end_tag=True)
            continue
        name = name.lower()
        name_end, place = place, found.end("rest")
        yield Tag(name, found.start(), name_end, place)
        if name in _TEXT_ONLY:
            closing = _CLOSING[name].search(source, place)
            if closing is None:
                break
            place = closing.start()
