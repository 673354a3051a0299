"""Opening a page to be worked: the one way from an address to a tree and what it runs on."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from murvel.page.open import DEFAULT_WIDTH, open_text
from murvel.stage.html.cues import cues_beside, read_cues
from murvel.stage.html.stage import HtmlStage
from murvel.stage.stage import Stage
from murvel.tree.imported import import_tree
from murvel.tree.model import Tree


class Opened(NamedTuple):
    """A tree, and the stage it changes on; None for a tree that came as JSON, which has no page behind it."""

    tree: Tree
    stage: Stage | None


def open_stage(address: str, width: int = DEFAULT_WIDTH, cues: Path | None = None) -> Opened:
    """Return a page on the built-in stage, or a tree that comes as JSON.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        width: the viewport's width in CSS pixels.
        cues: the cue file; by default the one beside the page, if there is one.

    Raises:
        PageError: the page cannot be had.
        StageError: the cue file cannot be used.
    """
    return stage_of(*open_text(address), width, cues)


def stage_of(text: str, address: str, width: int = DEFAULT_WIDTH, cues: Path | None = None) -> Opened:
    """Return what `open_stage` does, for a page that was fetched already.

    Args:
        text: its source.
        address: where it came from at last.
        width, cues: those of `open_stage`.
    """
    if text.lstrip().startswith("{"):
        return Opened(import_tree(text, address, width), None)
    path = cues or cues_beside(address)
    stage = HtmlStage(text, address, width, read_cues(path) if path is not None else [])
    return Opened(stage.tree, stage)
