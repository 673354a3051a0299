"""The stage: what a page does when keys come to it, by HTML's own behaviour and by its cues.

Every answer is a `Reaction`; the reader says what follows from it. Nothing here knows of speech.
"""

from __future__ import annotations

from heapq import heappop, heappush
from urllib.parse import unquote

from murvel.page.document import Element
from murvel.page.sources import resolve
from murvel.page.text import collapse
from murvel.stage.cues import Change, Cue
from murvel.stage.forms import controls_of, form_of, problem_of, radio_group
from murvel.stage.live_page import LivePage
from murvel.stage.overlays import Overlays
from murvel.stage.reaction import Reaction
from murvel.stage.values import stepped
from murvel.tree.focus import is_editing_host, is_focusable
from murvel.tree.html import input_type, is_disabled, is_summary
from murvel.tree.model import Tree
from murvel.tree.values import chosen_options, options

_TYPED = frozenset({"", "text", "search", "tel", "url", "email", "password", "number"})
_STEPPED = frozenset({"number", "range", "date", "time", "month", "week", "datetime-local"})


class Stage:
    """A page at work.

    Attributes:
        page: its document and tree as they are now.
        now: the seconds since it was loaded.
        focus: the key of the element that has the focus, None where nothing has.
    """

    def __init__(self, markup: str, address: str, width: int, cues: list[Cue] | None = None) -> None:
        self.page = LivePage(markup, address, width)
        self.cues = cues or []
        self.now = 0.0
        self.focus: int | None = None
        self._overlays = Overlays(self.page, self)
        self._due: list[tuple[float, int, Cue]] = []
        self._scheduled = 0
        self._initial = self._control_state()
        for cue in self.cues:
            if isinstance(cue.when, float):
                self._schedule(cue, cue.when)

    @property
    def tree(self) -> Tree:
        """The tree as it is now."""
        return self.page.tree

    def load(self) -> Reaction:
        """What happens when the page arrives: autofocus (HTML §6.6.7), and the cues for it."""
        reaction = Reaction()
        for element in self.page.document.root.descendants():
            if isinstance(element, Element) and "autofocus" in element.attributes and is_focusable(element):
                self.give_focus(element, reaction)
                break
        self._trigger("load", None, reaction)
        return self._done(reaction)

    # Time and cues

    def _schedule(self, cue: Cue, at: float) -> None:
        self._scheduled += 1
        heappush(self._due, (at, self._scheduled, cue))

    def next_due(self) -> float | None:
        """Return when the next cue is due, in seconds since the page was loaded; None where none is."""
        return self._due[0][0] if self._due else None

    def advance(self, to: float) -> Reaction:
        """Let time pass up to a second, but only to the first cue that is due: what it does is one change."""
        reaction = Reaction()
        if self._due and self._due[0][0] <= to:
            self.now = max(self.now, self._due[0][0])
            self._play(heappop(self._due)[2], reaction)
        else:
            self.now = max(self.now, to)
        return self._done(reaction)

    def _trigger(self, when: str, element: Element | None, reaction: Reaction) -> bool:
        """Play or schedule the cues for an event on an element; whether there were any."""
        # All are matched before any is played, or one would set off the next.
        matching = [cue for cue in self.cues if cue.when == when and self._is_meant(cue, element)]
        for cue in matching:
            if cue.after:
                self._schedule(cue, self.now + cue.after)
            else:
                self._play(cue, reaction)
        return bool(matching)

    def _is_meant(self, cue: Cue, element: Element | None) -> bool:
        return element is None or any(each.contains(element) for each in self.page.select(cue.where))

    def _play(self, cue: Cue, reaction: Reaction) -> None:
        reaction.handled = True
        for change in cue.do:
            self._change(change, reaction)
            self.page.rebuild()

    def _change(self, change: Change, reaction: Reaction) -> None:
        page = self.page
        if change.set is not None:
            for element in page.select(change.set.where):
                page.set_attribute(element, change.set.attribute, change.set.to)
        elif change.text is not None:
            for element in page.select(change.text.where):
                page.set_text(element, change.text.to)
        elif change.insert is not None:
            for element in page.select(change.insert.where):
                page.insert(element, change.insert.html, change.insert.at)
        elif change.title is not None:
            for element in page.select("title")[:1]:
                page.set_text(element, change.title)
        elif change.focus is not None:
            for element in page.select(change.focus)[:1]:
                self.give_focus(element, reaction)
        for element in page.select(change.remove) if change.remove else ():
            page.remove(element)
        for element in page.select(change.show) if change.show else ():
            page.set_attribute(element, "hidden", None)
        for element in page.select(change.hide) if change.hide else ():
            page.set_attribute(element, "hidden", "")

    def _done(self, reaction: Reaction) -> Reaction:
        self.page.rebuild()
        return reaction

    # Focus

    def set_focus(self, key: int) -> Reaction:
        """Put the focus on an element, as Tab does."""
        reaction = Reaction(handled=True)
        element = self.page.element(key)
        if element is not None and key != self.focus:
            self.give_focus(element, reaction)
        return self._done(reaction)

    def give_focus(self, element: Element, reaction: Reaction) -> None:
        """Put the focus on an element if it can take it; a part of what a key does."""
        if not is_focusable(element) or is_disabled(element):
            return
        self.focus = reaction.focus = self.page.key_of(element)
        self._trigger("focus", element, reaction)

    # Activation (HTML §6.4.2 and the activation behaviour of each element)

    def activate(self, key: int) -> Reaction:
        """Do what a click does."""
        reaction = Reaction()
        element = self.page.element(key)
        if element is None:
            return reaction
        if is_disabled(element):
            reaction.notes.append("disabled")
            return reaction
        if is_focusable(element):
            self.focus = key
        by_cue = self._trigger("activate", element, reaction)
        element = self.page.element(key)  # cues made a new document
        if element is not None:
            self._activate(element, reaction, by_cue)
        return self._done(reaction)

    def _activate(self, element: Element, reaction: Reaction, by_cue: bool) -> None:
        tag, kind = element.tag, input_type(element)
        if tag == "label":
            self._activate_label(element, reaction)
        elif tag == "a" and "href" in element.attributes:
            self._follow(element.attributes["href"], reaction, by_cue)
        elif tag == "summary" and is_summary(element):
            self._toggle_details(element, reaction)
        elif tag == "input" and kind == "checkbox":
            self._set_flag(element, "checked", "checked" not in element.attributes)
            self._changed_value(element, reaction)
        elif tag == "input" and kind == "radio":
            self._choose_radio(element, reaction)
        elif tag == "button" or (tag == "input" and kind in ("submit", "image", "reset")):
            self._press_button(element, kind or ("submit" if tag == "button" else ""), reaction, by_cue)
        elif tag == "option":
            self._choose_option(element, reaction)
        elif tag == "select" or self.takes_text(element) or kind in _STEPPED:
            reaction.handled = True
            self.give_focus(element, reaction)

    def _activate_label(self, label: Element, reaction: Reaction) -> None:
        control = self.page.tree.semantics.labelled_control(label)
        key = self.page.key_of(control) if control is not None else None
        if control is None or key is None:
            return
        reaction.handled = True
        self.give_focus(control, reaction)
        if control.tag == "input" and input_type(control) in ("checkbox", "radio"):
            self._activate(control, reaction, by_cue=False)

    def _follow(self, reference: str, reaction: Reaction, by_cue: bool) -> None:
        reaction.handled = True
        fragment = reference.strip()
        reaction.followed = resolve(self.page.document.base, fragment)
        if not fragment.startswith("#"):
            if not by_cue:
                reaction.notes.append(f"would open {reaction.followed}")
            return
        name = unquote(fragment[1:])
        target = self._fragment(name)
        if target is None and name.lower() in ("", "top"):
            target = self.page.document.root
        if target is None:
            if not by_cue:
                reaction.notes.append(f"the page has no place named {name}")
            return
        reaction.read_from = self.page.key_of(target)
        if is_focusable(target):
            self.give_focus(target, reaction)
        elif target is not self.page.document.root:
            # The place becomes where Tab goes on from (HTML §6.6.2), but nothing has the focus.
            self.focus = None
            reaction.notes.append("the target cannot take the focus")

    def _fragment(self, name: str) -> Element | None:
        """HTML §7.4.6.3, find a potential indicated element."""
        document = self.page.document
        found = document.ids.get(name)
        if found is not None or not name:
            return found
        named = (node for node in document.root.descendants() if isinstance(node, Element) and node.tag == "a")
        return next((each for each in named if each.attributes.get("name") == name), None)

    def _toggle_details(self, summary: Element, reaction: Reaction) -> None:
        details = summary.parent
        if details is None:
            return
        reaction.handled = True
        opens = "open" not in details.attributes
        name = details.attributes.get("name")
        if opens and name:  # HTML §4.11.1: of details of one name, one is open
            for other in self.page.select("details[open]"):
                if other.attributes.get("name") == name:
                    self._set_flag(other, "open", False)
        self._set_flag(details, "open", opens)

    def _set_flag(self, element: Element, name: str, on: bool) -> None:
        self.page.set_attribute(element, name, "" if on else None)

    def _choose_radio(self, radio: Element, reaction: Reaction) -> None:
        if "checked" in radio.attributes:
            reaction.handled = True
            return
        for other in radio_group(self.page.document, radio):
            self._set_flag(other, "checked", other is radio)
        self._changed_value(radio, reaction)

    def _choose_option(self, option: Element, reaction: Reaction) -> None:
        select = next((above for above in option.ancestors() if above.tag == "select"), None)
        if select is None or is_disabled(option) or is_disabled(select):
            return
        if "multiple" in select.attributes:
            self._set_flag(option, "selected", "selected" not in option.attributes)
        else:
            for other in options(select):
                self._set_flag(other, "selected", other is option)
        self._changed_value(select, reaction)

    def _changed_value(self, element: Element, reaction: Reaction) -> None:
        reaction.handled = True
        key = self.page.key_of(element)
        self.page.rebuild()
        again = self.page.element(key)
        if again is not None:
            self._trigger("input", again, reaction)

    # Buttons: forms, popovers and dialogs

    def _press_button(self, button: Element, kind: str, reaction: Reaction, by_cue: bool) -> None:
        if self._overlays.press(button, reaction):
            return
        form = form_of(self.page.document, button)
        if form is None or kind == "button":
            if not by_cue and not reaction.handled:
                reaction.notes.append("nothing happens by HTML alone")
            return
        if kind == "reset":
            self._reset(form, reaction)
        elif kind in ("submit", "image"):
            self._submit(form, button, reaction, by_cue)

    def escape(self) -> Reaction:
        """Press Escape: it closes the topmost open dialog that is modal, or popover."""
        reaction = Reaction()
        self._overlays.escape(reaction)
        return self._done(reaction)

    def _reset(self, form: Element, reaction: Reaction) -> None:
        reaction.handled = True
        for control in controls_of(self.page.document, form):
            self._restore(control)
            for option in options(control) if control.tag == "select" else ():
                self._restore(option)
        reaction.notes.append("form reset")

    def _restore(self, control: Element) -> None:
        initial = self._initial.get(self.page.key_of(control) or 0)
        if initial is not None:
            text, attributes = initial
            for name in ("value", "checked", "selected"):
                self.page.set_attribute(control, name, attributes.get(name))
            if control.tag == "textarea":
                self.page.set_text(control, text)

    def _control_state(self) -> dict[int, tuple[str, dict[str, str]]]:
        state = {}
        for element in self.page.select("input, select, textarea, option"):
            key = self.page.key_of(element)
            if key is not None:
                state[key] = (element.text() if element.tag == "textarea" else "", dict(element.attributes))
        return state

    def _submit(self, form: Element, button: Element | None, reaction: Reaction, by_cue: bool) -> None:
        """HTML §4.10.22.3, form submission, up to where the form would leave the page."""
        reaction.handled = True
        document = self.page.document
        validated = "novalidate" not in form.attributes and not (button and "formnovalidate" in button.attributes)
        if validated:
            for control in controls_of(document, form):
                problem = problem_of(document, control)
                if problem is not None:
                    self.give_focus(control, reaction)
                    reaction.notes.append(problem)
                    return
        if form.attributes.get("method", "").lower() == "dialog":
            dialog = next((above for above in form.ancestors() if above.tag == "dialog"), None)
            if dialog is not None:
                self._overlays.close(dialog, reaction)
                return
        if not self._trigger("submit", form, reaction) and not by_cue:
            action = resolve(document.base, form.attributes.get("action", ""))
            reaction.notes.append(f"would send the form to {action or 'the page itself'}")

    # Typing and arrows in fields

    def type(self, key: int, character: str) -> Reaction:
        """Type a character into a text field; "\\b" takes the last one away."""
        reaction = Reaction()
        element = self.page.element(key)
        if element is not None and element.tag == "select" and not is_disabled(element):
            self._choose_by_letter(element, character, reaction)
            return self._done(reaction)
        if element is None or not self.takes_text(element):
            return reaction
        value = element.attributes.get("value", "") if element.tag == "input" else element.text()
        if character == "\b":
            reaction.typed, value = value[-1:], value[:-1]
        else:
            limit = element.attributes.get("maxlength", "")
            if limit.isascii() and limit.isdecimal() and len(value) >= int(limit[:6]):
                reaction.notes.append("the field is full")
                return reaction
            reaction.typed, value = character, value + character
        if element.tag == "input":
            self.page.set_attribute(element, "value", value)
        else:
            self.page.set_text(element, value)
        self._changed_value(element, reaction)
        return self._done(reaction)

    def _choose_by_letter(self, select: Element, letter: str, reaction: Reaction) -> None:
        """Choose the next option that begins with a letter, as browsers do."""
        every = options(select)
        chosen = chosen_options(select)
        at = every.index(chosen[-1]) + 1 if chosen else 0
        for option in every[at:] + every[:at]:
            if collapse(option.text()).casefold().startswith(letter.casefold()) and not is_disabled(option):
                self._choose_option(option, reaction)
                return

    def takes_text(self, element: Element) -> bool:
        """Whether characters can be typed into an element."""
        if is_disabled(element) or "readonly" in element.attributes:
            return False
        if element.tag == "input":
            return input_type(element) in _TYPED
        return element.tag == "textarea" or is_editing_host(element)

    def enter(self, key: int) -> Reaction:
        """Press Enter on what has the focus: activation, or a field's implicit submission (HTML §4.10.22.2)."""
        element = self.page.element(key)
        if element is None:
            return Reaction()
        if element.tag == "input" and input_type(element) not in (
            "submit",
            "image",
            "reset",
            "button",
            "file",
            "color",
        ):
            return self._submit_implicitly(element)
        return self.activate(key)

    def _submit_implicitly(self, field_: Element) -> Reaction:
        reaction = Reaction()
        form = form_of(self.page.document, field_)
        if form is None:
            return reaction
        for control in controls_of(self.page.document, form):
            kind = input_type(control) if control.tag == "input" else control.attributes.get("type", "submit").lower()
            if control.tag in ("button", "input") and kind in ("submit", "image"):
                button_key = self.page.key_of(control)
                return self.activate(button_key) if button_key is not None else reaction
        self._submit(form, None, reaction, by_cue=False)
        return self._done(reaction)

    def arrow(self, key: int, by: int) -> Reaction:
        """Press an arrow on what has the focus: 1 is down or right, -1 is up or left."""
        reaction = Reaction()
        element = self.page.element(key)
        if element is None or is_disabled(element) or "readonly" in element.attributes:
            return reaction
        kind = input_type(element) if element.tag == "input" else element.tag
        if kind == "radio":
            self._arrow_radio(element, by, reaction)
        elif kind == "select":
            self._arrow_select(element, by, reaction)
        elif kind in _STEPPED and element.tag == "input":
            up = by if kind == "range" else -by
            value = stepped(kind, element.attributes, up)
            if value is not None:
                self.page.set_attribute(element, "value", value)
                self._changed_value(element, reaction)
        return self._done(reaction)

    def _arrow_radio(self, radio: Element, by: int, reaction: Reaction) -> None:
        group = [each for each in radio_group(self.page.document, radio) if not is_disabled(each)]
        if len(group) < 2:
            return
        target = group[(group.index(radio) + by) % len(group)]
        key = self.page.key_of(target)
        self._choose_radio(target, reaction)
        again = self.page.element(key)
        if again is not None:
            self.give_focus(again, reaction)

    def _arrow_select(self, select: Element, by: int, reaction: Reaction) -> None:
        every = [option for option in options(select) if not is_disabled(option)]
        chosen = chosen_options(select)
        at = every.index(chosen[-1]) + by if chosen and chosen[-1] in every else (0 if by > 0 else len(every) - 1)
        if 0 <= at < len(every):
            for other in options(select):
                self._set_flag(other, "selected", other is every[at])
            self._changed_value(select, reaction)
