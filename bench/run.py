"""Speed as ratios within one run, each with its goal: machines are noisy, so no time stands for itself.

Four parts: processes from their start to their end; pages to trees, in units of a bare parse and walk; growth and
memory; the application. `make bench` prints all, `python -m bench.run PART...` some.
"""

from __future__ import annotations

import asyncio
import gc
import os
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from pathlib import Path
from statistics import median

from bench.pages import dashboard, reference, sections
from selectolax.lexbor import LexborHTMLParser
from textual.pilot import Pilot

from murvel.browser.chromium import chromium, exposed
from murvel.browser.launch import find_chromium
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.run import leads_of
from murvel.css.selectors import grammar
from murvel.css.sheets import excerpts, rules, sheets
from murvel.dom.memory import no_collection
from murvel.loading.fetch import PageSource
from murvel.loading.setup import Setup
from murvel.page.open_page import open_document
from murvel.reader.acting import activate
from murvel.reader.moves.commands import command
from murvel.reader.moves.linear import go_to
from murvel.reader.session import ReadingSession
from murvel.stage.html.cues import Cue, read_cues
from murvel.stage.html.stage import HtmlStage
from murvel.tree.build import build_tree
from murvel.tree.exchange.write import to_json
from murvel.tree.open_tree import open_tree
from murvel.tui.app import MurvelApp
from murvel.tui.dialogs.looking import Looking
from murvel.tui.settings import Settings
from murvel.work.opening import Opening

ROUNDS = 5


