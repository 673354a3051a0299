"""The roles of WAI-ARIA 1.2 and the facts about each that decide speech (WAI-ARIA 1.2 §5.4, Definition of Roles)."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto


class Naming(Enum):
    """Where a role's name may come from (§5.2.8)."""

    AUTHOR = auto()
    CONTENT = auto()
    """From the content, and from the author."""
    PROHIBITED = auto()


@dataclass(frozen=True, slots=True)
class Role:
    """One role.

    Attributes:
        name: the role's token.
        naming: where its name may come from.
        children_presentational: whether its descendants are not exposed (§5.2.9).
        landmark: whether it is a landmark (§5.3.4).
        widget: whether a person operates it.
        range: whether it has a value between bounds.
    """

    name: str
    naming: Naming = Naming.AUTHOR
    children_presentational: bool = False
    landmark: bool = False
    widget: bool = False
    range: bool = False


GENERIC = "generic"
TEXT = "text"
"""The design's role for static text; not a role of ARIA."""

_C, _P = Naming.CONTENT, Naming.PROHIBITED

_PARTS_OF_BOOKS = (
    "acknowledgments afterword appendix bibliography chapter conclusion credits endnotes epilogue errata foreword "
    "glossary index introduction pagelist part preface prologue toc"
)
_PIECES_OF_BOOKS = (
    "abstract biblioentry colophon credit dedication endnote epigraph example footnote notice pagebreak pagefooter "
    "pageheader pullquote qna tip"
)

_DEFINITIONS = (
    # Widgets (§5.3.2)
    Role("button", _C, children_presentational=True, widget=True),
    Role("checkbox", _C, children_presentational=True, widget=True),
    Role("combobox", widget=True),
    Role("gridcell", _C, widget=True),
    Role("link", _C, widget=True),
    Role("listbox", widget=True),
    Role("menuitem", _C, widget=True),
    Role("menuitemcheckbox", _C, children_presentational=True, widget=True),
    Role("menuitemradio", _C, children_presentational=True, widget=True),
    Role("option", _C, children_presentational=True, widget=True),
    Role("progressbar", children_presentational=True, range=True),
    Role("radio", _C, children_presentational=True, widget=True),
    Role("scrollbar", children_presentational=True, range=True),
    Role("searchbox", widget=True),
    Role("separator", children_presentational=True, range=True),
    Role("slider", children_presentational=True, widget=True, range=True),
    Role("spinbutton", widget=True, range=True),
    Role("switch", _C, children_presentational=True, widget=True),
    Role("tab", _C, children_presentational=True, widget=True),
    Role("tabpanel"),
    Role("textbox", widget=True),
    Role("treeitem", _C, widget=True),
    # Composite widgets
    Role("grid", widget=True),
    Role("menu", widget=True),
    Role("menubar", widget=True),
    Role("radiogroup"),
    Role("tablist", widget=True),
    Role("tree", widget=True),
    Role("treegrid", widget=True),
    # Document structure (§5.3.3)
    Role("application"),
    Role("article"),
    Role("blockquote"),
    Role("caption", _P),
    Role("cell", _C),
    Role("code", _P),
    Role("columnheader", _C),
    Role("comment"),
    Role("definition", _P),
    Role("deletion", _P),
    Role("directory"),
    Role("document"),
    Role("emphasis", _P),
    Role("feed"),
    Role("figure"),
    Role(GENERIC, _P),
    Role("group"),
    Role("heading", _C),
    Role("img", children_presentational=True),
    Role("insertion", _P),
    Role("list"),
    Role("listitem", _P),
    Role("mark", _P),
    Role("math"),
    Role("meter", children_presentational=True, range=True),
    Role("none", _P),
    Role("note"),
    Role("paragraph", _P),
    Role("presentation", _P),
    Role("row"),
    Role("rowgroup"),
    Role("rowheader", _C),
    Role("strong", _P),
    Role("subscript", _P),
    Role("suggestion", _P),
    Role("superscript", _P),
    Role("table"),
    Role("term", _C),
    Role("time", _P),
    Role("toolbar"),
    Role("tooltip", _C),
    # Landmarks (§5.3.4)
    Role("banner", landmark=True),
    Role("complementary", landmark=True),
    Role("contentinfo", landmark=True),
    Role("form", landmark=True),
    Role("main", landmark=True),
    Role("navigation", landmark=True),
    Role("region", landmark=True),
    Role("search", landmark=True),
    # Live regions (§5.3.5) and windows (§5.3.6)
    Role("alert"),
    Role("log"),
    Role("marquee"),
    Role("status"),
    Role("timer"),
    Role("alertdialog"),
    Role("dialog"),
    # Graphics (WAI-ARIA Graphics Module 1.0 §4)
    Role("graphics-document"),
    Role("graphics-object"),
    Role("graphics-symbol", children_presentational=True),
    # Publications (DPUB-ARIA 1.1 §4)
    *(Role(f"doc-{name}", landmark=True) for name in _PARTS_OF_BOOKS.split()),
    *(Role(f"doc-{name}") for name in _PIECES_OF_BOOKS.split()),
    *(Role(f"doc-{name}", _C, widget=True) for name in ("backlink", "biblioref", "glossref", "noteref")),
    Role("doc-cover", children_presentational=True),
    Role("doc-subtitle", _C),
    # Roles of the host language that ARIA has no word for (HTML-AAM 1.0 §3.4), named as in the design's tree format
    Role("iframe"),
    Role("label"),
    Role("legend", _P),
    Role("audio"),
    Role("video"),
    Role("canvas"),
    Role("embeddedobject"),
    Role("disclosure", _C, widget=True),
    Role("datefield", widget=True),
    Role("colorwell", widget=True),
    Role("filebutton", widget=True),
    Role("abbr"),
    Role("ruby"),
)

