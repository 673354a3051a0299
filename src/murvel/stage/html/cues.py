"""Cues: scripted changes that stand in for a page's scripts, in a YAML file beside the page.

cues:
  - when: activate            # activate, focus, input, submit, load, or a time such as 3s
    where: "#menu-button[aria-expanded=false]"
    after: 0.2                # seconds; none by default
    do:
      - set: {where: "#menu-button", attribute: aria-expanded, to: "true"}
      - show: "#menu"
      - focus: "#menu a"
"""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any, Literal

import yaml
from pydantic import BaseModel, ConfigDict, Field, field_validator

from murvel.files.reading import checked
from murvel.page.text import visible
from murvel.stage.errors import StageError
from murvel.tree.validated import Clean

SUFFIX = ".cues.yaml"
MAX_BYTES = 1_000_000
MAX_SECONDS = 3600.0

_TIME = re.compile(r"(\d{1,4}(?:\.\d{1,3})?)\s*s")


class _Checked(BaseModel):
    model_config = ConfigDict(extra="forbid")


class SetAttribute(_Checked):
    """Give elements an attribute, or take it off where `to` is null."""

    where: Clean
    attribute: str = Field(pattern=r"^[a-zA-Z_][a-zA-Z0-9_.:-]*$")
    to: Clean | None = ""


class SetText(_Checked):
    """Put text in place of what is in elements."""

    where: Clean
    to: Clean


class Insert(_Checked):
    """Insert markup."""

    where: Clean
    html: Clean
    at: Literal["start", "end", "before", "after"] = "end"


class CueAction(_Checked):
    """One change; exactly one of its keys is given."""

    set: SetAttribute | None = None
    text: SetText | None = None
    insert: Insert | None = None
    remove: Clean | None = None
    show: Clean | None = None
    hide: Clean | None = None
    focus: Clean | None = None
    title: Clean | None = None

    def model_post_init(self, _: Any) -> None:
        """Check that it is one change."""
        if len(self.model_fields_set) != 1:
            raise ValueError("a change is one of: set, text, insert, remove, show, hide, focus, title")


class Cue(_Checked):
    """When something happens somewhere, after a while, do these changes."""

    when: Literal["activate", "focus", "input", "submit", "load"] | float
    where: Clean = ""
    after: float = Field(default=0.0, ge=0.0, le=MAX_SECONDS)
    do: list[CueAction]

    @field_validator("when", mode="before")
    @classmethod
    def _time(cls, value: object) -> object:
        found = _TIME.fullmatch(value) if isinstance(value, str) else None
        return float(found.group(1)) if found else value


class _File(_Checked):
    cues: list[Cue]


class _Loader(yaml.SafeLoader):
    """Reads plain YAML. Aliases are refused: a few lines of them ask for more than any memory holds."""

    def compose_node(self, parent: yaml.Node | None, index: int) -> yaml.Node | None:
        """Read a node that is written out."""
        if self.check_event(yaml.AliasEvent):
            raise yaml.YAMLError("it has an alias; write out what it stands for")
        return super().compose_node(parent, index)


def read_cues(path: Path) -> list[Cue]:
    """Return the cues in a file.

    Raises:
        StageError: it cannot be read or holds no cues; the message names the file, the place and what is wrong.
    """
    name = visible(str(path))
    try:
        if path.stat().st_size > MAX_BYTES:
            raise StageError(f"The cue file {name} is larger than a megabyte", "cues are a page's few scripts.")
        given = yaml.load(path.read_text(encoding="utf-8"), _Loader)
    except OSError as error:
        raise StageError(f"The cue file {name} cannot be read ({error.strerror})", "check the path.") from error
    except (yaml.YAMLError, ValueError, RecursionError, MemoryError) as error:
        reason = visible(" ".join(str(error).split()))[:200]
        raise StageError(f"The cue file {name} is no YAML: {reason}.") from error
    return checked(_File, given if given is not None else {"cues": []}, f"The cue file {name}", StageError).cues


def cues_beside(address: str) -> Path | None:
    """Return the cue file that belongs to a local page, None where there is none."""
    path = Path(address)
    beside = path.with_name(path.stem + SUFFIX)
    return beside if beside.is_file() else None
