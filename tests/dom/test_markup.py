"""Places in the source: exact or absent, never wrong, and never at the document's cost."""

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser

from murvel.dom import starts
from murvel.dom.document import Element
from murvel.loading.errors import PageError
from murvel.loading.fetch import PageSource
from murvel.page.parse import parse
from tests.strategies import tag_soup
from tests.support import all_elements, document_of


@given(tag_soup())
def test_a_place_is_a_start_tag_of_the_element(markup: str) -> None:
    document = parse(PageSource(markup)).document
    for element in all_elements(document):
        place = document.start_of(element)
        if place is not None:
            start = markup[place + 1 : place + 1 + len(element.tag)]
            assert markup[place] == "<"
            assert start.replace("\x00", "�").lower() == element.tag.lower() or element.tag == "img"


FORMATTING = st.lists(
    st.sampled_from(
        "<b> <b> <b> <b\tclass=x> </b> </b> <i> <i> </i> <a> </a> <p> </p> <div> </div> <li> <table> <td> <tr> </td> </table> x"
        " <nobr> <object> </object> <h1> </h1> <button> </button>".split(" ")
    ),
    max_size=60,
).map("".join)


FORMATTING_TAGS = frozenset("a b big code em font i nobr s small strike strong tt u".split())


@example("<table><b><b><b><table><b><table><b>")
@example("<table><b><b><b><caption></b><col><b></table><i>")
@given(tag_soup() | FORMATTING)
def test_a_document_is_what_the_parser_makes(markup: str) -> None:
    expected: list[object] = []
    root = LexborHTMLParser(markup).root
    assert root is not None
    for node in root.traverse(include_text=True):
        if node.is_element_node:
            expected.append((node.tag, {name: value or "" for name, value in node.attributes.items()}))
        elif node.is_text_node:
            expected.append(node.text_content or "")
    document = parse(PageSource(markup)).document
    nodes = [document.root, *document.root.descendants()]
    assert [(each.tag, each.attributes) if isinstance(each, Element) else each.data for each in nodes] == expected


@example("<template><body a=1>")
@example("]]><head>")
@example("<select><p></select></p>")
@example("<p><b></select></p><select><b></select>")
@example("<table><td><b></table><select><b></select><p>")
@given(tag_soup() | FORMATTING)
def test_places_in_order_are_those_that_a_parse_carries(markup: str) -> None:
    found: list[dict[Element, int]] = []

    def both(source: str, parts: list[starts.Part], unmarked: frozenset[str]) -> dict[Element, int]:
        in_order = starts.starts_of(source, parts, unmarked)
        carried = starts._carried(source, parts, unmarked)
        found.extend((in_order, carried))
        return in_order

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("murvel.page.parse.starts_of", both)
        document = parse(PageSource(markup)).document
        document.start_of(document.root)
    in_order, carried = found
    assert carried.items() <= in_order.items()
    assert not {element.tag for element in in_order.keys() - carried.keys()} - FORMATTING_TAGS


@pytest.mark.parametrize(
    ("markup", "tag", "place"),
    [
        ("<p>a</p>\n<b>c", "b", (2, 1)),
        ("<p>a\r\n  <b>c", "b", (2, 3)),
        ("<p>a\rx<b>c", "b", (2, 2)),
        ("ü€😀<b>c", "b", (1, 4)),
        ("<!-- <b> --><b>", "b", (1, 13)),
        ("<script>'<b>'</script><b>", "b", (1, 23)),
        ('<a title="<b>"><b>', "b", (1, 16)),
        ("<table><b>moved</b><tr><td>x</table>", "b", (1, 8)),
        ("<title><b></title><textarea><b></textarea><b>", "b", (1, 43)),
        ("<svg><title>t</title><path/></svg>", "path", None),
        ("<svg><desc><b>t</b></desc></svg>", "b", (1, 12)),
        ("<IMG ALT=x>", "img", (1, 1)),
    ],
)
def test_places(markup: str, tag: str, place: tuple[int, int] | None) -> None:
    document = parse(PageSource(markup)).document
    found = next(element for element in all_elements(document) if element.tag == tag)
    if place is None:
        assert document.position(found) in (None, (1, markup.index(f"<{tag}") + 1))
    else:
        assert document.position(found) == place


@pytest.mark.parametrize("tag", ["html", "head", "body", "tbody"])
def test_what_the_parser_adds_has_no_place(tag: str) -> None:
    document = parse(PageSource("<table><tr><td>x</table>")).document
    found = next(element for element in all_elements(document) if element.tag == tag)
    assert document.position(found) is None
    assert document.snippet(found) == ""


@pytest.mark.parametrize(
    ("markup", "places"),
    [
        ("<b>1</b>" * 9, 9),
        ("<b>1" * 3, 3),
        ("</b></b><b>1<b>2<b>3<b>4<b>5", 5),
        ("<p></b></b><b>1<b>2<b>3<b>4<b>5<p>6", 0),
        ("<table><td><b>1<td><b>2<td><b>3<td><b>4</table>", 4),
        ("<b class=x>1<b class=y>2<b>3<b>4", 4),
        ("<p><b class=x>1<b class=y>2<b>3<b>4<p>5", 0),
    ],
)
def test_formatting_that_is_left_open_often_has_no_place(markup: str, places: int) -> None:
    document = document_of(markup)
    bold = [each for each in all_elements(document) if each.tag == "b"]
    assert len([each for each in bold if document.start_of(each) is not None]) == places


@pytest.mark.parametrize(
    ("markup", "words"),
    [
        ("".join(f"<p><b class=c{at}>x" for at in range(900)), "make more than 200,000 elements"),
        ("".join(f"<p><b class=c{at}>x" for at in range(4000)), "make more than 200,000 elements"),
        ("".join(f"<b class=c{at}>x" for at in range(5000)), "leaves more than 4,000 formatting tags open"),
    ],
)
def test_formatting_that_makes_too_many_elements_is_refused(markup: str, words: str) -> None:
    with pytest.raises(PageError, match=words):
        document_of(markup)


def test_what_carries_places_is_a_word_the_source_does_not_have() -> None:
    document = document_of('<p data-at="1" data-atx="2"><i><p>x')
    paragraph, other = [element for element in all_elements(document) if element.tag == "p"]
    assert (document.start_of(paragraph), document.start_of(other)) == (0, 31)
    assert paragraph.attributes == {"data-at": "1", "data-atx": "2"}


@pytest.mark.parametrize(
    ("markup", "snippet"),
    [
        ("<p class=a>text</p> more", "<p class=a>text</p>"),
        ("<p><p>x</p>", "<p>"),
        ("<div><div>x</div></div>", "<div><div>x</div></div>…"),
        ("<p>" + "x" * 900 + "</p>", "<p>" + "x" * 397 + "…"),
        ("<p title='</p>'>x</p>", "<p title='</p>'>x</p>"),
    ],
)
def test_snippets(markup: str, snippet: str) -> None:
    document = parse(PageSource(markup)).document
    found = next(element for element in all_elements(document) if element.tag in ("p", "div"))
    assert document.snippet(found) == snippet
