"""Contrast as it is measured from pixels, against what is known by arithmetic."""

from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
from murvel.stage.seen import State
from tests.browser.generated_contrast import generated

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

ROUNDING = 0.012
"""Mixed colours are rounded to 8 bits by the browser at each step; so much of a ratio that is, in dark colours."""


@pytest.mark.parametrize("seed", range(3))
def test_three_hundred_blocks(seed: int, tmp_path: Path) -> None:
    markup, blocks = generated(seed, 100)
    (tmp_path / "page.html").write_text(markup)
    setup = Setup(root=tmp_path, browser=BrowserSetup(is_dark=True))
    stage = open_in_browser(str(tmp_path / "page.html"), setup)
    seen = {each.element.attributes.get("id"): each for each in stage.look().texts}
    stage.close()
    wrong = []
    for at, block in enumerate(blocks):
        found = seen[f"b{at}"]
        if block.ratios is None or found.contrast is None:
            if (block.ratios is None) is not (found.contrast is None):
                wrong.append((at, block, found))
            continue
        least, typical = found.contrast.least.ratio, found.contrast.typical.ratio
        for measured, known in zip((least, typical), block.ratios[: 1 + block.has_typical], strict=False):
            if abs(measured - known) > max(0.1, known * (block.within or ROUNDING)):
                wrong.append((at, block, least, typical))
    assert not wrong, f"{len(wrong)} wrong: {wrong[:4]}"


HOVER_RULES = [
    ":is(#a:link:hover, .none) {{ {} }}",
    "p:hover #a {{ {} }}",
    "p:has(#a:hover) #a {{ {} }}",
    "#a[href^='http:']:hover {{ {} }}",
    "@media screen {{ @layer x {{ .none, #a:hover {{ {} }} }} }}",
    "p {{ &:hover > a {{ {} }} }}",
]


@pytest.mark.parametrize("rule", [*HOVER_RULES, "#a:focus, .none:hover {{ {} }}"])
def test_colours_under_a_pointer_are_seen_however_the_rule_is_written(rule: str, tmp_path: Path) -> None:
    page = tmp_path / "page.html"
    style = rule.format("color: rgb(200, 200, 200)")
    page.write_text(f"<title>x</title><style>{style}</style><p><a id=a href='http:x'>Plots to let</a></p>")
    stage = open_in_browser(str(page), Setup(browser=BrowserSetup()))
    hovered = [each.contrast for each in stage.look().texts if each.state is State.HOVER]
    stage.close()
    assert [tuple(each.typical.colour) for each in hovered if each] == [(200, 200, 200)] * (rule in HOVER_RULES)
