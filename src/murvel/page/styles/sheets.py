"""Style sheets of a page, as the rules that set one of our properties (CSS Syntax 3, CSS Cascade 5)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import Enum
from typing import Any

import cssselect2
import tinycss2

from murvel.page.document import Document, Element, Namespace
from murvel.page.encoding import decode
from murvel.page.parse import Part
from murvel.page.sources import read_beside, resolve
from murvel.page.styles import media
from murvel.page.styles.values import DECORATION, PROPERTIES, Declared, declared

MAX_IMPORT_DEPTH = 5

UNLAYERED = 1_000_000
"""The rank of rules outside any cascade layer, which beat all layers (CSS Cascade 5 §6.1)."""

_OUR_PSEUDO_ELEMENTS = (None, "before", "after")
_PSEUDO_AT_END = re.compile(r"::?(?:before|after)\s*$", re.IGNORECASE)


class Reach(Enum):
    """Where a rule of a shadow tree looks for its elements (CSS Scoping 1 §3)."""

    INSIDE = "inside"
    HOST = "host"
    SLOTTED = "slotted"


_REACHING = re.compile(r"(?:(:host)(?:\((.+)\))?|::slotted\((.+)\))(::?(?:before|after))?\s*", re.IGNORECASE)

_BELOW_ALL = -1
"""The rank of rules for hosts and slotted elements, which the page's own rules beat (CSS Cascade 5 §6.1, Context)."""


@dataclass(frozen=True, slots=True)
class Rule:
    """One complex selector with the declarations that concern us.

    Attributes:
        selector: its text without a pseudo-element, for the parser's selector engine.
        pseudo: "before", "after", or "" for the element itself.
        reach: which elements the selector is tried on.
        specificity: the three counts (Selectors 4 §17).
        layer: the rank of its cascade layer.
        where: the sheet and line it stands in, for people.
        declarations: the declarations, in order.
    """

    selector: str
    pseudo: str
    reach: Reach
    specificity: tuple[int, int, int]
    layer: int
    where: str
    declarations: tuple[Declared, ...]


