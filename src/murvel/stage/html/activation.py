"""The activation behaviour of elements (HTML §6.4.2, and each element's own section)."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.dom.html.controls import is_checked, is_open
from murvel.dom.html.facts import is_summary
from murvel.dom.html.forms import form_of
from murvel.dom.html.inputs import BUTTONS, CHECKED, STEPPED, control_type
from murvel.stage.html.fields import Fields, takes_text
from murvel.stage.html.host import Host
from murvel.stage.html.overlays import Overlays
from murvel.stage.html.submission import Submission
from murvel.stage.reaction import Reaction
from murvel.tree.focus import is_focusable
from murvel.tree.fragments import Fragments, fragment_of
from murvel.tree.names.labels import labelled_control


class Activation:
    """What a click does, element by element."""

    def __init__(self, host: Host, fields: Fields, overlays: Overlays, submission: Submission) -> None:
        self._host = host
        self._page = host.page
        self._fields = fields
        self._overlays = overlays
        self._submission = submission

    def activate(self, element: Element, reaction: Reaction, by_cue: bool) -> None:
        """Do what HTML says of a click on an element; `by_cue` says that a cue did something already."""
        tag, kind = element.tag, control_type(element)
        if tag == "label":
            self._activate_label(element, reaction)
        elif tag == "a" and "href" in element.attributes:
            self._follow(element.attributes["href"], reaction, by_cue)
        elif tag == "summary" and is_summary(element):
            self._toggle_details(element, reaction)
        elif kind == "checkbox":
            self._page.live.set_state(element, checkedness=not is_checked(element))
            self._host.value_changed(element, reaction)
        elif kind == "radio":
            self._fields.choose_radio(element, reaction)
        elif kind in BUTTONS:
            self._press_button(element, kind, reaction, by_cue)
        elif tag == "option":
            self._fields.choose_option(element, reaction)
        elif tag == "select" or takes_text(element) or kind in STEPPED:
            reaction.handled = True
            self._host.give_focus(element, reaction)

    def _activate_label(self, label: Element, reaction: Reaction) -> None:
        control = labelled_control(self._page.document, label)
        if control is None or not self._page.live.can_change(control):
            return
        reaction.handled = True
        self._host.give_focus(control, reaction)
        if control_type(control) in CHECKED:
            self.activate(control, reaction, by_cue=False)

    def _follow(self, reference: str, reaction: Reaction, by_cue: bool) -> None:
        document = self._page.document
        reaction.handled = True
        reaction.followed = document.resolve(reference)
        fragment = fragment_of(reference)
        if fragment is None:
            if not by_cue:
                reaction.notes.append(f"would open {reaction.followed}")
            return
        target = Fragments(document).indicated(fragment)
        if target is None:
            if not by_cue:
                reaction.notes.append(f"the page has no place named {fragment}")
            return
        reaction.read_from = self._page.key_of(target)
        if is_focusable(target):
            self._host.give_focus(target, reaction)
        elif target is not document.root:
            # The place becomes where Tab goes on from (HTML §6.6.2), but nothing has the focus.
            self._host.focused = None
            reaction.notes.append("the target cannot take the focus")

    def _toggle_details(self, summary: Element, reaction: Reaction) -> None:
        details = summary.parent
        if details is None:
            return
        reaction.handled = True
        opens = not is_open(details)
        name = details.attributes.get("name")
        if opens and name:  # HTML §4.11.1: of details of one name, one is open
            for other in self._page.select("details[open]"):
                if other.attributes.get("name") == name:
                    self._page.live.set_attribute(other, "open", None)
        self._page.live.set_attribute(details, "open", "" if opens else None)

    def _press_button(self, button: Element, kind: str, reaction: Reaction, by_cue: bool) -> None:
        if self._overlays.press(button, reaction):
            return
        form = form_of(self._page.document, button)
        if form is None or kind == "button":
            if not by_cue and not reaction.handled:
                reaction.notes.append("nothing happens by HTML alone")
        elif kind == "reset":
            self._submission.reset(form, reaction)
        elif kind in ("submit", "image"):
            self._submission.submit(form, button, reaction, by_cue)
