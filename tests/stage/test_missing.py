"""What a narrow window lacks of a page that a wide one has."""

import pytest

from murvel.page.open_page import document_from_text
from murvel.stage.missing import missing
from murvel.tree.build import build_tree

STYLE = "<style>@media (max-width: 500px) { .wide { display: none } }</style><h1>Plots</h1>"


@pytest.mark.parametrize(
    ("markup", "words"),
    [
        ("<img class=wide src=map.png alt='Map of the plots'>", ["“Map of the plots”"]),
        ("<svg class=wide role=img aria-label='Rain chart'></svg>", ["“Rain chart”"]),
        ("<p class=wide>Ninety plots</p>", ["“Ninety plots”"]),
        ("<button class=wide>Ask</button>", ["“Ask”"]),
        ("<a class=wide href=a.html>Rota</a><p class=wide>Rota</p>", ["“Rota”", "“Rota”"]),
        ("<p class=wide>Plots</p>", []),  # it is there in other words
        ("<p class=wide>–</p>", []),
        ("<img class=wide src=line.png alt=''>", []),
        ("<img src=map.png alt='Map of the plots'>", []),
    ],
)
def test_what_is_missing(markup: str, words: list[str]) -> None:
    narrow, wide = (build_tree(document_from_text(STYLE + markup, width=width)) for width in (320, 1280))
    assert [each.words for each in missing(narrow, wide)] == words
