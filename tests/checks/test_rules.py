"""The tables and questions that checks rest on."""

import re

import html5lib
import pytest
from hypothesis import given

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.check import Topic
from murvel.checks.errors import CheckError
from murvel.checks.questions.parse_errors import KINDS
from murvel.checks.questions.tidiness import is_tidy
from murvel.checks.tables.aria_rules import CONTEXT, OWNED, REQUIRED, SUPPORTED, VALUES, problem_of_value
from murvel.checks.tables.autofill import datum_of, problem_of_autocomplete
from murvel.checks.tables.criteria import Level
from murvel.checks.tables.languages import is_tag, other_language
from murvel.checks.tables.vocabulary import (
    ADDRESS,
    BARE_ERRORS,
    FILE_NAME,
    IMAGE_WORDS,
    TIME_LIMIT,
    is_symbols,
    plain,
)
from murvel.reader.moves.skip import SKIP_WORDS
from murvel.tree.roles.aria_roles import ROLES
from murvel.tree.states.states import ARIA
from tests.strategies import hostile_markup


@pytest.mark.parametrize(
    ("value", "problem"),
    [
        ("email", None),
        ("on", None),
        ("", None),
        ("section-a billing street-address", None),
        ("shipping mobile tel", None),
        ("current-password webauthn", None),
        ("mail", "mail is no kind of datum"),
        ("home name", "home does not go with name"),
        ("off email", "off stands alone"),
        ("billing section-a name", "billing does not belong there"),
    ],
)
def test_autocomplete(value: str, problem: str | None) -> None:
    assert problem_of_autocomplete(value) == problem


def test_the_datum_of_autocomplete() -> None:
    assert [datum_of(value) for value in ("home tel", "off", "", "username webauthn")] == ["tel", "", "", "username"]


@pytest.mark.parametrize(
    ("attribute", "value", "is_allowed"),
    [
        ("aria-expanded", "TRUE", True),
        ("aria-expanded", "yes", False),
        ("aria-level", "2", True),
        ("aria-level", "2.5", False),
        ("aria-valuenow", "2.5", True),
        ("aria-valuenow", "half", False),
        ("aria-relevant", "additions text", True),
        ("aria-relevant", "additions words", False),
        ("aria-label", "anything", True),
        ("aria-live", "", True),
    ],
)
def test_values(attribute: str, value: str, is_allowed: bool) -> None:
    assert (problem_of_value(attribute, value) is None) == is_allowed


def test_the_tables_speak_of_known_things() -> None:
    assert SUPPORTED.keys() <= VALUES.keys()
    assert {f"aria-{name}" for name in ARIA} <= VALUES.keys()
    for table in (CONTEXT, OWNED, REQUIRED):
        assert table.keys() <= ROLES.keys()
    for role, names in REQUIRED.items():
        assert all(role in SUPPORTED.get(name, {role}) for name in names)


@pytest.mark.parametrize(
    ("text", "stated", "found"),
    [
        ("The gate of the meadow is closed for the night", "en", ""),
        ("The gate of the meadow is closed for the night", "de", "en"),
        ("Das Tor ist in der Nacht für alle geschlossen und leer", "en-GB", "de"),
        ("La porte est fermée pour la nuit et les clés sont dans le jardin", "en", "fr"),
        ("La puerta está cerrada por la noche y las llaves son para los que no están", "en", "es"),
        ("Калитка закрыта на ночь", "en", "Cyrillic"),
        ("Калитка закрыта на ночь", "uk", ""),
        ("門は夜の間閉まっています", "ja", ""),
        ("Fern Moss Reed Ash Oak Elm Yew Fir Bay", "en", ""),
        ("The gate of the meadow is closed for the night", "fi", ""),
        ("short", "de", ""),
    ],
)
def test_languages(text: str, stated: str, found: str) -> None:
    assert other_language(text, stated) == found


@pytest.mark.parametrize(
    ("tag", "well"), [("en", True), ("zh-Hant-TW", True), ("x-ours", True), ("english_uk", False), ("e", False)]
)
def test_tags(tag: str, well: bool) -> None:
    assert is_tag(tag) == well


@pytest.mark.parametrize(
    ("pattern", "yes", "no"),
    [
        (FILE_NAME, ("shed.png", "IMG_2041", "dsc 0012", "rules.PDF"), ("The shed", "No. 5", "a/b.png", "Img")),
        (ADDRESS, ("https://a.example/b", "www.a.example"), ("See www", "a.b", "name@a.example")),
        (
            IMAGE_WORDS,
            ("Image of a shed", "a photo of beans", "Icon of"),
            ("Imagery of war", "The image", "Photo club"),
        ),
        (
            BARE_ERRORS,
            ("Error", "Invalid value.", "the field is invalid", "wrong"),
            ("Enter a name", "Error: enter a name"),
        ),
        (
            TIME_LIMIT,
            ("Your session expires in 10 minutes", "within 30 seconds"),
            ("in 20 minutes by bus", "10 minutes"),
        ),
        (SKIP_WORDS, ("Skip to the content", "Zum Inhalt", "Jump to main"), ("Home", "Contents", "Spring")),
    ],
)
def test_words(pattern: re.Pattern[str], yes: tuple[str, ...], no: tuple[str, ...]) -> None:
    assert [text for text in yes if not pattern.search(text)] == []
    assert [text for text in no if pattern.search(text)] == []


def test_text_is_compared_plain() -> None:
    assert plain("  Read more… ") == "read more"
    assert [is_symbols(text) for text in ("×", "…", "", "4", "a")] == [True, True, False, False, False]


def test_choosing_checks() -> None:
    chosen = built_in().chosen
    assert len(chosen()) == len(built_in())
    assert {check.topic for check in chosen(only=["names", "headings"])} == {Topic.NAMES, Topic.HEADINGS}
    assert [check.id for check in chosen(only=["control-unnamed"])] == ["control-unnamed"]
    assert all(check.topic is not Topic.ARIA for check in chosen(skip=["aria"]))
    assert {check.level for check in chosen(level=Level.A)} == {Level.A}
    assert [check.id for check in built_in() if not check.is_within(Level.AA)] == ["link-opens-window"]
    with pytest.raises(CheckError, match="did you mean 'headings'"):
        chosen(only=["heading"])


@given(hostile_markup())
def test_markup_that_is_called_tidy_has_nothing_to_be_mended(markup: str) -> None:
    if is_tidy(markup):
        parser = html5lib.HTMLParser(tree=html5lib.getTreeBuilder("etree"))
        parser.parse(markup)
        assert {code for _, code, _ in parser.errors} & KINDS.keys() == set()


@pytest.mark.parametrize(
    ("markup", "tidy"),
    [
        ("<!DOCTYPE html><html><title>a<b></title><ul><li>a<li>b</ul><p>x<p>y</html>", True),
        ("<svg><path d='a>b'/></svg><br/><img src=a alt='>'><script>'</p>'</script><!-- </div> -->", True),
        ("<table><tr><td>a<tr><td>b</table>", True),
        ("<a href=a>x<a href=b>y</a></a>", False),
        ("<div>", False),
        ("</p>", False),
        ("<p id=a id=b>", False),
        ("<div/>", False),
        ("<table><p>a</table>", False),
        ("<b><i>a</b></i>", False),
    ],
)
def test_what_is_plainly_tidy(markup: str, tidy: bool) -> None:
    assert is_tidy(markup) is tidy
