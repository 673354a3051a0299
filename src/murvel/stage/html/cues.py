"""Cues: scripted changes that stand in for a page's scripts, in a YAML file beside the page.

cues:
  - when: activate            # activate, focus, leave, input, submit, load, or a time such as 3s
    where: "#menu-button[aria-expanded=false]"
    after: 0.2                # seconds; none by default
    do:
      - set: {where: "#menu-button", attribute: aria-expanded, to: "true"}
      - show: "#menu"
      - focus: "#menu a"
"""

from __future__ import annotations

from pathlib import Path
from typing import Any, Literal

import yaml
from pydantic import BaseModel, ConfigDict, Field, field_validator

from murvel.files.toml import checked
from murvel.patterns import pattern
from murvel.stage.errors import StageError
from murvel.text import visible
from murvel.tree.exchange.validated import Clean

MAX_BYTES = 1_000_000
MAX_SECONDS = 3600.0

_TIME = pattern(r"(\d{1,4}(?:\.\d{1,3})?)\s*s")


_CLASS = r"^[^\s]+$"


class _Checked(BaseModel):
    model_config = ConfigDict(extra="forbid")


class SetAttribute(_Checked):
    """Give elements an attribute, or take it off where `to` is null."""

    where: Clean
    attribute: str = Field(pattern=r"^[a-zA-Z_][a-zA-Z0-9_.:-]*$")
    to: Clean | None = ""


class SetClass(_Checked):
    """Give elements a class, or take one off."""

    where: Clean
    add: str | None = Field(default=None, pattern=_CLASS)
    remove: str | None = Field(default=None, pattern=_CLASS)

    def model_post_init(self, _: Any) -> None:
        """Check that it does one of both."""
        if (self.add is None) is (self.remove is None):
            raise ValueError("a class is either added or removed")


class SetStyle(_Checked):
    """Set a property in the style attribute of elements, or take it out where `to` is null."""

    where: Clean
    property: str = Field(pattern=r"^-{0,2}[a-zA-Z_][a-zA-Z0-9_-]*$")
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
    change_class: SetClass | None = Field(default=None, alias="class")
    style: SetStyle | None = None
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
            raise ValueError(f"a change is one of: {', '.join(_CHANGES)}")


_CHANGES = [field.alias or name for name, field in CueAction.model_fields.items()]


class Cue(_Checked):
    """When something happens somewhere, after a while, do these changes."""

    when: Literal["activate", "focus", "leave", "input", "submit", "load"] | float
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

    def construct_object(self, node: yaml.Node, deep: bool = False) -> Any:
        """Make what a node stands for; whatever goes wrong with one that says what it is, is an error of YAML."""
        try:
            return super().construct_object(node, deep)
        except yaml.YAMLError:
            raise
        except Exception as error:
            problem = f"{node.value!r} is no {node.tag.rpartition(':')[2]}"
            raise yaml.constructor.ConstructorError(None, None, problem, node.start_mark) from error


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
