"""A browser's computed styles behind the protocols of `murvel.css.values.style`.

A style is a list of values: those of `TREE_STYLES` and, where there are any, those of ::before, ::after and ::marker,
and what `content` puts in place of the element's own.
What elements look like comes apart, since only checks ask for it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence, Set
from functools import cached_property
from typing import Any

from murvel.css.generated.content import NO_LISTS, Content, Generated, Lists, content_of, generated, replacement
from murvel.css.generated.numbering import concerns_numbers, number_all, shows_numbers
from murvel.css.sheets.conditions import significant
from murvel.css.tokens import component_values
from murvel.css.values.colours import same_paint
from murvel.css.values.defaults import default_display
from murvel.css.values.style import INITIAL_STYLE, PLAIN, SIDES, Decoration, Looks, Style
from murvel.dom.change import DocumentChange
from murvel.dom.document import Element
from murvel.loading.errors import PageError

TREE_STYLES = (
    "display", "visibility", "white-space", "text-transform", "content-visibility", "position", "float",
    "list-style-type", "counter-reset", "counter-increment", "counter-set", "quotes",
)  # fmt: skip
"""The properties of an element that a capture has, in their order."""

PSEUDO_STYLES = (
    "content", "display", "visibility", "position", "float", "text-transform", "counter-reset", "counter-increment",
    "counter-set",
)  # fmt: skip
"""The properties of ::before and ::after that it has."""

_BY_PAGE = "the page's styles, as the browser computed them"
"""What hides an element: which rule it is, a browser's computed styles do not tell."""

_DISPLAY, _VISIBILITY, _SKIPPED = (TREE_STYLES.index(name) for name in ("display", "visibility", "content-visibility"))
_BEFORE, _AFTER, _MARKER, _CONTENT = range(len(TREE_STYLES), len(TREE_STYLES) + 4)
_HOLD_ITEMS = frozenset({"flex", "inline-flex", "grid", "inline-grid"})

_INHERITED = frozenset({"color", "cursor", "pointer-events", "text-indent"})
_OF_TYPE = frozenset({"font-size", "font-weight"})
"""Properties that every element has in a capture; elements have defaults of their own, so none is inherited."""

_INITIAL = {
    "clip": "auto", "clip-path": "none", "color": "rgb(0, 0, 0)", "background-color": "rgba(0, 0, 0, 0)",
    "background-image": "none", "cursor": "auto", "left": "auto", "opacity": "1", "outline-style": "none",
    "outline-width": "3px", "overflow-x": "visible", "overflow-y": "visible", "pointer-events": "auto",
    "position": "static", "right": "auto", "scale": "none", "text-indent": "0px", "top": "auto", "transform": "none",
}  # fmt: skip


