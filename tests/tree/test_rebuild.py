"""A tree that follows its document is the tree that would be built again, and so is what is read of it."""

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from murvel.css.cascade.cascade import Cascade
from murvel.dom.document import Element
from murvel.loading.fetch import PageSource
from murvel.page.live_document import LiveDocument
from murvel.page.styled_document import StyledDocument
from murvel.reader.readout.readout import Readout
from murvel.reader.readout.spoken import Spoken
from murvel.reader.speech.voice import NAME_FIRST
from murvel.tree.build import build_tree
from murvel.tree.following.change import TreeChange
from murvel.tree.following.rebuild import LiveTree
from murvel.tree.model import Tree

PIECES = [
    "<p>some <b>words</b> here</p>",
    "<li>an item</li>",
    "plain text ",
    "<a href=#i0>a link <i>in parts</i></a>",
    "<input type=checkbox id=i1><label for=i1>Tick <span class=x>me</span></label>",
    "<tr><th>h<td>1<td>2",
    "<table border=1><tr><th>a<th>b<tr><td>1<td>2</table>",
    "<ul id=i2><li>one<li>two <ul><li>inner</ul></ul>",
    "<details id=i3><summary>more</summary><p>hidden</p></details>",
    "<select id=i4><option>a<option selected>b<optgroup label=g><option>c</select>",
    "<fieldset id=i5 class=x><legend>L</legend><input type=radio name=r><input type=radio name=r checked></fieldset>",
    "<button id=i6 aria-describedby=i0 popovertarget=i7>do</button><div popover id=i7>over</div>",
    "<h2 id=i0>Head</h2>",
    "<section aria-labelledby=i0><header>in</header></section><header>out</header>",
    "<div role=tree><div role=treeitem>t<div role=group><div role=treeitem>u</div></div></div></div>",
    "<dl><dt>t<dd>d</dl>",
    "<pre>line 1\nline 2\n  line 3</pre>",
    "<svg><title>T</title><g tabindex=0><text>s</text></g></svg>",
    "<dialog id=i8><p>ask <button>ok</button></dialog>",
    "<p></p>",
    "<textarea id=i9>t</textarea><input placeholder=p aria-labelledby=i9>",
    "<div contenteditable=true>edit <b>me</b></div>",
    "<span lang=fr>mot <q>cité</q></span>",
    "<ol id=i2 start=3><li value=7>seven<li class=x>eight</ol>",
]
SHEETS = [
    "",
    ".x { display: none } p + p { visibility: hidden } [aria-pressed=true]::before { content: '!' }",
    ":root { --d: none } .x { --d: block } b { display: var(--d) } :checked + label { display: none }",
    "li:first-child { display: inline } details[open] { --q: 1 } .x .x { visibility: visible } ul:empty { display: none }",
    "input:placeholder-shown { display: none } div:popover-open { text-transform: uppercase } #i0 ~ p { white-space: pre }",
    "p, .x { counter-increment: n } b::after { content: counter(n) } :checked { counter-increment: n 5 } q { quotes: auto }",
]
ATTRIBUTES = [
    ("class", ["x", "y", None]),
    ("hidden", ["", None]),
    ("aria-hidden", ["true", None]),
    ("start", ["5", None]),
    ("value", ["9", None]),
    ("aria-label", ["Named", None]),
    ("aria-labelledby", ["i0 i2", None]),
    ("aria-pressed", ["true", "false"]),
    ("role", ["list", "button", "none", "region", "listitem", None]),
    ("id", ["i0", "i1", "i2", None]),
    ("for", ["i4", None]),
    ("open", ["", None]),
    ("disabled", ["", None]),
    ("style", ["display:none", "--d:inline", None]),
    ("tabindex", ["0", "-1", "3", None]),
    ("title", ["tip", None]),
    ("inert", ["", None]),
    ("colspan", ["2", None]),
    ("scope", ["row", None]),
    ("lang", ["de", None]),
    ("aria-disabled", ["true", None]),
    ("aria-owns", ["i3", None]),
    ("type", ["radio", "text"]),
]  # fmt: skip


def facts(tree: Tree) -> list[Any]:
    """Everything a tree says of its nodes, and its stops."""
    nodes = [
        (
            node.id, node.end, node.role, node.name, node.name_from, node.description, node.value, node.states,
            node.starts_line, node.is_part, node.element, node.parent.id if node.parent else None,
            [child.id for child in node.children],
        )
        for node in tree.nodes
    ]  # fmt: skip
    return [nodes, [stop.id for stop in tree.stops]]


def read(readout: Readout, spoken: Spoken) -> list[Any]:
    """Everything that is read of a tree, and how it is heard."""
    items = [
        [(each.node.id, each.text, each.index, each.item.index, chain(each.container)) for each in item.objects]
        for item in readout.items
    ]
    return [items, [each.text for each in spoken.utterances], [spoken.start(at) for at in range(len(items) + 1)]]


