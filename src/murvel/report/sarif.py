"""Leads as SARIF 2.1.0 (OASIS Standard, 2020)."""

from __future__ import annotations

import hashlib
import json
import re
from importlib.metadata import metadata
from pathlib import Path
from typing import Any
from urllib.parse import quote

from murvel import __version__
from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Certainty, Check
from murvel.checks.engine.record import PageResult, Record
from murvel.checks.tables.criteria import BY_NUMBER
from murvel.loading.addresses import STANDARD_INPUT, is_web_address

_SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"
_LEVELS = {Certainty.FAILS: "error", Certainty.NEEDS_EARS: "warning"}
_BASE = "RUN"
"""The base of relative addresses (§3.14.14): the folder that the run was begun in."""


def dumped(data: dict[str, Any]) -> str:
    """Return data as JSON; only ASCII goes out, so that no character of a page acts on what shows the file."""
    return json.dumps(data, indent=1) + "\n"


def sarif(results: list[PageResult], catalogue: Catalogue) -> str:
    """Return the leads of pages; what could not be checked, and what was not honoured, are notifications (§3.58)."""
    rules = list(catalogue)
    index = {check.id: at for at, check in enumerate(rules)}
    failures = [_notification(result, "error", result.failure) for result in results if result.failure is not None]
    problems = [
        _notification(result, "warning" if each.is_grave else "note", each.text)
        for result in results
        for each in result.problems
    ]
    run = {
        "tool": {"driver": {**_driver(), "rules": [_rule(check) for check in rules]}},
        "columnKind": "unicodeCodePoints",
        "originalUriBaseIds": {_BASE: {"description": {"text": "The folder that murvel check was run in."}}},
        "invocations": [{"executionSuccessful": not failures, "toolExecutionNotifications": failures + problems}],
        "results": [_result(result, record, index[record.check]) for result in results for record in result.records],
    }
    return dumped({"$schema": _SCHEMA, "version": "2.1.0", "runs": [run]})


def _driver() -> dict[str, Any]:
    """The tool (§3.19); its address stands in the metadata of the package, where it has one."""
    addresses = [each.partition(", ")[2] for each in metadata("murvel").get_all("Project-URL") or ()]
    about = {"informationUri": addresses[0]} if addresses else {}
    return {"name": "Murvel", "version": __version__, "semanticVersion": __version__, **about}


def _rule(check: Check) -> dict[str, Any]:
    return {
        "id": check.id,
        "name": "".join(word.capitalize() for word in check.id.split("-")),
        "shortDescription": {"text": check.title},
        "fullDescription": {"text": check.means},
        "help": {"text": f"{check.means} {check.repair}"},
        "helpUri": _understanding(check.criteria[0]),
        "defaultConfiguration": {"level": _LEVELS[check.certainty]},
        "properties": {"tags": [check.topic, *(f"WCAG 2.2 {number}" for number in check.criteria)]},
    }


def _understanding(number: str) -> str:
    """Return the address of what WCAG 2.2 explains of a criterion: its handle in lower case, joined by hyphens."""
    handle = re.sub(r"[^a-z0-9]+", "-", BY_NUMBER[number].name.lower()).strip("-")
    return f"https://www.w3.org/WAI/WCAG22/Understanding/{handle}.html"


def _notification(result: PageResult, level: str, text: str) -> dict[str, Any]:
    place = {"physicalLocation": {"artifactLocation": _artifact(result.page)}}
    return {"level": level, "message": {"text": text}, "locations": [place]}


def _result(result: PageResult, record: Record, index: int) -> dict[str, Any]:
    place: dict[str, Any] = {"artifactLocation": _artifact(result.page)}
    properties = {
        **({"hiddenNow": True} if record.is_hidden_now else {}),
        **({"width": result.width} if result.width is not None else {}),
    }
    if record.line is not None:
        place["region"] = {"startLine": record.line, "startColumn": record.column}
    return {
        "ruleId": record.check,
        "ruleIndex": index,
        "level": _LEVELS[record.certainty],
        "message": {"text": f"{record.says}. Heard: {record.heard.rstrip('.')}. {record.means} {record.repair}"},
        "locations": [
            {"physicalLocation": place, "logicalLocations": [{"fullyQualifiedName": record.xpath, "kind": "element"}]}
        ],
        **({"properties": properties} if properties else {}),
        **({"occurrenceCount": record.times} if record.times > 1 else {}),
        "partialFingerprints": {
            "murvelLead/v2": hashlib.sha256(record.fingerprint.encode("utf-8", "replace")).hexdigest()
        },
    }


def _artifact(page: str) -> dict[str, str]:
    """Where a page is (§3.4): an address, a path from the base, or the whole path as a file: address."""
    if is_web_address(page):
        return {"uri": page}
    if page == STANDARD_INPUT:
        return {"uri": "stdin", "uriBaseId": _BASE}
    path = Path(page)
    if path.is_absolute():
        here = Path.cwd()
        if not path.is_relative_to(here):
            return {"uri": path.as_uri()}
        path = path.relative_to(here)
    return {"uri": quote(path.as_posix().encode("utf-8", "surrogateescape")), "uriBaseId": _BASE}