class CapturedStyles:
    """The styles of a captured document (`murvel.css.values.style.Styles`).

    Args:
        table: the styles, by their numbers; it may grow.
        look: returns what elements look like as a capture tells it, and the elements by their numbers.
        match: returns the elements that a selector matches.
    """

    def __init__(
        self,
        table: list[list[Any]],
        look: Callable[[], tuple[Mapping[str, list[Any]], Mapping[int, Element]]],
        match: Callable[[str], list[Element]],
    ) -> None:
        self.table = table
        self._look = look
        self._match = match
        self._looks: CapturedLooks | None = None
        self._numbers: dict[Element, int] = {}
        self._computed: dict[Element, Style] = {}
        self._shared: dict[tuple[int, bool], Style] = {}
        self._counting: set[Element] = set()
        self._showing: set[Element] = set()
        """The elements that show what is counted."""
        self._unnumbered: dict[Element, Style] = {}

    def of(self, element: Element) -> Style:
        """Return the computed style of an element."""
        return self._computed.get(element, INITIAL_STYLE)

    def shown(self, element: Element) -> int | None:
        """Return the number of a style as an element's is, but one that hides nothing; None for an unknown element."""
        number = self._numbers.get(element)
        if number is None:
            return None
        values = [*self.table[number]]
        if values[_DISPLAY] == "none":
            usual = default_display(element)
            values[_DISPLAY] = usual if usual != "none" else "block"
        values[_VISIBILITY] = values[_SKIPPED] = "visible"
        self.table.append(values)
        return len(self.table) - 1

    @property
    def looks(self) -> Looks:
        """What elements look like; asked for when it is first wanted after a change."""
        if self._looks is None:
            self._looks = CapturedLooks(*self._look())
        return self._looks

    def decoration(self, element: Element) -> Decoration:
        """Return what a table, row or cell looks like."""
        looks = self.looks
        assert isinstance(looks, CapturedLooks)
        return looks.decoration(element)

    def matching(self, selector: str) -> list[Element]:
        """Return the elements that a selector matches, in document order; frames and shadow trees are left out.

        Raises:
            SelectorError: it is not understood.
        """
        return self._match(selector)

    # As the document is filled and changes

    def give(self, styles: Mapping[Element, int]) -> set[Element]:
        """Take the numbers of elements' styles, those of outer elements first; return those that changed."""
        self._looks = None
        self._numbers.update(styles)
        waiting = list(styles)
        changed: set[Element] = set()
        for element in waiting:  # grows while it is gone through
            number = self._numbers.get(element)
            if number is None:
                continue
            style = self._style(element, number)
            before = self._unnumbered.get(element) or self._computed.get(element)
            if style == before:
                continue
            self._unnumbered.pop(element, None)
            self._computed[element] = style
            changed.add(element)
            if before is not None and before.holds_items is not style.holds_items:
                waiting.extend(element.elements())
            _put(self._counting, element, is_in=concerns_numbers(element, style))
            _put(self._showing, element, is_in=shows_numbers(style))
        return changed

    def forget(self, elements: Iterable[Element]) -> None:
        """Forget elements that are gone."""
        for element in elements:
            self._numbers.pop(element, None)
            self._computed.pop(element, None)
            self._unnumbered.pop(element, None)
            self._counting.discard(element)
            self._showing.discard(element)

    def has_counted(self, change: DocumentChange, restyled: Set[Element]) -> bool:
        """Whether counters, markers or quotation marks may have changed."""
        if not self._showing and not self._unnumbered:
            return False
        if change.removed and self._counting:
            return True
        return not self._counting.isdisjoint(restyled) or not self._counting.isdisjoint(change.added_elements())

    def number(self) -> set[Element]:
        """Fill in counters, markers and quotation marks again; return the elements that show others now."""
        if not self._showing and not self._unnumbered:
            return set()
        for element, style in self._unnumbered.items():
            before, self._computed[element] = self._computed[element], style
            self._unnumbered[element] = before
        shown_before, self._unnumbered = self._unnumbered, {}
        found = number_all(self._counting, self.of)
        for element, style in found.items():
            self._unnumbered[element] = self._computed[element]
            self._computed[element] = style
        concerned = shown_before.keys() | found.keys()
        return {each for each in concerned if shown_before.get(each) != found.get(each)}

    def _style(self, element: Element, number: int) -> Style:
        parent = element.parent
        in_items = parent is not None and self.of(parent).holds_items
        shared = self._shared.get((number, in_items))
        if shared is not None:
            return shared
        if not 0 <= number < len(self.table):
            raise PageError(f"The capture has no style {number}", "capture the page again.")
        values = self.table[number]
        if len(values) not in (_BEFORE, _MARKER + 1, _CONTENT + 1):
            raise PageError(f"Style {number} of the capture is damaged", "capture the page again.")
        style, is_own = _style(element, values, in_items=in_items)
        if not is_own:
            self._shared[number, in_items] = style
        return style


def _style(element: Element, values: list[Any], *, in_items: bool) -> tuple[Style, bool]:
    """A Style, and whether it is the element's own: what ::before shows of attributes is."""
    display, visibility, space, transform, skipped, position, floats, kind, reset, increment, set_, quotes = values[:12]
    holds_items = display in _HOLD_ITEMS or (display == "contents" and in_items)
    out_of_flow = position in ("absolute", "fixed") or (floats != "none" and not in_items)
    boxes = values[_BEFORE:_MARKER] if len(values) > _BEFORE else (0, 0)
    before, after = (_generated(element, box) for box in boxes)
    marker = _content(values[_MARKER]) if len(values) > _MARKER and values[_MARKER] else None
    lists = Lists(kind, reset, increment, set_, quotes, marker)
    lists = NO_LISTS if lists == NO_LISTS else lists
    is_hidden = (display == "none" and default_display(element) != "none") or visibility != "visible"
    style = Style(
        display, visibility, space, transform, skipped, holds_items, out_of_flow and display != "contents", before,
        after, _BY_PAGE if is_hidden else None, lists, replaced=_replaced(element, values),
    )  # fmt: skip
    return style, is_hidden or before is not None or after is not None or len(values) > _CONTENT


