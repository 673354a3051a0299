"""Leads for people and machines: text, JSON, SARIF 2.1.0, JUnit XML, CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterator
from dataclasses import asdict
from typing import Any
from xml.etree import ElementTree

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Certainty
from murvel.checks.engine.record import PageResult, Record
from murvel.checks.engine.summary import by_topic, same_faults, summarised
from murvel.checks.tables.criteria import BY_NUMBER
from murvel.report.formats import LeadFormat
from murvel.report.sarif import dumped, sarif
from murvel.text import counted, visible


def render_leads(
    results: list[PageResult], form: LeadFormat, catalogue: Catalogue, *, only_summary: bool = False
) -> str:
    """Return the leads of pages in a form; every line of it ends with a line feed.

    Args:
        results: what came of each page.
        form: the form.
        catalogue: the checks that may have been run.
        only_summary: whether each fault stands once, with how often it was noticed.
    """
    if only_summary and form is LeadFormat.TEXT:
        return "".join(f"{visible(line)}\n" for line in summary_lines(results))
    results = summarised(results) if only_summary else results
    return _FORMS[form](results, catalogue)


def lead_lines(record: Record) -> Iterator[str]:
    """Yield a lead as plain lines, the first of them with its place."""
    place = f"{record.line}:{record.column}" if record.line is not None else "-"
    yield f"{place:>8}  {record.certainty:<10}  {record.says}  [{record.check}]"
    if record.line_above is not None:
        yield f"{'':>10}made or changed by a script, under line {record.line_above}"
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
        lines.append(f"{result.name}: {not_judged}{fails} fail, {ears} need ears{known}")
        for record in result.records:
            lines.extend(lead_lines(record))
    if len(results) > 1:
        lines.extend(["", *summary_lines(results)])
    return "".join(f"{visible(line)}\n" for line in lines)


def summary_lines(results: list[PageResult]) -> Iterator[str]:
    """Yield what many pages have in common: a table by topic, and each fault that stands on several pages."""
    checked = [result for result in results if result.failure is None]
    topics = by_topic(checked)
    yield f"{counted(len(checked), 'page', 'pages')} checked, {len(results) - len(checked)} not"
    yield f"{'topic':<12}{'fail':>8}{'need ears':>12}{'pages':>8}"
    for each in topics:
        yield f"{each.topic:<12}{each.fails:>8}{each.ears:>12}{each.pages:>8}"
    yield f"{'in all':<12}{sum(each.fails for each in topics):>8}{sum(each.ears for each in topics):>12}"
    common = [same for same in same_faults(checked) if len(same.pages) > 1]
    if common:
        yield "the same on several pages:"
    for same in common:
        record = same.record
        place = f", line {record.line}" if record.line is not None else ""
        often = f"{same.times:>6} on {counted(len(same.pages), 'page', 'pages')}"
        yield f"{often}: {record.certainty} {record.title} [{record.check}]"
        yield f"{'':>10}first: {same.page}{place}: heard: {record.heard}"


def _json(results: list[PageResult], catalogue: Catalogue) -> str:
    pages = [
        {
            "page": result.page,
            **({"width": result.width} if result.width is not None else {}),
            "title": result.title,
            "failure": result.failure,
            "is_judged": result.is_judged,
            "problems": [{"kind": each.kind.value, "text": each.text} for each in result.problems],
            "known": result.known,
            "leads": [asdict(record) for record in result.records],
        }
        for result in results
    ]
    return dumped({"format": "murvel-leads", "version": 1, "pages": pages, "summary": _summary(results)})


def _summary(results: list[PageResult]) -> dict[str, Any]:
    return {
        "topics": [asdict(each) for each in by_topic(results)],
        "same": [
            {"check": same.record.check, "certainty": same.record.certainty, "title": same.record.title,
             "times": same.times, "pages": list(same.pages), "line": same.record.line, "xpath": same.record.xpath}
            for same in same_faults(results)
            if len(same.pages) > 1
        ],
    }  # fmt: skip


def _junit(results: list[PageResult], catalogue: Catalogue) -> str:
    """A suite a page, a test case a lead; what fails is a failure, what needs-ears is skipped, as nobody judged it."""
    root = ElementTree.Element("testsuites", name="murvel")
    for result in results:
        suite = ElementTree.SubElement(
            root,
            "testsuite",
            name=visible(result.name),
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
        opened = ElementTree.SubElement(suite, "testcase", classname=visible(result.name), name="the page was checked")
        if result.failure is not None:
            ElementTree.SubElement(opened, "error", message=visible(result.failure), type="not checked")
        for record in result.records:
            place = f"line {record.line}" if record.line is not None else record.xpath
            case = ElementTree.SubElement(
                suite,
                "testcase",
                classname=visible(result.name),
                name=visible(f"{record.check}, {place}{_often(record)}"),
            )
            kind = "failure" if record.certainty is Certainty.FAILS else "skipped"
            about = ElementTree.SubElement(case, kind, message=visible(record.says), type=record.check)
            about.text = visible("\n".join(lead_lines(record)), keep_lines=True)
    ElementTree.indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ElementTree.tostring(root, encoding="unicode") + "\n"


def _often(record: Record) -> str:
    return f", {record.times} times on {record.on_pages} pages" if record.times > 1 else ""


_COLUMNS = (
    "page", "line", "column", "certainty", "check", "topic", "title", "detail", "heard", "means", "repair", "expected",
    "moves", "criteria", "level", "xpath", "is_hidden_now", "times", "on_pages",
)  # fmt: skip


def _csv(results: list[PageResult], catalogue: Catalogue) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_COLUMNS)
    for result in results:
        for record in result.records:
            fields = {**asdict(record), "page": result.name}
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
