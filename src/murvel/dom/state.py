"""What HTML keeps of an element beside its attributes: checkedness, value, selectedness, what is shown on top.

A person's input changes the state and leaves the attributes as the author wrote them (HTML §4.10.5, §4.10.7,
§4.10.11). `murvel.dom.html.controls` answers from both.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class ElementState:
    """The state of one element. None stands for "as the attribute says": the dirty flag of HTML is not set.

    Attributes:
        checkedness: of a checkbox or radio button (HTML §4.10.5).
        value: of a field that is typed into or stepped (HTML §4.10.5.1, §4.10.11).
        selectedness: of an option (HTML §4.10.10).
        is_showing: whether a popover is showing (HTML §6.12, popover visibility state).
        is_modal: whether a dialog is modal (HTML §4.11.4, is modal flag).
        is_indeterminate: whether a checkbox is shown as neither (HTML §4.10.5.1.15, indeterminate).
        is_scroll_stop: whether Tab stops at it since it scrolls and nothing in it is a stop (HTML §6.6.2, scrollable
            regions); only a browser, which lays the page out, knows that.
        is_fallback: whether an object shows its content in place of what it names (HTML §4.8.7), as a browser found.
        has_custom_error: whether a script has set an error of its own on a control (HTML §4.10.20.1, customError).
        is_open: whether the list of options of a select is open (HTML §4.16.3, `:open`); only a browser opens it.
    """

    checkedness: bool | None = None
    value: str | None = None
    selectedness: bool | None = None
    is_showing: bool = False
    is_modal: bool = False
    is_indeterminate: bool = False
    is_scroll_stop: bool = False
    is_open: bool = False
    is_fallback: bool = False
    has_custom_error: bool = False


UNTOUCHED = ElementState()
"""The state of an element as the page arrives."""
