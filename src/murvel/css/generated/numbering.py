"""Counters, list markers and quotation marks: what depends on all that stands before it (CSS Lists 3 §4, Content 3 §3).

Numbers are filled in once all styles are computed, in one walk over the document.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import replace

from murvel.css.generated.content import NO_LISTS, Generated, Kind, Lists, numbered
from murvel.css.generated.numerals import numeral
from murvel.css.values.style import Style
from murvel.dom.document import Element, language_of
from murvel.patterns import pattern

_LIST_ITEM = "list-item"
"""The counter that all list items increment (§4.6)."""

_LISTS = frozenset({"dir", "menu", "ol", "ul"})
_BULLETS = frozenset({"circle", "disc", "disclosure-closed", "disclosure-open", "none", "square"})
"""Markers that say no more than that there is an item."""

_COUNTERS = pattern(r"([^\s\d+-][^\s]*)(?:\s+([+-]?\d+))?")
_STRING = pattern(r"\"((?:[^\"\\]|\\.)*)\"|'((?:[^'\\]|\\.)*)'")

_ENGLISH = "“”‘’"
_QUOTES: dict[str, str] = {
    **dict.fromkeys("cs de et hr sk sl".split(), "„“‚‘"),
    **dict.fromkeys("nb nn no".split(), "«»‘’"),
    **dict.fromkeys("am fa fr-ch".split(), "«»‹›"),
    **dict.fromkeys("ca el it pt-pt".split(), "«»“”"),
    **dict.fromkeys("pl ro".split(), "„”«»"),
    **dict.fromkeys("fi he sv".split(), "””’’"),
    **dict.fromkeys("ru uk".split(), "«»„“"),
    **dict.fromkeys("bg lt".split(), "„“„“"),
    "fr": "«»«»",
    "fr-ca": "«»”“",
    "nl": "‘’‘’",
    "sr": "„”’’",
    "ja": "「」『』",
    "hu": "„”»«",
    "ar": "”“’‘",
}
"""The quotation marks of languages, outer and inner, as Chromium has them; all others are as in English."""


def concerns_numbers(element: Element, style: Style) -> bool:
    """Whether an element counts, shows numbers, or is not displayed with all in it, so that nothing there counts."""
    if style.display in ("list-item", "none") or element.tag in _LISTS:
        return True
    lists = style.lists
    if lists is not NO_LISTS and not lists.reset == lists.increment == lists.set == "none":
        return True
    return _has_counted(style.before) or _has_counted(style.after)


def shows_numbers(style: Style) -> bool:
    """Whether an element shows a number, a string as a marker, or quotation marks, if it is displayed at all."""
    if style.display == "list-item" and (style.lists.content is not None or style.lists.marker not in _BULLETS):
        return True
    return _has_counted(style.before) or _has_counted(style.after)


def _has_counted(box: Generated | None) -> bool:
    """Whether a box has content that counts, shows counters or quotation marks."""
    return box is not None and box.content is not None


def number_all(elements: Iterable[Element], style_of: Callable[[Element], Style]) -> dict[Element, Style]:
    """Return the styles of the elements that show numbers or quotation marks, with these filled in.

    Args:
        elements: those that `concerns_numbers`, in any order.
        style_of: gives the computed style of an element.
    """
    return _Numbering(style_of).number(elements)


class _Numbering:
    def __init__(self, style_of: Callable[[Element], Style]) -> None:
        self._style_of = style_of
        self._counters: dict[str, list[int]] = defaultdict(list)
        """For each counter its values, the innermost last."""
        self._made_in: dict[Element | None, list[str]] = {}
        """The counters that an element's children have made: they end with it."""
        self._owners: list[tuple[Element | None, str]] = []
        """The same, the counter that was made last at the end."""
        self._depth = 0
        """How many quotations stand open."""

    def number(self, elements: Iterable[Element]) -> dict[Element, Style]:
        found: dict[Element, Style] = {}
        counted = list(elements)
        events = [(element.order, 1, element) for element in counted]
        # What ends at a place ends before anything begins there, the inner before the outer.
        events += [(each.end, -each.order, each) for each in counted if self._shows_after(each)]
        hidden_until = -1
        for _, turn, element in sorted(events, key=lambda event: event[:2]):
            if element.order < hidden_until:
                continue
            self._end_scopes(element)
            style = self._style_of(element)
            if turn <= 0:
                found[element] = self._with_after(element, found)
            elif style.display == "none":
                hidden_until = element.end
            else:
                marker = self._enter(element, style)
                before = style.before
                if before is not None and before.content is not None:
                    before = self._box(element, before)
                if marker or before is not style.before:
                    found[element] = replace(style, before=before, marker=marker)
        return found

    def _shows_after(self, element: Element) -> bool:
        return _has_counted(self._style_of(element).after)

    def _with_after(self, element: Element, found: dict[Element, Style]) -> Style:
        style = found.get(element) or self._style_of(element)
        assert style.after is not None
        return replace(style, after=self._box(element, style.after))

    def _end_scopes(self, element: Element) -> None:
        """End the counters of what an element does not stand in."""
        while self._owners:
            owner, name = self._owners[-1]
            if owner is None or owner.order <= element.order < owner.end:
                return
            self._owners.pop()
            self._made_in[owner].remove(name)
            self._counters[name].pop()

    def _enter(self, element: Element, style: Style) -> str:
        """Count an element; return the text of its marker."""
        lists = style.lists
        self._reset(element.parent, lists, element)
        if element.tag in _LISTS and _LIST_ITEM not in lists.reset:
            self._make(element.parent, _LIST_ITEM, _start_of(element), element)
        is_item = style.display == "list-item" and element.tag != "summary"
        if is_item and _LIST_ITEM not in lists.increment:
            self._add(element.parent, _LIST_ITEM, _step_of(element))
        self._increment(element.parent, lists)
        if element.tag == "li" and (value := _integer(element.attributes.get("value"))) is not None:
            self._set(element.parent, _LIST_ITEM, value)
        return self._marker(element, lists) if is_item else ""

    def _marker(self, element: Element, lists: Lists) -> str:
        if lists.content is not None:
            spoken = lists.content.spoken
            counts = any(part.kind is Kind.COUNTER for part in spoken)
            return "" if counts else "".join(part.text for part in spoken if part.kind is Kind.TEXT)
        string = _STRING.fullmatch(lists.marker)
        if string is not None:
            return string.group(1) or string.group(2) or ""
        if lists.marker in _BULLETS:
            return ""
        return f"{numeral(self._counters[_LIST_ITEM][-1], lists.marker)}. "

    def _box(self, element: Element, box: Generated) -> Generated:
        """Fill in the numbers of a generated box, which counts as the first or last child of its element."""
        self._reset(element, box.lists)
        self._increment(element, box.lists)
        filled: dict[int, str] = {}
        for at, part in enumerate(box.content.spoken if box.content is not None else ()):
            if part.kind is Kind.COUNTER:
                values = self._counters[part.text] or [0]
                shown = values[-1:] if part.more is None else values
                filled[at] = (part.more or "").join(numeral(value, part.numerals) for value in shown)
            elif part.kind is Kind.QUOTE:
                filled[at] = self._quote(element, part.text)
        return numbered(element, box, filled)

    def _quote(self, element: Element, keyword: str) -> str:
        if keyword.endswith("close-quote"):
            if not self._depth:
                return ""
            self._depth -= 1
        marks = _marks(element, self._style_of(element).lists.quotes)
        at = min(2 * self._depth, max(len(marks) - 2, 0))
        if keyword.endswith("open-quote"):
            self._depth += 1
        if keyword.startswith("no-") or not marks:
            return ""
        return marks[at] if keyword == "open-quote" else marks[at + 1]

    # Counters

    def _reset(self, around: Element | None, lists: Lists, maker: Element | None = None) -> None:
        for name, value in _listed(lists.reset, 0):
            self._make(around, name, value, maker)

    def _increment(self, around: Element | None, lists: Lists) -> None:
        for name, value in _listed(lists.increment, 1):
            self._add(around, name, value)
        for name, value in _listed(lists.set, 0):
            self._set(around, name, value)

    def _make(self, around: Element | None, name: str, value: int, maker: Element | None = None) -> None:
        """Make a counter; it takes the place of one that a sibling has made (§4.4.1).

        A counter in another one of its name ends with the element that made it, any other with its parent, as
        Chromium has it.
        """
        values = self._counters[name]
        if name in self._made_in.get(around, ()):
            values[-1] = value
            return
        owner = maker if values and maker is not None else around
        self._made_in.setdefault(owner, []).append(name)
        self._owners.append((owner, name))
        values.append(value)

    def _add(self, around: Element | None, name: str, value: int) -> None:
        if not self._counters[name]:
            self._make(around, name, 0)
        self._counters[name][-1] += value

    def _set(self, around: Element | None, name: str, value: int) -> None:
        if not self._counters[name]:
            self._make(around, name, 0)
        self._counters[name][-1] = value


