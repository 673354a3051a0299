"""Documents that are made from the program say what the program says; links in documents lead somewhere."""

import re
from pathlib import Path

import pytest

from murvel.checks.engine.catalogue import built_in
from murvel.report.check_list import checks_markdown
from tests.cli.support import murvel

ROOT = Path(__file__).parent.parent.parent
DOCUMENTS = [
    ROOT / "README.md",
    ROOT / "CONTRIBUTING.md",
    ROOT / "CHANGELOG.md",
    *sorted((ROOT / "docs").rglob("*.md")),
]


@pytest.mark.parametrize(("name", "command"), [("commands", "man"), ("keys", "keys"), ("checks", "checks")])
def test_references_are_up_to_date(name: str, command: str) -> None:
    document = (ROOT / "docs" / "reference" / f"{name}.md").read_text()
    assert document == murvel(command, "--markdown").stdout
    assert name != "checks" or document == checks_markdown(built_in())


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: path.name)
def test_links_lead_somewhere(document: Path) -> None:
    for target in re.findall(r"\]\(([^)#]+)(?:#[^)]*)?\)", document.read_text()):
        assert target.startswith("http") or (document.parent / target).exists(), target


def test_every_document_is_reached_from_the_readme() -> None:
    reached, todo = set(), [ROOT / "README.md"]
    while todo:
        document = todo.pop()
        if document in reached:
            continue
        reached.add(document)
        for target in re.findall(r"\]\(([^)#]+\.md)(?:#[^)]*)?\)", document.read_text()):
            todo.append((document.parent / target).resolve())
    assert set(DOCUMENTS) <= reached
