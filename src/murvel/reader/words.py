"""The words for roles and states: ARIA's own names in plain English."""

from __future__ import annotations

from collections.abc import Callable

from murvel.tree.states import State

PUBLICATION_WORDS = {
    **dict.fromkeys(("backlink", "biblioref", "glossref", "noteref"), "link"),
    **{
        word: word
        for word in "abstract acknowledgments afterword appendix bibliography chapter colophon conclusion cover credit "
        "credits dedication endnotes epigraph epilogue errata example footnote foreword glossary index introduction "
        "notice part preface prologue subtitle tip".split()
    },
    "pagebreak": "page break",
    "pagelist": "page list",
    "pullquote": "pull quote",
    "qna": "questions and answers",
    "toc": "table of contents",
}
"""The words for roles of publications (DPUB-ARIA 1.1), without their prefix."""

ROLE_WORDS: dict[str, str] = {
    "alert": "alert",
    "alertdialog": "alert dialog",
    "application": "application",
    "article": "article",
    "audio": "audio",
    "banner": "banner",
    "blockquote": "block quotation",
    "button": "button",
    "canvas": "canvas",
    "checkbox": "checkbox",
    "code": "",
    "colorwell": "color field",
    "columnheader": "column header",
    "combobox": "combobox",
    "comment": "comment",
    "complementary": "complementary",
    "contentinfo": "content information",
    "datefield": "date field",
    "deletion": "deletion",
    "dialog": "dialog",
    "disclosure": "disclosure",
    "embeddedobject": "embedded object",
    "feed": "feed",
    "figure": "figure",
    "filebutton": "file field",
    "form": "form",
    "graphics-document": "drawing",
    "graphics-object": "part of a drawing",
    "graphics-symbol": "symbol",
    "grid": "grid",
    "gridcell": "grid cell",
    "group": "group",
    "heading": "heading",
    "iframe": "frame",
    "img": "image",
    "insertion": "insertion",
    "link": "link",
    "list": "list",
    "listbox": "list box",
    "log": "log",
    "main": "main",
    "mark": "marked",
    "marquee": "marquee",
    "math": "math",
    "menu": "menu",
    "menubar": "menu bar",
    "menuitem": "menu item",
    "menuitemcheckbox": "menu item checkbox",
    "menuitemradio": "menu item radio",
    "meter": "meter",
    "navigation": "navigation",
    "note": "note",
    "option": "option",
    "progressbar": "progress bar",
    "radio": "radio",
    "radiogroup": "radio group",
    "region": "region",
    "rowheader": "row header",
    "scrollbar": "scroll bar",
    "search": "search",
    "searchbox": "search box",
    "separator": "separator",
    "slider": "slider",
    "spinbutton": "spin button",
    "status": "status",
    "switch": "switch",
    "tab": "tab",
    "table": "table",
    "tablist": "tab list",
    "tabpanel": "tab panel",
    "textbox": "text box",
    "timer": "timer",
    "toolbar": "toolbar",
    "tooltip": "tooltip",
    "tree": "tree",
    "treegrid": "tree grid",
    "treeitem": "tree item",
    "video": "video",
    **{f"doc-{word}": words for word, words in PUBLICATION_WORDS.items()},
}
"""What is said for a role. Roles that stand nowhere here are not said."""


def _flag(word: str) -> Callable[[State], str]:
    return lambda state: word if state is True else ""


def _either(on: str, off: str, mixed: str = "mixed") -> Callable[[State], str]:
    return lambda state: mixed if state == "mixed" else (on if state is True else off)


def _current(state: State) -> str:
    return "current" if state is True else f"current {state}"


def _invalid(state: State) -> str:
    return "invalid" if state is True else f"invalid {state}"


STATE_WORDS: dict[str, Callable[[State], str]] = {
    "checked": _either("checked", "not checked"),
    "pressed": _either("pressed", "not pressed"),
    "selected": _either("selected", "not selected"),
    "expanded": _either("expanded", "collapsed"),
    "current": _current,
    "disabled": _flag("disabled"),
    "required": _flag("required"),
    "invalid": _invalid,
    "readonly": _flag("read only"),
    "multiline": _flag("multiline"),
    "multiselectable": _flag("multiselectable"),
    "haspopup": lambda state: f"has pop-up {state}",
    "sort": lambda state: f"sorted {state}",
    "busy": _flag("busy"),
    "modal": _flag("modal"),
}
"""What is said for a state, in the order in which states are said; states that stand nowhere here are not."""


_LANGUAGES = {
    "ar": "Arabic", "cs": "Czech", "cy": "Welsh", "da": "Danish", "de": "German", "el": "Greek", "en": "English",
    "es": "Spanish", "fi": "Finnish", "fr": "French", "ga": "Irish", "he": "Hebrew", "hi": "Hindi", "hu": "Hungarian",
    "it": "Italian", "ja": "Japanese", "ko": "Korean", "la": "Latin", "nb": "Norwegian", "nl": "Dutch",
    "no": "Norwegian", "pl": "Polish", "pt": "Portuguese", "ro": "Romanian", "ru": "Russian", "sv": "Swedish",
    "tr": "Turkish", "uk": "Ukrainian", "ur": "Urdu", "vi": "Vietnamese", "zh": "Chinese",
}  # fmt: skip


def language_words(code: str) -> str:
    """Return what is said where the language changes, for a language's code."""
    return f"in {_LANGUAGES.get(code, f'the language {code}')}"


def counted(number: int, singular: str, plural: str) -> str:
    """Return a number with its noun, as in "1 heading" and "no headings"."""
    return f"{number or 'no'} {singular if number == 1 else plural}"
