"""Every check on examples that fail and that pass.

A file holds a topic. Under a line `# check` stand examples: `fails:` and `ears:` with markup in which the attribute
`lead` marks each element that must be reported, and no other; `passes:` with markup in which nothing may be. Where
nothing is marked, the page as a whole is reported. Cues stand behind `~~~`, in YAML on one line.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.stage import BrowserStage
from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.check import Certainty
from murvel.checks.engine.run import leads_of
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.session import ReadingSession
from murvel.work.sessions import open_session
from tests.support import session_of, staged

FOLDER = Path(__file__).parent / "cases"
VERDICTS = {"fails": Certainty.FAILS, "ears": Certainty.NEEDS_EARS, "passes": None}


@dataclass(frozen=True)
class Example:
    """One example of a check."""

    check: str
    verdict: Certainty | None
    markup: str


def examples() -> Iterator[Example]:
    for path in sorted(FOLDER.glob("*.txt")):
        check = ""
        for line in path.read_text(encoding="utf-8").splitlines():
            if line.startswith("# "):
                check = line[2:].strip()
                assert built_in()[check].topic == path.stem, f"{check} does not belong in {path.name}"
            elif line.strip():
                verdict, _, markup = line.partition(":")
                yield Example(check, VERDICTS[verdict], expanded(markup.strip()))


def expanded(markup: str) -> str:
    """Write out `{N×TEXT}`, a text that stands N times with numbers in place of `#`."""
    while found := re.search(r"\{(\d+)×([^{}]*)\}", markup):
        text = "".join(found.group(2).replace("#", str(number)) for number in range(int(found.group(1))))
        markup = markup[: found.start()] + text + markup[found.end() :]
    return markup.replace("\\n", "\n")


EXAMPLES = list(examples())
COPIED = {"moves-by-itself", "counts-down", "narrow-lacks", "tab-kept", "tab-passes-by"}
"""The checks that ask a copy of the page."""

IN_BROWSER = [each for each in EXAMPLES if built_in()[each.check].needs_browser]


def name(example: Example) -> str:
    return f"{example.check} {example.verdict} {example.markup[:30]}"


@pytest.mark.parametrize("example", [each for each in EXAMPLES if each not in IN_BROWSER], ids=name)
def test_example(example: Example) -> None:
    markup, _, cues = example.markup.partition("~~~")
    expect_leads(example, staged(markup, f"cues: {cues}") if cues else session_of(markup))


@pytest.mark.thorough
@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
@pytest.mark.parametrize("example", IN_BROWSER, ids=name)
def test_example_in_a_browser(example: Example, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    if example.check not in COPIED:
        monkeypatch.setattr(BrowserStage, "_can_copy", False)  # nothing is told by it, and it takes long
    (tmp_path / "page.html").write_text(f"<!DOCTYPE html><html lang=en><title>Beds</title>{example.markup}")
    width = 320 if "<!--320-->" in example.markup else 1280
    session = open_session(str(tmp_path / "page.html"), Setup(width, tmp_path, browser=BrowserSetup()))
    assert session.stage is not None
    session.stage.look()
    expect_leads(example, session)
    session.stage.close()


def expect_leads(example: Example, session: ReadingSession) -> None:
    markup = example.markup.partition("~~~")[0]
    found = leads_of(session, [built_in()[example.check]])
    marked = {element for element in found if "lead" in element.element.attributes}
    if example.verdict is None:
        assert found == []
        return
    assert found, "nothing was noticed"
    assert {lead.certainty for lead in found} == {example.verdict}
    total = markup.count(" lead")
    if total:
        assert (len(marked), len(found)) == (total, total), [lead.says for lead in found]
    else:
        assert [lead.element for lead in found] == [session.tree.document.root]
    for lead in found:
        assert lead.heard
        assert lead.moves
        assert "{" not in lead.expected


def test_every_check_has_examples_that_fail_and_that_pass() -> None:
    seen = {(example.check, example.verdict is None) for example in EXAMPLES}
    missing = [(check.id, passes) for check in built_in() for passes in (False, True) if (check.id, passes) not in seen]
    assert missing == []
