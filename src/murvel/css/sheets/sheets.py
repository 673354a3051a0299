"""Style sheets of a page, as those of their rules that matter to somebody (CSS Syntax 3, CSS Cascade 5)."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any

import tinycss2

from murvel.css.looks.containers import variables_asked
from murvel.css.selectors.engine import Subtree
from murvel.css.sheets import media
from murvel.css.sheets.conditions import significant, word
from murvel.css.sheets.limits import DEEPEST, MOST_SELECTORS, is_deep, may_be_deep
from murvel.css.sheets.raw import FOLLOWED, RawRule, normalised, raw_rules, rule_at
from murvel.css.sheets.rules import UNLAYERED, Bounds, StyleRule, bounds_of
from murvel.css.sheets.supports import supported, supports_import
from murvel.css.sheets.texts import SheetTexts
from murvel.css.tokens import block_contents, component_values
from murvel.css.values.variables import Registered
from murvel.dom.document import Document, Element, Namespace, Text
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind, Problems
from murvel.loading.resources import NotReadError, Resources
from murvel.patterns import pattern

MAX_IMPORT_DEPTH = 5

MAX_NESTING = 8
"""How deep rules may stand in rules; each level multiplies the length of the selectors."""

_FEW = 100
"""The most style elements whose text is searched for in the source."""

Wanted = Callable[[str, str], bool]
"""Whether a rule may matter, by the text of its selectors and that of its declarations."""


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

    def where(self, rule: RawRule) -> str:
        """The sheet and line of a rule, for people."""
        return f"{self.name}:{rule.line + self.line}"

    def inside(self, rule: RawRule) -> _Place:
        """Where the rules in the block of a rule stand."""
        return replace(self, line=self.line + rule.content_line - 1)


@dataclass(slots=True)
class Sheets:
    """Collects rules over all sheets of a document, in cascade order.

    Attributes:
        screen: the viewport for media queries.
        base: the document's base address, against which linked sheets are found.
        texts: the sheets that it links to.
        wanted: which rules are collected.
        blocks: what was collected.
        problems: sheets that could not be read and rules that are left out.
        asked: the custom properties that container queries ask for.
        registered: the custom properties that are registered.
    """

    screen: media.Screen
    base: str
    texts: SheetTexts
    wanted: Wanted
    blocks: list[StyleRule] = field(default_factory=list)
    problems: Problems = field(default_factory=Problems)
    asked: set[str] = field(default_factory=set)
    registered: dict[str, Registered] = field(default_factory=dict)
    _layers: dict[str, int] = field(default_factory=dict)
    _importing: list[str] = field(default_factory=list)
    _anonymous: int = 0
    _selectors: int = 0
    _preferred: str = ""

    def collect(self, document: Document, part: Subtree) -> None:
        """Add the rules of the style and link elements of a part of the document."""
        self._preferred = _preferred_title(part)
        elements = [each for each in part.elements() if each.tag in ("style", "link") and self._applies(each)]
        linked = [each.get("href") or "" for each in elements if each.tag == "link"]
        self.texts.prepare([self.texts.resolve(self.base, each) for each in linked])
        are_few = len(elements) - len(linked) <= _FEW
        for element in elements:
            if element.tag == "style":
                text = _own_text(element)
                # The place of a text is quickly found; that of a tag takes those of all others.
                position = document.source.position_of(text) if are_few else None
                position = position or document.position(element)
                self.add(text, "style element", position.line - 1 if position else 0)
            else:
                self._add_linked(self.base, element.get("href") or "", None)
        self._rank_layers()

    def _applies(self, node: Element) -> bool:
        """Whether a style element, or a link to a style sheet, counts on this screen."""
        if node.tag == "link" and not (node.namespace is Namespace.HTML and _is_style_sheet(node)):
            return False
        if (node.get("type") or "text/css").strip().lower() != "text/css":
            return False
        if (node.get("title") or self._preferred) != self._preferred:
            return False  # it belongs to another set of sheets (CSSOM §6.3)
        query = _tokens(node.get("media") or "")
        return self._is_followed(query, "media attribute") and media.matches(query, self.screen)

    def _add_linked(self, base: str, reference: str, layer: str | None) -> None:
        address = self.texts.resolve(base, reference)
        if len(self._importing) > MAX_IMPORT_DEPTH or address in self._importing:
            text = f"The style sheet {shown(reference)} imports itself or too deeply and was left out."
            self.problems.add(ProblemKind.LIMIT, text)
            return
        try:
            text, final = self.texts.read(address)
        except NotReadError as error:
            text = f"The style sheet {shown(reference)} was not read: {error}."
            self.problems.add(ProblemKind.NOT_READ, text)
            return
        self._importing.append(address)
        # References inside a sheet are relative to it.
        self._add_text(text, _Place(shown(reference), final, layer=layer))
        self._importing.pop()

    def add(self, text: str, name: str, line: int = 0) -> None:
        """Add the rules of a sheet that stands in the document itself.

        Args:
            text: the sheet.
            name: what it is called, for people.
            line: how many lines stand before it in the file.
        """
        self._add_text(normalised(text), _Place(name, self.base, line))

    def _add_text(self, text: str, place: _Place) -> None:
        """Add the rules of a sheet; one that depends on no other is collected once for all pages."""
        text = self.texts.to_collect(text)
        alone = _alone(text, place, self.screen, self.wanted) if place.layer is None else None
        if alone is None:
            self._add_sheet(text, place)
        else:
            self.blocks += alone.blocks
            self.problems.update(alone.problems)

    def _add_sheet(self, text: str, place: _Place) -> None:
        """Add the rules of a sheet; imports count before all others only (CSS Cascade 5 §2)."""
        may_import = True
        for rule in raw_rules(text, is_sheet=True):
            if rule.keyword == "import" and may_import:
                self._import(rule, place)
            else:
                may_import &= rule.keyword == "charset" or (rule.keyword == "layer" and rule.content is None)
                self._add(rule, place)

    def _add(self, rule: RawRule, place: _Place) -> None:
        if rule.keyword:
            self._add_at_rule(rule, place)
        elif rule.content is not None and ("{" in rule.content or self.wanted(rule.prelude, rule.content)):
            self._add_rule(rule, place)

    def _is_followed(self, tokens: list[Any], where: str, at_rules: int = 0) -> bool:
        """Whether tokens, and the at-rules around them, stand no deeper in each other than is followed."""
        if at_rules <= DEEPEST and not is_deep(tokens):
            return True
        self._give_up(f"A rule at {where} stands in more than {DEEPEST} others")
        return False

    def _give_up(self, what: str) -> None:
        self.problems.add(ProblemKind.LIMIT, f"{what} and is left out.")

    def _import(self, rule: RawRule, place: _Place) -> None:
        """Add an imported sheet: its address may be followed by a layer, a condition of support, and media."""
        prelude = _tokens(rule.prelude)
        if not self._is_followed(prelude, place.where(rule)):
            return
        reference, rest = _import_target(prelude)
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

    def _add_at_rule(self, rule: RawRule, place: _Place) -> None:
        if rule.keyword not in FOLLOWED:
            return
        prelude, where = _tokens(rule.prelude), place.where(rule)
        if not self._is_followed(prelude, where, place.at_rules):
            return
        if rule.content is None:
            if rule.keyword == "layer":
                for part in tinycss2.serialize(prelude).split(","):
                    self._layers.setdefault(self._layer_in(place.layer, part.strip()), len(self._layers))
            return
        if rule.keyword == "property":
            self._register(prelude, rule.content)
            return
        inside = self._inside(rule.keyword, prelude, place)
        if inside is None:
            return
        inside = replace(inside, at_rules=place.at_rules + 1)
        if place.parent:
            self._add(rule._replace(keyword="", prelude="&"), inside)
        else:
            inside = inside.inside(rule)
            for inner in raw_rules(rule.content):
                self._add(inner, inside)

    def _inside(self, keyword: str, prelude: list[Any], place: _Place) -> _Place | None:
        """Return where the rules of an at-rule stand, None if they do not count."""
        match keyword:
            case "media":
                return place if media.matches(prelude, self.screen) else None
            case "supports":
                return place if supported(prelude) else None
            case "layer":
                layer = self._layer_in(place.layer, tinycss2.serialize(prelude).strip())
                self._layers.setdefault(layer, len(self._layers))
                return replace(place, layer=layer)
            case "container":
                self.asked |= variables_asked(prelude)
                return replace(place, queries=(*place.queries, prelude))
            case _:
                bounds = bounds_of(prelude)
                return replace(place, bounds=bounds) if bounds is not None else None

    def _register(self, prelude: list[Any], content: str) -> None:
        """Note a custom property that is registered (CSS Properties and Values 1 §3)."""
        name = tinycss2.serialize(prelude).strip()
        values = {
            each.lower_name: tinycss2.serialize(each.value).strip()
            for each in block_contents(content)
            if each.type == "declaration"
        }
        if name.startswith("--") and values.get("inherits") in ("true", "false") and "syntax" in values:
            self.registered[name] = Registered(values["inherits"] == "true", values.get("initial-value"))

    def _add_rule(self, rule: RawRule, place: _Place) -> None:
        """Add a rule's own declarations, and the rules nested in it."""
        where = place.where(rule)
        if not rule.prelude.strip() or not self._is_followed(
            _tokens(rule.prelude) if may_be_deep(rule.prelude) else [], where, place.at_rules
        ):
            return
        rank = UNLAYERED if place.layer is None else self._layers.setdefault(place.layer, len(self._layers))
        block = StyleRule(rule.prelude, rule.content or "", place.parent, rank, where, place.bounds, place.queries)
        self._selectors += sum(len(each.text) for each in block.selectors) if place.parent else 0
        if self._selectors > MOST_SELECTORS or block.is_too_long:
            self._give_up(f"A rule at {where} has a selector that is too long")
        elif "{" in block.content:
            self._add_nested(block, place.inside(rule))
        else:
            self.blocks.append(block)

    def _add_nested(self, block: StyleRule, place: _Place) -> None:
        """Add the declarations and rules in a rule, in their order: what follows a rule comes after it (CSS Nesting 1
        §3.4)."""
        if place.depth >= MAX_NESTING:
            self._give_up(f"A rule at {block.where} stands in more than {MAX_NESTING} others")
            return
        selectors = ", ".join(each.text for each in block.selectors if not each.pseudo) or ":not(*)"
        inside = replace(place, parent=selectors, depth=place.depth + 1, bounds=None)
        begins = [0, *(found.end() for found in re.finditer("\n", block.content))]
        waiting: list[Any] = []
        for node in (*block_contents(block.content), None):
            if node is not None and node.type == "declaration":
                waiting += [node] if not is_deep(node.value) else []
                continue
            if node is not None and node.type not in ("qualified-rule", "at-rule"):
                continue
            text = "".join(f"{each.serialize()};" for each in waiting)
            if self.wanted(block.prelude, text):
                self.blocks.append(replace(block, content=text))
            waiting = []
            if node is not None and block.selectors:
                at = begins[node.source_line - 1] + node.source_column - 1
                rule = rule_at(block.content, at, node.source_line)
                if rule is not None:
                    self._add(rule, inside)

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
        self.blocks = [replace(block, layer=ranks.get(block.layer, block.layer)) for block in self.blocks]


_TIED = pattern(r"@(?:container|import|layer|property|[\w-]*\\)", re.IGNORECASE)
"""What stands in a sheet that depends on others, or others on it; an escape may hide it."""


@lru_cache(maxsize=32)
def _alone(text: str, place: _Place, screen: media.Screen, wanted: Wanted) -> Sheets | None:
    """Return a sheet collected by itself; None if it depends on others, or counts for a limit that they share."""
    if _TIED.search(text):
        return None
    alone = Sheets(screen, place.base, SheetTexts(Resources()), wanted)
    alone._add_sheet(text, place)
    return alone if not alone._selectors else None


def _tokens(text: str) -> list[Any]:
    found: list[Any] = component_values(text, skip_comments=True)
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
