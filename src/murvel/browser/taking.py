"""Taking a capture: all that is on a page in the browser at one moment."""

from __future__ import annotations

from dataclasses import asdict
from datetime import UTC, datetime

from murvel.browser.errors import BrowserError
from murvel.browser.exposed import browser_node, exposed
from murvel.browser.launch import has_sandbox
from murvel.browser.tab import Tab
from murvel.loading.addresses import shown
from murvel.loading.problems import ProblemKind
from murvel.page.captured.capture import Capture
from murvel.tree.exchange.agreement import BrowserNode

MOST_BROWSER_NODES = 20_000
"""The browser's own tree of a larger page is not asked for: that takes longer than all else."""

_MOST_FRAMES = 10
"""Frames without a document that are listed."""


async def take(tab: Tab, *, whole: bool) -> Capture:
    """Return a capture of the page as it is now.

    Args:
        tab: the page.
        whole: whether looks, boxes and the browser's own tree are taken as well, as for a file; else it is taken to
            be followed from here on.

    Raises:
        BrowserError: the page does not answer, or is too large.
    """
    told = await tab.frames.snapshot(is_anew=not whole)
    if told is None:
        raise BrowserError("The page in the browser shows no document.")
    if told["isOverrun"]:
        raise BrowserError("The page has more elements and texts than can be taken", "capture a part of it.")
    setup = tab.setup.browser
    assert setup is not None
    if not has_sandbox():
        text = "Chromium runs without its sandbox, since Murvel runs as root."
        tab.note(ProblemKind.NOTE, text)
    for address in told["unheard"][:_MOST_FRAMES]:
        name = shown(address) or "without an address"
        text = f"The frame {name} has no document that can be heard here; open its address by itself."
        tab.note(ProblemKind.NOT_READ, text)
    capture = Capture(
        address=tab.gate.own_address(told["address"]),
        title=told["title"],
        taken=datetime.now(UTC).isoformat(timespec="seconds"),
        browser=about(tab),
        width=tab.setup.width,
        height=told["height"],
        nodes=told["nodes"],
        styles=told["styles"],
        focus=told["focus"],
        scroll=told["scroll"],
        problems=told_problems(tab),
    )
    if whole:
        capture.looks = await tab.frames.looks()
        capture.boxes = await tab.frames.boxes()
        if len(capture.nodes) <= MOST_BROWSER_NODES:
            capture.browser_tree = [asdict(node) for node in await browser_tree(tab)]
    return capture


def told_problems(tab: Tab) -> list[list[str]]:
    """Return what went wrong on a page so far, as a capture holds it: each a kind and a sentence."""
    return [[str(kind), text] for kind, text in tab.problems]


def about(tab: Tab) -> str:
    """Return the browser and how it was set up, in words, as "Chromium 130.0.1, 320 pixels wide, dark"."""
    setup = tab.setup.browser
    assert setup is not None
    words = [tab.browser.version, f"{tab.setup.width} pixels wide"]
    words += [f"zoom {setup.zoom} %"] if setup.zoom != 100 else []
    told = {"dark": setup.is_dark, "reduced motion": setup.has_less_motion, "forced colours": setup.has_forced_colors}
    return ", ".join([*words, *(name for name, is_on in told.items() if is_on)])


async def browser_tree(tab: Tab) -> list[BrowserNode]:
    """Return what the browser itself exposes now."""
    return await exposed(tab.send)


async def node_of(tab: Tab, number: int, path: str) -> BrowserNode | None:
    """Return what the browser itself exposes of one element, None if that is nothing.

    Args:
        tab: the page.
        number: our number of the element.
        path: its absolute XPath.
    """
    world, local = tab.frames.place(number)
    given = {"expression": f"murvel.nodeOf({local})", "uniqueContextId": world.name, "objectGroup": "murvel"}
    found = (await tab.send("Runtime.evaluate", given))["result"]
    if "objectId" not in found:
        return None
    asked = {"objectId": found["objectId"], "fetchRelatives": False}
    nodes = (await tab.send("Accessibility.getPartialAXTree", asked))["nodes"]
    await tab.send("Runtime.releaseObjectGroup", {"objectGroup": "murvel"})
    node = next((each for each in nodes if not each.get("ignored")), None)
    return browser_node(node, path, node["role"]["value"]) if node is not None else None
