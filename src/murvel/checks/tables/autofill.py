"""The autocomplete attribute (HTML §4.10.18.7.1): its tokens, and what is wrong with a value."""

from __future__ import annotations

_NAMES = frozenset(
    "name honorific-prefix given-name additional-name family-name honorific-suffix nickname username new-password "
    "current-password one-time-code organization-title organization street-address address-line1 address-line2 "
    "address-line3 address-level4 address-level3 address-level2 address-level1 country country-name postal-code "
    "cc-name cc-given-name cc-additional-name cc-family-name cc-number cc-exp cc-exp-month cc-exp-year cc-csc cc-type "
    "transaction-currency transaction-amount language bday bday-day bday-month bday-year sex url photo".split()
)
_CONTACTS = frozenset(
    "tel tel-country-code tel-national tel-area-code tel-local tel-local-prefix tel-local-suffix tel-extension email "
    "impp".split()
)
_ALSO: dict[str, frozenset[str]] = {
    "name": frozenset({"given-name", "family-name", "nickname"}),
    "email": frozenset({"username"}),
    "tel": frozenset({"tel-national", "tel-local"}),
    "username": frozenset({"email", "nickname"}),
    "current-password": frozenset({"new-password"}),
    "street-address": frozenset({"address-line1"}),
    "address-level2": frozenset({"address-level3"}),
    "country-name": frozenset({"country"}),
}
"""What may stand at a field whose label asks for a datum, beside the datum itself."""

_WHERE = frozenset({"home", "work", "mobile", "fax", "pager"})


def problem_of_autocomplete(value: str) -> str | None:
    """Return what is wrong with a value of autocomplete, None if nothing is (HTML §4.10.18.7.2)."""
    tokens = value.lower().split()
    if not tokens:
        return None
    if tokens[0] in ("on", "off"):
        return None if len(tokens) == 1 else f"{tokens[0]} stands alone"
    if tokens[-1] == "webauthn":
        tokens = tokens[:-1]
        if not tokens:
            return None
    field, before = tokens[-1], tokens[:-1]
    if field not in _NAMES | _CONTACTS:
        return f"{field} is no kind of datum"
    if before and before[-1] in _WHERE:
        if field not in _CONTACTS:
            return f"{before[-1]} does not go with {field}"
        before = before[:-1]
    if before and before[-1] in ("shipping", "billing"):
        before = before[:-1]
    if before and before[-1].startswith("section-"):
        before = before[:-1]
    return f"{before[-1]} does not belong there" if before else None


def datum_of(value: str) -> str:
    """Return which datum a value of autocomplete asks for, empty if it names none."""
    tokens = [token for token in value.lower().split() if token != "webauthn"]
    return tokens[-1] if tokens and tokens[-1] not in ("on", "off") else ""


def goes_with(asked: str, given: str) -> bool:
    """Return whether one datum may stand at a field whose label asks for another."""
    return given == asked or given in _ALSO.get(asked, ())
