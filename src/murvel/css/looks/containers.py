"""Container queries (CSS Conditional 5 §4), answered without layout.

A container is taken to be as wide as its declared width says, or as wide as what it stands in: the viewport in the end.
That is a guess, which docs/standards.md names.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import cached_property
from typing import Any, NamedTuple

import tinycss2

from murvel.css.cascade.lazy import declared_for
from murvel.css.selectors.engine import Subtree
from murvel.css.sheets.conditions import ConditionError, holds, significant, word
from murvel.css.sheets.media import Screen, feature
from murvel.css.sheets.rules import StyleRule
from murvel.css.values.lengths import length
from murvel.dom.document import Element

CONTAINING = frozenset({"container", "container-name", "container-type", "max-width", "width"})
"""The properties that are read."""

_SIZED = frozenset({"inline-size", "size"})
_NEEDS_HEIGHT = frozenset({"aspect-ratio", "block-size", "height", "orientation"})


class _Box(NamedTuple):
    """What is declared of an element that may be a container."""

    names: frozenset[str]
    is_sized: bool
    width: float | None


class Containers:
    """Answers the container queries of a document.

    Args:
        kept: for each part of the document the rules that set one of the `CONTAINING` properties.
        screen: the viewport.
    """

    def __init__(self, kept: Iterable[tuple[Subtree, list[StyleRule]]], screen: Screen) -> None:
        self._kept = kept
        self._screen = screen

    def answers(self, element: Element, prelude: list[Any], variables: Mapping[str, str]) -> bool:
        """Whether a query holds for an element.

        Args:
            element: the element that a rule in the query matches.
            prelude: tinycss2's tokens of the query.
            variables: the custom properties that the element inherits.
        """
        tokens = significant(prelude)
        name = ""
        if tokens and word(tokens[0]) not in ("", "not"):
            name, tokens = str(tokens[0].value), tokens[1:]
        container = self._nearest(element, name, is_sized="style" not in _functions(tokens))
        if container is None:
            return False
        try:
            return holds(tokens, lambda part: self._feature(part, container, variables)) is True if tokens else True
        except ConditionError:
            return False

    def _nearest(self, element: Element, name: str, *, is_sized: bool) -> Element | None:
        for above in element.ancestors():
            box = self._boxes.get(above)
            may_answer = not is_sized or (box is not None and box.is_sized)
            if may_answer and (not name or (box is not None and name in box.names)):
                return above
        return None

    def _feature(self, tokens: list[Any], container: Element, variables: Mapping[str, str]) -> bool | None:
        if len(tokens) == 1 and tokens[0].type == "function":
            return _style(tokens[0], variables) if tokens[0].lower_name == "style" else None
        if any(word(token).removeprefix("min-").removeprefix("max-") in _NEEDS_HEIGHT for token in tokens):
            return None  # heights come from layout alone
        renamed = [_RENAMED.get(word(token), token) for token in tokens]
        return feature(renamed, Screen(self._width(container), self._screen.height))

    def _width(self, container: Element) -> float:
        for each in (container, *container.ancestors()):
            box = self._boxes.get(each)
            if box is not None and box.width is not None:
                return box.width
        return self._screen.width

    @cached_property
    def _boxes(self) -> dict[Element, _Box]:
        boxes: dict[Element, _Box] = {}
        for part, blocks in self._kept:
            for element, declared in declared_for(part, blocks, CONTAINING, list(part.elements())).items():
                boxes[element] = self._box(declared)
        return boxes

    def _box(self, declared: list[tuple[str, list[Any]]]) -> _Box:
        names: frozenset[str] = frozenset()
        is_sized = False
        widths: dict[str, float | None] = {}
        for name, tokens in declared:
            words = [str(token.value) for token in tokens if token.type == "ident"]
            if name in ("width", "max-width"):
                widths[name] = length(tokens[0], self._screen.width, self._screen.height) if len(tokens) == 1 else None
                continue
            slash = any(token.type == "literal" and token.value == "/" for token in tokens)
            if name == "container":
                names, is_sized = frozenset(words[:-1] if slash else words), slash and words[-1] in _SIZED
            elif name == "container-name":
                names = frozenset(words)
            else:
                is_sized = not _SIZED.isdisjoint(words)
        known = [width for width in widths.values() if width is not None]
        return _Box(names, is_sized, min(known, default=None))


_RENAMED = {
    prefix + "inline-size": tinycss2.parse_one_component_value(prefix + "width") for prefix in ("", "min-", "max-")
}


def _functions(tokens: list[Any]) -> set[str]:
    return {token.lower_name for token in tokens if token.type == "function"}


def _style(function: Any, variables: Mapping[str, str]) -> bool | None:
    """A style query of a custom property; None for any other."""
    tokens = significant(function.arguments)
    if not tokens or tokens[0].type != "ident" or not tokens[0].value.startswith("--"):
        return None
    has = variables.get(tokens[0].value)
    if len(tokens) == 1:
        return has is not None
    return has is not None and has.strip() == str(tinycss2.serialize(tokens[2:])).strip()


def variables_asked(prelude: list[Any]) -> set[str]:
    """Return the custom properties that a query asks for."""
    found = set()
    for token in prelude:
        if token.type == "function" and token.lower_name == "style":
            found |= {each.value for each in token.arguments if each.type == "ident" and each.value.startswith("--")}
        elif token.type == "() block":
            found |= variables_asked(token.content)
    return found
