"""Our tree against Chromium's own, on every case of the tree's tests; and how the two are compared."""

from pathlib import Path

import pytest

from murvel.browser.chromium import chromium, exposed, tab_order
from murvel.browser.errors import BrowserError
from murvel.browser.launch import find_chromium
from murvel.page.open_page import open_document
from murvel.tree.build import build_tree
from murvel.tree.exchange.agreement import STATIC_TEXT, Agreement, BrowserNode, Difference, Fact, compare, compare_order
from tests.support import case_ids, tree_of

pytestmark = pytest.mark.thorough

TREE = Path(__file__).parent.parent / "tree"

# Where Chromium departs from a standard that is followed here, or needs layout, by fact and element; docs/standards.md
# says why.
KNOWN = {
    Fact.ROLE: "area caption embed img p s use",
    Fact.NAME: "a aside audio button h2 label section select video",
    Fact.DESCRIPTION: "",
    Fact.STATES: "audio button input object video",
    Fact.VALUE: "button input select",
    Fact.TEXT: "b mi object p s script style title u",
    Fact.ORDER: "area audio code div embed img input object pre video",
}


@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
def test_the_cases_agree_with_the_browser(tmp_path: Path) -> None:
    total = Agreement()
    # A third of the cases keeps this short; `make conformance` compares all of them.
    cases = [case for folder in ("cases", "compared", "order") for case in case_ids(TREE / folder)[::3]]
    assert len(cases) >= 200
    with chromium() as context:
        for number, case in enumerate(cases):
            page = tmp_path / f"{number}.html"
            page.write_text(f"<!DOCTYPE html><html lang=en><title>{case.title}</title><body>{case.markup}")
            tree = build_tree(open_document(str(page)))
            total.add(compare(tree, exposed(context, page)))
            if case.title.startswith("order: "):
                total.add(compare_order(tree, tab_order(context, page)))
    assert [each for each in total.differences if tag_of(each) not in KNOWN[each.fact].split()] == []
    assert [fact for fact in Fact if total.rate(fact) < (0.8 if fact in (Fact.ORDER, Fact.VALUE) else 0.98)] == []


@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
def test_depth_ends_where_the_browser_ends_it(tmp_path: Path) -> None:
    page = tmp_path / "deep.html"
    page.write_text("<!DOCTYPE html><title>t</title><body>" + "<ul><li>" * 400 + "x")
    with chromium() as context:
        agreement = compare(build_tree(open_document(str(page))), exposed(context, page))
    assert [each for each in agreement.differences if each.fact is Fact.ROLE] == []


def tag_of(difference: Difference) -> str:
    return difference.xpath.rsplit("/", 1)[1].split("[")[0]


def browser_node(xpath: str, role: str, name: str = "", **states: object) -> BrowserNode:
    return BrowserNode(xpath, role, name, "", "", states)


BUTTON = "/html[1]/body[1]/button[1]"


@pytest.mark.parametrize(
    ("theirs", "difference"),
    [
        ([browser_node(BUTTON, "button", "a", pressed="true")], None),
        ([browser_node(BUTTON, "button", " a ", pressed="true", disabled=False)], None),
        ([], Difference(Fact.ROLE, BUTTON, "", "button")),
        ([browser_node(BUTTON, "link", "a")], Difference(Fact.ROLE, BUTTON, "link", "button")),
        ([browser_node(BUTTON, "button", "b", pressed="true")], Difference(Fact.NAME, BUTTON, "b", "a")),
        ([browser_node(BUTTON, "button", "a")], Difference(Fact.STATES, BUTTON, "", "pressed=true")),
        (
            [browser_node(BUTTON, "button", "a", pressed="true"), browser_node("/html[1]/body[1]/p[1]", "paragraph")],
            Difference(Fact.ROLE, "/html[1]/body[1]/p[1]", "paragraph", ""),
        ),
        (
            [browser_node(BUTTON, "button", "a", pressed="true"), browser_node("/html[1]/body[1]/p[1]", "generic")],
            None,
        ),
    ],
)
def test_comparing(theirs: list[BrowserNode], difference: Difference | None) -> None:
    text = browser_node(BUTTON, STATIC_TEXT, "a")
    agreement = compare(tree_of("<button aria-pressed=true>a</button>"), [*theirs, text])
    assert agreement.differences == ([] if difference is None else [difference])


@pytest.mark.parametrize(
    ("order", "differences"),
    [
        (["/a[1]", "/a[2]"], []),
        (["/a[2]", "/a[1]"], ["/a[1]", "/a[1]"]),
        (["/a[1]"], ["/a[2]"]),
        (["/a[1]", "/p[1]", "/a[2]"], ["/p[1]"]),
    ],
)
def test_comparing_the_order_of_tab(order: list[str], differences: list[str]) -> None:
    tree = tree_of("<a href=1>a</a><a href=2>b</a>")
    agreement = compare_order(tree, [f"/html[1]/body[1]{place}" for place in order])
    assert [each.xpath for each in agreement.differences] == [f"/html[1]/body[1]{place}" for place in differences]


def test_texts_are_compared_by_the_element_they_stand_in() -> None:
    agreement = compare(tree_of("<p>a <b>b</b>"), [browser_node("/html[1]/body[1]/p[1]", STATIC_TEXT, "a")])
    assert [each for each in agreement.differences if each.fact is Fact.TEXT] == [
        Difference(Fact.TEXT, "/html[1]/body[1]/p[1]/b[1]", "", "b")
    ]


def test_rates_over_several_pages() -> None:
    total = Agreement()
    assert total.rate(Fact.NAME) == 1.0
    tree = tree_of("<button>a</button>")
    total.add(compare(tree, [browser_node(BUTTON, "button", "a")]))
    total.add(compare(tree, [browser_node(BUTTON, "button", "b")]))
    assert total.compared[Fact.NAME] == 2
    assert total.rate(Fact.NAME) == 0.5
    assert total.rate(Fact.ROLE) == 1.0


def test_without_a_browser_it_is_said_what_to_install(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("PATH", "/nowhere")
    with pytest.raises(BrowserError, match="install your system's chromium package"), chromium():
        pass
