"""The readout: the page as it would be read, item by item, each one pause.

An item is made of objects: runs of text, links, controls, images. What stands on one line of text is one item; a
control is always an item of its own. Around items stand containers (landmarks, lists, tables, groups), which are
announced where they are entered, and headings, which are announced with their text.
"""

from __future__ import annotations

from bisect import bisect_left

from murvel.page.text import collapse_runs
from murvel.tree.model import Node, Tree
from murvel.tree.name_sources import NameFrom
from murvel.tree.roles import BUTTONS, CELLS, FIELDS, LANDMARKS, LINKS, PRESENTATIONAL_CHILDREN

WITH_TEXT = LINKS | {"heading"}
"""Containers that are announced with their text, not before it."""

RAIL_ROLES = LANDMARKS | frozenset(
    "alert alertdialog application article blockquote dialog feed figure graphics-document grid group iframe list "
    "listbox log marquee menu menubar note radiogroup status table tablist tabpanel timer toolbar tooltip tree "
    "treegrid".split()
)
"""Containers that are announced, and drawn as a rail beside what they enclose."""

_CONTAINERS = RAIL_ROLES | CELLS | WITH_TEXT | {"listitem"}

# Announced as one object: what is inside is in the name, or is not read in this way.
_CONTROLS = (
    FIELDS
    | BUTTONS
    | frozenset(
        "audio canvas embeddedobject iframe menuitem menuitemcheckbox menuitemradio meter option progressbar scrollbar "
        "separator tab treeitem video".split()
    )
)
# Objects that hold others: controls of their kind, in these; an image the areas of its map.
_BRANCHES = {"treeitem": ("group", "treeitem"), "menuitem": ("menu", "group"), "img": LINKS | BUTTONS}

_INLINE_OBJECTS = frozenset({"img", "math"})

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

# Said even when nothing is inside, so that an empty one is heard.
_NEVER_EMPTY = WITH_TEXT


class Container:
    """Something that encloses items.

    Attributes:
        node: its node.
        outer: the container around it, None at the top.
        depth: how many containers are around it.
        first, last: the items it spans; last is -1 while it has none.
    """

    __slots__ = ("depth", "first", "last", "node", "outer")

    def __init__(self, node: Node, outer: Container | None) -> None:
        self.node = node
        self.outer = outer
        self.depth: int = outer.depth + 1 if outer is not None else 0
        self.first = -1
        self.last = -1

    def chain(self) -> list[Container]:
        """Return the containers around and with it, the outermost first."""
        chain: list[Container] = []
        container: Container | None = self
        while container is not None:
            chain.append(container)
            container = container.outer
        return chain[::-1]


class Object:
    """One thing that is announced: a run of text, a link, a control, an image.

    Attributes:
        index: its number in the readout.
        node: what it stands for.
        container: the innermost container around it.
        item: the item it belongs to.
        text: for text, what this object holds of it: a line, where the text is preformatted.
    """

    __slots__ = ("container", "index", "item", "node", "text")

    def __init__(self, index: int, node: Node, container: Container | None, item: Item, text: str) -> None:
        self.index = index
        self.node = node
        self.container = container
        self.item = item
        self.text = text


class Item:
    """What one pause holds.

    Attributes:
        index: its number in the readout.
        objects: what is announced, in order.
    """

    __slots__ = ("index", "objects")

    def __init__(self, index: int) -> None:
        self.index = index
        self.objects: list[Object] = []

    @property
    def container(self) -> Container | None:
        """The innermost container around its first object."""
        return self.objects[0].container


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
        self._ended = True
        """Whether what comes next begins an item of its own."""
        self._walk()
        self._ids = [each.node.id for each in self.objects]

    def first_object(self, node: Node) -> Object | None:
        """Return the object at which a node is heard first, None where nothing of it is."""
        at = bisect_left(self._ids, node.id)
        if at < len(self._ids) and self._ids[at] < node.end:
            return self.objects[at]
        if node.is_part and at and self.objects[at - 1].node.contains(node):
            return self.objects[at - 1]  # it is heard as a part of that
        return None

    def nearest(self, node: Node) -> Object | None:
        """Return the first object at or after a node, else the last one; None where the readout is empty."""
        if not self.objects:
            return None
        return self.objects[min(bisect_left(self._ids, node.id), len(self.objects) - 1)]

    def _walk(self) -> None:
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
                self._add(node, container, alone=node.role in _CONTROLS)
                if node.role in _BRANCHES:
                    branches = _BRANCHES[node.role]
                    inside = [child for child in node.children if child.role in branches and not child.is_part]
                    stack.extend((child, container) for child in reversed(inside))
                continue
            inner = container
            if node.role in _CONTAINERS and (node.role not in LANDMARKS or node.is_landmark):
                inner = Container(node, container)
                self._ended = self._ended or node.role in CELLS or node.role == "listitem"
                stack.append(inner)
            for child in reversed(node.children):
                stack.append((child, inner))

    def _is_object(self, node: Node) -> bool:
        role = node.role
        if role in _CONTROLS or role in _INLINE_OBJECTS or role in PRESENTATIONAL_CHILDREN:
            return role != "iframe" or not node.children
        if role in LINKS:
            return is_plain_link(self.tree, node)
        return role == "heading" and node.name_from not in (None, NameFrom.CONTENTS)

    def _close(self, container: Container) -> None:
        if container.last >= 0:
            return
        if container.node.role in _NEVER_EMPTY:
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
        while around is not None and around.last != item.index:
            if around.first < 0:
                around.first = item.index
            around.last = item.index
            around = around.outer


def is_plain_link(tree: Tree, link: Node) -> bool:
    """Whether a link is heard as one object: it holds only text and images, or its author named it."""
    if link.name_from not in (None, NameFrom.CONTENTS):
        return True
    return all(tree.nodes[i].role in _PLAIN for i in range(link.id + 1, link.end)) and bool(link.name)
