"""Contrast as it is measured from pixels, against what is known by arithmetic."""

from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open import open_in_browser
from murvel.page.setup import BrowserSetup, Setup
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
