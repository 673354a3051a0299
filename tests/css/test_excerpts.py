"""Style sheets as text: split as tokens would split them, and excerpts that say what the whole says."""

import os
from pathlib import Path

import pytest
import tinycss2
from hypothesis import example, given

from murvel.css.cascade.spoken import is_spoken
from murvel.css.selectors.grammar import is_plain, parse_selectors, selectors_in
from murvel.css.sheets import excerpts
from murvel.css.sheets.excerpt import excerpt
from murvel.css.sheets.excerpts import Excerpts
from murvel.css.sheets.media import Screen
from murvel.css.sheets.raw import names_declared, normalised, raw_rules
from murvel.css.sheets.sheets import Sheets
from murvel.css.sheets.texts import SheetsAgain, SheetTexts
from murvel.css.values.declared import PROPERTIES
from murvel.loading.resources import Resources
from murvel.loading.setup import Setup
from murvel.page.open_page import open_document
from tests.strategies import sheet_soup
from tests.support import element


def written_again(text: str | None) -> str | None:
    if text is None:
        return None
    return str(tinycss2.serialize(tinycss2.parse_component_value_list(text, skip_comments=True)))


@given(sheet_soup())
@example("a{b:url(it's;{)}c{d:e}")
@example("a{b:'}'}c[d='{']{e:f}@media(x){a{b:c}}g")
@example("a{b:'\\a\n}'}c{d:\"\\41\f}\\\n\"}e{f:g}")
@example("\\>url(it's;{){")
@example("\\41 url(it's;{)}{")
@example("\\<!--url(it's;{)}{")
@example("\\<!--u\\72l(it's;{)}{")
@example("\\\\>url(it's;{){}")
@example("a{b:>u\\72l(it's;{)}c{d:#u\\72l(it's;{)}e{f:g}")
@example("a{b:\\}}c{d:/*}*/e}<!--f{g:h}-->i{j:k")
def test_rules_are_split_as_tokens_split_them(text: str) -> None:
    split = [
        (rule.keyword, rule.line, written_again(rule.prelude), written_again(rule.content))
        for rule in raw_rules(normalised(text), is_sheet=True)
    ]
    by_tokens = [
        (
            node.lower_at_keyword if node.type == "at-rule" else "",
            node.source_line,
            tinycss2.serialize(node.prelude),
            None if node.content is None else tinycss2.serialize(node.content),
        )
        for node in tinycss2.parse_stylesheet(text, True, True)
        if node.type in ("at-rule", "qualified-rule")
    ]
    assert split == by_tokens


@given(sheet_soup())
def test_the_names_of_declarations_are_found(content: str) -> None:
    declared = {
        each.name if each.name.startswith("--") else each.lower_name
        for each in tinycss2.parse_blocks_contents(content, True, True)
        if each.type == "declaration"
    }
    assert declared <= names_declared(normalised(content))


def collected(text: str) -> tuple[object, ...]:
    sheets = Sheets(Screen(1280), "file:///a.html", SheetsAgain(SheetTexts(Resources())), is_spoken)
    sheets.add(text, "a sheet")
    blocks = [(each.prelude, each.content, each.parent, each.layer, each.where, each.bounds) for each in sheets.blocks]
    return blocks, list(sheets.problems), sheets.registered, sheets.asked


@given(sheet_soup())
@example("a{color:red}@import 'x.css';b{display:none}")
@example("@media screen{a{color:red}}@import 'x.css';\n\n@media print{b{display:none}}\nc{display:none}")
@example("@layer a{b{color:red}}@layer c.d{e{display:none}}@media (" + "(" * 40 + "){a{color:red}}")
def test_an_excerpt_says_what_the_whole_says(text: str) -> None:
    whole = normalised(text)
    found = excerpt(whole)
    assert collected(found) == collected(whole)
    assert excerpt(found) == found


@pytest.mark.parametrize("name", sorted(PROPERTIES))
def test_a_rule_with_one_of_our_properties_is_kept(name: str) -> None:
    assert is_spoken("a", f"color:red;{name}:inherit")
    assert is_spoken("a", f"{name.upper()} : inherit")


@pytest.mark.parametrize(
    "text",
    [
        "a", "a.b#c", "*.a", "a b>c+d~e", " a , b ", "a:before", ".a::after", "a,", "", ">a", "a >", "a::before b", "a :before",
        "a .1", ".-a", "A.B", "a\\.b", "é", "a[b]", ":hover", "a:is(b)",
    ],
)  # fmt: skip
def test_plain_selectors_are_what_tokens_make_of_them(text: str) -> None:
    assert selectors_in(text) == parse_selectors(tinycss2.parse_component_value_list(text, skip_comments=True))
    assert not is_plain(text) or selectors_in(text)


BIG = ".a{color:red}" * 2000 + "p{display:none}"


@pytest.fixture
def site(tmp_path: Path) -> Path:
    (tmp_path / "big.css").write_text(BIG)
    (tmp_path / "a.html").write_text("<link rel=stylesheet href=big.css><p>x")
    return tmp_path


def is_hidden(site: Path, folder: Path | None) -> bool:
    excerpts.excerpts_in.cache_clear()
    page = open_document(str(site / "a.html"), Setup(excerpts=folder))
    return page.styles.of(element(page.document, "p")).display == "none"


def test_excerpts_are_kept_between_runs_and_what_is_damaged_is_made_again(site: Path, tmp_path: Path) -> None:
    folder = tmp_path / "kept"
    assert is_hidden(site, folder)
    (kept,) = folder.iterdir()
    good = kept.read_bytes()
    assert kept.stat().st_size < 1000
    for damaged in (b"", good[:50], good.replace(b"none", b"flex"), b"\xff" * 500, good + b"x"):
        kept.write_bytes(damaged)
        assert is_hidden(site, folder)
        assert kept.read_bytes() == good


def test_a_folder_that_cannot_be_used_is_done_without(site: Path, tmp_path: Path) -> None:
    folder = tmp_path / "file"
    folder.write_text("no folder")
    assert is_hidden(site, folder)
    assert is_hidden(site, tmp_path / "kept" / "\0")
    assert is_hidden(site, None)


def test_what_was_written_first_goes_first(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(excerpts, "MOST_ON_DISK", 500)
    kept = Excerpts(tmp_path)
    for number in range(6):
        kept.of(BIG + f"q{number}{{display:none}}")
        for at, path in enumerate(sorted(tmp_path.iterdir(), key=lambda each: each.stat().st_mtime)):
            os.utime(path, (at, at))
    assert 1 <= len(list(tmp_path.iterdir())) <= 500 // 64
    assert sum(each.stat().st_size for each in tmp_path.iterdir()) <= 500
