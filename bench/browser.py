"""From a key to what is heard, and looking at a page, in a real browser, beside the browser's own time, in one run."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from functools import partial
from pathlib import Path
from statistics import median
from time import perf_counter

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader import acting
from murvel.reader.moves.commands import command
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
_LOOKED_AT, _LOOK_GOAL = 2_000, 3.0
"""The elements of a page that is looked at, and how many times its load that may take."""

_IN_COLUMNS = "<style>body { display: grid; grid-template-columns: repeat(6, 1fr) }</style>"
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
        blocks = "".join(_BLOCK.format(number) for number in range(_LOOKED_AT // 7))
        page.write_text(_IN_COLUMNS + _PAGE.format(blocks))
        _look(page)


def _look(page: Path) -> None:
    """Print how long looking at a page takes, by how long the browser takes to load it and give its tree."""
    loads, looks = [], []
    for _ in range(3):
        began = perf_counter()
        stage = open_in_browser(str(page), Setup(browser=BrowserSetup()))
        loads.append(perf_counter() - began)
        looks.append(_milliseconds(stage.look) / 1000)
        stage.close()
    load, look = median(loads), median(looks)
    print(f"{_LOOKED_AT} elements: load {load:.1f} s, look {look:.1f} s, {look / load:.1f} times (goal {_LOOK_GOAL:g})")


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
