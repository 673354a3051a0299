"""Frames from files, base addresses, and shadow trees in places where they are hard."""

from pathlib import Path

import pytest

from murvel.dom.document import Element, Text
from murvel.dom.places import Paths, find_xpath
from murvel.page.frames import MAX_DEPTH
from murvel.page.open_page import open_document
from murvel.page.select import select
from murvel.tree.build import build_tree
from murvel.tree.exchange.write import to_text
from tests.support import problems_of, styled_of, tree_of


def write(folder: Path, **pages: str) -> None:
    for name, markup in pages.items():
        (folder / f"{name}.html").write_text(markup)


def headings(folder: Path, name: str = "a") -> list[str]:
    tree = build_tree(open_document(str(folder / f"{name}.html")))
    return [node.name for node in tree.nodes if node.role == "heading"]


def test_a_frame_from_a_file_beside_the_page(tmp_path: Path) -> None:
    write(tmp_path, a='<h1>A</h1><iframe title=T src="b.html#part"></iframe>', b="<h1>B</h1>")
    assert headings(tmp_path) == ["A", "B"]


def test_pages_that_frame_each_other_end(tmp_path: Path) -> None:
    write(tmp_path, a='<h1>A</h1><iframe src="b.html"></iframe>', b='<h1>B</h1><iframe src="a.html"></iframe>')
    assert headings(tmp_path) == ["A", "B"]


def test_frames_are_opened_to_a_depth_only() -> None:
    markup = "<h1>end</h1>"
    for _ in range(MAX_DEPTH + 2):
        markup = '<h1>x</h1><iframe srcdoc="' + markup.replace("&", "&amp;").replace('"', "&quot;") + '"></iframe>'
    tree = tree_of(markup)
    assert sum(node.role == "heading" for node in tree.nodes) == MAX_DEPTH + 1


def test_a_missing_frame_is_a_problem(tmp_path: Path) -> None:
    write(tmp_path, a='<iframe src="gone.html"></iframe>')
    document = open_document(str(tmp_path / "a.html")).document
    assert problems_of(document) == ["The frame gone.html was not read: there is no such file."]


def test_sheets_and_frames_are_found_from_the_base_address(tmp_path: Path) -> None:
    (tmp_path / "sub").mkdir()
    (tmp_path / "sub" / "s.css").write_text("h2{display:none}")
    write(tmp_path / "sub", b="<h1>B</h1>")
    write(
        tmp_path,
        a='<base href="sub/"><link rel=stylesheet href=s.css><h1>A</h1><h2>no</h2><iframe src="b.html"></iframe>',
    )
    assert headings(tmp_path) == ["A", "B"]


HARD = [
    "<div><template shadowrootmode=open>" * 40 + "<p id=x>deep",
    "<x-a><template shadowrootmode=open><slot><slot></slot></slot><slot name=a></slot></template>x<b slot=a>y</b></x-a>",
    "<x-a><template shadowrootmode=open><template><p>x</p></template></template></x-a>",
    "<x-a><template shadowrootmode=open></template></x-a>",
    "<table><tr><td><template shadowrootmode=open>x</template></table>",
    '<iframe srcdoc="<x-a><template shadowrootmode=open><slot></slot></template>x</x-a>"></iframe>',
    "<p title='>'><template shadowrootmode=open title='>'><b>x</b></template></p>",
]


@pytest.mark.parametrize("markup", HARD)
def test_numbers_and_places_hold(markup: str) -> None:
    page = styled_of(markup)
    document = page.document
    nodes = [document.root, *document.root.descendants()]
    assert [node.order for node in nodes] == list(range(len(nodes)))
    paths = Paths()
    for each in nodes:
        assert isinstance(each, Text) or find_xpath(document, paths.of(each)) is not None
    assert all(page.styles.of(node).display for node in nodes if isinstance(node, Element))
    assert build_tree(page).nodes


def test_places_in_a_shadow_tree_are_exact() -> None:
    tree = tree_of("<div>\n<template shadowrootmode=open>\n <h2>x</h2></template></div>")
    heading = next(node for node in tree.nodes if node.role == "heading")
    assert tree.document.position(heading.element) == (3, 2)


def test_selectors_find_elements_beside_frames_and_shadow_trees() -> None:
    document, styles = styled_of(
        '<iframe srcdoc="<p>x"></iframe><div><template shadowrootmode=open><p>y</template></div><p>z'
    )
    assert [element.text() for element in select(document, styles, "p")] == ["z"]


def test_what_no_slot_takes_is_explained() -> None:
    tree = tree_of("<x-a><template shadowrootmode=open><slot name=a></slot></template><h2>x</h2></x-a>")
    hidden = tree.semantics.hidden(select(tree.document, tree.styles, "h2")[0])
    assert hidden is not None
    assert hidden.why.value == "no slot that takes it"


def test_an_object_whose_file_is_not_there_shows_its_content(tmp_path: Path) -> None:
    (tmp_path / "plan.png").write_bytes(b"\x89PNG")
    page = tmp_path / "page.html"
    page.write_text(
        "<object data=plan.png>one</object><object data=gone.png>two</object><object data=http://a/b>3</object>"
    )
    text = " ".join(to_text(build_tree(open_document(str(page)))))
    assert '"two"' in text
    assert '"one"' not in text
    assert '"3"' not in text
