"""The facts of an entry that help to judge it, as labels and values."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterator
from operator import attrgetter

from murvel.checks.engine.facts import Facts
from murvel.reader.speech.timing import clock
from murvel.survey.entry import Entry, Slice
from murvel.survey.eyes import Fact, seen_facts
from murvel.tree.lists import items_of
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import LINKS, TABLES


def facts_of(page: Facts, entry: Entry) -> list[Fact]:
    """Return what helps to judge an entry; facts without a value are left out."""
    node = entry.node
    facts: list[Fact] = list(seen_facts(page.session, entry.slice, entry.element))
    if node is None:
        hidden = page.semantics.hidden(entry.element)
        if hidden is not None:
            facts.append(("hidden by", hidden.why.value))
        facts.append(_tab(page, entry))
    else:
        find = _OF_SLICE.get(entry.slice)
        if find is not None:
            facts.extend(find(page, node))
        facts.extend(_everywhere(page, node, entry))
    return [(label, value) for label, value in facts if value]


def _tab(page: Facts, entry: Entry) -> Fact:
    number = page.tree.stop_numbers.get(entry.element)
    return "Tab", f"stop {number} of {len(page.tree.tab_order)}" if number is not None else ""


def _everywhere(page: Facts, node: Node, entry: Entry) -> Iterator[Fact]:
    yield _tab(page, entry)
    heading = page.heading_over(node) if entry.slice not in (Slice.HEADINGS, Slice.LANGUAGES) else None
    yield "under", heading.name.strip() if heading is not None else ""
    landmark = next((above for above in node.ancestors() if above.is_landmark), None)
    yield "in", f"{landmark.role} {landmark.name}".strip() if landmark is not None else ""
    yield "listening", f"at {clock(entry.time)}" if entry.time is not None else ""
    yield "source", page.tree.place_words(node)


def _name(node: Node) -> Fact:
    return "named by", str(node.name_from) if node.name_from is not None else "nothing"


def _heading(page: Facts, node: Node) -> Iterator[Fact]:
    yield "level", str(node.states.get("level", ""))
    yield _name(node)
    at = bisect_left(page.headings, node.id, key=attrgetter("id"))
    end = page.headings[at + 1].id if at + 1 < len(page.headings) else page.tree.root.end
    words = sum(len(each.name.split()) for each in page.tree.nodes[node.end : end] if each.is_text)
    yield "under it", f"{words} words before the next heading"


def _landmark(page: Facts, node: Node) -> Iterator[Fact]:
    yield "role", node.role
    yield _name(node)
    inside = [each for each in page.readout.objects if node.contains(each.node)]
    if inside:
        items = inside[-1].item.index - inside[0].item.index + 1
        spoken = page.session.spoken
        lasts = spoken.start(inside[-1].item.index + 1) - spoken.start(inside[0].item.index)
        yield "holds", f"{items} items, {lasts:.0f} s of listening"


def _link(page: Facts, node: Node) -> Iterator[Fact]:
    href = node.element.attributes.get("href")
    yield "leads to", page.document.resolve(href) if href is not None else "nowhere"
    yield "opens in", node.element.attributes.get("target", "")
    yield _name(node)
    around = next((above for above in node.ancestors() if above.role in ("paragraph", "listitem", "cell")), None)
    yield "stands in", page.text_within(around)[:120] if around is not None else ""


def _field(page: Facts, node: Node) -> Iterator[Fact]:
    attributes = node.element.attributes
    yield "named by", f"{node.name_from}: {node.name.strip()}" if node.name_from is not None else "nothing"
    yield "required", "yes" if node.states.get("required") is True else "no"
    group = next((above for above in node.ancestors() if above.role in ("group", "radiogroup")), None)
    yield "group", (group.name.strip() or "without a name") if group is not None else ""
    yield "described", f"{node.description} ({node.description_from})" if node.description else ""
    yield "invalid", str(node.states.get("invalid", "")).lower()
    errors = page.semantics.references(node.element, "aria-errormessage")
    yield "error", " ".join(page.words(each) for each in errors)
    yield "value", node.value
    yield "autocomplete", attributes.get("autocomplete", "")
    yield "type", attributes.get("type", "")


def _image(page: Facts, node: Node) -> Iterator[Fact]:
    yield _name(node)
    yield "file", node.element.attributes.get("src", "").rpartition("/")[2][:80]
    outer = next((above for above in node.ancestors() if above.role in LINKS or above.role == "button"), None)
    yield "part of", f"{outer.role} {outer.name}" if outer is not None else ""
    before, after = page.beside(node.element)
    yield "beside it", " … ".join(text[:60] for text in (before, after) if text)


def _table(page: Facts, node: Node) -> Iterator[Fact]:
    grid = page.tree.grid_of(node)
    yield "size", f"{grid.rows} rows, {grid.columns} columns"
    kinds = [cell.role for cell in grid.cells]
    yield "headers", f"{kinds.count('columnheader')} of columns, {kinds.count('rowheader')} of rows"
    yield _name(node)
    yield "inside", "another table" if any(above.role in TABLES for above in node.ancestors()) else ""


def _list(page: Facts, node: Node) -> Iterator[Fact]:
    yield "entries", str(len(items_of(node)))
    depth = sum(above.role == "list" for above in node.ancestors())
    yield "depth", str(depth + 1) if depth else ""
    yield _name(node)


def _region(page: Facts, node: Node) -> Iterator[Fact]:
    for name in ("live", "atomic", "relevant", "busy"):
        yield name, str(node.states.get(name, "")).lower()
    yield "holds", page.text_within(node)[:120] or "nothing now"


def _language(page: Facts, node: Node) -> Iterator[Fact]:
    yield "language", page.tree.language_of(node) or "not stated"


def _frame(page: Facts, node: Node) -> Iterator[Fact]:
    yield "shows", node.element.attributes.get("src", "srcdoc" if "srcdoc" in node.element.attributes else "")
    yield _name(node)


_OF_SLICE: dict[Slice, Callable[[Facts, Node], Iterator[Fact]]] = {
    Slice.HEADINGS: _heading,
    Slice.LANDMARKS: _landmark,
    Slice.LINKS: _link,
    Slice.FIELDS: _field,
    Slice.IMAGES: _image,
    Slice.TABLES: _table,
    Slice.LISTS: _list,
    Slice.LIVE: _region,
    Slice.LANGUAGES: _language,
    Slice.FRAMES: _frame,
}