ROLES: dict[str, Role] = {role.name: role for role in _DEFINITIONS}
assert len(ROLES) == len(_DEFINITIONS), "a role is defined twice"

_HOST_ROLES = frozenset(
    [
        "iframe",
        "label",
        "legend",
        "audio",
        "video",
        "canvas",
        "embeddedobject",
        "disclosure",
        "datefield",
        "colorwell",
        "filebutton",
        "abbr",
        "ruby",
    ]
)

ALIASES = {"presentation": "none", "image": "img", "directory": "list"}
"""Tokens that mean another role: §5.4 presentation, ARIA 1.3's image, and the deprecated directory."""

AUTHOR_ROLES: frozenset[str] = (frozenset(ROLES) - _HOST_ROLES) | ALIASES.keys()
"""Tokens that count in a role attribute. Abstract roles (§5.3.1) must not be used and are not here."""

LANDMARKS: frozenset[str] = frozenset(name for name, role in ROLES.items() if role.landmark)

RANGES: frozenset[str] = frozenset(name for name, role in ROLES.items() if role.range)

DIALOGS: frozenset[str] = frozenset({"dialog", "alertdialog"})
"""Windows within the page (§5.3.5)."""

PRESENTATIONAL_CHILDREN: frozenset[str] = frozenset(
    name for name, role in ROLES.items() if role.children_presentational
)

NAME_FROM_CONTENT: frozenset[str] = frozenset(name for name, role in ROLES.items() if role.naming is _C)

NAME_PROHIBITED: frozenset[str] = frozenset(name for name, role in ROLES.items() if role.naming is _P)

NEEDS_NAME: frozenset[str] = frozenset(
    "alertdialog application button checkbox columnheader combobox dialog form grid heading img link listbox menuitem "
    "menuitemcheckbox menuitemradio meter option progressbar radio radiogroup region rowheader scrollbar searchbox "
    "slider spinbutton switch tab textbox tooltip tree treegrid treeitem iframe "
    "disclosure datefield colorwell filebutton".split()
)
"""Roles that must have a name (§5.4, "Accessible Name Required"), and the host language's controls and frames."""

TABLES: frozenset[str] = frozenset({"table", "grid", "treegrid"})

CELLS: frozenset[str] = frozenset({"cell", "gridcell", "columnheader", "rowheader"})

FIELDS: frozenset[str] = frozenset(
    [
        "textbox",
        "searchbox",
        "checkbox",
        "radio",
        "combobox",
        "listbox",
        "spinbutton",
        "slider",
        "switch",
        "datefield",
        "colorwell",
        "filebutton",
    ]
)
"""Roles of form fields: what a person fills in or chooses from."""

EDITS: frozenset[str] = frozenset({"textbox", "searchbox", "spinbutton", "datefield"})
"""Roles of fields that are typed into."""

LINKS: frozenset[str] = frozenset({"link", "doc-backlink", "doc-biblioref", "doc-glossref", "doc-noteref"})

BUTTONS: frozenset[str] = frozenset({"button", "disclosure"})

POINTED_AT: frozenset[str] = (
    FIELDS
    | LINKS
    | BUTTONS
    | frozenset({"menuitem", "menuitemcheckbox", "menuitemradio", "option", "switch", "tab", "treeitem"})
)
"""Roles of what a pointer presses (WAI-ARIA 1.2 §5.3.2, widgets)."""

PLAIN_ROLES = frozenset({GENERIC, TEXT, "none", "paragraph"})
"""Roles that say nothing of what an element is beside its content."""
