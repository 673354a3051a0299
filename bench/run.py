"""Speed as ratios within one run: how long things take in units of parsing the same page.

Machines are noisy, so no time stands for itself; the parser's time on the same page, measured beside it, is the unit.
"""

from __future__ import annotations

import asyncio
import gc
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from pathlib import Path

from selectolax.lexbor import LexborHTMLParser

from murvel.browser.chromium import chromium, exposed
from murvel.browser.launch import find_chromium
from murvel.casebook.store import Casebook
from murvel.checks.run import leads_of
from murvel.page.loading.fetch import PageSource
from murvel.page.open import document_from_text
from murvel.reader.acting import activate
from murvel.reader.commands import command
from murvel.reader.reading import go_to
from murvel.reader.readout import Readout
from murvel.reader.session import ReadingSession
from murvel.stage.html.cues import Cue, read_cues
from murvel.stage.html.stage import HtmlStage
from murvel.tree.build import build_tree
from murvel.tree.model import Tree
from murvel.tui.app import MurvelApp
from murvel.tui.settings import Settings
from murvel.tui.views.reading import ReadingView
from murvel.work.opening import Opening

ROUNDS = 5


def page(sections: int) -> str:
    """Return a page with 20 elements a section: headings, text with links, a list, fields."""
    section = """
    <section aria-labelledby="h{n}"><h2 id="h{n}">Plot {n}</h2>
    <p>Full plot by the stream, <a href="#a">sun until four</a>, tap at the <b>corner</b>.</p>
    <ul><li>beans</li><li><a href="#b">peas</a></li><li>chard</li></ul>
    <form><label for="f{n}">Your name</label><input id="f{n}" required><label><input type="checkbox"> Remind me</label>
    <button type="submit">Reserve <span>plot {n}</span></button></form><img src="x.jpg" alt=""></section>
    """
    body = "".join(section.format(n=number) for number in range(sections))
    return f"<!DOCTYPE html><html lang=en><title>Bench</title><style>.x{{display:none}}</style><main>{body}</main>"


