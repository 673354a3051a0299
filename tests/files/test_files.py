"""Reading settings and writing files: what is wrong is told, and nothing that stood there is lost."""

import os
from contextlib import suppress
from pathlib import Path

import pytest
from pydantic import BaseModel, ConfigDict, Field

from murvel.errors import MurvelError
from murvel.files.replacing import replacing, write_text
from murvel.files.toml import checked, read_toml


class TrialError(MurvelError):
    """The error of the layer that asks."""


class Inner(BaseModel):
    model_config = ConfigDict(extra="forbid")
    depth: int = 0


class Trial(BaseModel):
    model_config = ConfigDict(extra="forbid", populate_by_name=True)
    width: int = Field(default=1, ge=0)
    fail_on: str = Field(default="", alias="fail-on")
    inner: list[Inner] = []


@pytest.mark.parametrize(
    ("given", "said"),
    [
        ({"widht": 1}, "The trial is not usable: widht is no key; did you mean 'width'?"),
        ({"q": 1}, "The trial is not usable: q is no key; there are: width, fail-on, inner."),
        ({"width": -1}, "The trial is not usable: width: input should be greater than or equal to 0."),
        ({"inner": [{"deep": 1}]}, "The trial is not usable: inner.0.deep is no key."),
        ({"q\x1b[2J": 1}, "The trial is not usable: q[U+001B][2J is no key; there are: width, fail-on, inner."),
        ("text", "The trial is not usable: the table: input should be a valid dictionary or instance of Trial."),
    ],
)
def test_what_is_wrong_with_settings(given: object, said: str) -> None:
    with pytest.raises(TrialError) as caught:
        checked(Trial, given, "The trial", TrialError)
    assert str(caught.value) == said


@pytest.mark.parametrize("content", [b"= 1", b"\xff", b"a = " + b"[" * 5000])
def test_what_is_no_toml(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "t.toml"
    path.write_bytes(content)
    with pytest.raises(TrialError, match="is no TOML"):
        read_toml(path, "trial", TrialError)
    with pytest.raises(TrialError, match=r"cannot be read .*; check the path"):
        read_toml(tmp_path / "gone.toml", "trial", TrialError)


def test_a_failure_leaves_what_was_there(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    write_text("before", path, "text", TrialError)
    with suppress(KeyError), replacing(path, "text", TrialError) as made:
        made.write_text("half")
        raise KeyError
    assert path.read_text() == "before"
    assert os.listdir(tmp_path) == ["a.txt"]


def test_where_nothing_can_be_written(tmp_path: Path) -> None:
    (tmp_path / "folder").mkdir()
    for path in (tmp_path / "gone" / "a.txt", tmp_path / "folder", tmp_path / ("n" * 300)):
        with pytest.raises(TrialError, match=r"The text cannot be written to .*; choose another place"):
            write_text("x", path, "text", TrialError)
    assert os.listdir(tmp_path) == ["folder"]


def test_links_and_permissions_stay(tmp_path: Path) -> None:
    real, link = tmp_path / "real.txt", tmp_path / "link.txt"
    real.write_text("before")
    real.chmod(0o640)
    link.symlink_to(real)
    write_text("\ud800 after", link, "text", TrialError)
    assert link.is_symlink()
    assert real.read_text() == "\\ud800 after"
    assert real.stat().st_mode & 0o777 == 0o640


def test_what_is_no_file_is_written_to(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    reading = os.open(pipe, os.O_RDONLY | os.O_NONBLOCK)
    try:
        write_text("through", pipe, "text", TrialError)
        assert os.read(reading, 100) == b"through"
    finally:
        os.close(reading)
