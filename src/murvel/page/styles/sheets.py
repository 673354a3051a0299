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
from murvel.page.styles.conditions import significant, word
from murvel.page.styles.containers import CONTAINING, variables_asked
from murvel.page.styles.content import Content
from murvel.page.styles.decorations import DECORATING
from murvel.page.styles.limits import DEEPEST, LONGEST_CONTENT, MOST_SELECTORS, is_deep
from murvel.page.styles.looks import concerns_looks
from murvel.page.styles.rules import UNLAYERED, Bounds, Rule, StyleRule, bounds_of
from murvel.page.styles.supports import supported, supports_import
from murvel.page.styles.values import Declared, Pending, declared, declared_in
from murvel.page.styles.variables import Registered, names_in

MAX_IMPORT_DEPTH = 5

MAX_NESTING = 8
"""How deep rules may stand in rules; each level multiplies the length of the selectors."""


_CUSTOM = re.compile(r"--[^\s:;]+")


@dataclass(frozen=True, slots=True)
class _Place:
    """Where rules stand: the sheet's name and address, lines before it, the layer and the rule around them.

    `depth` counts the rules around, `at_rules` the at-rules. `bounds` is the scope, `queries` are the container queries
    around.
    """

    name: str
    base: str
    line: int = 0
    layer: str | None = None
    parent: str = ""
    depth: int = 0
    at_rules: int = 0
    bounds: Bounds | None = None
    queries: tuple[list[Any], ...] = ()

    def where(self, node: Any) -> str:
        """The sheet and line of a node, for people."""
        return f"{self.name}:{node.source_line + self.line}"


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
        containing: the rules that say something of containers and widths.
        registered: the custom properties that are registered.
    """

    screen: media.Screen
    base: str
    resources: Resources
    rules: list[Rule] = field(default_factory=list)
    problems: Problems = field(default_factory=Problems)
    custom: set[str] = field(default_factory=set)
    looks: list[StyleRule] = field(default_factory=list)
    decorating: list[StyleRule] = field(default_factory=list)
    containing: list[StyleRule] = field(default_factory=list)
    registered: dict[str, Registered] = field(default_factory=dict)
    _layers: dict[str, int] = field(default_factory=dict)
    _importing: list[str] = field(default_factory=list)
    _anonymous: int = 0
    _order: int = 0
    _selectors: int = 0
    _preferred: str = ""
    _attributes: list[str] = field(default_factory=list)
    _only_custom: list[tuple[StyleRule, set[str]]] = field(default_factory=list)

    def collect(self, document: Document, part: Subtree) -> None:
        """Add the rules of the style and link elements of a part of the document."""
        self._preferred = _preferred_title(part)
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
                self._add_sheet(nodes, _Place("style element", self.base, line))
            else:
                self._add_linked(self.base, node.get("href") or "", None)
        self._add_custom()
        self._rank_layers()

    def _applies(self, node: Element) -> bool:
        """Whether a style element, or a link to a style sheet, counts on this screen."""
        if node.tag == "link" and not (node.namespace is Namespace.HTML and _is_style_sheet(node)):
            return False
        if (node.get("type") or "text/css").strip().lower() != "text/css":
            return False
        if (node.get("title") or self._preferred) != self._preferred:
            return False  # it belongs to another set of sheets (CSSOM §6.3)
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
        self._add_sheet(tinycss2.parse_stylesheet(text, True, True), _Place(shown(reference), final, layer=layer))
        self._importing.pop()

    def _add_sheet(self, nodes: list[Any], place: _Place) -> None:
        """Add the rules of a sheet; imports count before all others only (CSS Cascade 5 §2)."""
        may_import = True
        for node in nodes:
            keyword = node.lower_at_keyword if node.type == "at-rule" else ""
            if keyword == "import" and may_import:
                self._import(node, place)
            elif node.type in ("at-rule", "qualified-rule"):
                may_import &= keyword == "charset" or (keyword == "layer" and node.content is None)
                self._add([node], place)

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

    def _import(self, node: Any, place: _Place) -> None:
        """Add an imported sheet: its address may be followed by a layer, a condition of support, and media."""
        if not self._is_followed(node.prelude, place.where(node)):
            return
        reference, rest = _import_target(node.prelude)
        rest = significant(rest)
        layer = place.layer
        if rest and _keyword(rest[0]) == "layer":
            name = tinycss2.serialize(rest[0].arguments).strip() if rest[0].type == "function" else ""
            layer = self._layer_in(layer, name)
            self._layers.setdefault(layer, len(self._layers))
            rest = rest[1:]
        if rest and rest[0].type == "function" and _keyword(rest[0]) == "supports":
            if not supports_import(rest[0].arguments):
                return
            rest = rest[1:]
        if reference is not None and media.matches(rest, self.screen):
            self._add_linked(place.base, reference, layer)

    def _layer_in(self, around: str | None, name: str) -> str:
        """The whole name of a cascade layer; one without a name is like no other (CSS Cascade 5 §6.4.4)."""
        self._anonymous += not name
        name = name or f"anonymous {self._anonymous}"
        return f"{around}.{name}" if around else name

    def _add_at_rule(self, node: Any, place: _Place) -> None:
        keyword, where = node.lower_at_keyword, place.where(node)
        if not self._is_followed(node.prelude, where, place.at_rules):
            return
        if keyword == "layer" and node.content is None:
            for part in tinycss2.serialize(node.prelude).split(","):
                self._layers.setdefault(self._layer_in(place.layer, part.strip()), len(self._layers))
            return
        if keyword == "property" and node.content is not None:
            self._register(node)
            return
        inside = self._inside(keyword, node, place)
        if inside is None or node.content is None:
            return
        inside = replace(inside, at_rules=place.at_rules + 1)
        if place.parent:
            self._add_block([], node.content, where, inside)
        else:
            self._add(tinycss2.parse_rule_list(node.content, True, True), inside)

    def _inside(self, keyword: str, node: Any, place: _Place) -> _Place | None:
        """Return where the rules of an at-rule stand, None if they do not count."""
        match keyword:
            case "media":
                return place if media.matches(node.prelude, self.screen) else None
            case "supports":
                return place if supported(node.prelude) else None
            case "layer":
                name = tinycss2.serialize(node.prelude).strip()
                layer = self._layer_in(place.layer, name)
                self._layers.setdefault(layer, len(self._layers))
                return replace(place, layer=layer)
            case "container":
                self.custom |= variables_asked(node.prelude)
                return replace(place, queries=(*place.queries, node.prelude))
            case "scope":
                bounds = bounds_of(node.prelude)
                return replace(place, bounds=bounds) if bounds is not None else None
        return None

    def _register(self, node: Any) -> None:
        """Note a custom property that is registered (CSS Properties and Values 1 §3)."""
        name = tinycss2.serialize(node.prelude).strip()
        values = {
            each.lower_name: tinycss2.serialize(each.value).strip()
            for each in tinycss2.parse_blocks_contents(node.content, True, True)
            if each.type == "declaration"
        }
        if name.startswith("--") and values.get("inherits") in ("true", "false") and "syntax" in values:
            self.registered[name] = Registered(values["inherits"] == "true", values.get("initial-value"))

    def _short(self, items: Iterable[Declared], where: str) -> Iterable[Declared]:
        """Leave out generated content that is longer than is followed."""
        for item in items:
            if isinstance(item.value, Content) and item.value.size > LONGEST_CONTENT:
                self._give_up(f"Generated content at {where} has more than {LONGEST_CONTENT} characters")
            else:
                yield item

    def _add_rule(self, node: Any, place: _Place) -> None:
        where = place.where(node)
        if significant(node.prelude) and self._is_followed(node.prelude, where, place.at_rules):
            self._add_block(node.prelude, node.content, where, place)

    def _add_block(self, prelude: list[Any], content: list[Any], where: str, place: _Place) -> None:
        """Add a rule's own declarations, and the rules nested in it; without a prelude they are the parent's."""
        rank = UNLAYERED if place.layer is None else self._layers.setdefault(place.layer, len(self._layers))
        if not prelude:
            prelude = tinycss2.parse_component_value_list("&")
        order = self._next()
        block = StyleRule(prelude, content, place.parent, rank, order, where, place.bounds, place.queries)
        names = block.properties()
        custom = {name for name in names if name.startswith("--")}
        has_rules = any(token.type == "{} block" for token in content)
        if block.concerns_us(names) or custom or has_rules:
            self._selectors += sum(len(each.text) for each in block.selectors) if place.parent else 0
            if self._selectors > MOST_SELECTORS or block.is_too_long:
                self._give_up(f"A rule at {where} has a selector that is too long")
                return
        for kept, is_kept in (
            (self.looks, concerns_looks(block, names)),
            (self.decorating, not DECORATING.isdisjoint(names)),
            (self.containing, not CONTAINING.isdisjoint(names)),
        ):
            if is_kept:
                kept.append(block)
        if custom:
            self._only_custom.append((block, custom))
        if has_rules:
            self._add_nested(block, place, concerns_us=block.concerns_us(names))
        elif block.concerns_us(names):
            self._add_declarations(block, declared(content))

    def _next(self) -> int:
        self._order += 1
        return self._order

    def _add_declarations(self, block: StyleRule, items: Iterable[Declared]) -> None:
        declarations = tuple(self._short(items, block.where))
        self._note_references(declarations)
        if declarations:
            self.rules.extend(block.rules(declarations, self.problems))

    def _add_nested(self, block: StyleRule, place: _Place, *, concerns_us: bool) -> None:
        """Add the declarations and rules in a rule, in their order: what follows a rule comes after it (CSS Nesting 1
        §3.4)."""
        if place.depth >= MAX_NESTING:
            self._give_up(f"A rule at {block.where} stands in more than {MAX_NESTING} others")
            return
        selectors = ", ".join(each.text for each in block.selectors if not each.pseudo) or ":not(*)"
        inside = replace(place, parent=selectors, depth=place.depth + 1, bounds=None)
        waiting: list[Any] = []
        for node in (*tinycss2.parse_blocks_contents(block.content, skip_comments=True, skip_whitespace=True), None):
            if node is not None and node.type == "declaration":
                waiting.append(node)
                continue
            if waiting and concerns_us:
                self._add_declarations(replace(block, order=self._next()), declared_in(waiting))
            waiting = []
            if node is not None and block.selectors:
                self._add([node], inside)

    def _rank_layers(self) -> None:
        """Give the layers their ranks: those in another one come before its own rules (CSS Cascade 5 §6.4.3)."""
        if not any("." in name for name in self._layers):
            return
        known = self._layers

        def place(name: str) -> tuple[float, ...]:
            parts = name.split(".")
            above = (".".join(parts[:at]) for at in range(1, len(parts) + 1))
            return (*(known.get(each, known[name]) for each in above), float("inf"))

        ranks = {known[name]: rank for rank, name in enumerate(sorted(known, key=place))}
        self.rules = [replace(rule, layer=ranks.get(rule.layer, rule.layer)) for rule in self.rules]
        for kept in (self.looks, self.decorating, self.containing):
            kept[:] = [replace(block, layer=ranks.get(block.layer, block.layer)) for block in kept]


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


def _preferred_title(part: Subtree) -> str:
    """The title of the sheets that count where several sets have titles: the first one's (CSSOM §6.3)."""
    for node in part.elements():
        title = node.get("title")
        if title and (node.tag == "style" or (node.tag == "link" and _is_style_sheet(node))):
            return title
    return ""


def _keyword(token: Any) -> str:
    return str(token.lower_name) if token.type == "function" else word(token)


def _import_target(prelude: list[Any]) -> tuple[str | None, list[Any]]:
    for index, token in enumerate(prelude):
        if token.type in ("string", "url"):
            return str(token.value), prelude[index + 1 :]
        if token.type == "function" and token.lower_name == "url":
            for argument in token.arguments:
                if argument.type == "string":
                    return str(argument.value), prelude[index + 1 :]
    return None, []