@dataclass(slots=True)
class Sheets:
    """Collects rules over all sheets of a document, in cascade order.

    Attributes:
        screen: the viewport for media queries.
        base: the document's base address, against which linked sheets are found.
        rules: what was collected.
        problems: sheets that could not be read and selectors not understood.
    """

    screen: media.Screen
    base: str
    rules: list[Rule] = field(default_factory=list)
    problems: list[str] = field(default_factory=list)
    _layers: dict[str, int] = field(default_factory=dict)
    _importing: list[str] = field(default_factory=list)

    def collect(self, document: Document, part: Part) -> None:
        """Add the rules of the style and link elements of a part of the document."""
        for node in part.by_memory.values():
            if node.tag not in ("style", "link"):
                continue
            if not media.matches_text(node.get("media") or "", self.screen):
                continue
            if node.tag == "style":
                position = document.position(node)
                line = position.line - 1 if position else 0
                self._add(tinycss2.parse_stylesheet(node.text(), True, True), "style element", self.base, line)
            elif node.namespace is Namespace.HTML and _is_style_sheet(node):
                self._add_linked(self.base, node.get("href") or "")

    def _add_linked(self, base: str, reference: str, layer: str | None = None) -> None:
        data = read_beside(base, reference)
        if data is None:
            self.problems.append(f"The style sheet {reference!r} was not read: only files beside the page are.")
            return
        if len(self._importing) > MAX_IMPORT_DEPTH or reference in self._importing:
            self.problems.append(f"The style sheet {reference!r} imports itself or too deeply and was left out.")
            return
        self._importing.append(reference)
        inside = resolve(base, reference)  # references inside a sheet are relative to it
        self._add(tinycss2.parse_stylesheet(decode(data), True, True), reference, inside, 0, layer)
        self._importing.pop()

    def _add(self, nodes: list[Any], name: str, base: str, line: int, layer: str | None = None) -> None:
        for node in nodes:
            if node.type == "qualified-rule":
                self._add_rule(node, f"{name}:{node.source_line + line}", layer)
            elif node.type == "at-rule":
                self._add_at_rule(node, name, base, line, layer)

    def _add_at_rule(self, node: Any, name: str, base: str, line: int, layer: str | None) -> None:
        keyword = node.lower_at_keyword
        if keyword == "import":
            reference, rest = _import_target(node.prelude)
            if reference is not None and media.matches(rest, self.screen):
                self._add_linked(base, reference, layer)
            return
        if keyword == "layer":
            names = [part.strip() for part in tinycss2.serialize(node.prelude).split(",")]
            nested = [f"{layer}.{part}" if layer else part for part in names]
            if node.content is None:
                for part in nested:
                    self._layers.setdefault(part, len(self._layers))
                return
            layer = nested[0] if names[0] else f"{layer or ''}.anonymous {len(self._layers)}"
        elif (
            (keyword == "media" and not media.matches(node.prelude, self.screen))
            or (keyword == "supports" and _negated(node.prelude))
            or keyword not in ("media", "supports")
        ):
            return
        if node.content is not None:
            self._add(tinycss2.parse_rule_list(node.content, True, True), name, base, line, layer)

    def _add_rule(self, node: Any, where: str, layer: str | None) -> None:
        names = {token.lower_value for token in node.content if token.type == "ident"}
        if PROPERTIES.isdisjoint(names) and not (DECORATION.keys() & names and _names_cells(node.prelude)):
            return
        declarations = tuple(declared(node.content))
        if not declarations:
            return
        rank = UNLAYERED if layer is None else self._layers.setdefault(layer, len(self._layers))
        for tokens in _comma_separated(node.prelude):
            text = tinycss2.serialize(tokens).strip()
            reach, text = _reach(text)
            try:
                selector = cssselect2.compile_selector_list(text)[0]
            except (cssselect2.SelectorError, IndexError):
                if "::-" in text or ":-" in text:
                    continue  # a vendor's pseudo-element or pseudo-class: no box of ours
                self.problems.append(f"The selector {text!r} at {where} was not understood and is left out.")
                continue
            if selector.never_matches or selector.pseudo_element not in _OUR_PSEUDO_ELEMENTS:
                continue
            pseudo = selector.pseudo_element or ""
            bare = _PSEUDO_AT_END.sub("", text) if pseudo else text
            if not bare or bare[-1] in " >+~":
                bare += "*"
            standing = rank if reach is Reach.INSIDE else _BELOW_ALL
            self.rules.append(Rule(bare, pseudo, reach, selector.specificity, standing, where, declarations))


def _reach(selector: str) -> tuple[Reach, str]:
    """Return where a selector looks, and the selector for elements there."""
    found = _REACHING.fullmatch(selector)
    if found is None:
        return Reach.INSIDE, selector
    reach = Reach.HOST if found.group(1) else Reach.SLOTTED
    return reach, (found.group(2) or found.group(3) or "*") + (found.group(4) or "")


def _names_cells(prelude: list[Any]) -> bool:
    """Whether a selector speaks of tables, rows or cells by tag: only their borders and backgrounds are of interest."""
    return any(token.type == "ident" and token.lower_value in ("table", "td", "tr") for token in prelude)


def _is_style_sheet(link: Element) -> bool:
    words = (link.get("rel") or "").lower().split()
    return "stylesheet" in words and "alternate" not in words and "disabled" not in link.attributes


def _import_target(prelude: list[Any]) -> tuple[str | None, list[Any]]:
    for index, token in enumerate(prelude):
        if token.type in ("string", "url"):
            return str(token.value), prelude[index + 1 :]
        if token.type == "function" and token.lower_name == "url":
            for argument in token.arguments:
                if argument.type == "string":
                    return str(argument.value), prelude[index + 1 :]
    return None, []


def _negated(prelude: list[Any]) -> bool:
    """Whether an @supports condition begins with `not`: our browsers support what a sheet asks for."""
    words = [token for token in prelude if token.type not in ("whitespace", "comment")]
    return bool(words) and words[0].type == "ident" and words[0].lower_value == "not"


def _comma_separated(tokens: list[Any]) -> Iterator[list[Any]]:
    part: list[Any] = []
    for token in tokens:
        if token.type == "literal" and token.value == ",":
            yield part
            part = []
        else:
            part.append(token)
    yield part
