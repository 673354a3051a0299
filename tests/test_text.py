"""Text of a page is made safe on every way out."""

import unicodedata

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.text import collapse, collapse_runs, visible


@pytest.mark.parametrize(
    ("text", "shown"),
    [
        ("plain [bold]", "plain [bold]"),
        ("\x1b[31m", "[U+001B][31m"),
        ("a\u202eb\u2066c", "a[U+202E]b[U+2066]c"),
        ("\x9b2J", "[U+009B]2J"),
        ("a\r\nb", "a[U+000D][U+000A]b"),
        ("\ud800", "[U+D800]"),
        ("ü 日本 ✓", "ü 日本 ✓"),
        ("zero\u200bwidth\u200djoin", "zero[U+200B]width[U+200D]join"),
        (
            "\u0645\u06cc\u200c\u062e\u0648\u0627\u0647\u0645 \U0001f468\u200d\U0001f33e",
            "\u0645\u06cc\u200c\u062e\u0648\u0627\u0647\u0645 \U0001f468\u200d\U0001f33e",
        ),
        ("\ufffe\uffff\ufdd0\U0001fffe", "[U+FFFE][U+FFFF][U+FDD0][U+1FFFE]"),
        ("soft\xadhyphen", "soft[U+00AD]hyphen"),
    ],
)
def test_visible(text: str, shown: str) -> None:
    assert visible(text) == shown


@given(st.text())
def test_nothing_that_acts_on_a_terminal_is_left(text: str) -> None:
    for character in visible(text):
        assert unicodedata.category(character) not in ("Cc", "Cs")
        assert unicodedata.bidirectional(character) not in (
            "LRE",
            "RLE",
            "LRO",
            "RLO",
            "PDF",
            "LRI",
            "RLI",
            "FSI",
            "PDI",
        )


def test_blocks_keep_their_lines() -> None:
    assert visible("a\n\tb\x07", keep_lines=True) == "a\n\tb[U+0007]"


def test_collapse_takes_html_space_only() -> None:
    assert collapse(" \ta\n\n b\u00a0 ") == "a b\u00a0"
    assert collapse_runs(" \n a ") == " a "
