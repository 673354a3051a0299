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
    assert heard(ReadingSession(polish, in_language(NAME_FIRST, "page"))) == "Start, przycisk"
    greek = tree_of("<html lang=el><button>Start</button>")
    assert heard(ReadingSession(greek, in_language(NAME_FIRST, "page"))) == "Start, button"


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_table_has_the_words_of_the_english_one(language: str) -> None:
    words = words_of(language)
    for table in ("roles", "states", "counts", "phrases", "hints", "symbols"):
        assert list(getattr(words, table)) == list(getattr(ENGLISH, table)), table
    for name, phrase in words.phrases.items():
        assert sorted(_BLANK.findall(phrase)) == sorted(_BLANK.findall(ENGLISH.phrases[name])), name
    for name, forms in words.counts.items():
        assert {"one", "other", "none"} <= set(forms), name
        assert "{n}" in forms["other"], name
        assert all(forms.values()), name
    for name, values in words.states.items():
        assert list(values) == list(ENGLISH.states[name])
        assert all(values.values())


def test_languages_ship() -> None:
    assert tuple("ar de en es fr hi it ja ko nl pl pt tr uk zh".split()) == LANGUAGES


@pytest.mark.parametrize(
    ("language", "said"),
    [
        ("pl", ["brak linków", "1 link", "2 linki", "5 linków", "22 linki"]),
        ("uk", ["немає посилань", "1 посилання", "2 посилання", "5 посилань", "22 посилання"]),
        ("ar", ["لا روابط", "رابط واحد", "رابطان", "5 روابط", "22 رابطا"]),
        ("zh", ["没有链接", "1 个链接", "2 个链接", "5 个链接", "22 个链接"]),
        ("tr", ["bağlantı yok", "1 bağlantı", "2 bağlantı", "5 bağlantı", "22 bağlantı"]),
    ],
)
def test_counts_in_the_plural_of_a_language(language: str, said: list[str]) -> None:
    assert [words_of(language).counted("links", number) for number in (0, 1, 2, 5, 22)] == said


def test_going_through_the_languages_comes_round() -> None:
    voice, titles = NAME_FIRST, []
    for _ in range(len(LANGUAGES) + 1):
        voice = next_language(voice)
        titles.append(voice.title)
    assert titles[:2] == ["name first in page", "name first in ar"]
    assert titles[-1] == "name first"
    assert len(set(titles)) == len(titles)


def test_words_of_ones_own(tmp_path: Path) -> None:
    path = tmp_path / "polski.toml"
    path.write_text(
        'name = "polski"\nlanguage = "pl"\n[words.roles]\nbutton = "guzik"\n[words.phrases]\nplace = "{n} z {size}"\n'
        '[words.counts]\nitems = ["{n} element", "{n} elementy", "brak"]\n[words.states]\nchecked = {true = "zaznaczone"}\n'
    )
    voice = read_voice(path)
    assert voice.title == "polski in pl"
    tree = tree_of("<button>Start</button><ul><li>a<li>b</ul><span lang=de>x</span>")
    assert heard(ReadingSession(tree, voice)) == (
        "Start, guzik / lista, 2 elementy, a, 1 z 2 / b, 2 z 2 / koniec: lista, język niemiecki, x"
    )
    assert heard(ReadingSession(tree, replace(voice, words=None))).startswith("Start, przycisk")


def test_forms_of_ones_own(tmp_path: Path) -> None:
    path = tmp_path / "v.toml"
    path.write_text(
        'name = "v"\nlanguage = "uk"\n[words.counts]\nlinks = { one = "{n} лінк", few = "{n} лінки", '
        'other = "{n} лінків", none = "нема" }\n'
    )
    words = read_voice(path).words
    assert words is not None
    assert [words.counted("links", number) for number in (0, 1, 3, 5)] == ["нема", "1 лінк", "3 лінки", "5 лінків"]


@pytest.mark.parametrize(("language", "told"), [("el", "Greek"), ("pl", ""), ("", ""), ("en", "")])
def test_a_voice_without_the_words_of_the_page_says_so_once(language: str, told: str) -> None:
    session = ReadingSession(tree_of(f"<html lang='{language}'><p>a<p>b"), in_language(NAME_FIRST, "page"))
    session.arrive()
    notices = [each.notice for each in session.log if "has no words in" in each.notice]
    assert notices == ([f"this voice has no words in {told}, and says roles and states in English"] if told else [])


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
