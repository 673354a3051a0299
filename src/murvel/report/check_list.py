"""The checks themselves as lines, and as the Markdown of docs/reference/checks.md."""

from __future__ import annotations

from collections.abc import Iterator

from murvel.checks.engine.catalogue import Catalogue
from murvel.checks.engine.check import Check
from murvel.checks.tables.criteria import BY_NUMBER


def check_lines(catalogue: Catalogue) -> Iterator[str]:
    """Yield a line for each check, under the name of its topic."""
    for topic in catalogue.topics:
        yield topic
        for check in catalogue.of_topic(topic):
            yield f"  {check.id:<28}{check.certainty:<12}{' '.join(check.criteria):<20}{_title(check)}"


def one_check_lines(check: Check) -> Iterator[str]:
    """Yield all there is to know of a check."""
    yield f"{check.id}: {check.title}"
    yield f"certainty: {check.certainty}, if the lead does not say otherwise"
    yield f"WCAG 2.2: {', '.join(BY_NUMBER[number].label for number in check.criteria)}"
    yield f"so: {check.means}"
    yield f"repair: {check.repair}"
    yield f"then heard: {_filled(check.expect)}"
    yield f"looks at: {check.looks_at}"
    if check.needs_browser:
        yield "needs a browser: murvel check --browser"


def _title(check: Check) -> str:
    return f"{check.title} (needs a browser)" if check.needs_browser else check.title


def _filled(expect: str) -> str:
    """Return what should be heard in general: the name and role of the place are not known here."""
    return expect.replace("{name}", "its name").replace("{role}", "its role")


def checks_markdown(catalogue: Catalogue) -> str:
    """Return the document about all checks."""
    lines = [
        "# Checks",
        "",
        "Made by `murvel checks --markdown`; a test keeps the two alike. `fails` means that a standard says so,",
        "`needs-ears` that a person has to listen and judge; a single lead may be less or more sure than its check.",
    ]
    for topic in catalogue.topics:
        lines += ["", f"## {topic.capitalize()}", ""]
        lines += ["| check | what is wrong | sure | WCAG 2.2 | what a listener cannot know or do | repair |"]
        lines += ["| --- | --- | --- | --- | --- | --- |"]
        for check in catalogue.of_topic(topic):
            criteria = ", ".join(check.criteria)
            cells = (f"`{check.id}`", _title(check), check.certainty, criteria, check.means, check.repair)
            lines.append("| " + " | ".join(_escaped(each) for each in cells) + " |")
    return "\n".join(lines) + "\n"


def _escaped(text: str) -> str:
    return text.replace("|", "\\|").replace("<", "&lt;").replace("*", "\\*")
