"""A capture: what a browser made of a page at one moment, as JSON that opens anywhere without a browser.

The format: `{"format": "murvel-capture", "version": 1, "address", "title", "taken", "browser", "width", "height",
"nodes", "styles", "looks", "boxes", "focus", "scroll", "problems", "browser_tree"}`. `nodes` stand in document order,
each with a number of its own: a text is `[number, parent, data]`; an element `[number, parent, tag, namespace,
attributes, style, state]`; a shadow root `[number, host, mode, -1]`. `styles` are the computed values that nodes refer
to (`murvel.page.captured.styles`). Each node is checked as it is read, so a message can name the one that is wrong.
"""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from typing import Any

from murvel.loading.errors import PageError
from murvel.patterns import pattern

FORMAT = "murvel-capture"
VERSION = 1

_BEGINS = pattern(r'\s*\{\s*"format"\s*:\s*"murvel-capture"')


@dataclass(slots=True)
class Capture:
    """What a browser made of a page.

    Attributes:
        address: where the page is at last, after redirects and what its scripts did.
        title: its title then.
        taken: when, in ISO 8601.
        browser: the browser, with its version and how it was set up, in words.
        width, height: the viewport in CSS pixels.
        nodes: the nodes in document order.
        styles: the computed values that nodes refer to by their place.
        looks: what elements look like: the names of properties, lists of values, and which element has which.
        boxes: number, left, top, width and height of each element in CSS pixels, one after the other.
        focus: the number of the element that has the focus, 0 for none.
        scroll: how far the page was scrolled.
        problems: what was noticed, each a kind and a sentence (`murvel.loading.problems`).
        browser_tree: the browser's own accessibility tree, empty if it was not asked for.
    """

    address: str
    title: str = ""
    taken: str = ""
    browser: str = ""
    width: int = 1280
    height: int = 800
    nodes: list[list[Any]] = field(default_factory=list)
    styles: list[list[Any]] = field(default_factory=list)
    looks: dict[str, list[Any]] = field(default_factory=dict)
    boxes: list[float] = field(default_factory=list)
    focus: int = 0
    scroll: list[float] = field(default_factory=lambda: [0, 0])
    problems: list[list[str]] = field(default_factory=list)
    browser_tree: list[dict[str, Any]] = field(default_factory=list)

    def to_json(self) -> str:
        """Return the capture as it is written into a file."""
        told = {name: getattr(self, name) for name in self.__slots__}
        return json.dumps({"format": FORMAT, "version": VERSION, **told}, ensure_ascii=False, separators=(",", ":"))


def is_capture(text: str) -> bool:
    """Whether a text is a capture."""
    return _BEGINS.match(text) is not None


_KINDS: dict[str, type | tuple[type, ...]] = {
    "address": str, "title": str, "taken": str, "browser": str, "width": int, "height": int, "nodes": list,
    "styles": list, "looks": dict, "boxes": list, "focus": int, "scroll": list, "problems": list, "browser_tree": list,
}  # fmt: skip


def read_capture(text: str, address: str) -> Capture:
    """Return the capture that a text holds.

    Args:
        text: the JSON.
        address: the path of the file, for messages.

    Raises:
        PageError: it is damaged, or of a later version; the message says where.
    """
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise PageError(f"{address} is a capture that is damaged ({error})", "capture the page again.") from error
    if data.get("version") != VERSION:
        raise PageError(f"{address} is a capture of version {data.get('version')!r}", "open it with a newer Murvel.")
    for name, kind in _KINDS.items():
        if name in data and (not isinstance(data[name], kind) or isinstance(data[name], bool)):
            raise PageError(f"{address} is a capture whose {name!r} is no {_WORDS[kind]}", "capture the page again.")
    if not isinstance(data.get("address"), str):
        raise PageError(f"{address} is a capture without an address", "capture the page again.")
    return Capture(**{name: data[name] for name in _KINDS if name in data})


_WORDS: dict[Any, str] = {str: "text", int: "whole number", list: "list", dict: "object"}
