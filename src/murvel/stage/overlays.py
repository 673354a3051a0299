"""Dialogs and popovers by their declarative attributes (HTML §4.11.4, §6.12)."""

from __future__ import annotations

from typing import Protocol

from murvel.page.document import Element
from murvel.stage.live_page import LivePage
from murvel.stage.reaction import Reaction
from murvel.tree.focus import is_focusable


class Focus(Protocol):
    """Who has the focus on the stage, and who may give it."""

    focus: int | None

    def give_focus(self, element: Element, reaction: Reaction) -> None:
        """Put the focus on an element if it can take it."""


class Overlays:
    """What opens over a page, and closes again."""

    def __init__(self, page: LivePage, focus: Focus) -> None:
        self.page = page
        self._focus = focus
        self._opener: int | None = None
        """What had the focus when a dialog was opened."""
        self._blocked: list[int] = []
        """What an open dialog has made inert."""

    def escape(self, reaction: Reaction) -> None:
        """Close the topmost open dialog that is modal, or else popover."""
        modal = [each for each in self.page.select("dialog[open]") if each.attributes.get("aria-modal") == "true"]
        popovers = [each for each in self.page.select("[popover]") if each.style.display != "none"]
        if modal:
            self.close(modal[-1], reaction)
        elif popovers:
            self._show_popover(popovers[-1], "hide", reaction)

    def press(self, button: Element, reaction: Reaction) -> bool:
        """What popovertarget and commandfor do (HTML §6.12.1, §4.10.6)."""
        ids = self.page.document.ids_around(button)
        popover = ids.get(button.attributes.get("popovertarget", ""))
        if popover is not None and "popover" in popover.attributes:
            action = button.attributes.get("popovertargetaction", "toggle").lower()
            self._show_popover(popover, action, reaction)
            return True
        target = ids.get(button.attributes.get("commandfor", ""))
        command = button.attributes.get("command", "").lower()
        if target is None:
            return False
        if target.tag == "dialog" and command in ("show-modal", "close", "request-close"):
            if command == "show-modal":
                self._open_dialog(target, reaction)
            else:
                self.close(target, reaction)
            return True
        if "popover" in target.attributes and command.endswith("-popover"):
            self._show_popover(target, command.removesuffix("-popover"), reaction)
            return True
        return False

    def _show_popover(self, popover: Element, action: str, reaction: Reaction) -> None:
        reaction.handled = True
        shown = popover.style.display != "none"
        show = action == "show" or (action == "toggle" and not shown)
        # The open state is no attribute; an inline style stands for it.
        self.page.set_attribute(popover, "style", "display: block" if show else None)

    def _open_dialog(self, dialog: Element, reaction: Reaction) -> None:
        """showModal() (HTML §4.11.4): open, the rest inert to the keys, focus on the first thing in it."""
        reaction.handled = True
        key = self.page.key_of(dialog)
        self.page.set_attribute(dialog, "open", "")
        self.page.set_attribute(dialog, "aria-modal", "true")
        self._block_all_but(dialog)
        self._opener = self._focus.focus
        self.page.rebuild()
        again = self.page.element(key)
        if again is None:
            return
        inside = [node for node in again.descendants() if isinstance(node, Element) and is_focusable(node)]
        first = next((node for node in inside if "autofocus" in node.attributes), inside[0] if inside else None)
        reaction.read_from = key
        if first is not None:
            self._focus.give_focus(first, reaction)

    def _block_all_but(self, dialog: Element) -> None:
        """Make all that is beside a modal dialog inert (HTML §6.3.1, modal dialogs and inert subtrees)."""
        inside: Element = dialog
        for above in dialog.ancestors():
            for beside in above.elements():
                key = self.page.key_of(beside)
                if (
                    beside is not inside
                    and beside.tag != "head"
                    and "inert" not in beside.attributes
                    and key is not None
                ):
                    self.page.set_attribute(beside, "inert", "")
                    self._blocked.append(key)
            inside = above

    def close(self, dialog: Element, reaction: Reaction) -> None:
        """Close a dialog: what it made inert comes back, and the focus goes to where it was."""
        reaction.handled = True
        self.page.set_attribute(dialog, "open", None)
        self.page.set_attribute(dialog, "aria-modal", None)
        for key in self._blocked:
            element = self.page.element(key)
            if element is not None:
                self.page.set_attribute(element, "inert", None)
        self._blocked.clear()
        if self._opener is not None:
            self._focus.focus = reaction.focus = self._opener
