"""How counters are written (CSS Counter Styles 3 §6): the styles that pages use; all others are decimal, as §3.2 has it
for what is not known."""

from __future__ import annotations

_ALPHABETS = {
    "lower-alpha": "abcdefghijklmnopqrstuvwxyz",
    "lower-latin": "abcdefghijklmnopqrstuvwxyz",
    "upper-alpha": "ABCDEFGHIJKLMNOPQRSTUVWXYZ",
    "upper-latin": "ABCDEFGHIJKLMNOPQRSTUVWXYZ",
    "lower-greek": "αβγδεζηθικλμνξοπρστυφχψω",
}
_ROMAN = (
    (1000, "m"), (900, "cm"), (500, "d"), (400, "cd"), (100, "c"), (90, "xc"), (50, "l"), (40, "xl"), (10, "x"),
    (9, "ix"), (5, "v"), (4, "iv"), (1, "i"),
)  # fmt: skip
_MOST_ROMAN = 3999
_SYMBOLS = {"disc": "•", "circle": "◦", "square": "▪", "none": ""}


def numeral(value: int, style: str) -> str:
    """Return a number as a counter style writes it."""
    if style in _SYMBOLS:
        return _SYMBOLS[style]
    if style in _ALPHABETS and value > 0:
        return _alphabetic(value, _ALPHABETS[style])
    if style in ("lower-roman", "upper-roman") and 0 < value <= _MOST_ROMAN:
        return _roman(value) if style == "lower-roman" else _roman(value).upper()
    if style == "decimal-leading-zero":
        return f"-{abs(value):02}" if value < 0 else f"{value:02}"
    return str(value)


def _alphabetic(value: int, letters: str) -> str:
    text = ""
    while value:
        value, at = divmod(value - 1, len(letters))
        text = letters[at] + text
    return text


def _roman(value: int) -> str:
    text = ""
    for size, letters in _ROMAN:
        count, value = divmod(value, size)
        text += letters * count
    return text
