"""Pseudo-classes that ask for what an element is or holds, each with its rule (Selectors 4 §7 to §12; HTML §4.16.3)."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from murvel.dom.document import Document, Element, Namespace, language_of
from murvel.dom.html.controls import field_value, is_checked, is_marked_selected, is_open
from murvel.dom.html.direction import direction_of
from murvel.dom.html.facts import DISABLEABLE, is_disabled, is_editable
from murvel.dom.html.forms import form_of, radio_group
from murvel.dom.html.inputs import CHECKED, STEPPED, SUBMITTING, TYPED, control_type
from murvel.dom.html.validity import has_range, is_out_of_range, is_valid, is_validated

Rule = Callable[[Document, Element], bool]

_FIELDS = frozenset({"input", "select", "textarea"})
_CONTROLS = _FIELDS | {"button"}
_VALIDATED = _CONTROLS | {"fieldset", "form", "output"}
_NOT_REQUIRED = frozenset({"button", "color", "hidden", "image", "range", "reset", "submit"})


class PseudoClass(NamedTuple):
    """A pseudo-class.

    Attributes:
        holds: its rule.
        tags: the elements that it may match; None for all.
        is_wide: whether a change of one element may change the answer for others.
    """

    holds: Rule
    tags: frozenset[str] | None
    is_wide: bool = False


def _checked(_: Document, element: Element) -> bool:
    if element.tag == "option":
        return is_marked_selected(element)
    return control_type(element) in CHECKED and is_checked(element)


def _default(document: Document, element: Element) -> bool:
    if element.tag == "option":
        return "selected" in element.attributes
    kind = control_type(element)
    if kind in CHECKED:
        return "checked" in element.attributes
    form = form_of(document, element) if kind in SUBMITTING else None
    if form is None:
        return False
    buttons = (each for each in form.descendants() if isinstance(each, Element) and control_type(each) in SUBMITTING)
    return next(buttons, None) is element


def _indeterminate(document: Document, element: Element) -> bool:
    if element.tag == "progress":
        return "value" not in element.attributes
    if element.state.is_indeterminate:
        return True
    return control_type(element) == "radio" and not any(map(is_checked, radio_group(document, element)))


def _placeholder_shown(_: Document, element: Element) -> bool:
    if element.tag != "textarea" and control_type(element) not in TYPED:
        return False
    return "placeholder" in element.attributes and not field_value(element)


def _read_write(_: Document, element: Element) -> bool:
    if element.tag == "textarea" or (element.tag == "input" and control_type(element) in (TYPED | STEPPED) - {"range"}):
        return "readonly" not in element.attributes and not is_disabled(element)
    return is_editable(element)


def _required(_: Document, element: Element) -> bool:
    return "required" in element.attributes and control_type(element) not in _NOT_REQUIRED


def _is_link(_: Document, element: Element) -> bool:
    return "href" in element.attributes


_LINKS = frozenset({"a", "area"})

PSEUDO_CLASSES: dict[str, PseudoClass] = {
    "any-link": PseudoClass(_is_link, _LINKS),
    "checked": PseudoClass(_checked, frozenset({"input", "option"})),
    "default": PseudoClass(_default, frozenset({"button", "input", "option"}), True),
    "disabled": PseudoClass(lambda _, element: is_disabled(element), DISABLEABLE, True),
    "enabled": PseudoClass(lambda _, element: not is_disabled(element), DISABLEABLE, True),
    "in-range": PseudoClass(
        lambda _, element: has_range(element) and not is_out_of_range(element), frozenset({"input"})
    ),
    "indeterminate": PseudoClass(_indeterminate, frozenset({"input", "progress"}), True),
    "invalid": PseudoClass(
        lambda document, element: is_validated(document, element) and not is_valid(document, element), _VALIDATED, True
    ),
    "link": PseudoClass(_is_link, _LINKS),
    "modal": PseudoClass(lambda _, element: element.state.is_modal, frozenset({"dialog"})),
    "open": PseudoClass(lambda _, element: is_open(element), frozenset({"details", "dialog"})),
    "optional": PseudoClass(lambda _, element: not _required(_, element), _FIELDS),
    "out-of-range": PseudoClass(lambda _, element: is_out_of_range(element), frozenset({"input"})),
    "placeholder-shown": PseudoClass(_placeholder_shown, frozenset({"input", "textarea"})),
    "popover-open": PseudoClass(lambda _, element: element.state.is_showing, None),
    "read-only": PseudoClass(lambda _, element: not _read_write(_, element), None, True),
    "read-write": PseudoClass(_read_write, None, True),
    "required": PseudoClass(_required, _FIELDS),
    "valid": PseudoClass(
        lambda document, element: is_validated(document, element) and is_valid(document, element), _VALIDATED, True
    ),
    "defined": PseudoClass(lambda _, element: "-" not in element.tag, None),
}
"""By name; those that any HTML element may match have no tags."""

ASKED_OF_ELEMENTS = frozenset(PSEUDO_CLASSES)


NEVER_MATCHING = frozenset(
    "active active-view-transition autofill current focus focus-visible focus-within fullscreen future hover "
    "interest-source interest-target past picture-in-picture target target-current user-invalid user-valid visited "
    "window-inactive xr-overlay corner-present decrement double-button end horizontal increment no-button "
    "single-button start vertical -webkit-autofill -webkit-drag -webkit-full-page-media -webkit-full-screen "
    "-webkit-full-screen-ancestor -internal-autofill-previewed".split()
)
"""Pseudo-classes that match nothing on a page that has just been opened and is not pointed at."""


def with_argument(name: str, argument: str) -> PseudoClass:
    """Return :lang() or :dir() with its argument (Selectors 4 §7.1, §7.2)."""
    if name == "dir":
        return PseudoClass(lambda _, element: direction_of(element) == argument, None, True)

    def speaks(_: Document, element: Element) -> bool:
        language = language_of(element).lower()
        return language == argument or language.startswith(f"{argument}-")

    return PseudoClass(speaks, None, True)


def may_match(pseudo: PseudoClass, element: Element) -> bool:
    """Whether an element is one that a pseudo-class is asked of."""
    return element.namespace is Namespace.HTML and (pseudo.tags is None or element.tag in pseudo.tags)
