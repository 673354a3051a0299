"""Checks that may notice one fault in different forms, as a field without a name and one that its tooltip names."""

from __future__ import annotations

_FAMILIES = tuple(
    frozenset(checks.split())
    for checks in (
        # A name that is missing, or says nothing of what it names
        "control-unnamed link-unnamed field-unnamed frame-unnamed dialog-unnamed group-unnamed meter-unnamed "
        "image-unnamed drawing-unnamed map-area-unnamed media-unnamed heading-empty legend-empty choices-without-group "
        "header-empty name-from-tooltip name-from-placeholder name-is-file name-is-address name-is-symbols "
        "name-says-little image-says-file image-says-image link-vague link-address reference-broken reference-empty "
        "reference-loop link-file-unsaid frame-says-nothing image-meaning-hidden",
        # Another name than the one that is seen
        "label-not-in-name aria-label-replaces-text label-not-tied label-tied-to-two reference-broken reference-empty",
        # What a keyboard cannot reach or work
        "click-not-reached pointer-style-not-reached widget-not-reached handler-without-role native-not-reached "
        "widget-without-keys link-without-target link-does-script scroller-not-reached hover-only shown-by-pointer "
        "stop-not-seen tabindex-positive",
        # Roles and states
        "role-unknown attribute-unknown value-not-allowed property-missing property-not-supported owned-missing "
        "context-missing state-contradicts presentation-with-focus handler-without-role",
        # What is hidden from some and not from others
        "focus-in-hidden link-unnamed control-unnamed stop-not-seen seen-not-heard image-meaning-hidden heading-hidden",
        "heading-level-skipped heading-first-not-1 heading-look-alike heading-hidden heading-empty",
        "table-without-headers header-empty header-not-tied scope-wrong row-header-missing layout-table-heard "
        "table-look-alike columns-by-spaces",
        "error-not-tied reference-broken reference-empty",
        "required-unsaid star-read",
        "autocomplete-missing autocomplete-wrong",
        "title-missing title-vague",
        "language-missing language-unknown language-wrong language-change-unmarked",
        "skip-broken no-way-past skip-never-seen skip-not-first link-place-missing",
        "change-silent region-late live-off-silences region-hidden region-twice-live",
        "text-contrast text-contrast-untold",
        "edge-contrast icon-contrast colours-meet",
        "focus-not-shown focus-faint",
    )
)

ABOUT_WHAT_IS_AROUND = frozenset({"choices-without-group"})
"""Checks that notice at an element what is wrong with the part around it."""

REPAIRED_BY_GOING = frozenset(
    "heading-long heading-over-nothing heading-empty level-1-several main-several landmarks-many landmarks-alike "
    "lists-of-one layout-table-heard tables-nested image-decoration-heard image-repeats-text alert-at-load alerts- "
    "several assertive-overused region-twice-live role-redundant role-unknown group-of-one stop-inside-control "
    "focus-in-hidden presentation-with-focus heard-not-seen said-again-and-again positions-chatty links-same-target "
    "stops-many-in-group name-not-allowed property-not-supported link-is-button button-leads-elsewhere style-adds- "
    "text".split()
)
"""Checks whose faults are repaired where the element has another role, or is not exposed any more."""


def may_be_the_same(one: str, other: str) -> bool:
    """Whether two checks, by their identifiers, may notice one fault in different forms."""
    return any(one in family and other in family for family in _FAMILIES)


def is_about_names(check: str) -> bool:
    """Whether the repair of what a check notices, by its identifier, gives an element another name."""
    return any(check in family for family in _FAMILIES[:2])
