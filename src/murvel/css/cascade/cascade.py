"""The cascade (CSS Cascade 5 §6): style sheets on a document, and from them the computed Style of each element.

A changed document costs what changed: rules that speak of it are tried again, and styles are computed again from the
elements that other rules match now, as far down as something differs.
"""

from __future__ import annotations

from collections.abc import Iterable

from murvel.css.cascade.appearance import Appearance
from murvel.css.cascade.computed import (
    Computer,
    Declarations,
    Variables,
    declarations_of,
    passed_down,
    settled,
    variables_of,
)
from murvel.css.cascade.spoken import is_spoken, report_long, with_custom
from murvel.css.generated.numbering import concerns_numbers, number_all
from murvel.css.looks.containers import Containers
from murvel.css.looks.decorations import Decorations
from murvel.css.looks.looks import DeclaredLooks
from murvel.css.parsed import Parsed
from murvel.css.selectors.engine import SelectorError, Subtree
from murvel.css.selectors.matches import Matches
from murvel.css.sheets.media import Screen
from murvel.css.sheets.rules import Rule, RuleScope
from murvel.css.sheets.sheets import Sheets
from murvel.css.sheets.texts import SheetsAgain, SheetTexts
from murvel.css.values.style import INITIAL_STYLE, Decoration, Looks, Style
from murvel.css.values.variables import Registered
from murvel.dom.change import DocumentChange, with_descendants
from murvel.dom.document import Document, Element
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind, Problems

_OF_SHEETS = frozenset({"style", "link", "base", "meta"})


