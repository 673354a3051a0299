"""The markup of a document that a browser holds, as HTML writes it (HTML §13.3), with the place of each start tag.

Browsers keep no source of what scripts made. What is written here is what stands for it: places and snippets of a
captured page are those of this markup.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from html import escape

from murvel.css.values.defaults import DISPLAY
from murvel.dom.document import Element, Text

_VOID = frozenset("area base br col embed hr img input link meta source track wbr".split())
_RAW = frozenset("iframe noembed noframes noscript plaintext script style xmp".split())
"""Elements whose text is written as it is."""

_ON_LINES = frozenset(
    tag for tag, display in DISPLAY.items() if display != "inline-block" and tag not in ("rt", "ruby")
)
"""Elements that begin a line, so that places can be found again in what scripts wrote on one line."""

_KEEPS_SPACE = frozenset({"pre", "textarea"})


def write_markup(
    root: Element,
    more: Callable[[Element], Mapping[str, str]] = lambda _: {},
    starts: dict[Element, int] | None = None,
) -> str:
    """Return the markup of a document.

    Args:
        root: its html element.
        more: returns attributes that an element gets beside its own.
        starts: gets the place of each start tag, in characters.
    """
    written = ["<!DOCTYPE html>\n"]
    size = len(written[0])

    def write(text: str) -> None:
        nonlocal size
        written.append(text)
        size += len(text)

    def is_kept(element: Element) -> bool:
        return any(above.tag in _KEEPS_SPACE for above in element.ancestors())

    stack: list[Element | Text | str] = [root]
    while stack:
        node = stack.pop()
        if isinstance(node, str):
            write(node)
        elif isinstance(node, Text):
            write(node.data if node.parent.tag in _RAW else escape(node.data, quote=False))
        else:
            if node.tag in _ON_LINES and not is_kept(node):
                write("\n")
            if starts is not None:
                starts[node] = size
            every = {**node.attributes, **more(node)}
            attributes = "".join(f' {name}="{escape(value)}"' for name, value in every.items())
            write(f"<{node.tag}{attributes}>")
            if node.tag not in _VOID:
                stack.append(f"</{node.tag}>")
                stack.extend(reversed(node.children))
    return "".join(written)
