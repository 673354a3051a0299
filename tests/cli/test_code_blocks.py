"""Every block of code in the documents is what it says: commands and files that are understood, code that runs."""

import json
import re
import shlex
import tomllib
from collections.abc import Callable
from pathlib import Path
from typing import Any, NamedTuple

import jsonschema
import pytest
import yaml

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.config_file import config_of
from murvel.cli.app import app
from murvel.loading.settings import Found
from murvel.reader.speech.voice_files import read_voice
from murvel.stage.html.cues import read_cues
from murvel.tree.exchange.imported import import_tree
from murvel.tui.registry import ALL_ACTIONS
from murvel.tui.settings import read_keymap
from murvel.walks.parsing import steps_of, walk_of

ROOT = Path(__file__).parent.parent.parent
SCHEMA = json.loads((ROOT / "docs" / "reference" / "tree.schema.json").read_text())


class Block(NamedTuple):
    """A block of code: its document, its language, its text and its number there."""

    document: str
    language: str
    text: str
    number: int


def blocks() -> list[Block]:
    found = []
    for path in (ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").rglob("*.md"))):
        fences = re.findall(r"^```(\w*)\n(.*?)^```$", path.read_text(), re.MULTILINE | re.DOTALL)
        found += [Block(path.name, language, text, at) for at, (language, text) in enumerate(fences, 1)]
    return found


def understood(command: str) -> None:
    """Parse a command as a shell and Murvel do, and run nothing."""
    words = shlex.split(command, comments=True)
    if ">" in words:
        words = words[: words.index(">")]
    group: Any = app
    context = app.make_context("murvel", words[1:])
    while hasattr(group, "commands") or hasattr(group, "get_command"):
        name, group, rest = group.resolve_command(context, [*context._protected_args, *context.args])
        context = group.make_context(name, rest, parent=context)


def commands(block: Block, tmp_path: Path) -> None:
    lines = block.text.splitlines()
    assert lines
    for line in lines:
        if line.startswith("murvel "):
            understood(line)
        else:
            assert re.match(r"(make (demo|test|[a-z]+)\b|pip (install|wheel) )", line), line


def toml(block: Block, tmp_path: Path) -> None:
    table = tomllib.loads(block.text)
    path = tmp_path / "murvel.toml"
    path.write_text(block.text)
    if "keys" in table:
        assert read_keymap(path, ALL_ACTIONS)
    elif "based_on" in table:
        assert read_voice(path).name == table["name"]
    elif "project" in table:
        assert table["project"]["entry-points"]["murvel.checks"]
    else:
        config_of(Found(path, table.get("tool", {}).get("murvel", table)))


def yaml_(block: Block, tmp_path: Path) -> None:
    given = yaml.safe_load(block.text)
    if isinstance(given, list):
        assert steps_of(block.text, built_in())
    elif "cues" in given:
        path = tmp_path / "a.cues.yaml"
        path.write_text(block.text)
        assert read_cues(path)
    elif "steps" in given or "given" in given:
        assert walk_of(block.text, built_in()).steps
    else:
        run = [line for line in re.findall(r"\S.*", block.text) if re.match(r"(- )?(run: )?murvel ", line)]
        assert run
        for line in run:
            understood(line.removeprefix("- ").removeprefix("run: "))


def json_(block: Block, tmp_path: Path) -> None:
    jsonschema.validate(json.loads(block.text), SCHEMA)
    assert import_tree(block.text, "docs.json", 1280).nodes


def python(block: Block, tmp_path: Path) -> None:
    compile(block.text, block.document, "exec")  # tests/checks/test_own.py runs them in their order


KINDS: dict[str, Callable[[Block, Path], None]] = {
    "": commands, "sh": commands, "toml": toml, "yaml": yaml_, "json": json_, "python": python,
}  # fmt: skip


@pytest.mark.parametrize("block", blocks(), ids=lambda each: f"{each.document} {each.number}")
def test_a_block_is_what_it_says(block: Block, tmp_path: Path) -> None:
    KINDS[block.language](block, tmp_path)


@pytest.mark.parametrize("words", ["murvel chekc a.html", "murvel check a.html --formt json", "murvel walk"])
def test_a_command_that_is_wrong_would_be_found(words: str) -> None:
    with pytest.raises(Exception, match=r"(?i)no such|missing"):
        understood(words)
