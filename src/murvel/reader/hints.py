"""Hints on how to operate a control, for voices that give them."""

HINTS: dict[str, str] = {
    "button": "press Enter or Space to activate",
    "checkbox": "press Space to change",
    "colorwell": "press Enter to choose a color",
    "combobox": "press the down arrow to choose",
    "datefield": "type or use the arrows to set it",
    "disclosure": "press Enter or Space to open or close",
    "filebutton": "press Enter to choose a file",
    "link": "press Enter to follow",
    "listbox": "use the arrows to choose",
    "menuitem": "press Enter to choose",
    "radio": "use the arrows to change",
    "searchbox": "type to fill in",
    "slider": "use the arrows to change",
    "spinbutton": "type or use the arrows to change",
    "switch": "press Space to turn on or off",
    "tab": "use the arrows to move between tabs",
    "textbox": "type to fill in",
    "treeitem": "use the arrows to move, open and close",
}
"""What to press, by role."""
