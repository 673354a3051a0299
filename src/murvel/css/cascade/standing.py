"""The standing of a declaration in the cascade: of two for the same element, the one that stands higher wins."""

from __future__ import annotations

from typing import NamedTuple

from murvel.css.sheets.rules import Rule


class Standing(NamedTuple):
    """Where a declaration stands (CSS Cascade 5 §6.1); standings are compared left to right, the later of equals wins.

    Attributes:
        important: whether it is marked with !important.
        in_attribute: whether it stands in a style attribute, which comes before layers.
        layer: the rank of its layer; among important declarations the earlier layer wins.
        specificity: that of the selector of its rule.
        order: the place of its rule among all.
    """

    important: bool
    in_attribute: bool
    layer: int
    specificity: tuple[int, int, int]
    order: int


def in_rule(rule: Rule, *, important: bool) -> Standing:
    """Return the standing of a declaration of a rule."""
    return Standing(important, False, -rule.layer if important else rule.layer, rule.specificity, rule.order)


def in_attribute(*, important: bool) -> Standing:
    """Return the standing of a declaration of a style attribute."""
    return Standing(important, True, 0, (0, 0, 0), 0)
