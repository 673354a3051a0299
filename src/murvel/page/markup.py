"""Start tags in HTML source: where each begins, carried through the parser as a marker attribute.

A parser does not tell from which start tag an element came, and no scan of the source can know it (tags are ignored,
implied and moved). So each start tag gets an attribute with its own offset before parsing; the parser carries it to
the element that the tag made. Elements that no tag made have none: a place is exact or absent.

The scan follows the tokenizer (HTML §13.2.5) far enough to insert nothing inside a tag, and `restored` takes the
marker out of any text or attribute it went to by mistake.
"""

import re
from collections.abc import Set
from dataclasses import dataclass

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


@dataclass(frozen=True, slots=True)
class Marked:
    """Source with its start tags marked.

    Attributes:
        text: the source with the marker attribute in every start tag that was found.
        attribute: the marker's name, which is nowhere in the source.
        count: how many tags were marked.
    """

    text: str
    attribute: str
    count: int

    def restored(self, text: str) -> str:
        """Return `text` without any marker that went into it."""
        return re.sub(rf' {self.attribute}="\d+"', "", text)


def mark_start_tags(source: str, unmarked: Set[str]) -> Marked:
    """Return `source` with the offset of each start tag written into it as an attribute.

    Args:
        source: the page's source.
        unmarked: the names of tags that are left as they are.
    """
    attribute = "data-at"
    while attribute in source:
        attribute += "x"
    pieces: list[str] = []
    copied = 0
    count = 0
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
        if name not in unmarked:
            pieces.append(source[copied:place])
            pieces.append(f' {attribute}="{found.start()}"')
            copied = place
            count += 1
        place = found.end("rest")
        if name in _TEXT_ONLY:
            closing = _CLOSING[name].search(source, place)
            if closing is None:
                break
            place = closing.start()
    pieces.append(source[copied:])
    return Marked("".join(pieces), attribute, count)
