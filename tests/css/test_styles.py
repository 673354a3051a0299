"""Style sheets: the cascade, and the few properties that decide what is exposed or said."""

from pathlib import Path

import pytest

from murvel.css.values.colours import same_paint
from murvel.css.values.style import Style
from murvel.dom.document import Element
from murvel.page.open_page import document_from_text, open_document
from murvel.page.styled_document import StyledDocument
from tests.support import element, problems_of, styled_of


def style(css: str, markup: str = "<p class=a id=i>x</p>", tag: str = "p") -> Style:
    return style_in(document_from_text(f"<style>{css}</style>{markup}"), tag)


def style_in(page: StyledDocument, tag: str) -> Style:
    return page.styles.of(element(page.document, tag))


@pytest.mark.parametrize(
    ("css", "display"),
    [
        ("", "block"),
        ("p{display:none}", "none"),
        ("p{display:none} .a{display:block}", "block"),
        (".a{display:none} p{display:block}", "none"),
        (".a{display:none} #i{display:inline}", "inline"),
        ("p{display:none !important} #i{display:block}", "none"),
        ("p{display:none} p{display:flex}", "flex"),
        ("p{display:nonsense}", "block"),
        ("p{display:inline flow-root}", "inline-block"),
        ("p{display:-webkit-box}", "flex"),
        ("p{display:initial}", "inline"),
        ("p{display:revert}", "block"),
        ("p:hover{display:none}", "block"),
        ("p:focus-visible{display:none}", "block"),
        ("p:not(.b){display:none}", "none"),
        ("p:is(.b, .a){display:none}", "none"),
        (":where(#i){display:none} p{display:flex}", "flex"),
        ("p::before{display:none}", "block"),
        ("p, :nonsense(x){display:none}", "block"),
        ("@media print{p{display:none}}", "block"),
        ("@media screen{p{display:none}}", "none"),
        ("@media (max-width: 600px){p{display:none}}", "block"),
        ("@supports (display:grid){p{display:grid}}", "grid"),
        ("@supports not (display:grid){p{display:none}}", "block"),
        ("@layer one{p{display:none}} @layer two{p{display:grid}}", "grid"),
        ("@layer two, one; @layer one{p{display:none}} @layer two{p{display:grid}}", "none"),
        ("@layer one{#i{display:none}} p{display:grid}", "grid"),
        ("@layer one{p{display:none !important}} p{display:grid !important}", "none"),
        ("@font-face{display:none} @page{display:none}", "block"),
        ("p{color:red;display:none;}}} garbage {", "none"),
        ("\\70{display:none}", "none"),
    ],
)
def test_the_cascade_of_display(css: str, display: str) -> None:
    assert style(css).display == display


@pytest.mark.parametrize(
    ("attribute", "display"),
    [
        ("style='display:none'", "none"),
        ("style='display:block' hidden", "block"),
        ("hidden", "none"),
        ("hidden=until-found", "block"),
        ("popover", "none"),
        ("style='DISPLAY : None !important'", "none"),
        ("style='display:none;display:bogus'", "none"),
    ],
)
def test_attributes(attribute: str, display: str) -> None:
    assert style("", f"<p {attribute}>x").display == display


def test_an_important_rule_beats_the_attribute() -> None:
    assert style("p{display:none !important}", "<p style='display:block'>").display == "none"
    assert style("p{display:none !important}", "<p style='display:block !important'>").display == "block"


def test_inheritance() -> None:
    markup = "<div><p><b>x</b></p></div>"
    assert style("div{visibility:hidden}", markup, "b").visibility == "hidden"
    assert style("div{visibility:hidden} p{visibility:initial}", markup, "b").visibility == "visible"
    assert style("div{display:grid}", markup, "b").display == "inline"
    assert style("p{white-space:pre}", markup, "b").white_space == "pre"
    assert style("b{display:inherit}", markup, "b").display == "block"


@pytest.mark.parametrize(
    ("css", "before"),
    [
        ("p::before{content:'x'}", "x"),
        ("p:before{content:'x' 'y'}", "xy"),
        ("p::before{content:'→' / 'next'}", "next"),
        ("p::before{content:'→' / ''}", ""),
        ("p::before{content:attr(class)}", "a"),
        ("p::before{content:url(x.png)}", ""),
        ("p::before{content:counter(n) '. '}", "0. "),
        ("p::before{content:open-quote}", "“"),
        ("p::before{content:none}", None),
        ("p::before{content:'x'} p::before{content:normal}", None),
        ("p::before{content:'x';display:none}", None),
        ("p::before{content:'x';display:block}", "x"),
        ("p::before{content:'x';visibility:hidden}", None),
        ("::before{content:'x'}", "x"),
        ("p::after{content:'x'}", None),
    ],
)
def test_generated_content(css: str, before: str | None) -> None:
    box = style(css).before
    assert (box.text if box is not None else None) == before


def test_it_is_said_which_rule_hides() -> None:
    page = styled_of("<title>t</title>\n<style>\np { display: none }\n</style><p>x")
    assert style_in(page, "p").hidden_by == "style element:3"