def _listed(text: str, default: int) -> list[tuple[str, int]]:
    """The counters that a property names, each with its number."""
    if text == "none":
        return []
    return [(name, int(number[:9]) if number else default) for name, number in _COUNTERS.findall(text)]


def _start_of(element: Element) -> int:
    """The number before a list's first (HTML §4.4.5, the ol element; §15.3.8)."""
    if element.tag != "ol":
        return 0
    step = -1 if "reversed" in element.attributes else 1
    start = _integer(element.attributes.get("start"))
    if start is None:
        start = sum(child.tag == "li" for child in element.elements()) if step < 0 else 1
    return start - step


def _step_of(item: Element) -> int:
    around = next((above for above in item.ancestors() if above.tag in _LISTS), None)
    return -1 if around is not None and around.tag == "ol" and "reversed" in around.attributes else 1


def _integer(text: str | None) -> int | None:
    found = re.match(r"[ \t\n\f\r]*([+-]?\d{1,9})", text or "")
    return int(found.group(1)) if found is not None else None


def _marks(element: Element, quotes: str) -> list[str]:
    """The quotation marks of an element: open, close, and those of quotations in quotations."""
    if quotes == "none":
        return []
    if quotes != "auto":
        found = [single or double for double, single in _STRING.findall(quotes)]
        return found if len(found) % 2 == 0 else found[:-1]
    language = language_of(element.parent or element).lower()
    return list(_QUOTES.get(language) or _QUOTES.get(language.partition("-")[0]) or _ENGLISH)
