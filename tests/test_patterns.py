"""Patterns that are compiled late: each is valid, and stays what `re.compile` gives."""

import importlib
import pkgutil
import re
import sys
from collections.abc import Iterator

import pytest

import murvel
from murvel.patterns import Late, pattern, unicode_pattern


def lates_in(value: object) -> Iterator[Late]:
    """The patterns that are a value, or stand in a collection."""
    if type(value) is Late:
        yield value
    elif isinstance(value, dict):
        yield from lates_in(tuple(value.values()))
    elif isinstance(value, list | tuple):
        for each in value:
            yield from lates_in(each)


def test_every_pattern_of_the_program_compiles() -> None:
    for module in pkgutil.walk_packages(murvel.__path__, "murvel."):
        if not module.name.endswith("__main__"):
            importlib.import_module(module.name)
    modules = [each for name, each in sys.modules.items() if name.startswith("murvel")]
    found = [late for module in modules for value in vars(module).values() for late in lates_in(value)]
    assert len(found) > 100
    for each in found:
        each.compiled()


def test_members_are_those_of_the_compiled_pattern() -> None:
    words = pattern(r"(\w+) (?P<second>\w+)", re.IGNORECASE)
    match = words.match("Plot seven")
    assert match is not None
    assert match["second"] == "seven"
    assert words.groups == 2
    assert words.flags & re.IGNORECASE
    assert words.sub("x", "a b c d") == "x x"


def test_patterns_of_unicode_know_its_properties() -> None:
    assert unicode_pattern(r"\p{Han}+").findall("a 苗圃 b") == ["苗圃"]


def test_a_pattern_that_is_wrong_is_an_error_where_it_is_used() -> None:
    wrong = pattern("(")
    with pytest.raises(re.error):
        wrong.match("")
