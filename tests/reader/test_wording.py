"""The words of voices: their tables, their languages, a person's own."""

from dataclasses import replace
from pathlib import Path

import pytest

from murvel.reader.errors import ReaderError
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import BUILT_IN, NAME_FIRST, in_language, next_language
from murvel.reader.speech.voice_files import read_voice, voice_named
from murvel.reader.speech.wording.words import _BLANK, ENGLISH, LANGUAGES, words_of
from tests.support import node, tree_of

PAGE = """<html lang=fr><title>Jardin</title><nav><a href=a>Parcelles</a></nav><h1>Plan</h1>
<ul><li>un</ul><label><input type=checkbox> Accord</label><table border=1><tr><th>a<td>1</table><p>100 % <span lang=de>Beet</span>"""

SAID = {
    "en": "navigation, Parcelles, link / Plan, heading level 1 / list with 1 item, un, 1 of 1 / "
    "Accord, checkbox, not checked / table with 1 row and 2 columns, a, row header, row 1 column 1 / "
    "1, row 1 column 2 / end of table, 100 percent, in German, Beet",
    "fr": "navigation, Parcelles, lien / Plan, titre de niveau 1 / liste avec 1 élément, un, 1 sur 1 / "
    "Accord, case à cocher, non coché / tableau avec 1 ligne et 2 colonnes, a, en-tête de ligne, ligne 1 colonne 1 / "
    "1, ligne 1 colonne 2 / fin de tableau, 100 pour cent, en allemand, Beet",
    "de": "Navigation, Parcelles, Link / Plan, Überschrift Ebene 1 / Liste mit 1 Eintrag, un, 1 von 1 / "
    "Accord, Kontrollkästchen, nicht aktiviert / Tabelle mit 1 Zeile und 2 Spalten, a, Zeilenüberschrift, "
    "Zeile 1 Spalte 1 / 1, Zeile 1 Spalte 2 / Ende von Tabelle, 100 Prozent, auf Deutsch, Beet",
    "ja": "ナビゲーション, Parcelles, リンク / Plan, 見出しレベル1 / リスト 1項目, un, 1の1 / "
    "Accord, チェックボックス, チェックなし / 表 1行 2列, a, 行見出し, 行1 列1 / "
    "1, 行1 列2 / 表の終わり, 100 パーセント, ドイツ語, Beet",
}


def heard(session: ReadingSession) -> str:
    return " / ".join(utterance.text for utterance in session.spoken.utterances)


@pytest.mark.parametrize("language", SAID)
def test_a_page_in_the_words_of_a_language(language: str) -> None:
    assert heard(ReadingSession(tree_of(PAGE), in_language(NAME_FIRST, language))) == SAID[language]


def test_a_voice_follows_the_language_of_the_page() -> None:
    assert heard(ReadingSession(tree_of(PAGE), in_language(NAME_FIRST, "page"))) == SAID["fr"]
    polish = tree_of("<html lang=pl-PL><button>Start</button>")
    assert heard(ReadingSession(polish, in_language(NAME_FIRST, "page"))) == "Start, button"


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_table_has_the_words_of_the_english_one(language: str) -> None:
    words = words_of(language)
    for table in ("roles", "states", "counts", "phrases", "hints", "symbols"):
        assert list(getattr(words, table)) == list(getattr(ENGLISH, table)), table
    for name, phrase in words.phrases.items():
        assert sorted(_BLANK.findall(phrase)) == sorted(_BLANK.findall(ENGLISH.phrases[name])), name
    for name, forms in words.counts.items():
        assert all("{n}" in form for form in forms[:2]), name
    for name, values in words.states.items():
        assert list(values) == list(ENGLISH.states[name])
        assert all(values.values())


def test_languages_ship() -> None:
    assert LANGUAGES == ("de", "en", "es", "fr", "it", "ja", "nl", "pt")


def test_going_through_the_languages_comes_round() -> None:
    voice, titles = NAME_FIRST, []
    for _ in range(len(LANGUAGES) + 1):
        voice = next_language(voice)
        titles.append(voice.title)
    assert titles[:2] == ["name first in page", "name first in de"]
    assert titles[-1] == "name first"
    assert len(set(titles)) == len(titles)


def test_words_of_ones_own(tmp_path: Path) -> None:
    path = tmp_path / "polski.toml"
    path.write_text(
        'name = "polski"\nlanguage = "pl"\n[words.roles]\nbutton = "przycisk"\n[words.phrases]\nplace = "{n} z {size}"\n'
        '[words.counts]\nitems = ["{n} element", "{n} elementy", "brak"]\n[words.states]\nchecked = {true = "zaznaczone"}\n'
    )
    voice = read_voice(path)
    assert voice.title == "polski in pl"
    tree = tree_of("<button>Start</button><ul><li>a<li>b</ul><span lang=de>x</span>")
    assert heard(ReadingSession(tree, voice)) == (
        "Start, przycisk / list with 2 elementy, a, 1 z 2 / b, 2 z 2 / end of list, in niemiecki, x"
    )
    assert heard(ReadingSession(tree, replace(voice, words=None))).startswith("Start, button")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('[words.roles]\nbuton = "x"', "usable: words: roles has no word for 'buton' (did you mean 'button'?)"),
        ('[words.phrases]\nplaces = "x"', "phrases has no word for 'places'"),
        ('[words.other]\nx = "x"', "words.other"),
        ('language = "English"', "language"),
        ('[words.counts]\nitems = ["x"]', "words.counts.items"),
    ],
)
def test_words_that_are_wrong(tmp_path: Path, text: str, said: str) -> None:
    path = tmp_path / "v.toml"
    path.write_text(f'name = "v"\n{text}\n')
    with pytest.raises(ReaderError) as caught:
        read_voice(path)
    assert said in str(caught.value)


def test_a_voice_is_named_with_a_language() -> None:
    assert voice_named("spare in de", None) == in_language(BUILT_IN[2], "de")
    assert voice_named("spare in page", None).language == ""
    with pytest.raises(ReaderError, match="no words in 'xx'"):
        voice_named("spare in xx", None)


def test_what_the_page_says_is_not_filled_in() -> None:
    tree = tree_of("<div role=group aria-roledescription='{n} {size}' aria-label='{what}'><p>x</div><p>y")
    session = ReadingSession(tree)
    assert heard(session) == "{n} {size} {what}, x / end of {n} {size}, y"
    assert node(tree, "group").name == "{what}"
