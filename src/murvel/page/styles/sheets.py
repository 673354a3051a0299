"""Style sheets of a page, as the rules that set one of our properties (CSS Syntax 3, CSS Cascade 5)."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Any

import tinycss2

from murvel.page.document import Document, Element, Namespace, Text
from murvel.page.engine import Subtree
from murvel.page.loading.addresses import shown
from murvel.page.loading.resources import NotReadError, Resources
from murvel.page.problems import ProblemKind, Problems
from murvel.page.styles import media
from murvel.page.styles.content import Content
from murvel.page.styles.decorations import DECORATING
from murvel.page.styles.limits import DEEPEST, LONGEST_CONTENT, MOST_SELECTORS, is_deep
from murvel.page.styles.looks import concerns_looks
from murvel.page.styles.rules import UNLAYERED, Rule, StyleRule
from murvel.page.styles.supports import supported
from murvel.page.styles.values import Declared, Pending, declared
from murvel.page.styles.variables import names_in

MAX_IMPORT_DEPTH = 5

MAX_NESTING = 8
"""How deep rules may stand in rules; each level multiplies the length of the selectors."""


_CUSTOM = re.compile(r"--[^\s:;]+")


@dataclass(frozen=True, slots=True)
class _Place:
    """Where rules stand: the sheet's name and address, lines before it, the layer and the rule around them.

    `depth` counts the rules around, `at_rules` the at-rules.
    """

    name: str
    base: str
    line: int = 0
    layer: str | None = None
    parent: str = ""
    depth: int = 0
    at_rules: int = 0


@dataclass(slots=True)
class Sheets:
    """Collects rules over all sheets of a document, in cascade order.

    Attributes:
        screen: the viewport for media queries.
        base: the document's base address, against which linked sheets are found.
        rules: what was collected.
        resources: what may be read for the document.
        problems: sheets that could not be read and selectors not understood.
        custom: the custom properties that our properties rest on, by way of others too.
        looks: the rules that say something of looks.
        decorating: the rules that say something of borders and backgrounds.
    """

    screen: media.Screen
    base: str
    resources: Resources
    rules: list[Rule] = field(default_factory=list)
    problems: Problems = field(default_factory=Problems)
    custom: set[str] = field(default_factory=set)
    looks: list[StyleRule] = field(default_factory=list)
    decorating: list[StyleRule] = field(default_factory=list)
    _layers: dict[str, int] = field(default_factory=dict)
    _importing: list[str] = field(default_factory=list)
    _order: int = 0
    _selectors: int = 0
    _attributes: list[str] = field(default_factory=list)
    _only_custom: list[tuple[StyleRule, set[str]]] = field(default_factory=list)

    def collect(self, document: Document, part: Subtree) -> None:
        """Add the rules of the style and link elements of a part of the document."""
        linked = [each.get("href") or "" for each in part.elements() if each.tag == "link" and self._applies(each)]
        self.resources.prepare([self.resources.resolve(self.base, each) for each in linked], ())
        for node in part.elements():
            if "style" in node.attributes and "--" in node.attributes["style"]:
                self._attributes.append(node.attributes["style"])
            if node.tag not in ("style", "link") or not self._applies(node):
                continue
            if node.tag == "style":
                position = document.position(node)
                line = position.line - 1 if position else 0
                nodes = tinycss2.parse_stylesheet(_own_text(node), True, True)
                self._add(nodes, _Place("style element", self.base, line))
            else:
                self._add_linked(self.base, node.get("href") or "", None)
        self._add_custom()

    def _applies(self, node: Element) -> bool:
        """Whether a style element, or a link to a style sheet, counts on this screen."""
        if node.tag == "link" and not (node.namespace is Namespace.HTML and _is_style_sheet(node)):
            return False
        query = tinycss2.parse_component_value_list(node.get("media") or "", skip_comments=True)
        return self._is_followed(query, "media attribute") and media.matches(query, self.screen)

    def _add_custom(self) -> None:
        """Add the rules that only declare custom properties, if one of ours rests on these, by way of others too."""
        self._note_references([item for text in self._attributes for item in declared(text)])
        if not self.custom:
            return
        blocks = [*(block.content for block, _ in self._only_custom), *self._attributes]
        declaring: dict[str, list[int]] = defaultdict(list)
        for at, (_, names) in enumerate(self._only_custom):
            for name in names:
                declaring[name].append(at)
        for at, text in enumerate(self._attributes, len(self._only_custom)):
            for name in set(_CUSTOM.findall(text)):
                declaring[name].append(at)
        read: dict[int, dict[str, set[str]]] = {}
        waiting = list(self.custom)
        while waiting:
            name = waiting.pop()
            for at in declaring[name]:
                if at not in read:
                    read[at] = _referred_to(blocks[at])
                more = read[at].get(name, set()) - self.custom
                self.custom |= more
                waiting += more
        for block, names in self._only_custom:
            if names & self.custom:
                self.rules.extend(block.rules(tuple(declared(block.content, self.custom)), self.problems))

    def _note_references(self, items: Iterable[Declared]) -> None:
        for item in items:
            if isinstance(item.value, Pending):
                self.custom |= names_in(item.value.text)

    def _add_linked(self, base: str, reference: str, layer: str | None) -> None:
        address = self.resources.resolve(base, reference)
        if len(self._importing) > MAX_IMPORT_DEPTH or address in self._importing:
            text = f"The style sheet {shown(reference)} imports itself or too deeply and was left out."
            self.problems.add(ProblemKind.LIMIT, text)
            return
        try:
            text, final = self.resources.sheet(address)
        except NotReadError as error:
            text = f"The style sheet {shown(reference)} was not read: {error}."
            self.problems.add(ProblemKind.NOT_READ, text)
            return
        self._importing.append(address)
        # References inside a sheet are relative to it.
        self._add(tinycss2.parse_stylesheet(text, True, True), _Place(shown(reference), final, layer=layer))
        self._importing.pop()

    def _add(self, nodes: list[Any], place: _Place) -> None:
        for node in nodes:
            if node.type == "qualified-rule":
                self._add_rule(node, place)
            elif node.type == "at-rule":
                self._add_at_rule(node, place)

    def _is_followed(self, tokens: list[Any], where: str, at_rules: int = 0) -> bool:
        """Whether tokens, and the at-rules around them, stand no deeper in each other than is followed."""
        if at_rules <= DEEPEST and not is_deep(tokens):
            return True
        self._give_up(f"A rule at {where} stands in more than {DEEPEST} others")
        return False

    def _give_up(self, what: str) -> None:
        self.problems.add(ProblemKind.LIMIT, f"{what} and is left out.")

    def _add_at_rule(self, node: Any, place: _Place) -> None:
        keyword, layer = node.lower_at_keyword, place.layer
        where = f"{place.name}:{node.source_line + place.line}"
        if not self._is_followed(node.prelude, where, place.at_rules):
            return
        if keyword == "import":
            reference, rest = _import_target(node.prelude)
            if reference is not None and media.matches(rest, self.screen):
                self._add_linked(place.base, reference, layer)
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
            or (keyword == "supports" and not supported(node.prelude))
            or keyword not in ("media", "supports")
        ):
            return
        if node.content is not None:
            inside = replace(place, layer=layer, at_rules=place.at_rules + 1)
            if place.parent:
                self._add_block([], node.content, f"{place.name}:{node.source_line + place.line}", inside)
            else:
                self._add(tinycss2.parse_rule_list(node.content, True, True), inside)

    def _short(self, items: Iterable[Declared], where: str) -> Iterable[Declared]:
        """Leave out generated content that is longer than is followed."""
        for item in items:
            if isinstance(item.value, Content) and item.value.size > LONGEST_CONTENT:
                self._give_up(f"Generated content at {where} has more than {LONGEST_CONTENT} characters")
            else:
                yield item

    def _add_rule(self, node: Any, place: _Place) -> None:
        where = f"{place.name}:{node.source_line + place.line}"
        if self._is_followed(node.prelude, where, place.at_rules):
            self._add_block(node.prelude, node.content, where, place)

    def _add_block(self, prelude: list[Any], content: list[Any], where: str, place: _Place) -> None:
        """Add a rule's own declarations, and the rules nested in it; without a prelude they are the parent's."""
        rank = UNLAYERED if place.layer is None else self._layers.setdefault(place.layer, len(self._layers))
        parent = place.parent
        if not prelude:
            prelude = tinycss2.parse_component_value_list("&")
        block = StyleRule(prelude, content, parent, rank, self._order, where)
        self._order += 1
        names = block.properties()
        custom = {name for name in names if name.startswith("--")}
        has_rules = any(token.type == "{} block" for token in content)
        if block.concerns_us(names) or custom or has_rules:
            self._selectors += sum(len(each.text) for each in block.selectors) if parent else 0
            if self._selectors > MOST_SELECTORS or block.is_too_long:
                self._give_up(f"A rule at {where} has a selector that is too long")
                return
        if concerns_looks(block, names):
            self.looks.append(block)
        if not DECORATING.isdisjoint(names):
            self.decorating.append(block)
        if block.concerns_us(names):
            declarations = tuple(self._short(declared(content), where))
            self._note_references(declarations)
            if declarations:
                self.rules.extend(block.rules(declarations, self.problems))
        if custom:
            self._only_custom.append((block, custom))
        if has_rules and block.selectors:
            if place.depth >= MAX_NESTING:
                self._give_up(f"A rule at {where} stands in more than {MAX_NESTING} others")
                return
            nested = tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True)
            selectors = ", ".join(each.text for each in block.selectors if not each.pseudo) or ":not(*)"
            self._add(nested, replace(place, parent=selectors, depth=place.depth + 1))


class _AllCustom:
    """The names of all custom properties there may be."""

    def __contains__(self, name: object) -> bool:
        return str(name).startswith("--")


def _referred_to(block: Any) -> dict[str, set[str]]:
    """Return the custom properties that each custom property of a block refers to."""
    found: dict[str, set[str]] = defaultdict(set)
    for item in declared(block, _AllCustom()):
        if isinstance(item.value, Pending) and item.name.startswith("--"):
            found[item.name] |= names_in(item.value.text)
    return found


def _own_text(style: Element) -> str:
    """The text directly in a style element (DOM §4.11, child text content)."""
    return "".join(child.data for child in style.children if isinstance(child, Text))


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
