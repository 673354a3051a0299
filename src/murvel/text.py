"""Text of a page, made safe and comparable.

Nothing from a page is trusted: a control character could move the terminal's cursor, a direction mark could reorder
a line of a report. `visible` is what every way out of the program passes text through.
"""

import re
from collections.abc import Callable

from murvel.patterns import pattern

HTML_SPACE = " \t\n\f\r"
"""ASCII whitespace (Infra §4.5): the only characters that HTML and CSS collapse; a no-break space is not one."""

_SPACES = pattern(f"[{HTML_SPACE}]+")

# C0 and C1 controls, soft line and paragraph separators, and the marks of the Unicode Bidirectional Algorithm
# (UAX 9 §2) and other format characters that change how text around them is shown; tags and lone surrogates too.
# Non-characters (Unicode §23.7) make XML unreadable. Of characters without width, joiners are kept where a script or an
# emoji needs them, and written out beside plain letters, where they only hide a difference.
_NON_CHARACTERS = "".join(f"{chr(plane << 16 | 0xFFFE)}{chr(plane << 16 | 0xFFFF)}" for plane in range(17))
_UNSAFE = pattern(
    "[\x00-\x1f\x7f-\x9f\xad\u034f\u061c\u115f\u1160\u17b4\u17b5\u180e\u200b-\u200f\u2028-\u202e\u2060-\u206f\u3164"
    f"\ufdd0-\ufdef\ufeff\uffa0\ufff9-\ufffb\ud800-\udfff\U000e0000-\U000e007f{_NON_CHARACTERS}]"
)
ACTING = pattern(
    "[\x00-\x1f\x7f-\x9f\u061c\u200e\u200f\u2028-\u202e\u2066-\u206f\ufff9-\ufffb"
    f"\ufdd0-\ufdef\ud800-\udfff\U000e0000-\U000e007f{_NON_CHARACTERS}]"
)
"""What acts on a terminal or on the order of a line, and what no terminal takes; a joiner only does not show."""

_JOINERS = "\u200c\u200d"


def collapse(text: str) -> str:
    """Return `text` with each run of ASCII whitespace as one space, none at its ends."""
    return collapse_runs(text).strip(" ")


def collapse_runs(text: str) -> str:
    """Return `text` with each run of ASCII whitespace as one space, those at its ends kept."""
    if "  " in text or "\n" in text or "\t" in text or "\r" in text or "\f" in text:
        return _SPACES.sub(" ", text)
    return text


_WORD_START = pattern(r"(?<![^\W_])(?<![^\W\d_]['’])[^\W\d_]")

_TRANSFORMS: dict[str, Callable[[str], str]] = {
    "uppercase": str.upper,
    "lowercase": str.lower,
    "capitalize": lambda text: _WORD_START.sub(lambda match: match.group().title(), text),
}


def transformed(text: str, transform: str) -> str:
    """Return `text` as CSS's text-transform shows it (CSS Text 3 §2.1), which is how browsers expose it."""
    change = _TRANSFORMS.get(transform)
    return text if change is None else change(text)


def visible(text: str, *, keep_lines: bool = False) -> str:
    """Return `text` with every character that could act on its surroundings written out, as in [U+202E].

    Args:
        text: any text, of a page, a file name, an address or an error.
        keep_lines: leave line feeds and tabs as they are, for text that is shown as a block.
    """

    if text.isascii() and text.isprintable():
        return text  # most text by far, and told at once

    def written_out(match: re.Match[str]) -> str:
        character = match.group()
        if keep_lines and character in "\n\t":
            return character
        if character in _JOINERS and not _is_beside_ascii(match):
            return character
        return f"[U+{ord(character):04X}]"

    return _UNSAFE.sub(written_out, text)


def _is_beside_ascii(match: re.Match[str]) -> bool:
    beside = match.string[max(0, match.start() - 1) : match.start()] + match.string[match.end() : match.end() + 1]
    return any(character.isascii() for character in beside)


def counted(number: int, singular: str, plural: str) -> str:
    """Return a number with its noun in what the tool says, as in "1 problem" and "no problems"."""
    return f"{number or 'no'} {singular if number == 1 else plural}"
