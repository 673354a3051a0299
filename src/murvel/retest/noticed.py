"""What checks notice on the pages of a re-test."""

from __future__ import annotations

from murvel.checks.engine.check import Check
from murvel.checks.engine.facts import Facts
from murvel.checks.engine.lead import Lead
from murvel.checks.engine.run import as_problem, leads_by_check
from murvel.dom.document import Element
from murvel.tree.roles.aria_roles import ROLES, Naming


class Noticed:
    """The leads of checks; each check is run once on a page."""

    def __init__(self) -> None:
        self._leads: dict[tuple[str, Facts], list[Lead]] = {}

    def of(self, check: Check, page: Facts) -> list[Lead]:
        """Return what a check notices on a page."""
        key = check.id, page
        if key not in self._leads:
            self._leads[key] = [lead for leads in leads_by_check(page, [check], as_problem(page)) for lead in leads]
        return self._leads[key]

    def on(self, check: Check, page: Facts, element: Element) -> list[Lead]:
        """Return what a check notices on an element, and on what it is named by where that is its content."""
        node = page.tree.node_of(element)
        is_named_by_content = node is not None and ROLES[node.role].naming is Naming.CONTENT
        return [
            lead
            for lead in self.of(check, page)
            if lead.element is element or (is_named_by_content and element.contains(lead.element))
        ]

    def around(self, check: Check, page: Facts, element: Element) -> list[Lead]:
        """Return what a check notices on an element, and on those that it stands in."""
        return [lead for lead in self.of(check, page) if lead.element is element or lead.element.contains(element)]
