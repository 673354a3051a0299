"""Here: the facts about the node the last announcement was about, with its name trace as a ladder."""

from __future__ import annotations

from rich.console import Group
from rich.text import Text
from textual.reactive import var

from murvel.survey.eyes import eyes_facts
from murvel.text import visible
from murvel.tree.names.explain import node_facts, step_words
from murvel.tree.names.name_sources import NameStep, Outcome
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import NAME_PROHIBITED, NEEDS_NAME
from murvel.tui.widgets.palette import part_styles
from murvel.tui.widgets.panel import TextPanel
from murvel.tui.widgets.wording import HOLE, HOLE_TEXT, facts_table, with_swatches
from murvel.work.work import Work

_RUNGS = {
    Outcome.WON: ("● wins", "strong"),
    Outcome.BEATEN: ("○ beaten", "plain"),
    Outcome.EMPTY: ("○ empty", "plain"),
    Outcome.ABSENT: ("  absent", "faint"),
    Outcome.NOT_ALLOWED: ("× not for", HOLE),
}
_FACT_STYLES = {"description": "description", "value": "value", "state": "state"}
_LABEL_WIDTH = 12


class Here(TextPanel):
    """The facts about one node."""

    moment: var[int] = var(-1, init=False)
    """How often something has happened to the work."""

    def __init__(self, work: Work) -> None:
        super().__init__()
        self.work = work
        self.session = work.session
        self.border_title = "Here"

    def on_mount(self) -> None:
        """Show what there is."""
        self.watch_moment()

    def watch_moment(self) -> None:
        """Show the node the session is at."""
        node = self.session.node
        self.show(Text("Nothing to read.") if node is None else self._facts(node))

    def _facts(self, node: Node) -> Group:
        styles = part_styles(self.app)
        rows: list[tuple[str, Text]] = []

        def fact(label: str, value: str, style: str) -> None:
            rows.append((label, Text.assemble((value, styles[style]))))

        fact("role", node.role, "plain")
        rule = self.session.tree.role_rule(node)
        if rule:
            fact("", visible(rule), "faint")
        if node.name:
            fact("name", visible(node.name), "strong")
            if node.role in NAME_PROHIBITED:
                fact("", "this role is not to be named (WAI-ARIA 1.2 §5.2.8.6)", HOLE)
        elif node.role in NEEDS_NAME:
            fact("name", HOLE_TEXT, HOLE)
        else:
            fact("name", "none, and it needs none", "faint")
        rows.extend(_ladder(self.session.tree.name_trace(node), styles))
        for lead in self.work.leads_at(node):
            fact("lead", visible(f"{lead.certainty}: {lead.says}"), "error" if lead.certainty == "fails" else "mark")
        tree = self.session.tree
        for label, words in node_facts(tree, node):
            fact(label, visible(words), _FACT_STYLES.get(label, "plain"))
        for label, words in eyes_facts(self.session, node.element):
            rows.append((label, with_swatches(visible(words), styles["plain"])))
        fact("source", tree.place_words(node), "plain")
        fact("XPath", visible(tree.xpath_of(node)), "faint")
        snippet = visible(tree.snippet_of(node, 240), keep_lines=True)
        return Group(facts_table(rows, styles["faint"], _LABEL_WIDTH), Text(f"\n{snippet}", styles["role"]))


def _ladder(steps: list[NameStep], styles: dict[str, str]) -> list[tuple[str, Text]]:
    """Return a rung for each source in order of precedence; neighbours that are absent share one."""
    rungs: list[tuple[str, Text]] = []
    absent = False
    for step in steps:
        label, style = _RUNGS[step.outcome]
        if step.outcome is Outcome.ABSENT and absent:
            rungs[-1][1].append(f", {step.source}", styles[style])
            continue
        absent = step.outcome is Outcome.ABSENT
        rungs.append((label, Text(visible(step_words(step)), styles[style])))
    return rungs
