"""What each command may load: a command that reads a page aloud should not wait for a database."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

HEAVY = frozenset(
    "asyncio yaml sqlalchemy jinja2 rich textual httpx coloraide matplotlib playwright PIL babel html5lib regex".split()
) | {"murvel.checks.topics", "murvel.survey.survey", "murvel.casebook.store", "murvel.stage.html.stage"}
"""What takes long to load."""

_RUN = """
import json, sys
from murvel.cli.main import run
try:
    run(sys.argv[2:])
except SystemExit:
    pass
with open(sys.argv[1], "w") as told:
    json.dump(sorted(sys.modules), told)
"""


@pytest.mark.parametrize(
    ("command", "may"),
    [
        (["--version"], set()),
        (["--help"], set()),
        (["read", "PAGE"], set()),
        (
            ["read", "PAGE", "--list", "headings", "--format", "json"],
            {"coloraide", "regex", "murvel.checks.topics", "murvel.survey.survey"},
        ),
        (["tree", "PAGE"], set()),
        (["tree", "PAGE", "--format", "json"], set()),
        (["explain", "PAGE", "p"], set()),
        (["contrast", "#fff", "#777"], {"coloraide"}),
    ],
    ids=lambda each: " ".join(each) if isinstance(each, list) else "",
)
def test_what_a_command_loads(command: list[str], may: set[str], tmp_path: Path) -> None:
    page = tmp_path / "p.html"
    page.write_text("<html lang=en><title>T</title><p>a")
    told = tmp_path / "told.json"
    arguments = [str(page) if each == "PAGE" else each for each in command]
    subprocess.run([sys.executable, "-c", _RUN, str(told), *arguments], capture_output=True, check=True)
    assert HEAVY.intersection(json.loads(told.read_text())) <= may
