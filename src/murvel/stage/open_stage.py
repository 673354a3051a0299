"""Opening a page to be worked: the one way from an address to a tree and what it runs on."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from murvel.loading.fetch import PageSource, fetch
from murvel.loading.kinds import is_tree
from murvel.loading.setup import DEFAULT_SETUP, DEFAULT_WIDTH, Setup
from murvel.page.captured.capture import is_capture
from murvel.stage.html.stage import HtmlStage
from murvel.stage.stage import Stage
from murvel.tree.model import Tree
from murvel.tree.open_tree import tree_of_capture

if TYPE_CHECKING:
    from murvel.stage.html.cues import Cue

CUES = ".cues.yaml"
"""How the name of the cue file beside a page ends."""


class Opened(NamedTuple):
    """A tree, and the stage it changes on; None for a capture, and for a tree that came as JSON: nothing runs there."""

    tree: Tree
    stage: Stage | None


def open_stage(address: str, setup: Setup = DEFAULT_SETUP, cues: Path | None = None) -> Opened:
    """Return a page on the built-in stage, or a tree that comes as JSON.

    Args:
        address: a path, a folder, "-" or an http(s) address.
        setup: how it is opened.
        cues: the cue file; by default the one beside the page, if there is one.

    Raises:
        PageError: the page cannot be loaded.
        StageError: the cue file cannot be used.
    """
    return stage_of(fetch(address, setup), setup.width, cues)


def stage_of(source: PageSource, width: int = DEFAULT_WIDTH, cues: Path | None = None) -> Opened:
    """Return what `open_stage` does, for a page that was fetched already.

    Args:
        source: the page.
        width: the viewport's width in CSS pixels.
        cues: as in `open_stage`.
    """
    if is_capture(source.text):
        return Opened(tree_of_capture(source), None)
    if is_tree(source.text):
        from murvel.tree.exchange.imported import import_tree  # what checks it takes long to load

        return Opened(import_tree(source.text, source.address, width), None)
    path = cues or cues_beside(source.address)
    stage = HtmlStage(source, width, _cues_in(path) if path is not None else [])
    return Opened(stage.tree, stage)


def cues_beside(address: str) -> Path | None:
    """Return the cue file beside a local page; None if the page has no such file."""
    path = Path(address)
    beside = path.with_name(path.stem + CUES)
    return beside if beside.is_file() else None


def _cues_in(path: Path) -> list[Cue]:
    from murvel.stage.html.cues import read_cues  # few pages have cues, and YAML takes long to load

    return read_cues(path)
