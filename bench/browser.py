"""From a key to what is heard, on pages in a real browser, beside the page's own time for the same, in one run."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from functools import partial
from pathlib import Path
from statistics import median
from time import perf_counter

from murvel.browser.launch import find_chromium
from murvel.browser.open import open_in_browser
from murvel.page.setup import BrowserSetup, Setup
from murvel.reader import acting
from murvel.reader.commands import command
from murvel.reader.session import ReadingSession

_SIZES = {2_000: 150, 20_000: 400}
"""So many elements, and the milliseconds that are meant."""

_TIMES = 15
_PAGE = """<!DOCTYPE html><html lang=en><title>Plots</title><body><button id=b aria-expanded=false>Menu</button>
<ul id=m hidden><li><a href=#>One</a></ul><p role=status id=s></p>{}<script>
b.onclick = () => {{
  b.setAttribute("aria-expanded", m.hidden);
  m.hidden = !m.hidden;
  s.textContent = "Shown " + performance.now();
}};
</script>"""
_BLOCK = "<div><p>Plot {0} <a href=#>Plot {0}</a></p><ul><li>a<li>b<li>c</ul></div>"
_OWN = "() => { document.activeElement.click(); document.body.getBoundingClientRect(); }"


def main() -> None:
    """Print the median of each key in milliseconds, and what of it is the page's own."""
    if find_chromium() is None:
        sys.exit("No Chromium is installed.")
    with tempfile.TemporaryDirectory() as folder:
        page = Path(folder) / "page.html"
        for size, meant in _SIZES.items():
            page.write_text(_PAGE.format("".join(_BLOCK.format(number) for number in range(size // 7))))
            _measure(page, size, meant)


def _measure(page: Path, size: int, meant: int) -> None:
    stage = open_in_browser(str(page), Setup(browser=BrowserSetup()))
    session = ReadingSession(stage.tree, stage=stage)
    session.arrive()
    acting.load(session)
    thread, page_there = stage.tab.browser.thread, stage.tab.page
    own = median(_milliseconds(lambda: thread.run(page_there.evaluate(_OWN))) for _ in range(_TIMES))
    for move in ("tab", "activate"):
        taken = []
        for _ in range(_TIMES):
            if move == "activate":
                command(session, "first")
            taken.append(_milliseconds(partial(command, session, move)))
            acting.hear_out(session)
        print(f"{size:>6} elements  {move:<9}{median(taken):5.0f} ms, the page's own {own:4.0f} ms (meant {meant})")
    stage.close()


def _milliseconds(work: Callable[[], object]) -> float:
    began = perf_counter()
    work()
    return (perf_counter() - began) * 1000


if __name__ == "__main__":
    main()
