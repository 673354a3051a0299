"""Our tree against Chromium's own, on every case of the tree's tests; and how the two are compared."""

from pathlib import Path

import pytest

from murvel.browser.agreement import Agreement, Difference, Fact, compare
from murvel.browser.chromium import BrowserNode, chromium, exposed, find_chromium
from murvel.browser.errors import BrowserError
from murvel.page.open import open_document
from murvel.tree.build import build_tree
from tests.support import case_ids, tree_of

pytestmark = pytest.mark.thorough

CASES = Path(__file__).parent.parent / "tree" / "cases"

# Where Chromium departs from a standard that is followed here, by fact and element; docs/standards.md says why.
KNOWN = {
    Fact.ROLE: "area",  # areas deeper in a map
    Fact.NAME: "label video",  # a label named by what it labels; media that cannot load
    Fact.DESCRIPTION: "",
    Fact.STATES: "input button video object",  # patterns not tried; tokens that are none; media
}


@pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")
def test_the_cases_agree_with_the_browser(tmp_path: Path) -> None:
    total = Agreement()
    cases = case_ids(CASES)
    assert len(cases) >= 250
    with chromium() as context:
        for number, case in enumerate(cases):
            page = tmp_path / f"{number}.html"
            page.write_text(f"<!DOCTYPE html><html lang=en><title>{case.title}</title><body>{case.markup}")
            total.add(compare(build_tree(open_document(str(page))), exposed(context, page)))
    assert [each for each in total.differences if tag_of(each) not in KNOWN[each.fact].split()] == []
    assert total.rate(Fact.ROLE) > 0.997
    assert total.rate(Fact.NAME) > 0.996
    assert total.rate(Fact.DESCRIPTION) > 0.995
    assert total.rate(Fact.STATES) > 0.994


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
    agreement = compare(tree_of("<button aria-pressed=true>a</button>"), theirs)
    assert agreement.differences == ([] if difference is None else [difference])


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