def _replaced(element: Element, values: list[Any]) -> str | None:
    content = _content(values[_CONTENT]) if len(values) > _CONTENT else None
    return replacement(element, content) if content is not None else None


def _content(text: str) -> Content | None:
    found = content_of(significant(component_values(text)))
    return found if isinstance(found, Content) else None


def _generated(element: Element, values: Any) -> Generated | None:
    if not values:
        return None
    content = _content(values[0])
    _, display, visibility, position, floats, transform, reset, increment, set_ = values
    if content is None or display == "none" or visibility != "visible":
        return None
    lists = Lists(reset=reset, increment=increment, set=set_)
    is_block = not Style(display).is_inline
    is_apart = display != "inline" or position in ("absolute", "fixed") or floats != "none"
    return generated(
        element, content, NO_LISTS if lists == NO_LISTS else lists, transform, is_block=is_block, is_apart=is_apart
    )


class CapturedLooks:
    """What elements look like, as a browser computed it: what differs from the initial or inherited value.

    Attributes:
        shown_by_pointer, shown_by_focus: the elements that rules show while something is pointed at, or has the focus.
    """

    def __init__(self, told: Mapping[str, list[Any]], by_number: Mapping[int, Element]) -> None:
        names: Sequence[str] = told.get("names", [])
        every = [dict(zip(names, values, strict=False)) for values in told.get("list", [])]
        self.shown_by_pointer = _elements(told.get("byPointer", []), by_number)
        self.shown_by_focus = _elements(told.get("byFocus", []), by_number)
        pairs = told.get("of", [])
        self._of: dict[Element, Mapping[str, str]] = {
            by_number[number]: every[at]
            for number, at in zip(pairs[::2], pairs[1::2], strict=False)
            if number in by_number and 0 <= at < len(every)
        }

    def of(self, element: Element) -> Mapping[str, str]:
        """Return the values of an element by property, without those that it has from its parent or from the start."""
        around = self._values(element.parent) if element.parent is not None else {}
        return {
            name: value
            for name, value in self._values(element).items()
            if name in _OF_TYPE
            or (
                name in _INITIAL
                and value != (around.get(name, _INITIAL[name]) if name in _INHERITED else _INITIAL[name])
            )
        }

    def with_property(self, name: str) -> Set[Element]:
        """Return the elements whose value of a property is their own."""
        return self._with.get(name, frozenset())

    @cached_property
    def _with(self) -> dict[str, set[Element]]:
        found: dict[str, set[Element]] = {}
        for element in self._of:
            for name in self.of(element):
                found.setdefault(name, set()).add(element)
        return found

    def decoration(self, element: Element) -> Decoration:
        """Return what a table, row or cell looks like."""
        values = self._values(element)
        if "border-collapse" not in values:
            return PLAIN
        borders = frozenset(side for side in SIDES if values[f"border-{side}-width"] not in ("0px", ""))
        return Decoration(
            borders,
            same_paint(values["background-color"]),
            any(part != "0px" for part in values["border-spacing"].split()),
            values["border-collapse"] == "collapse",
            values["empty-cells"] == "hide",
        )

    def _values(self, element: Element) -> Mapping[str, str]:
        return self._of.get(element, {})


def _put(elements: set[Element], element: Element, *, is_in: bool) -> None:
    """Let an element be in a set, or not."""
    if is_in:
        elements.add(element)
    else:
        elements.discard(element)


def _elements(numbers: Iterable[Any], by_number: Mapping[int, Element]) -> Set[Element]:
    return {by_number[number] for number in numbers if number in by_number}
