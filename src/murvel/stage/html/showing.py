"""Showing and hiding elements as scripts do, whatever hides them: an attribute, their style, or a rule of a sheet."""

from __future__ import annotations

from murvel.css.tokens import block_contents
from murvel.dom.document import Element
from murvel.page.live_document import LiveDocument

_DISPLAY, _VISIBILITY = "display", "visibility"


def show(live: LiveDocument, element: Element) -> None:
    """Take away what hides an element by itself; what hides the elements around it stays."""
    live.set_attribute(element, "hidden", None)
    for name in (_DISPLAY, _VISIBILITY):
        set_property(live, element, name, None)
    if element.tag == "dialog":
        live.set_attribute(element, "open", "")
    elif "popover" in element.attributes and not element.state.is_showing:
        live.put_on_top(element, modal=False)
    style = live.styles.of(element)
    # A rule of a sheet hides it: scripts overrule that in the style attribute, or by a class that cues can set as well.
    if style.hidden_by:
        name, value = (_DISPLAY, "revert") if style.display == "none" else (_VISIBILITY, "visible")
        set_property(live, element, name, f"{value} !important")


def hide(live: LiveDocument, element: Element) -> None:
    """Hide an element from everybody, also where a rule of a sheet would show it."""
    live.set_attribute(element, "hidden", "")
    if element.state.is_showing or element.state.is_modal:
        live.take_from_top(element)
    if element.tag == "dialog":
        live.set_attribute(element, "open", None)
    set_property(live, element, _DISPLAY, "none")


def set_property(live: LiveDocument, element: Element, name: str, value: str | None) -> None:
    """Set a property in an element's style attribute, or take it out with None."""
    before = element.attributes.get("style", "")
    declarations = block_contents(before)
    name = name if name.startswith("--") else name.lower()
    kept = [each.serialize() for each in declarations if each.type == "declaration" and each.name != name]
    if value is not None:
        kept.append(f"{name}: {value}")
    elif len(kept) == len(declarations):
        return
    live.set_attribute(element, "style", "; ".join(kept) or None)
