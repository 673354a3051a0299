"""Dialogs and popovers by their declarative attributes (HTML §4.11.4, §6.12)."""

from __future__ import annotations

from murvel.dom.document import Element
from murvel.stage.html.host import Host
from murvel.stage.reaction import Reaction
from murvel.tree.focus import is_focusable


class Overlays:
    """What opens over a page, and closes again."""

    def __init__(self, host: Host) -> None:
        self._host = host
        self._page = host.page
        self._openers: dict[Element, Element | None] = {}
        """What had the focus when a dialog or popover was opened."""

    def escape(self, reaction: Reaction) -> None:
        """Close the topmost open dialog that is modal, or popover (HTML §6.3.1, close requests)."""
        top = self._page.document.top_layer
        if not top:
            return
        self.close_any(top[-1], reaction)

    def press(self, button: Element, reaction: Reaction) -> bool:
        """Do what popovertarget and commandfor say (HTML §6.12.1, §4.10.6); whether they say anything."""
        ids = self._page.document.ids_around(button)
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
        is_showing = popover.state.is_showing
        show = action == "show" or (action == "toggle" and not is_showing)
        if show and not is_showing:
            self._openers[popover] = self._host.focused
            self._page.live.put_on_top(popover, modal=False)
        elif is_showing and not show:
            # The focus goes back only from inside (HTML §6.12, hide a popover).
            focused = self._host.focused
            self._page.live.take_from_top(popover)
            if focused is not None and popover.contains(focused):
                self._give_back(popover, reaction)

    def _open_dialog(self, dialog: Element, reaction: Reaction) -> None:
        """showModal() (HTML §4.11.4): open, all else inert, focus on the first thing in it."""
        reaction.handled = True
        if dialog.state.is_modal:
            return
        self._page.live.set_attribute(dialog, "open", "")
        self._page.live.put_on_top(dialog, modal=True)
        self._openers[dialog] = self._host.focused
        inside = [node for node in dialog.descendants() if isinstance(node, Element) and is_focusable(node)]
        first = next((node for node in inside if "autofocus" in node.attributes), inside[0] if inside else None)
        reaction.read_from = self._page.key_of(dialog)
        if first is not None:
            self._host.give_focus(first, reaction)

    def close_any(self, element: Element, reaction: Reaction) -> None:
        """Close a modal dialog or a popover."""
        if element.state.is_modal:
            self.close(element, reaction)
        else:
            self._show_popover(element, "hide", reaction)

    def close(self, dialog: Element, reaction: Reaction) -> None:
        """Close a dialog: nothing is inert any more, and the focus goes to where it was."""
        reaction.handled = True
        self._page.live.set_attribute(dialog, "open", None)
        self._page.live.take_from_top(dialog)
        self._give_back(dialog, reaction)

    def _give_back(self, closed: Element, reaction: Reaction) -> None:
        """Put the focus where it was before something was opened."""
        opener = self._openers.pop(closed, None)
        if opener is not None and self._page.live.can_change(opener):
            self._host.focused = opener
            reaction.focus = self._page.key_of(opener)
