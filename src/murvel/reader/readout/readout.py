"""The readout: the page as it would be read, item by item, each one pause.

An item is made of objects: runs of text, links, controls, images. What stands on one line of text is one item; a
control is always an item of its own. Around items stand containers (landmarks, lists, tables, groups), which are
announced where they are entered, and headings, which are announced with their text.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Iterator, Sequence
from operator import attrgetter
from typing import NamedTuple

from murvel.dom.document import Element, Namespace
from murvel.dom.html.facts import is_editing_host
from murvel.reader.readout.items import WITH_TEXT, Container, Item, Object
from murvel.text import collapse_runs
from murvel.tree.focus import is_focusable
from murvel.tree.following.change import TreeChange
from murvel.tree.model import Tree
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import BUTTONS, CELLS, FIELDS, LANDMARKS, LINKS, PRESENTATIONAL_CHILDREN

RAIL_ROLES = LANDMARKS | frozenset(
    "alert alertdialog application article blockquote canvas dialog embeddedobject feed figure graphics-document grid "
    "group iframe list listbox log marquee menu menubar note radiogroup status table tablist tabpanel timer toolbar "
    "tooltip tree treegrid".split()
)
"""Containers that are announced, and drawn as a rail beside what they enclose."""

MARKS = frozenset({"abbr", "deletion", "insertion", "mark", "subscript", "superscript"})
"""Containers of text within a line, around which something is said."""

_CONTAINERS = RAIL_ROLES | CELLS | WITH_TEXT | MARKS | {"definition", "listitem", "term"}

# Announced as one object: what is inside is in the name, or is not read in this way.
_CONTROLS = (
    FIELDS
    | BUTTONS
    | frozenset(
        "audio embeddedobject iframe menuitem menuitemcheckbox menuitemradio meter option progressbar scrollbar "
        "separator tab treeitem video".split()
    )
)
# Objects that hold others: controls of their kind, in these; an image the areas of its map.
_BRANCHES = {"treeitem": ("group", "treeitem"), "menuitem": ("menu", "group"), "img": LINKS | BUTTONS}

_INLINE_OBJECTS = frozenset({"img", "math"})
_OF_DRAWINGS = frozenset({"graphics-document", "graphics-object", "graphics-symbol", "group"})

# Inside a link these do not keep it from being one object.
_PLAIN = frozenset(
    [
        "text",
        "generic",
        "strong",
        "emphasis",
        "img",
        "code",
        "time",
        "mark",
        "insertion",
        "deletion",
        "subscript",
        "superscript",
        "paragraph",
        "label",
    ]
)

_HEARD_WITH_CONTENT = (_CONTROLS | WITH_TEXT | _INLINE_OBJECTS | PRESENTATIONAL_CHILDREN) - _BRANCHES.keys()
"""What is in these may decide how they are heard as a whole."""

# Said even when nothing is inside, so that an empty one is heard.
_NEVER_EMPTY = WITH_TEXT


class Reread(NamedTuple):
    """What was read again.

    Attributes:
        first: the number of the first item that is another one.
        gone: the items that are heard otherwise now, or are no longer there.
    """

    first: int
    gone: set[Item]


class Readout:
    """All items of a page, in reading order.

    Attributes:
        tree: what is read.
        items: the items.
        objects: the objects of all items.
    """

    def __init__(self, tree: Tree) -> None:
        self.tree = tree
        self.items: list[Item] = []
        self.objects: list[Object] = []
        self._containers: dict[Node, Container] = {}
        self._walk(0, len(tree.nodes), ended=True)
        self._index()

    def first_object(self, node: Node) -> Object | None:
        """Return the object at which a node is heard first, None if nothing of it is."""
        at = bisect_left(self._ids, node.id)
        if at < len(self._ids) and self._ids[at] < node.end:
            return self.objects[at]
        if at and not node.is_text and self.objects[at - 1].node.contains(node):
            return self.objects[at - 1]  # it is heard as a part of that
        return None

    def nearest(self, node: Node) -> Object | None:
        """Return the first object at or after a node, else the last one; None if the readout is empty."""
        if not self.objects:
            return None
        return self.objects[min(bisect_left(self._ids, node.id), len(self.objects) - 1)]

    def last_object(self, node: Node) -> Object | None:
        """Return the object in a node that is heard last, None if nothing in it is."""
        at = bisect_left(self._ids, node.end) - 1
        return self.objects[at] if at >= 0 and self._ids[at] >= node.id else None

    def objects_of(self, element: Element) -> list[Object]:
        """Return the objects that stand for an element or for text directly in it, in reading order."""
        around = next((node for node in map(self.tree.node_of, (element, *element.ancestors())) if node), None)
        if around is None:
            return []
        first, last = bisect_left(self._ids, around.id), bisect_left(self._ids, around.end)
        return [each for each in self.objects[first:last] if each.node.element is element]

    def has(self, each: Object) -> bool:
        """Whether an object is one of this readout, and not of an earlier state of the page."""
        return each.index < len(self.objects) and self.objects[each.index] is each

    # A page that changes

    def follow(self, change: TreeChange) -> Reread:
        """Read a tree that took the place of the one before; items that are heard as before stay the same objects."""
        self.tree = change.new
        if change.regions is None:
            gone = set(self.items)
            self.items, self.objects, self._containers = [], [], {}
            self._walk(0, len(self.tree.nodes), ended=True)
            self._index()
            return Reread(0, gone)
        runs = self._runs(change.regions)
        if not runs:
            return Reread(len(self.items), set())
        first = runs[0][0]
        gone = {item for start, end in runs for item in self.items[start:end]}
        # What is said at an item rests on what is read before it.
        gone |= {self.items[end] for _, end in runs if end < len(self.items)}
        is_numbered = self._replace(runs)
        nodes = self.tree.nodes
        self._containers = {node: each for node, each in self._containers.items() if _is_in(nodes, node)}
        if not is_numbered:
            self._index()
        return Reread(first, gone)

    def _runs(self, regions: Iterable[tuple[int, int]]) -> list[tuple[int, int]]:
        """Return which items are to be made again, as ranges of their numbers."""
        nodes, size = self.tree.nodes, len(self.tree.nodes)
        dropped = [each for each in self.objects if (at := each.node.id) >= size or nodes[at] is not each.node]
        fresh = {each.item.index for each in dropped}
        alive = self.objects
        if dropped:
            without = set(dropped)
            alive = [each for each in alive if each not in without]
        ids = [each.node.id for each in alive]
        for start, end in self._widened(regions):
            at = bisect_left(ids, start)
            fresh.update(each.item.index for each in alive[max(at - 1, 0) : bisect_left(ids, end) + 1])
        _spread_over_texts(self.items, fresh)
        runs: list[tuple[int, int]] = []
        for at in sorted(fresh):
            if runs and runs[-1][1] == at:
                runs[-1] = (runs[-1][0], at + 1)
            else:
                runs.append((at, at + 1))
        return runs if self.items else [(0, 0)]

    def _widened(self, regions: Iterable[tuple[int, int]]) -> Iterator[tuple[int, int]]:
        """Yield regions with what they stand in, where that is heard with its content."""
        nodes = self.tree.nodes
        for start, end in regions:
            node: Node | None = nodes[min(start, len(nodes) - 1)]
            while node is not None:
                if node.role in _HEARD_WITH_CONTENT and node.id <= start:
                    start, end = node.id, max(end, node.end)
                node = node.parent
            yield start, end

    def _replace(self, runs: list[tuple[int, int]]) -> bool:
        """Make the items of ranges again; whether all others keep their numbers, and all that spans them is right."""
        before, objects = self.items, self.objects
        self.items, self.objects = [], []
        copied = 0
        same = True
        for start, end in runs:
            first_object = before[start].objects[0].index if start < len(before) else 0
            copied_objects = before[copied].objects[0].index if copied < len(before) else len(objects)
            self.items += before[copied:start]
            self.objects += objects[copied_objects:first_object]
            last = self.objects[-1] if self.objects else None
            begun, begun_objects = len(self.items), len(self.objects)
            self._walk(
                last.node.id + 1 if last is not None else 0,
                before[end].objects[0].node.id if end < len(before) else len(self.tree.nodes),
                ended=last is None or self._stands_alone(last.node),
            )
            old_objects = (before[end].objects[0].index if end < len(before) else len(objects)) - first_object
            same = same and len(self.items) - begun == end - start and len(self.objects) - begun_objects == old_objects
            copied = end
        if copied < len(before):
            self.items += before[copied:]
            self.objects += objects[before[copied].objects[0].index :]
        if same:
            self._ids = [each.node.id for each in self.objects]
            for start, end in runs:
                self._span_again(start, end)
        return same

    def _span_again(self, start: int, end: int) -> None:
        """Find again what containers span, where some items were made again and none came or went."""
        spans: dict[Container, tuple[int, int]] = {}
        for item in self.items[start:end]:
            for each in item.objects:
                around = each.container
                while around is not None:
                    spans[around] = (spans.get(around, (item.index,))[0], item.index)
                    around = around.outer
        for container, (first, last) in spans.items():
            if container.first < 0 or start <= container.first:
                container.first = first
            if container.last < end:
                container.last = last

    def _index(self) -> None:
        """Number items and objects, and find what containers span."""
        for number, item in enumerate(self.items):
            item.index = number
        for container in self._containers.values():
            container.first = container.last = -1
        for number, each in enumerate(self.objects):
            each.index = number
            at = each.item.index
            around = each.container
            while around is not None and around.last != at:
                if around.first < 0:
                    around.first = at
                around.last = at
                around = around.outer
        self._ids = [each.node.id for each in self.objects]

    # The walk

    def _walk(self, start: int, end: int, *, ended: bool) -> None:
        """Walk through the nodes of a range of ids, and add what is heard there.

        Args:
            start, end: the range; what stands before and after it is there already, or comes later.
            ended: whether what comes first begins an item of its own.
        """
        self._ended = ended
        stack: list[tuple[Node, Container | None] | Container] = [(self.tree.root, None)]
        while stack:
            entry = stack.pop()
            if isinstance(entry, Container):
                self._close(entry)
                continue
            node, container = entry
            if node.is_text:
                self._add_text(node, container)
                continue
            if self._is_object(node):
                if node.id >= start:
                    self._add(node, container, alone=node.role in _CONTROLS)
                if node.role in _BRANCHES:
                    branches = _BRANCHES[node.role]
                    inside = _in_range(node.children, start, end)
                    inside = [child for child in inside if child.role in branches and not child.is_part]
                    stack.extend((child, container) for child in reversed(inside))
                continue
            inner = container
            if _encloses(node):
                inner = self._open(node, container)
                if node.id >= start:
                    self._ended = self._ended or node.role in CELLS or node.role == "listitem"
                    if node.end <= end:
                        stack.append(inner)
            for child in reversed(_in_range(node.children, start, end)):
                stack.append((child, inner))

    def _open(self, node: Node, outer: Container | None) -> Container:
        """Return the container of a node: the one that was there before, so that what stayed in it stays in it."""
        container = self._containers.get(node)
        if container is None:
            container = self._containers[node] = Container(node, outer)
        else:
            container.outer = outer
            container.depth = outer.depth + 1 if outer is not None else 0
        container.is_empty = True
        return container

    def _is_object(self, node: Node) -> bool:
        role = node.role
        if role in ("iframe", "canvas", "embeddedobject"):
            return not node.children and not _is_decoration(node)
        if role in _CONTROLS or role in _INLINE_OBJECTS or role in PRESENTATIONAL_CHILDREN:
            return not _is_decoration(node)
        if role in _OF_DRAWINGS and not node.children and node.name:
            return is_drawn(node)
        if role in LINKS:
            return is_plain_link(self.tree, node)
        return role == "heading" and node.name_from not in (None, NameFrom.CONTENTS)

    def _stands_alone(self, node: Node) -> bool:
        """Whether an object is an item of its own, so that what follows it begins another one."""
        return node.role in _CONTROLS or (node.role in _NEVER_EMPTY and not self._is_object(node))

    def _close(self, container: Container) -> None:
        if container.is_empty and container.node.role in _NEVER_EMPTY:
            self._add(container.node, container.outer, alone=True)
        elif container.is_empty and container.node.role in CELLS:
            self._add(container.node, container, alone=True)
        elif container.is_empty and container.node.element in self.tree.stop_numbers:
            self._add(container.node, container.outer, alone=True)

    def _add_text(self, node: Node, container: Container | None) -> None:
        """Add text; each line of preformatted text is an item."""
        if "\n" not in node.name:
            self._add(node, container, alone=False)
            return
        for number, line in enumerate(node.name.split("\n")):
            if number:
                self._ended = True
            if line.strip():
                self._add(node, container, alone=False, text=collapse_runs(line), goes_on=number > 0)

    def _add(
        self,
        node: Node,
        container: Container | None,
        *,
        alone: bool,
        text: str | None = None,
        goes_on: bool = False,
    ) -> None:
        if alone or self._ended or (node.starts_line and not goes_on) or not self.items:
            self.items.append(Item(len(self.items)))
        self._ended = alone
        item = self.items[-1]
        added = Object(len(self.objects), node, container, item, node.name if text is None else text)
        item.objects.append(added)
        self.objects.append(added)
        around = container
        while around is not None and around.is_empty:
            around.is_empty = False
            around = around.outer


def _encloses(node: Node) -> bool:
    """Whether a node is a container: of a role that is one, or an editable region; a group has something to say."""
    role = node.role
    if role in LANDMARKS:
        return node.is_landmark
    if role in ("canvas", "embeddedobject"):
        return bool(node.name)
    if role == "group":
        is_disabled = node.element.tag == "fieldset" and "disabled" in node.element.attributes
        return bool(node.name or node.description or is_disabled or "roledescription" in node.states)
    return role in _CONTAINERS or ("contenteditable" in node.element.attributes and is_editing_host(node.element))


def _is_decoration(node: Node) -> bool:
    """Whether nothing is heard of a drawing: one without a name, a role of its author's or anything in it."""
    element = node.element
    if element.tag not in ("svg", "canvas") or node.name or "role" in element.attributes:
        return False
    return not node.children and not is_focusable(element)