def best(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """Return the shortest of several runs, in seconds."""
    times = []
    for _ in range(rounds):
        gc.collect()
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def report(what: str, taken: float, unit: float, bound: str) -> None:
    """Print one ratio, with the time itself for orientation."""
    print(f"{what:<58} {taken / unit:>8.1f} x parse   ({taken * 1000:>7.1f} ms; {bound})")


@asynccontextmanager
async def opened(path: Path, folder: Path) -> AsyncIterator[MurvelApp]:
    """Open a page in the application, up to its first screen."""
    with Casebook(folder / "bench.murvel") as book:
        app = MurvelApp(book, Opening(str(path)), settings=Settings())
        async with app.run_test(size=(160, 47)) as pilot:
            while app.page is None or not app.page.front:
                await pilot.pause()
            await pilot.pause()
            yield app


async def first_screen(path: Path, folder: Path) -> float:
    """Return the seconds from the address to the first screen, imports done."""
    start = time.perf_counter()
    async with opened(path, folder):
        return time.perf_counter() - start


async def moves(path: Path, folder: Path, count: int = 40) -> list[float]:
    """Return the seconds that each of some moves took until the screen was painted again."""
    taken = []
    async with opened(path, folder) as app:
        assert app.page is not None
        view = app.page.query_one(ReadingView)
        for number in range(count):
            painted = asyncio.Event()
            start = time.perf_counter()
            view.action_command("next" if number % 8 else "last" if number % 16 else "first")
            app.call_after_refresh(painted.set)
            await painted.wait()
            taken.append(time.perf_counter() - start)
    return sorted(taken)


def utterances(session: ReadingSession, count: int = 400) -> list[float]:
    """Return the seconds from a key to its utterance, for moves of all kinds over the page."""
    words = [
        "next",
        "object",
        "jump headings",
        "word",
        "this role",
        "tab",
        "past",
        "find peas",
        "where",
        "last",
        "first",
    ]
    taken = []
    for number in range(count):
        start = time.perf_counter()
        command(session, words[number % len(words)])
        taken.append(time.perf_counter() - start)
    return sorted(taken)


def spoken(tree: Tree, stage: HtmlStage | None = None) -> ReadingSession:
    """Return a session on a page, all of it spoken once."""
    session = ReadingSession(tree, stage=stage)
    _ = session.spoken.total
    return session


def on_stage(markup: str, cues: list[Cue]) -> ReadingSession:
    """Return a session on a page at work, all of it spoken once."""
    stage = HtmlStage(PageSource(markup), cues=cues)
    return spoken(stage.tree, stage)


def act(session: ReadingSession, identifier: str) -> float:
    """Return the seconds that activating an element takes, until the whole page is known again with its times."""
    node = session.tree.node_of(session.tree.document.ids[identifier])
    assert node is not None
    session.make(go_to(session, node))
    start = time.perf_counter()
    activate(session)
    _ = session.spoken.total
    return time.perf_counter() - start


def changes(folder: Path) -> None:
    """Print what changes of a page at work cost, as shares of opening it."""
    insert = "".join(f"<li>entry {number}</li>" for number in range(2000))
    path = folder / "page.cues.yaml"
    path.write_text(f"cues: [{{when: activate, where: '#add', do: [{{insert: {{where: '#log', html: '{insert}'}}}}]}}]")
    cues = read_cues(path)
    parts = "<input type=checkbox id=box><button id=add>Add</button><ul role=log id=log></ul>"
    markup = page(700).replace("<main>", f"<main>{parts}")
    opening = best(lambda: on_stage(markup, cues), 3)
    session = on_stage(markup, cues)
    act(session, "box")
    key = min(act(session, "box") for _ in range(ROUNDS))
    what = f"a key on the stage, {len(session.tree.nodes):,} nodes, as a share of opening"
    print(f"{what:<58} {key / opening:>8.3f}     (meant: under 0.10)")
    added = act(session, "add")
    print(
        f"{'2,000 items into a live region, as a share of opening':<58} {added / opening:>8.2f}     (meant: under 1.00)"
    )


def whole(markup: str) -> None:
    """Do all the work from markup to a tree with names and states."""
    build_tree(document_from_text(markup))


def peak_memory(markup: str) -> float:
    """Return the peak memory of a process that builds one tree, in megabytes."""
    program = (
        "import resource, sys; from murvel.page.open import document_from_text; "
        "from murvel.tree.build import build_tree; tree = build_tree(document_from_text(sys.stdin.read())); "
        "print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)"
    )
    done = subprocess.run([sys.executable, "-c", program], input=markup, capture_output=True, text=True, check=True)
    return float(done.stdout)


def browser_seconds(markup: str, folder: Path) -> float | None:
    """Return how long Chromium takes to load a page and give its tree, None if there is none."""
    if find_chromium() is None:
        return None
    path = folder / "browser.html"
    path.write_text(markup)
    with chromium() as context:
        exposed(context, path)
        return best(lambda: exposed(context, path), 3)


def growth() -> None:
    """Print what doubling a page costs, from 1,000 to 200,000 elements."""
    print("\nDoubling the page (meant: no more than 2.2 times the time):")
    before = 0.0
    for sections in (50, 100, 200, 400, 800, 1600, 3200, 6400, 10000):
        markup = page(sections)
        taken = best(lambda: whole(markup), 3)  # noqa: B023 - called at once
        times = f"{taken / before:5.2f} times" if before else ""
        print(f"  {sections * 20:>8,} elements {taken * 1000:>9.1f} ms  {times}")
        before = taken


def processor_seconds(arguments: list[str], rounds: int = ROUNDS) -> float:
    """The least processor time that a process of Python takes."""
    taken = []
    for _ in range(rounds):
        before = resource.getrusage(resource.RUSAGE_CHILDREN)
        subprocess.run([sys.executable, *arguments], capture_output=True, check=True)
        after = resource.getrusage(resource.RUSAGE_CHILDREN)
        taken.append(after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime)
    return min(taken)


def starting(folder: Path) -> None:
    """How long commands take from their start to their end, in units of bare Python."""
    path = folder / "tiny.html"
    path.write_text("<p>a")
    bare = processor_seconds(["-c", "pass"])
    for command_, bound in (
        (["--version"], "at most 5 x"),
        (["--help"], "at most 5 x"),
        (["read", str(path)], "at most 12 x"),
        (["tree", str(path)], "at most 12 x"),
    ):
        ratio = processor_seconds(["-m", "murvel", *command_]) / bare
        what = f"murvel {command_[0]}, a process, as a multiple of bare Python"
        print(f"{what:<58} {ratio:>8.1f}     (meant: {bound})")


def main() -> None:
    """Measure and print."""
    small, large = page(50), page(2000)
    parse_small = best(lambda: LexborHTMLParser(small))
    parse_large = best(lambda: LexborHTMLParser(large))
    document = document_from_text(large)
    tree = build_tree(document)
    items = len(ReadingSession(tree).readout.items)
    print(f"Pages: {len(small) // 1000} KB with 1,000 elements; {len(large) // 1000} KB with {items:,} items.\n")
    report("document with places and styles, large page", best(lambda: document_from_text(large)), parse_large, "")
    report("tree with names and states, large page", best(lambda: build_tree(document)), parse_large, "")
    report("readout, voice and times, large page", best(lambda: spoken(tree)), parse_large, "")
    share = best(lambda: Readout(tree)) / best(lambda: build_tree(document))
    print(f"{'readout, as a share of the tree':<58} {share:>8.2f}     (meant: under 0.50)")
    noticing = best(lambda: leads_of(spoken(tree))) - best(lambda: spoken(tree))
    share = noticing / best(lambda: whole(large))
    print(f"{'all checks, as a share of bytes to tree':<58} {share:>8.2f}     (meant: under 0.50)")
    heard = utterances(ReadingSession(tree))
    slow = heard[int(len(heard) * 0.95)]
    report("a key until its utterance, 95th percentile", slow, parse_large, "meant: under 30 ms")
    report("bytes to tree, large page", best(lambda: whole(large)), parse_large, "meant: at most 30 x")
    print(f"{'peak memory, large page':<58} {peak_memory(large):>8.0f} MB        (meant: under 250 MB)")
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        browser = browser_seconds(large, folder)
        if browser is not None:
            share = best(lambda: whole(large)) / browser
            what = "bytes to tree, as a share of Chromium doing the same"
            print(f"{what:<58} {share:>8.2f}     (meant: at most 0.20)")
        starting(folder)
        changes(folder)
        (folder / "small.html").write_text(small)
        (folder / "large.html").write_text(large)
        asyncio.run(first_screen(folder / "small.html", folder))
        opened = min(asyncio.run(first_screen(folder / "small.html", folder)) for _ in range(3))
        report("address to first screen, 1,000 elements", opened, parse_small, "meant: under 1000 ms")
        taken = asyncio.run(moves(folder / "large.html", folder))
        report(
            f"a move until it is painted, {items:,} items, median",
            taken[len(taken) // 2],
            parse_large,
            "meant: under 50 ms",
        )
        report("the same, 95th percentile", taken[int(len(taken) * 0.95)], parse_large, "meant: under 50 ms")
    growth()


if __name__ == "__main__":
    main()
