"""Corrections: an element's own start tag as it would be right, for checks whose repair is in the tag alone."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from html import escape

from murvel.patterns import pattern


@dataclass(frozen=True, slots=True)
class Correction:
    """What becomes of a start tag.

    Attributes:
        put: attributes that it gets, with their values; what a person has to say stands as "…".
        drop: attributes that it loses.
        tag: another tag, empty for the same.
    """

    put: Mapping[str, str] = field(default_factory=dict)
    drop: tuple[str, ...] = ()
    tag: str = ""


_ALT = Correction({"alt": "what the image tells"})
_NO_ALT = Correction({"alt": ""})
_NAME = Correction({"aria-label": "what it does"})
_STOP = Correction({"tabindex": "0"})
_NO_ROLE = Correction(drop=("role",))
_NO_LIVE = Correction(drop=("aria-live",))
_LANG = Correction({"lang": "en"})
_BUTTON = Correction({"type": "button"}, ("role", "tabindex", "href"), "button")

CORRECTIONS: Mapping[str, Correction] = {
    "control-unnamed": _NAME,
    "meter-unnamed": Correction({"aria-label": "what is measured"}),
    "frame-unnamed": Correction({"title": "what it holds"}),
    "name-not-allowed": Correction(drop=("aria-label", "aria-labelledby")),
    "aria-label-replaces-text": Correction(drop=("aria-label",)),
    "image-unnamed": _ALT,
    "image-says-file": _ALT,
    "image-meaning-hidden": _ALT,
    "map-area-unnamed": Correction({"alt": "where it leads"}),
    "image-repeats-text": _NO_ALT,
    "image-decoration-heard": _NO_ALT,
    "drawing-unnamed": Correction({"role": "img", "aria-label": "what it shows"}),
    "layout-table-heard": Correction({"role": "presentation"}),
    "tabindex-positive": _STOP,
    "widget-not-reached": _STOP,
    "native-not-reached": Correction(drop=("tabindex",)),
    "scroller-not-reached": Correction({"tabindex": "0", "role": "region", "aria-label": "what it holds"}),
    "focus-in-hidden": Correction(drop=("aria-hidden",)),
    "heading-hidden": Correction(drop=("aria-hidden", "role")),
    "click-not-reached": _BUTTON,
    "handler-without-role": _BUTTON,
    "link-does-script": _BUTTON,
    "link-is-button": _BUTTON,
    "button-leads-elsewhere": _NO_ROLE,
    "role-unknown": _NO_ROLE,
    "role-redundant": _NO_ROLE,
    "presentation-with-focus": _NO_ROLE,
    "region-twice-live": _NO_LIVE,
    "live-off-silences": _NO_LIVE,
    "assertive-overused": Correction({"aria-live": "polite"}),
    "required-unsaid": Correction({"required": ""}),
    "media-without-controls": Correction({"controls": ""}),
    "media-starts-alone": Correction(drop=("autoplay",)),
    "language-missing": _LANG,
    "language-unknown": _LANG,
    "language-wrong": _LANG,
}
"""The corrections by the identifiers of checks."""

_TAG = pattern(r"<([a-zA-Z][^\s/>]*)((?:[^\"'>]|\"[^\"]*\"|'[^']*')*)>")
_ATTRIBUTE = r"\s+{}(?:\s*=\s*(?:\"[^\"]*\"|'[^']*'|[^\s\"'>]+))?(?=[\s/>]|$)"
_PLAIN = pattern(r"[^\s\"'=<>`]+")


def corrected(check: str, snippet: str) -> tuple[str, str] | None:
    """Return an element's start tag as it stands and as it would be right; None where no check knows how.

    Args:
        check: the identifier of the check that noticed it.
        snippet: the source from the start tag on.
    """
    correction = CORRECTIONS.get(check)
    found = _TAG.match(snippet)
    if correction is None or found is None:
        return None
    tag, attributes = found[1], found[2]
    for name in (*correction.drop, *correction.put):
        attributes = re.sub(_ATTRIBUTE.format(re.escape(name)), "", attributes, flags=re.IGNORECASE)
    slash = "/" if attributes.endswith("/") else ""
    attributes = attributes.removesuffix("/").rstrip()
    for name, value in correction.put.items():
        attributes += f" {name}" if not value and name != "alt" else f" {name}={_quoted(value)}"
    after = f"<{correction.tag or tag}{attributes}{' ' + slash if slash else ''}>"
    before = found[0]
    return (before, after) if after != before else None


def _quoted(value: str) -> str:
    return value if _PLAIN.fullmatch(value) else f'"{escape(value, quote=True)}"'