def test_linked_sheets_and_imports(tmp_path: Path) -> None:
    (tmp_path / "css").mkdir()
    (tmp_path / "css" / "a.css").write_text('@import "b.css"; @import url("c.css") print; .y{display:grid}')
    (tmp_path / "css" / "b.css").write_text('@import "a.css"; .x{display:none}')
    (tmp_path / "css" / "c.css").write_text(".y{display:none}")
    (tmp_path / "index.html").write_text(
        "<link rel=stylesheet href=css/a.css?v=2><link rel='alternate stylesheet' href=css/c.css>"
        "<link rel=stylesheet href=css/c.css media=print><link rel=stylesheet href=gone.css>"
        "<link rel=stylesheet href=https://styles.example/x.css><p class=x>a</p><b class=y>c</b>"
    )
    page = open_document(str(tmp_path))
    assert style_in(page, "p").display == "none"
    assert style_in(page, "b").display == "grid"
    assert len([problem for problem in problems_of(page.document) if "was not read" in problem]) == 2
    assert len([problem for problem in problems_of(page.document) if "imports itself" in problem]) == 1


def test_width_decides_media_queries() -> None:
    markup = "<style>@media (max-width: 40rem){p{display:none}}</style><p>x"
    assert style_in(document_from_text(markup, width=1280), "p").display == "block"
    assert style_in(document_from_text(markup, width=600), "p").display == "none"


def test_looks_are_told_apart_from_what_changes_speech() -> None:
    document, styles = document_from_text(
        "<style>.a{cursor:pointer;font-size:20px} p.a{font-size:2em} @media print{.a{cursor:help}}"
        " li:hover > ul, a:focus .tip{display:block} .s{left:-999px} .s:focus{left:0} b:hover{color:red}</style>"
        "<p class=a style='font-weight:BOLD'>x</p><ul><li><ul id=u></ul></ul><a class=s href=#><i class=tip>t</i></a><b>y</b>"
    )
    looks = styles.looks
    by_tag = {node.tag: node for node in document.root.descendants() if isinstance(node, Element)}
    assert looks.of(by_tag["p"]) == {"cursor": "pointer", "font-size": "2em", "font-weight": "bold"}
    assert looks.with_property("cursor") == {by_tag["p"]}
    assert looks.shown_by_pointer == {document.ids["u"]}
    assert looks.shown_by_focus == {by_tag["a"], by_tag["i"]}


ORDERS = [  # rules for td, its style attribute, and which of A and B wins (CSS Cascade 5 §6.1)
    ("td{{{A}}} td{{{B}}}", "", "B"),
    ("td{{{A} !important}} td{{{B}}}", "", "A"),
    ("td{{{A} !important; {B}}}", "", "A"),
    ("td{{{A}; {B}}}", "", "B"),
    ("#i{{{A}}} td{{{B}}}", "", "A"),
    ("#i{{{A}}} td{{{B} !important}}", "", "B"),
    ("@layer x{{#i{{{A}}}}} td{{{B}}}", "", "B"),
    ("@layer x, y; @layer y{{td{{{A}}}}} @layer x{{td{{{B}}}}}", "", "A"),
    ("@layer x{{td{{{A} !important}}}} #i{{{B} !important}}", "", "A"),
    ("td{{{A}}}", "{B}", "B"),
    ("td{{{A} !important}}", "{B}", "A"),
    ("td{{{A} !important}}", "{B} !important", "B"),
    ("@layer x{{td{{{A} !important}}}}", "{B} !important", "B"),
    ("", "{A} !important; {B}", "A"),
    ("#i{{{A}}}", "{B}", "B"),
]
ASKED = {  # by each way in which styles are asked for: two declarations, and what A makes of a cell
    "computed": ("display: block", "display: inline", lambda page, cell: page.styles.of(cell).display == "block"),
    "looks": ("cursor: help", "cursor: wait", lambda page, cell: page.styles.looks.of(cell)["cursor"] == "help"),
    "decorations": (
        "background-color: red",
        "background-color: transparent",
        lambda page, cell: page.styles.decoration(cell).background == "#ff0000 1",
    ),
}


@pytest.mark.parametrize("how", ASKED)
@pytest.mark.parametrize(("css", "own", "wins"), ORDERS)
def test_there_is_one_order_of_the_cascade(how: str, css: str, own: str, wins: str) -> None:
    a, b, is_a = ASKED[how]
    filled = css.format(A=a, B=b)
    markup = f"<style>{filled}</style><table><tr><td id=i style='{own.format(A=a, B=b)}'>x</table>"
    page = document_from_text(markup)
    assert ("A" if is_a(page, element(page.document, "td")) else "B") == wins


@pytest.mark.parametrize(
    "written",
    ["red", "RED", "#f00", "#ff0000", "#f00f", "rgb(255 0 0)", "rgb(255, 0, 0)", "rgba(255,0,0,1)", "rgb(100% 0 0)",
     "hsl(0 100% 50%)", "hwb(0 0% 0%)", "color(srgb 1 0 0)"],
)  # fmt: skip
def test_equal_colours_are_equal_however_they_are_written(written: str) -> None:
    assert same_paint(written) == same_paint("rgb(255 0 0)") != same_paint("rgb(254 0 0)")
    cell = "<table><tr><td style='background: url(a.png) no-repeat {}'>x</table>"
    page = document_from_text(cell.format(written))
    assert page.styles.decoration(element(page.document, "td")).background == "#ff0000 1"


@pytest.mark.parametrize("written", ["transparent", "rgba(0,0,0,0)", "rgb(0 0 0 / 0%)", "#f000", "none", "initial", ""])
def test_what_paints_nothing(written: str) -> None:
    assert same_paint(written) == ""
    page = document_from_text(f"<table><tr><td style='background-color: {written}'>x</table>")
    assert page.styles.decoration(element(page.document, "td")).background == ""
