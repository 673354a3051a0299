"""HTML in, Document out. The parser is Lexbor."""

from __future__ import annotations

from functools import partial

from murvel.css.parsed import Parsed
from murvel.css.selectors.engine import Subtree
from murvel.dom.document import Document, Element, Text, number
from murvel.dom.elements import TEXT, Builder, parsed
from murvel.dom.formatting import left_open
from murvel.dom.html.exclusive import closed_by_others, settle_radios
from murvel.dom.shadow import assign_slots, host_of
from murvel.dom.source_text import SourceText
from murvel.dom.starts import starts_of
from murvel.dom.summaries import give_summaries
from murvel.loading.errors import PageError
from murvel.loading.fetch import PageSource
from murvel.loading.setup import DEFAULT_WIDTH
from murvel.page.objects import falls_back

_MOST_REOPENED = 200_000
"""How many elements formatting tags that are left open may make beside those that have a tag."""

_MOST_STEPS = 40
"""How often a page is measured before it is parsed as a whole."""

_MAX_SHADOWS = 20
"""How many shadow trees may stand in each other."""


def parse(source: PageSource, width: int = DEFAULT_WIDTH) -> Parsed:
    """Parse HTML as a browser with scripts off does.

    Args:
        source: the page.
        width: the viewport's width in CSS pixels, for style sheets applied later.

    Raises:
        PageError: the parser gave no document.
    """
    # U+0000 is dropped or replaced by the tokenizer; a lone surrogate cannot be encoded for it.
    text = source.text
    encodable = text.encode("utf-8", "replace").decode("utf-8") if _has_surrogate(text) else text
    formatting = left_open(encodable, _MOST_REOPENED // 2)
    _check_size(encodable, formatting.steps)
    builder = Builder()
    parser = parsed(encodable)
    part = Subtree(builder.page(parser), builder.ids, parser, builder.by_memory, builder.declared)
    document = Document(source.address, part.root, SourceText(text), part.ids, width, resources=source.resources)
    document.falls_back = partial(falls_back, document)
    parts = [part, *_shadow_parts(document, part)]
    made = [(each.root, list(each.elements())) for each in parts]
    document.find_starts = lambda: starts_of(encodable, made, formatting.often)
    for each in parts:
        each.document = document
        give_summaries(document, each.elements())
        settle_radios(document, each.elements())
        for details in closed_by_others(each.elements()):
            del details.attributes["open"]
            del each.node(details).attrs["open"]
    return Parsed(document, parts)


def _check_size(text: str, steps: list[int]) -> None:
    """Refuse a page that formatting tags make too large before the parser has made all of it."""
    if len(steps) > _MOST_STEPS or any(_reopened(text[:place]) > _MOST_REOPENED for place in steps):
        raise PageError(
            f"Formatting tags that are left open make more than {_MOST_REOPENED:,} elements of the page", "close them."
        )


def _reopened(text: str) -> int:
    return len(parsed(text).css("*")) - text.count("<")


def children_again(page: Parsed, parent: Element) -> list[Element]:
    """Make an element's children again after the parser's nodes under it were changed, and return those that are new.

    What was there before stays the same object; new elements have no place in the source.
    """
    part = page.parts[0]
    builder = Builder()
    node = part.node(parent).first_child
    children: list[Element | Text] = []
    added: list[Element] = []
    while node is not None:
        tag = node.tag
        if tag == TEXT:
            children.append(Text(node.text_content or "", parent, -1))
        elif tag is not None and tag[0] != "-":
            element = part.by_memory.get(node.mem_id)
            if element is None:
                element = builder.element(node, parent)
                builder.fill(element, node.first_child)
                added.append(element)
                for each in (node, *node.css("*")):
                    part.add(each, builder.by_memory[each.mem_id])
            children.append(element)
        node = node.next
    parent.children = children
    return added


def _shadow_parts(document: Document, page: Subtree) -> list[Subtree]:
    """Give the hosts of a page the shadow trees declared for them (HTML §13.2.6.4.4, template start tag)."""
    parts: list[Subtree] = []
    waiting = [(page, template, content, 1) for template, content in page.declared]
    for around, template, content, depth in waiting:  # grows while it is gone through
        if host_of(template) is None:
            continue
        builder = Builder()
        fragment = builder.shadow(template, content)
        part = Subtree(template, builder.ids, fragment, builder.by_memory, builder.declared, around)
        parts.append(part)
        document.scopes[template] = part.ids
        if depth < _MAX_SHADOWS:
            waiting += [(part, inner, markup, depth + 1) for inner, markup in part.declared]
    if parts:
        number(document.root)
        assign_slots(document, [part.root for part in parts])
    return parts


def _has_surrogate(text: str) -> bool:
    try:
        text.encode("utf-8")
    except UnicodeEncodeError:
        return True
    return False
