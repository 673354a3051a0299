"""What came of walks: text, JSON, JUnit XML."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any
from xml.etree import ElementTree

from murvel.report.formats import WalkFormat
from murvel.report.sarif import dumped
from murvel.text import visible
from murvel.walks.judging import Unmet
from murvel.walks.replay import Made
from murvel.walks.result import WalkResult


def render_walks(results: list[WalkResult], form: WalkFormat) -> str:
    """Return what came of walks in one of the forms."""
    return _FORMS[form](results)


def unmet_lines(number: int, made: Made, unmet: Unmet) -> Iterator[str]:
    """Yield in lines what is not so at a step."""
    yield f"step {number}, line {unmet.expectation.line or made.step.line}: {visible(made.step.move or 'expect')}"
    yield f"  expected  {visible(unmet.expectation.words)}"
    yield f"  instead   {visible(unmet.instead)}"
    if unmet.nearest:
        yield f"  nearest   {visible(unmet.nearest)}"
    if unmet.there:
        yield f"  there is  {visible(', '.join(unmet.there))}"


def _text(results: list[WalkResult]) -> str:
    lines: list[str] = []
    for result in results:
        state = "as expected" if result.is_met else "not as expected"
        title = f" ({visible(result.title)})" if result.title else ""
        words = f"{len(result.made)} steps, {state}" if result.failure is None else visible(result.failure)
        says_where = result.failure is not None and words.startswith(visible(result.name))
        lines.append(words if says_where else f"{visible(result.name)}{title}: {words}")
        for at, each in enumerate(result.unmet()):
            lines += [] if at else ["  They part here:"]
            lines += [f"  {line}" for line in unmet_lines(*each)]
        lines += map(visible, result.difference.splitlines())
    met = sum(result.is_met for result in results)
    lines.append(f"{met} of {len(results)} walks as expected")
    return "".join(f"{line}\n" for line in lines)


def _json(results: list[WalkResult]) -> str:
    return dumped({"format": "murvel-walks", "version": 1, "walks": [_data(result) for result in results]})


def _data(result: WalkResult) -> dict[str, Any]:
    return {
        "file": result.name,
        "title": result.title,
        "is_met": result.is_met,
        "failure": result.failure,
        "seconds": round(result.seconds, 3),
        "steps": [_step_data(made) for made in result.made],
    }


def _step_data(made: Made) -> dict[str, Any]:
    unmet = [
        {
            "expected": each.expectation.words,
            "line": each.expectation.line,
            "instead": each.instead,
            "nearest": each.nearest,
            "there": list(each.there),
        }
        for each in made.unmet
    ]
    return {"move": made.step.move, "line": made.step.line, "heard": list(made.heard), "unmet": unmet}


def _junit(results: list[WalkResult]) -> str:
    """One suite, with a test case a walk."""
    errors = sum(result.failure is not None for result in results)
    failures = sum(not result.is_met for result in results) - errors
    root = ElementTree.Element("testsuites", name="murvel walks")
    counts = {"name": "walks", "tests": str(len(results)), "failures": str(failures), "errors": str(errors)}
    suite = ElementTree.SubElement(root, "testsuite", counts)
    for result in results:
        about = {"name": visible(result.title or result.name), "classname": visible(result.name)}
        case = ElementTree.SubElement(suite, "testcase", {**about, "time": f"{result.seconds:.3f}"})
        if result.failure is not None:
            ElementTree.SubElement(case, "error", message=visible(result.failure))
        lines = [line for each in result.unmet() for line in unmet_lines(*each)]
        if lines:
            ElementTree.SubElement(case, "failure", message=lines[0]).text = "\n".join(lines)
    ElementTree.indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ElementTree.tostring(root, encoding="unicode") + "\n"


_FORMS: Mapping[WalkFormat, Callable[[list[WalkResult]], str]] = {
    WalkFormat.TEXT: _text,
    WalkFormat.JSON: _json,
    WalkFormat.JUNIT: _junit,
}
