"""Leads for people and machines: text, JSON, SARIF 2.1.0, JUnit XML, CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterator
from dataclasses import asdict
from xml.etree import ElementTree

from murvel.checks.catalogue import Catalogue
from murvel.checks.check import Certainty
from murvel.checks.criteria import BY_NUMBER
from murvel.checks.record import PageResult, Record
from murvel.page.text import visible
from murvel.report.formats import LeadFormat
from murvel.report.sarif import dumped, sarif


def render_leads(results: list[PageResult], form: LeadFormat, catalogue: Catalogue) -> str:
    """Return the leads of pages in a form; every line of it ends with a line feed.

    Args:
        results: what came of each page.
        form: the form.
        catalogue: the checks that may have been run.
    """
    return _FORMS[form](results, catalogue)


def lead_lines(record: Record) -> Iterator[str]:
    """Yield a lead as plain lines, the first of them with its place."""
    place = f"{record.line}:{record.column}" if record.line is not None else "-"
    yield f"{place:>8}  {record.certainty:<10}  {record.says}  [{record.check}]"
    yield f"{'':>10}heard: {record.heard}"
    yield f"{'':>10}so: {record.means}"
    yield f"{'':>10}repair: {record.repair}"
    yield f"{'':>10}then: {'; '.join(record.moves)} -> {record.expected}"
    yield f"{'':>10}WCAG 2.2: {', '.join(BY_NUMBER[number].label for number in record.criteria)}"


def _text(results: list[PageResult], catalogue: Catalogue) -> str:
    lines: list[str] = []
    for result in results:
        if result.failure is not None:
            continue
        fails, ears = result.count(Certainty.FAILS), result.count(Certainty.NEEDS_EARS)
        known = f", {result.known} known" if result.known else ""
        not_judged = "" if result.is_judged else "not judged, scripts make it; before them "
        lines.append(f"{result.page}: {not_judged}{fails} fail, {ears} need ears{known}")
        for record in result.records:
            lines.extend(lead_lines(record))
    return "".join(f"{visible(line)}\n" for line in lines)


def _json(results: list[PageResult], catalogue: Catalogue) -> str:
    pages = [
        {
            "page": result.page,
            "title": result.title,
            "failure": result.failure,
            "is_judged": result.is_judged,
            "problems": [{"kind": each.kind.value, "text": each.text} for each in result.problems],
            "known": result.known,
            "leads": [asdict(record) for record in result.records],
        }
        for result in results
    ]
    return dumped({"format": "murvel-leads", "version": 1, "pages": pages})


def _junit(results: list[PageResult], catalogue: Catalogue) -> str:
    """A suite a page, a test case a lead; what fails is a failure, what needs-ears is skipped, as nobody judged it."""
    root = ElementTree.Element("testsuites", name="murvel")
    for result in results:
        suite = ElementTree.SubElement(
            root,
            "testsuite",
            name=visible(result.page),
            tests=str(len(result.records) + 1),
            failures=str(result.count(Certainty.FAILS)),
            skipped=str(result.count(Certainty.NEEDS_EARS)),
            errors=str(int(result.failure is not None)),
            time=f"{result.seconds:.3f}",
        )
        if result.problems or not result.is_judged:
            properties = ElementTree.SubElement(suite, "properties")
            ElementTree.SubElement(properties, "property", name="judged", value=str(result.is_judged).lower())
            for problem in result.problems:
                ElementTree.SubElement(
                    properties, "property", name=f"problem {problem.kind}", value=visible(problem.text)
                )
        opened = ElementTree.SubElement(suite, "testcase", classname=visible(result.page), name="the page was checked")
        if result.failure is not None:
            ElementTree.SubElement(opened, "error", message=visible(result.failure), type="not checked")
        for record in result.records:
            place = f"line {record.line}" if record.line is not None else record.xpath
            case = ElementTree.SubElement(
                suite, "testcase", classname=visible(result.page), name=visible(f"{record.check}, {place}")
            )
            kind = "failure" if record.certainty is Certainty.FAILS else "skipped"
            about = ElementTree.SubElement(case, kind, message=visible(record.says), type=record.check)
            about.text = visible("\n".join(lead_lines(record)), keep_lines=True)
    ElementTree.indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ElementTree.tostring(root, encoding="unicode") + "\n"


_COLUMNS = (
    "page", "line", "column", "certainty", "check", "topic", "title", "detail", "heard", "means", "repair", "expected",
    "moves", "criteria", "level", "xpath",
)  # fmt: skip


def _csv(results: list[PageResult], catalogue: Catalogue) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_COLUMNS)
    for result in results:
        for record in result.records:
            fields = {**asdict(record), "page": result.page}
            fields["moves"], fields["criteria"] = "; ".join(record.moves), " ".join(record.criteria)
            writer.writerow(cell(fields[name]) for name in _COLUMNS)
    return out.getvalue()


def cell(value: object) -> str:
    """Return a value as a cell that no spreadsheet takes for a formula."""
    text = "" if value is None else visible(str(value))
    return f"'{text}" if text.startswith(("=", "+", "-", "@", "|", "%")) else text


_FORMS: dict[LeadFormat, Callable[[list[PageResult], Catalogue], str]] = {
    LeadFormat.TEXT: _text,
    LeadFormat.JSON: _json,
    LeadFormat.SARIF: sarif,
    LeadFormat.JUNIT: _junit,
    LeadFormat.CSV: _csv,
}
assert _FORMS.keys() == set(LeadFormat), "a form is missing"