def _is_in(nodes: list[Node], node: Node) -> bool:
    """Whether a node is one of a tree's nodes."""
    return node.id < len(nodes) and nodes[node.id] is node


def _in_range(children: Sequence[Node], start: int, end: int) -> Sequence[Node]:
    """Return those of a node's children that a range of ids reaches into."""
    if not children or (children[0].id >= start and children[-1].end <= end):
        return children
    first = bisect_right(children, start, key=_end)
    return children[first : bisect_left(children, end, key=_id)]


def _spread_over_texts(items: list[Item], fresh: set[int]) -> None:
    """Let items that are lines of one text be made again together."""
    for step in (1, -1):
        for at in list(fresh):
            beside = at + step
            while 0 <= beside < len(items) and beside not in fresh and _share_a_text(items, min(at, beside)):
                fresh.add(beside)
                at, beside = beside, beside + step


def _share_a_text(items: list[Item], at: int) -> bool:
    return items[at].objects[-1].node is items[at + 1].objects[0].node


_id, _end = attrgetter("id"), attrgetter("end")


def is_plain_link(tree: Tree, link: Node) -> bool:
    """Whether a link is heard as one object: it holds only text and images, or its author named it."""
    if link.name_from not in (None, NameFrom.CONTENTS):
        return True
    inside = (tree.nodes[i] for i in range(link.id + 1, link.end))
    return all(each.role in _PLAIN or is_drawn(each) for each in inside) and bool(link.name)


def is_drawn(node: Node) -> bool:
    """Whether a node is a part of a drawing, or a drawing, which is heard by its name alone."""
    return node.role in _OF_DRAWINGS and node.element.namespace is Namespace.SVG
