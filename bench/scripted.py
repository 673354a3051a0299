"""Pages with scripts in a real browser: how far our tree and our order of Tab agree with the browser's own.

    bench/scripted.py ROOT PAGE...

ROOT is the folder that holds what local pages refer to.
"""

from __future__ import annotations

import sys
from difflib import SequenceMatcher
from itertools import zip_longest
from pathlib import Path

from murvel.dom.places import xpath
from murvel.errors import MurvelError
from murvel.loading.setup import BrowserSetup, Setup
from murvel.reader.moves.ring import Ring, press_through
from murvel.tree.exchange.agreement import Agreement, Difference, Fact
from murvel.work.sessions import open_session


def main(root: Path, pages: list[str]) -> None:
    """Print the differences of each page, and the rates over all."""
    total = Agreement()
    for page in pages:
        try:
            session = open_session(page, Setup(root=None if "://" in page else root, browser=BrowserSetup()))
        except MurvelError as error:
            print(f"{page}: {error}")
            continue
        found = session.tree.opinion.on(session.tree)
        ring = Ring()
        for _ in press_through(session, ring):
            pass
        _compare_order(found, ring)
        print(
            f"{page}: {sum(found.compared.values())} facts, {len(found.differences)} differ, {len(ring.forward)} stops"
        )
        for each in found.differences[:8]:
            print(
                f"    {each.fact.value}: {each.xpath[-80:]}: Chromium “{each.theirs[:60]}”, Murvel “{each.ours[:60]}”"
            )
        total.add(found)
        session.stage.close()
    for fact in Fact:
        print(f"{fact.value:<18} {total.compared[fact]:>7}  {100 * total.rate(fact):6.2f} %")


def _compare_order(agreement: Agreement, ring: Ring) -> None:
    theirs, ours = ([xpath(each) for each in order] for order in (ring.forward, ring.listed))
    for kind, first, last, our_first, our_last in SequenceMatcher(None, theirs, ours, autojunk=False).get_opcodes():
        for their, own in zip_longest(theirs[first:last], ours[our_first:our_last], fillvalue=""):
            agreement.compared[Fact.ORDER] += 1
            if kind != "equal":
                agreement.differences.append(Difference(Fact.ORDER, their or own, their, own))


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2:])
