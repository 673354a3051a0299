"""The user agent's style sheet (HTML §15.3, Rendering), for the properties a Style holds."""

from __future__ import annotations

from murvel.dom.document import Element, Namespace
from murvel.dom.html.controls import is_open
from murvel.dom.html.inputs import input_type

_BLOCK = (
    "address article aside blockquote body center dd details dialog dir div dl dt fieldset figcaption figure footer "
    "form frameset h1 h2 h3 h4 h5 h6 header hgroup hr html legend listing main menu nav ol optgroup option p "
    "plaintext pre search section summary ul xmp"
)
_NONE = "base basefont datalist head link meta noembed noframes param rp script style template title source track"
_INLINE_BLOCK = "button input meter progress select textarea"

DISPLAY: dict[str, str] = {
    **dict.fromkeys(_BLOCK.split(), "block"),
    **dict.fromkeys(_NONE.split(), "none"),
    **dict.fromkeys(_INLINE_BLOCK.split(), "inline-block"),
    "li": "list-item",
    "table": "table",
    "caption": "table-caption",
    "colgroup": "table-column-group",
    "col": "table-column",
    "thead": "table-header-group",
    "tbody": "table-row-group",
    "tfoot": "table-footer-group",
    "tr": "table-row",
    "td": "table-cell",
    "th": "table-cell",
    "slot": "contents",
    "rt": "ruby-text",
    "ruby": "ruby",
}
"""`display` of HTML elements by tag; anything else is inline."""

REPLACED = frozenset("audio br canvas embed iframe img input meter object progress select textarea video wbr".split())
"""Elements whose boxes do not come from their content alone: `display: contents` leaves nothing of them."""

SVG_NONE = frozenset(
    {
        "clipPath",
        "defs",
        "linearGradient",
        "marker",
        "mask",
        "metadata",
        "pattern",
        "radialGradient",
        "symbol",
    }
)
"""SVG elements that are never rendered themselves (SVG 2 §5, UA style sheet)."""

_MATHML_NONE = frozenset({"annotation", "annotation-xml"})
"""What says a formula in another notation (MathML Core §3.5.2)."""

WHITE_SPACE: dict[str, str] = {
    "pre": "pre", "listing": "pre", "xmp": "pre", "plaintext": "pre", "textarea": "pre-wrap",
}  # fmt: skip
"""`white-space` of HTML elements that keep theirs."""


def default_display(element: Element) -> str:
    """Return the `display` an element has without author styles."""
    tag, attributes = element.tag, element.attributes
    if element.namespace is not Namespace.HTML:
        return "none" if tag in SVG_NONE or tag in _MATHML_NONE else "inline"
    if attributes:
        if "hidden" in attributes and attributes["hidden"].lower() != "until-found" and tag != "embed":
            return "none"
        if tag == "input" and input_type(element) == "hidden":
            return "none"
        if tag == "dialog" and not is_open(element):
            return "none"
        if "popover" in attributes and not element.state.is_showing:
            return "none"
    elif tag == "dialog":
        return "none"
    return DISPLAY.get(tag, "inline")