def chain(container: Any) -> list[Any]:
    return [(each.node.id, each.first, each.last, each.depth) for each in container.chain()] if container else []


class Following:
    """A live page with all that follows it."""

    def __init__(self, markup: str) -> None:
        self.live = LiveDocument(PageSource(markup), 1280)
        self.tree = LiveTree(StyledDocument(self.live.document, self.live.styles))
        self.readout = Readout(self.tree.tree)
        self.spoken = Spoken(self.readout, NAME_FIRST)
        self.told = self.spoken.utterances

    def follow(self) -> TreeChange | None:
        change = self.live.take_change()
        if not change:
            return None
        became = self.tree.follow(change, self.live.styles.update(change))
        self.spoken = self.spoken.follow(self.readout.follow(became), frozenset())
        return became

    def must_be_as_if_new(self) -> None:
        fresh = build_tree(StyledDocument(self.live.document, Cascade(self.live._parsed)))
        assert facts(self.tree.tree) == facts(fresh)
        anew = Readout(fresh)
        assert read(self.readout, self.spoken) == read(anew, Spoken(anew, NAME_FIRST))

    def elements(self) -> list[Element]:
        document = self.live.document
        every = (document.root, *document.root.descendants())
        return [node for node in every if isinstance(node, Element) and self.live.can_change(node)]


def change_something(page: Following, data: Any) -> None:
    """Change something anywhere."""
    element = data.draw(st.sampled_from(page.elements()))
    live = page.live
    match data.draw(st.sampled_from(["attribute", "attribute", "state", "text", "insert", "insert", "remove", "top"])):
        case "attribute":
            name, values = data.draw(st.sampled_from(ATTRIBUTES))
            live.set_attribute(element, name, data.draw(st.sampled_from(values)))
        case "state":
            name, values = data.draw(
                st.sampled_from(
                    [("checkedness", [True, False]), ("selectedness", [True, False]), ("value", ["", "typed"])]
                )
            )
            live.set_state(element, **{name: data.draw(st.sampled_from(values))})
        case "text":
            live.set_text(element, data.draw(st.sampled_from(["", "other text", " x "])))
        case "insert":
            where = data.draw(st.sampled_from(["start", "end", "before", "after"]))
            live.insert(element, data.draw(st.sampled_from(PIECES)), where)
        case "remove":
            if element.tag not in ("html", "head", "body"):
                live.remove(element)
        case _:
            if element in live.document.top_layer:
                live.take_from_top(element)
            elif element.tag in ("div", "dialog"):
                live.put_on_top(element, modal=element.tag == "dialog")


@given(st.lists(st.sampled_from(PIECES), max_size=6), st.sampled_from(SHEETS), st.data())
def test_whatever_is_changed(pieces: list[str], sheet: str, data: Any) -> None:
    page = Following(f"<!DOCTYPE html><title>T</title><style>{sheet}</style><main>{''.join(pieces)}</main>")
    for _ in range(data.draw(st.integers(1, 4))):
        for _ in range(data.draw(st.integers(1, 3))):
            change_something(page, data)
        page.follow()
        page.must_be_as_if_new()


def test_the_browsers_own_summary_is_a_stop_after_its_details() -> None:
    page = Following("<details id=i3><summary>more</summary><p>hidden</p></details>")
    details = page.live.document.ids["i3"]
    page.live.remove(next(each for each in details.elements() if each.tag == "summary"))
    page.follow()
    page.live.set_attribute(details, "tabindex", "0")
    page.follow()
    page.must_be_as_if_new()
    assert [stop.element.tag for stop in page.tree.tree.stops] == ["details", "summary"]


def test_an_object_without_content_is_heard_while_it_is_a_stop() -> None:
    page = Following("<header>out</header><main></main>")
    main = next(each for each in page.elements() if each.tag == "main")
    for value in ("0", None):
        page.live.set_attribute(main, "tabindex", value)
        page.follow()
        page.must_be_as_if_new()


def test_radios_are_counted_in_their_whole_group() -> None:
    page = Following("<input type=radio name=r><ul><li>one<li><input type=radio name=r></ul>")
    page.live.remove(next(each for each in page.elements() if each.tag == "li"))
    page.follow()
    page.must_be_as_if_new()
    assert [node.states["posinset"] for node in page.tree.tree.nodes if node.role == "radio"] == [1, 2]


def test_equal_texts_beside_each_other_are_two() -> None:
    page = Following("<main><input>text<p id=b>b</p></main>")
    page.live.insert(page.live.document.ids["b"], "<dialog></dialog>text", "before")
    page.follow()
    page.must_be_as_if_new()