def best(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """Return the least processor time of several runs, in seconds."""
    return min(seconds_of(work) for _ in range(rounds))


def ratio(work: Callable[[], object], unit: Callable[[], object], rounds: int = ROUNDS) -> float:
    """Return how many times the processor time of `unit` some work takes.

    It is the median of rounds in which the two follow each other: a machine's speed changes between minutes.
    """
    return median(seconds_of(work) / seconds_of(unit) for _ in range(rounds))


def seconds_of(work: Callable[[], object]) -> float:
    """Return the processor time that some work takes, in seconds."""
    gc.collect()
    with no_collection():
        start = time.process_time()
        work()
        return time.process_time() - start


def tell(what: str, ratio: float, goal: str) -> None:
    """Print one ratio beside its goal."""
    print(f"{what:<72} {ratio:>8.2f}   (goal: {goal})", flush=True)


# Processes


def processor_seconds(arguments: list[str], rounds: int = ROUNDS) -> float:
    """Return the least processor time that a process takes, with those that it starts; modules are compiled already, as
    they are from a person's second run on."""
    environment = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    environment["PYTHONPYCACHEPREFIX"] = str(Path(tempfile.gettempdir()) / "murvel-compiled")
    taken = []
    for _ in range(rounds + 1):
        before = resource.getrusage(resource.RUSAGE_CHILDREN)
        subprocess.run(arguments, capture_output=True, check=True, env=environment)
        after = resource.getrusage(resource.RUSAGE_CHILDREN)
        taken.append(after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime)
    return min(taken)


def starting(folder: Path) -> None:
    """Print how long commands take from their start to their end, in units of bare Python."""
    path = folder / "tiny.html"
    path.write_text("<p>a")
    bare = processor_seconds([sys.executable, "-c", "pass"])
    for arguments, goal in (
        (["--version"], "at most 5"),
        (["--help"], "at most 5"),
        (["read", str(path)], "at most 12"),
        (["tree", str(path)], "at most 12"),
        (["check", str(path)], "at most 20"),
    ):
        ratio = processor_seconds([sys.executable, "-m", "murvel", *arguments]) / bare
        tell(f"murvel {arguments[0]}, as a multiple of bare Python", ratio, goal)


def against_chromium(folder: Path) -> None:
    """Print how many times as fast a page becomes a tree here as in Chromium, both running already."""
    if find_chromium() is None:
        return
    with chromium() as context:
        for name, path, goal in (
            ("8 elements", _written(folder, "few.html", "<h1>a</h1><p>b <a href=c>c</a>"), "at least 5"),
            ("the dashboard", dashboard(folder), "at least 5"),
            ("the reference page", _written(folder, "reference.html", reference()), "at least 5"),
            ("50,000 elements", _written(folder, "large.html", sections(2500)), "at least 15"),
        ):
            ours = best(lambda: open_tree(str(path)), 3)  # noqa: B023 - called at once
            theirs = []
            for _ in range(3):
                start = time.perf_counter()
                exposed(context, path)
                theirs.append(time.perf_counter() - start)
            tell(f"from a file to a tree, times as fast as Chromium: {name}", min(theirs) / ours, goal)


def folders(folder: Path) -> None:
    """Print what a second processor gives for a folder of 60 pages."""
    processors = sorted(os.sched_getaffinity(0))
    pages = folder / "sixty"
    pages.mkdir()
    for number in range(60):
        (pages / f"{number}.html").write_text(sections(20 + 7 * (number % 12)))
    taken = []
    for count in (1, 2):
        if len(processors) < count:
            return
        at = ",".join(map(str, processors[:count]))
        start = time.perf_counter()
        command_ = ["-m", "murvel", "tree", str(pages), "-o", str(folder / f"out{count}")]
        subprocess.run(["taskset", "-c", at, sys.executable, *command_], capture_output=True, check=True)
        taken.append(time.perf_counter() - start)
    tell("a folder of 60 pages, times as fast on two processors as on one", taken[0] / taken[1], "at least 1.8")


# Pages to trees


def walked(markup: str) -> None:
    """Do the least that any reader of a page has to: parse it, and read each tag, attribute and text."""
    for node in LexborHTMLParser(markup).root.traverse(include_text=True):  # type: ignore[union-attr]
        _ = node.text_content if node.tag == "-text" else node.attributes


def forget_sheets() -> None:
    """Forget all that is kept of style sheets within a run."""
    excerpts.excerpts_in.cache_clear()
    sheets._alone.cache_clear()
    grammar.selectors_in.cache_clear()
    rules._specificity.cache_clear()


def to_trees(folder: Path) -> None:
    """Print what a page costs from its bytes to its tree, in units of a bare parse and walk."""
    kept = Setup(excerpts=folder / "excerpts")
    path = dashboard(folder)
    sheets_and_all = path.read_text()

    def unit() -> None:
        walked(sheets_and_all)

    def first() -> None:
        forget_sheets()
        build_tree(open_document(str(path)))

    def from_disk() -> None:
        forget_sheets()
        build_tree(open_document(str(path), kept))

    tell("dashboard, 460 KB of style sheets, at first sight, by walks", ratio(first, unit), "at most 60")
    from_disk()
    tell("the same, with excerpts of an earlier run", ratio(from_disk, unit), "at most 25")
    tell("the same, later in one run", ratio(lambda: build_tree(open_document(str(path))), unit), "at most 25")
    for name, markup in (("reference page", reference()), ("50,000 elements", sections(2500))):
        page = _written(folder, "page.html", markup)

        def make() -> None:
            build_tree(open_document(str(page)))  # noqa: B023 - called at once

        tell(f"{name}, by walks", ratio(make, lambda: walked(markup)), "at most 25")  # noqa: B023 - called at once
        tree = open_tree(str(page))
        written = ratio(lambda: sum(map(len, to_json(tree))), make)  # noqa: B023 - called at once
        tell(f"{name}: writing its JSON, as a share of making the tree", written, "under 0.5")
    session = spoken(tree)
    tell("all checks, as a share of bytes to tree", ratio(lambda: leads_of(session, built_in()), make), "under 0.5")


# Growth and memory


def growth() -> None:
    """Print what doubling a page costs, and what a page of 200,000 elements takes of memory."""
    for count in (200, 400, 800, 1600, 3200, 6400, 10000):
        half, whole = sections(count // 2), sections(count)
        factor = ratio(lambda: walk_through(whole), lambda: walk_through(half), 3)  # noqa: B023 - called at once
        tell(f"to {count * 20:,} elements: time for twice as many, all of it spoken", factor, "at most 2.3")


def walk_through(markup: str) -> None:
    """Do all the work from markup to what is heard."""
    stage = HtmlStage(PageSource(markup))
    _ = ReadingSession(stage.tree, stage=stage).spoken.total


def memory(folder: Path) -> None:
    """Print the peak of memory of commands on a page of 200,000 elements, in megabytes."""
    path = _written(folder, "huge.html", sections(10000))
    program = (
        "import resource, subprocess, sys; subprocess.run(sys.argv[1:], capture_output=True); "
        "print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024)"
    )
    for name in ("tree", "read", "check"):
        arguments = [sys.executable, "-c", program, sys.executable, "-m", "murvel", name, str(path)]
        done = subprocess.run(arguments, capture_output=True, text=True, check=True)
        tell(f"murvel {name}, 200,000 elements, megabytes", float(done.stdout), "under 300")


# The application


@asynccontextmanager
async def opened(path: Path, folder: Path) -> AsyncIterator[tuple[MurvelApp, Pilot[None]]]:
    """Open a page in the application, up to its first screen."""
    with Casebook(folder / "bench.murvel") as book:
        app = MurvelApp(book, Opening(str(path)), built_in(), settings=Settings())
        async with app.run_test(size=(160, 47)) as pilot:
            while app.page is None or not app.page.front:
                await asyncio.sleep(0.1)
            await pilot.pause()
            yield app, pilot


async def application(folder: Path) -> None:
    """Print what a person waits for on a page of 20,000 items."""
    path = _written(folder, "items.html", sections(2000))
    reading = best(lambda: spoken(open_tree(str(path))), 2)
    start = time.process_time()
    async with opened(path, folder) as (app, pilot):
        first = time.process_time() - start
        tell("first screen at 20,000 items, as a multiple of read's time", first / reading, "at most 1.5")
        for key in ("right_square_bracket", "2", "3", "4", "5", "6"):
            print(f"    {key} for the first time: {await press(app, pilot, key):.0f} ms of processor time")
        await press(app, pilot, "1")
        taken = sorted([await press(app, pilot, "down") for _ in range(60)])
        tell("a key to its paint, 95th percentile, ms of processor time", taken[57], "under 50")
        start, began = time.process_time(), time.perf_counter()
        await asyncio.sleep(5)
        idle = (time.process_time() - start) / (time.perf_counter() - began)
        tell("idle, percent of a processor", 100 * idle, "under 0.3")


async def press(app: MurvelApp, pilot: Pilot[None], key: str) -> float:
    """Press a key and return the milliseconds of processor time until the screen is painted again."""
    painted = asyncio.Event()
    start = time.process_time()
    await pilot.press(key)
    while isinstance(app.screen, Looking):
        await asyncio.sleep(0.05)
    app.call_after_refresh(painted.set)
    await painted.wait()
    return (time.process_time() - start) * 1000


def utterances(session: ReadingSession, count: int = 400) -> list[float]:
    """Return the seconds from a key to its utterance, for moves of all kinds over the page."""
    words = "next;object;jump headings;word;this role;tab;past;find peas;where;last;first".split(";")
    taken = []
    for number in range(count):
        start = time.process_time()
        command(session, words[number % len(words)])
        taken.append(time.process_time() - start)
    return sorted(taken)


def spoken(tree: object, stage: HtmlStage | None = None) -> ReadingSession:
    """Return a session on a page, all of it spoken once."""
    session = ReadingSession(tree, stage=stage)  # type: ignore[arg-type]
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
    start = time.process_time()
    activate(session)
    _ = session.spoken.total
    return time.process_time() - start


def changes(folder: Path) -> None:
    """Print what changes of a page at work cost, as shares of opening it."""
    insert = "".join(f"<li>entry {number}</li>" for number in range(2000))
    path = folder / "page.cues.yaml"
    path.write_text(f"cues: [{{when: activate, where: '#add', do: [{{insert: {{where: '#log', html: '{insert}'}}}}]}}]")
    cues = read_cues(path)
    parts = "<input type=checkbox id=box><button id=add>Add</button><ul role=log id=log></ul>"
    markup = sections(700).replace("<main>", f"<main>{parts}")
    opening = best(lambda: on_stage(markup, cues), 3)
    session = on_stage(markup, cues)
    act(session, "box")
    key = min(act(session, "box") for _ in range(ROUNDS))
    tell("a key on the built-in stage, 20,000 nodes, as a share of opening", key / opening, "under 0.1")
    tell("2,000 items into a live region, as a share of opening", act(session, "add") / opening, "under 1")
    heard = utterances(session)
    tell("a key to its utterance, 95th percentile, ms of processor time", heard[380] * 1000, "under 30")


def _written(folder: Path, name: str, markup: str) -> Path:
    path = folder / name
    path.write_text(markup)
    return path


PARTS: dict[str, Callable[[Path], object]] = {
    "start": starting,
    "browser": against_chromium,
    "folder": folders,
    "tree": to_trees,
    "growth": lambda _: growth(),
    "memory": memory,
    "stage": changes,
    "application": lambda folder: asyncio.run(application(folder)),
}


def main(names: list[str]) -> None:
    """Measure and print what was named, or all."""
    unknown = [name for name in names if name not in PARTS]
    if unknown:
        sys.exit(f"There is no part {unknown[0]}; the parts are {', '.join(PARTS)}.")
    for name in names or PARTS:
        with tempfile.TemporaryDirectory() as folder:
            PARTS[name](Path(folder))


if __name__ == "__main__":
    main(sys.argv[1:])
