"""Hostile pages pass through everything: nothing raises, and nothing grows faster than the page."""

from random import Random

import pytest

from tests.hostile import PLACES, SHAPES, random_page, run_in
from tests.pipeline import work_through
from tests.support import calls, problems_of

SIZES = (3, 90)


@pytest.mark.parametrize("shape", SHAPES)
def test_shapes(shape: str) -> None:
    for size in SIZES:
        work_through(SHAPES[shape](size), moves=("next", "tab", "activate", "last"))


@pytest.mark.parametrize("seed", range(40))
def test_random_pages(seed: int) -> None:
    work_through(random_page(Random(seed)))


@pytest.mark.parametrize("place", PLACES)
def test_numbers_without_end(place: str) -> None:
    """Python itself reads no number of more than 4,300 digits."""
    work_through(run_in(place, "1", 5_000), moves=("last",))


@pytest.mark.parametrize(
    ("shape", "words"),
    [
        ("nested &", "stands in more than 8 others and is left out"),
        ("many & in one rule", "a selector that is too long and is left out"),
        ("a selector of many parts", "a selector that is too long and is left out"),
        (":is in :is", "stands in more than 32 others and is left out"),
        ("@media in @media", "stands in more than 32 others and is left out"),
        ("a media attribute", "stands in more than 32 others and is left out"),
        ("generated content", "has more than 4000 characters and is left out"),
        ("rows that span", "some of them count as one"),
        ("frames in frames", "Only the first 200 frames"),
        ("one label for many", "Names and descriptions of more than 1000 characters are cut"),
    ],
)
def test_what_is_given_up_is_told(shape: str, words: str) -> None:
    session = work_through(SHAPES[shape](900), moves=(), reports=False)
    assert any(words in problem for problem in problems_of(session.tree.document))


INHERENT = frozenset({"rules for classes", "different formatting left open"})
"""Shapes whose work is the square of their size in any program: each of many elements with each of many others."""


@pytest.mark.thorough
@pytest.mark.parametrize("shape", [shape for shape in SHAPES if shape not in INHERENT])
def test_twice_the_size_is_twice_the_work(shape: str) -> None:
    def work(size: int) -> int:
        return calls(lambda: work_through(SHAPES[shape](size), moves=("last",), reports=False))

    small, large = work(600), work(1200)
    assert large < 20_000 or large <= 2.4 * small