class Cascade:
    """The styles of a document, from its style sheets (`murvel.css.values.style.Styles`)."""

    def __init__(self, parsed: Parsed) -> None:
        self._document: Document = parsed.document
        self._parts: list[Subtree] = parsed.parts
        self._computed: dict[Element, Style] = {}
        self._variables: dict[Element, Variables] = {}
        """The custom properties of the elements that declare some."""
        self._computer = Computer()
        self._matches: list[Matches] = []
        self._outwards: dict[Element, list[Rule]] = {}
        """Rules of shadow trees that match their host or what their slots take."""
        self._custom: set[str] = set()
        self._texts = SheetTexts(self._document.resources)
        self._appearance: Appearance | None = None
        self._looks: DeclaredLooks | None = None
        self._decorations: Decorations | None = None
        self._containers: Containers | None = None
        self._registered: dict[str, Registered] = {}
        self._inside: list[Cascade] = []
        """The styles of the documents that stand in frames of this one."""
        self._shows_numbers = False
        self._counting: set[Element] = set()
        """The elements that count, show numbers, or hide what would."""
        self._counts_anew = False
        """Whether one of them came, went, or got another style since all were counted."""
        self._unnumbered: dict[Element, Style] = {}
        """The styles of elements that show numbers or quotation marks, before these were filled in."""
        self._collect()
        self._compute([self._document.root])
        self._number()

    def of(self, element: Element) -> Style:
        """Return the computed style of an element."""
        return self._computed.get(element, INITIAL_STYLE)

    @property
    def looks(self) -> Looks:
        """What elements look like; worked out when it is first asked for."""
        if self._looks is None:
            self._looks = DeclaredLooks(self._rules_of_looks().looks)
        return self._looks

    def decoration(self, element: Element) -> Decoration:
        """Return what a table, row or cell looks like."""
        if self._decorations is None:
            every = [each for cascade in self._all() for each in cascade._rules_of_looks().decorating]
            self._decorations = Decorations(every)
        return self._decorations.of(element)

    def _rules_of_looks(self) -> Appearance:
        """The rules that say something of looks, out of the same sheets; collected when first asked for."""
        if self._appearance is None:
            self._appearance = Appearance(self._document, self._parts, SheetsAgain(self._texts))
        return self._appearance

    def _all(self) -> list[Cascade]:
        return [self, *(inner for inside in self._inside for inner in inside._all())]

    def matching(self, selector: str) -> list[Element]:
        """Return the elements of the page itself that a selector matches now, in document order.

        Raises:
            SelectorError: it is not understood.
        """
        return self._parts[0].matching(selector)

    def include(self, inside: Cascade) -> None:
        """Take over the styles of a document that stands in a frame of this one."""
        self._computed.update(inside._computed)
        self._inside.append(inside)

    def update(self, change: DocumentChange) -> set[Element]:
        """Compute styles again after the document was changed; return the elements whose style is another one now."""
        self._looks = self._decorations = self._containers = None
        for root in change.removed:
            for element in with_descendants(root):
                self._computed.pop(element, None)
                self._variables.pop(element, None)
                self._unnumbered.pop(element, None)
                self._forget_counting(element)
        if len(self._parts) > 1 or any(_concerns_sheets(each, change) for each in _touched(change)):
            return self._all_again()
        self._counts_anew = self._counts_anew or _concerns_order(change)
        concerned = self._matches[0].update(change) | change.attributes.keys() | change.states
        concerned.update(change.added)
        return self._compute(element for element in concerned if self._parts[0].has(element)) | self._number()

    def _forget_counting(self, element: Element) -> None:
        if element in self._counting:
            self._counting.discard(element)
            self._counts_anew = True

    def _all_again(self) -> set[Element]:
        before, self._computed = self._computed, {}
        self._variables.clear()
        self._counting.clear()
        self._unnumbered.clear()
        self._collect()
        self._compute([self._document.root])
        for element, style in before.items():
            self._computed.setdefault(element, style)  # what stands in frames has sheets of its own
        different = {element for element, style in self._computed.items() if before.get(element) != style}
        return different | self._number()

    def _number(self) -> set[Element]:
        """Fill in numbers and quotation marks; return the elements that show others now."""
        if not (self._shows_numbers and self._counts_anew):
            return set()
        self._counts_anew = False
        computed, unnumbered = self._computed, self._unnumbered
        before = {element: computed[element] for element in unnumbered if element in computed}
        computed.update({element: unnumbered[element] for element in before})
        after = number_all(self._counting, computed.__getitem__)
        self._unnumbered = {element: computed[element] for element in after}
        computed.update(after)
        concerned = before.keys() | after.keys()
        return {element for element in concerned if before.get(element) != after.get(element)}

    def _collect(self) -> None:
        """Collect the sheets of all parts, and try their rules."""
        document = self._document
        self._texts = SheetTexts(document.resources)
        self._appearance = None
        self._matches.clear()
        self._registered.clear()
        self._outwards.clear()
        self._custom.clear()
        for part in self._parts:
            sheets = Sheets(Screen(document.width), document.base, self._texts, is_spoken)
            sheets.collect(document, part)
            attributes = [text for each in part.elements() if "--" in (text := each.attributes.get("style", ""))]
            report_long(sheets.blocks, sheets.problems)
            blocks, custom = with_custom(sheets.blocks, attributes, sheets.asked)
            matches = Matches(part, blocks, sheets.problems)
            self._matches.append(matches)
            if part.around is not None:
                self._match_outwards(part, part.around, matches.outwards, sheets.problems)
            self._custom |= custom
            self._registered |= sheets.registered
            document.problems.update(sheets.problems)

    def _match_outwards(self, part: Subtree, around: Subtree, rules: list[Rule], problems: Problems) -> None:
        """Try the rules of a shadow tree that speak of its host and of what its slots take."""
        flat = self._document.flat
        slots = [element for element in part.elements() if element in flat]
        taken = {node for slot in slots for node in flat[slot] if isinstance(node, Element)}
        for rule in rules:
            reached = {part.root.parent} if rule.reach is RuleScope.HOST else taken
            try:
                found = around.matching(rule.selector)
            except SelectorError:
                text = f"The selector {shown(rule.selector)} at {rule.where} is not understood."
                problems.add(ProblemKind.STYLE, text)
                continue
            for element in found:
                if element in reached:
                    self._outwards.setdefault(element, []).append(rule)

    def _rules_for(self, element: Element, variables: Variables) -> Iterable[Rule]:
        for matches in self._matches:
            for number in matches.of.get(element, ()):
                rule = matches.rules[number]
                if not rule.block.queries or self._holds(rule, element, variables):
                    yield rule
        yield from self._outwards.get(element, ())

    def _holds(self, rule: Rule, element: Element, variables: Variables) -> bool:
        """Whether the container queries around a rule hold for an element."""
        if self._containers is None:
            self._containers = Containers(self._rules_of_looks().containing, Screen(self._document.width))
        return all(self._containers.answers(element, query, variables) for query in rule.block.queries)

    def _compute(self, starts: Iterable[Element]) -> set[Element]:
        """Compute the styles of elements, and of those below them that are new or inherit something else now."""
        different: set[Element] = set()
        document, computed, custom = self._document, self._computed, self._custom
        style_of = self._computer.style
        for start in sorted(starts, key=lambda element: element.order):
            stack = [(start, self._inherited(start), self._variables_around(start), False)]
            while stack:
                element, inherited, variables, are_new = stack.pop()
                declarations: Declarations = {}
                if element.tag == "q" or "style" in element.attributes or self._is_matched(element):
                    declarations = declarations_of(element, [*self._rules_for(element, variables)], custom)
                if self._registered:
                    variables = passed_down(variables, self._registered)
                passed_on = variables
                if custom and declarations:
                    passed_on = variables_of(declarations, custom, variables)
                    declarations = settled(declarations, passed_on)
                style = style_of(element, declarations, inherited)
                if concerns_numbers(element, style):
                    self._counting.add(element)
                    self._counts_anew = True
                    self._shows_numbers = self._shows_numbers or style.display != "none"
                else:
                    self._forget_counting(element)
                before = self._unnumbered.pop(element, None) or computed.get(element)
                are_new = self._note_variables(element, passed_on, variables) or (are_new and passed_on is variables)
                if before != style:
                    computed[element] = style
                    different.add(element)
                elif not are_new:
                    continue  # nothing below inherits anything else
                if element.tag == "iframe":
                    continue  # the document in it has style sheets of its own
                for child in document.shown_in(element):
                    if isinstance(child, Element):
                        stack.append((child, style, passed_on, are_new))
        return different

    def _is_matched(self, element: Element) -> bool:
        return element in self._outwards or any(element in matches.of for matches in self._matches)

    def _note_variables(self, element: Element, passed_on: Variables, inherited: Variables) -> bool:
        """Note the custom properties that an element declares; whether they are others than before."""
        if not self._custom:
            return False
        before = self._variables.get(element)
        if passed_on is inherited:
            self._variables.pop(element, None)
        else:
            self._variables[element] = passed_on
        return before != self._variables.get(element)

    def _inherited(self, element: Element) -> Style:
        return INITIAL_STYLE if element.parent is None else self.of(element.parent)

    def _variables_around(self, element: Element) -> Variables:
        known = next((self._variables[above] for above in element.ancestors() if above in self._variables), None)
        if known is not None:
            return known
        return {name: each.initial for name, each in self._registered.items() if each.initial is not None}


def _touched(change: DocumentChange) -> Iterable[Element]:
    yield from change.attributes
    yield from change.parents
    for root in (*change.added, *change.removed):
        yield from with_descendants(root)


def _concerns_order(change: DocumentChange) -> bool:
    """Whether a change may change what counts before what, or which quotation marks a language has."""
    stated = (name for names in change.attributes.values() for name in names)
    return bool(change.parents or change.added or change.removed) or any(
        name in ("lang", "xml:lang") for name in stated
    )


def _concerns_sheets(element: Element, change: DocumentChange) -> bool:
    """Whether a change of an element may change what the style sheets of the page say."""
    if element.tag in _OF_SHEETS:
        return True
    before = change.attributes.get(element, {}).get("style") or ""
    return "--" in before or ("style" in element.attributes and "--" in element.attributes["style"])
