"""Markup to a document: structure, namespaces, depth, order."""

import pytest
from hypothesis import given

from murvel.dom.document import Element, Namespace, Text
from murvel.dom.elements import MAX_DEPTH
from murvel.dom.places import Paths, find_xpath, xpath
from murvel.loading.fetch import PageSource
from murvel.page.parse import parse
from tests.strategies import tag_soup
from tests.support import all_elements, document_of, element


def test_attributes_without_a_value_are_empty() -> None:
    field = element(document_of("<input disabled value=''>"), "input")
    assert field.attributes == {"disabled": "", "value": ""}


def test_the_first_of_equal_ids_counts() -> None:
    document = document_of("<p id=a>1</p><p id=a>2</p><p id=''>3</p>")
    assert document.ids["a"].text() == "1"
    assert "" not in document.ids


@pytest.mark.parametrize(
    ("tag", "namespace"),
    [
        ("svg", Namespace.SVG),
        ("path", Namespace.SVG),
        ("title", Namespace.SVG),
        ("p", Namespace.HTML),
        ("math", Namespace.MATHML),
        ("mi", Namespace.MATHML),
        ("foreignObject", Namespace.SVG),
    ],
)
def test_namespaces(tag: str, namespace: Namespace) -> None:
    document = document_of(
        "<body><svg><title>t</title><path/><foreignObject><p>x</p></foreignObject></svg><math><mi>y</mi></math>"
    )
    assert element(document, tag).namespace is namespace


def test_comments_are_left_out_and_templates_are_empty() -> None:
    document = document_of("<!-- a --><div><!-- b --></div><template><p>x</p></template>")
    assert not element(document, "div").children
    assert not element(document, "template").children


@pytest.mark.parametrize("depth", [MAX_DEPTH - 10, MAX_DEPTH, 3000])
def test_depth_ends_where_browsers_end_it(depth: int) -> None:
    document = document_of("<div>" * depth + "x" + "</div>" * depth + "<p>after")
    elements = all_elements(document)
    assert max(len(list(each.ancestors())) for each in elements) == min(depth + 1, MAX_DEPTH)
    assert len([each for each in elements if each.tag == "div"]) == depth
    assert document.root.text().strip() == "xafter"


def test_deep_elements_hold_text_only_and_keep_their_place() -> None:
    document = document_of("<q>a" * 600 + "</q>c" * 600)
    nodes = [document.root, *document.root.descendants()]
    assert [each.order for each in nodes] == list(range(len(nodes)))
    last = [each for each in all_elements(document) if each.tag == "q"][-1]
    assert last.text() == "a"
    assert last.end == last.order + 2
    assert next(each for each in last.ancestors()).text().count("c") > 80
    assert find_xpath(document, xpath(last)) is last
    assert document.position(last) == (1, 599 * 4 + 1)


@given(tag_soup())
def test_order_and_end_describe_the_tree(markup: str) -> None:
    document = parse(PageSource(markup)).document
    nodes: list[Element | Text] = [document.root, *document.root.descendants()]
    assert [each.order for each in nodes] == list(range(len(nodes)))
    for each in nodes:
        if isinstance(each, Element):
            inside = list(each.descendants())
            assert each.end == each.order + 1 + len(inside)
            assert all(each.contains(other) for other in inside)


@given(tag_soup())
def test_xpaths_lead_back_to_their_element(markup: str) -> None:
    document = parse(PageSource(markup)).document
    paths = Paths()
    for each in all_elements(document):
        path = xpath(each)
        assert paths.of(each) == path
        if "/" not in each.tag and "[" not in each.tag:
            assert find_xpath(document, path) is each


@pytest.mark.parametrize("path", ["", "/", "html[1]", "/html[1]/body[2]", "/html[1]/p[0]", "/html[1]/../x[1]", "/b[1]"])
def test_a_path_that_leads_nowhere(path: str) -> None:
    assert find_xpath(document_of("<p>x"), path) is None


@pytest.mark.parametrize(
    ("markup", "title"),
    [
        ("<title>  A\n B </title>", "A B"),
        ("<p>x</p>", ""),
        ("<svg><title>no</title></svg><title>yes</title>", "yes"),
        ("<title></title><title>b</title>", ""),
    ],
)
def test_titles(markup: str, title: str) -> None:
    assert document_of(markup).title == title


def test_lone_surrogates_do_not_stop_the_parser() -> None:
    assert element(document_of("<p>a\ud800b"), "p").text() == "a?b"
