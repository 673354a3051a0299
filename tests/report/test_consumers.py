"""What goes to other programs is read back by programs that others wrote."""

import csv
import subprocess
import sys
from pathlib import Path

import pytest
from junitparser import Failure, JUnitXml

from murvel.checks.engine.catalogue import built_in
from tests.cli.support import murvel
from tests.hostile import random_page
from tests.support import DEMO

pytestmark = pytest.mark.thorough


@pytest.fixture(scope="module")
def pages(tmp_path_factory: pytest.TempPathFactory) -> list[str]:
    """The demo's pages as found, and hostile ones."""
    from random import Random

    folder = tmp_path_factory.mktemp("pages")
    for seed in range(12):
        (folder / f"{seed}.html").write_text(random_page(Random(seed)), errors="replace")
    return [str(DEMO / "found"), str(folder)]


def checked(pages: list[str], path: Path) -> None:
    assert murvel("check", *pages, "--root", "/", "-o", str(path)).returncode in (0, 1, 2)


def test_sarif(pages: list[str], tmp_path: Path) -> None:
    checked(pages, tmp_path / "a.sarif")
    checked(pages, tmp_path / "b.csv")
    command = [sys.executable, "-m", "sarif", "csv", "-o", str(tmp_path / "read.csv"), str(tmp_path / "a.sarif")]
    subprocess.run(command, check=True, capture_output=True)
    read, ours = (list(csv.DictReader(path.open(newline=""))) for path in (tmp_path / "read.csv", tmp_path / "b.csv"))
    assert sorted(row["Code"] for row in read) == sorted(row["check"] for row in ours)
    assert {row["Code"] for row in read} <= {check.id for check in built_in()}
    summary = subprocess.run(
        [sys.executable, "-m", "sarif", "summary", str(tmp_path / "a.sarif")],
        check=True,
        capture_output=True,
        text=True,
    )
    assert f"error: {sum(row['certainty'] == 'fails' for row in ours)}\n" in summary.stdout


def test_junit(pages: list[str], tmp_path: Path) -> None:
    checked(pages, tmp_path / "a.xml")
    checked(pages, tmp_path / "b.csv")
    ours = list(csv.DictReader((tmp_path / "b.csv").open(newline="")))
    suites = list(JUnitXml.fromfile(str(tmp_path / "a.xml")))
    failed = [result for suite in suites for case in suite for result in case.result if isinstance(result, Failure)]
    assert sorted(result.type for result in failed) == sorted(
        row["check"] for row in ours if row["certainty"] == "fails"
    )
    assert all(suite.time > 0 for suite in suites)
