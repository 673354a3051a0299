"""Sending and resetting forms (HTML §4.10.22, Form submission; §4.10.23, Resetting a form)."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.dom.html.forms import controls_of, form_of
from murvel.dom.html.inputs import SUBMITTING, control_type
from murvel.dom.html.options import options
from murvel.stage.html.host import Host
from murvel.stage.html.overlays import Overlays
from murvel.stage.html.validation import problem_of
from murvel.stage.reaction import Reaction
from murvel.stage.script import Event


class Submission:
    """What becomes of a form, up to where it would leave the page."""

    def __init__(self, host: Host, overlays: Overlays) -> None:
        self._host = host
        self._page = host.page
        self._overlays = overlays

    def reset(self, form: Element, reaction: Reaction) -> None:
        """Let the controls of a form be as they arrived."""
        reaction.handled = True
        for control in controls_of(self._page.document, form):
            self._page.live.reset_state(control)
            for option in options(control) if control.tag == "select" else ():
                self._page.live.reset_state(option)
        reaction.notes.append("form reset")

    def submit(self, form: Element, button: Element | None, reaction: Reaction, by_cue: bool) -> None:
        """Submit a form (§4.10.22.3): check its controls, then let the event happen."""
        reaction.handled = True
        document = self._page.document
        validated = "novalidate" not in form.attributes and not (button and "formnovalidate" in button.attributes)
        if validated:
            for control in controls_of(document, form):
                problem = problem_of(document, control)
                if problem is not None:
                    self._host.give_focus(control, reaction)
                    reaction.message = problem
                    return
        if form.attributes.get("method", "").lower() == "dialog":
            dialog = next((above for above in form.ancestors() if above.tag == "dialog"), None)
            if dialog is not None:
                self._overlays.close(dialog, reaction)
                return
        if not self._host.trigger(Event.SUBMIT, form, reaction) and not by_cue:
            action = document.resolve(form.attributes.get("action", ""))
            reaction.notes.append(f"would send the form to {action or 'the page itself'}")

    def submit_implicitly(self, field: Element, reaction: Reaction) -> None:
        """Submit the form of a field on Enter (§4.10.22.2, implicit submission)."""
        form = form_of(self._page.document, field)
        if form is None:
            return
        for control in controls_of(self._page.document, form):
            if control_type(control) in SUBMITTING:
                self._host.activate(control, reaction)
                return
        self.submit(form, None, reaction, by_cue=False)
