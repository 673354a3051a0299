"""Typing and arrows in fields (HTML §4.10.5, §4.10.7, §4.10.11)."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.dom.html.controls import field_value, is_checked, is_marked_selected
from murvel.dom.html.facts import is_disabled, is_editing_host
from murvel.dom.html.forms import radio_group
from murvel.dom.html.inputs import STEPPED, TYPED, control_type
from murvel.dom.html.options import chosen_options, options
from murvel.stage.html.host import Host
from murvel.stage.html.stepping import stepped
from murvel.stage.inputs import BACKSPACE
from murvel.stage.reaction import Reaction
from murvel.text import collapse


def takes_text(element: Element) -> bool:
    """Whether characters can be typed into an element."""
    if is_disabled(element) or "readonly" in element.attributes:
        return False
    return element.tag == "textarea" or control_type(element) in TYPED or is_editing_host(element)


class Fields:
    """What typing and arrows do in the fields of a page."""

    def __init__(self, host: Host) -> None:
        self._host = host
        self._live = host.page.live

    def type(self, element: Element, character: str, reaction: Reaction) -> None:
        """Type a character."""
        if element.tag == "select" and not is_disabled(element):
            self._choose_by_letter(element, character, reaction)
            return
        if not takes_text(element):
            return
        has_value = element.tag in ("input", "textarea")
        value = field_value(element) if has_value else element.text()
        if character == BACKSPACE:
            reaction.typed, value = value[-1:], value[:-1]
        else:
            limit = element.attributes.get("maxlength", "")
            if limit.isascii() and limit.isdecimal() and len(value) >= int(limit[:6]):
                reaction.notes.append("the field is full")
                return
            reaction.typed, value = character, value + character
        if has_value:
            self._live.set_state(element, value=value)
        else:
            self._live.set_text(element, value)
        self._host.value_changed(element, reaction)

    def arrow(self, element: Element, by: int, reaction: Reaction) -> None:
        """Press an arrow: 1 goes on, -1 goes back; in a slider right goes on, and down goes back."""
        if is_disabled(element) or "readonly" in element.attributes:
            return
        kind = control_type(element)
        if kind == "radio":
            self._arrow_radio(element, by, reaction)
        elif element.tag == "select":
            self._arrow_select(element, by, reaction)
        elif kind in STEPPED:
            up = by if kind == "range" else -by
            value = stepped(kind, field_value(element), element.attributes, up)
            if value is not None:
                self._live.set_state(element, value=value)
                self._host.value_changed(element, reaction)

    def choose_radio(self, radio: Element, reaction: Reaction) -> None:
        """Check a radio button, and uncheck the others of its group."""
        if is_checked(radio):
            reaction.handled = True
            return
        for other in radio_group(self._host.page.document, radio):
            self._live.set_state(other, checkedness=other is radio)
        self._host.value_changed(radio, reaction)

    def choose_option(self, option: Element, reaction: Reaction) -> None:
        """Choose an option of a list; where several may be chosen, take it back if it was."""
        select = next((above for above in option.ancestors() if above.tag == "select"), None)
        if select is None or is_disabled(option) or is_disabled(select):
            return
        if "multiple" in select.attributes:
            self._live.set_state(option, selectedness=not is_marked_selected(option))
            self._host.value_changed(select, reaction)
        else:
            self._choose_alone(select, option, reaction)

    def _choose_alone(self, select: Element, option: Element, reaction: Reaction) -> None:
        for other in options(select):
            if other is option or is_marked_selected(other):
                self._live.set_state(other, selectedness=other is option)
        self._host.value_changed(select, reaction)

    def _choose_by_letter(self, select: Element, letter: str, reaction: Reaction) -> None:
        """Choose the next option that begins with a letter, as browsers do."""
        every = options(select)
        chosen = chosen_options(select)
        at = every.index(chosen[-1]) + 1 if chosen else 0
        for option in every[at:] + every[:at]:
            if collapse(option.text()).casefold().startswith(letter.casefold()) and not is_disabled(option):
                self.choose_option(option, reaction)
                return

    def _arrow_radio(self, radio: Element, by: int, reaction: Reaction) -> None:
        group = [each for each in radio_group(self._host.page.document, radio) if not is_disabled(each)]
        if len(group) < 2:
            return
        target = group[(group.index(radio) + by) % len(group)]
        self.choose_radio(target, reaction)
        self._host.give_focus(target, reaction)

    def _arrow_select(self, select: Element, by: int, reaction: Reaction) -> None:
        every = [option for option in options(select) if not is_disabled(option)]
        chosen = chosen_options(select)
        at = every.index(chosen[-1]) + by if chosen and chosen[-1] in every else (0 if by > 0 else len(every) - 1)
        if 0 <= at < len(every):
            self._choose_alone(select, every[at], reaction)
