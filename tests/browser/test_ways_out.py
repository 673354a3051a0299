"""A page that tries every way out: nothing of it comes to a machine that it may not reach.

Every row of `network/ways.txt` is tried against the web, a neighbour's machine and this machine, all in a network of its
own, where each logs whoever comes. Where no such network can be made, loopback addresses stand for the machines.
"""

import json
import shutil
import subprocess
import sys
from functools import cache
from typing import Any

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
from murvel.tree.exchange.write import to_text
from tests.browser.network.inside import own_port, ways
from tests.loading.web import html, serving

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

LEAST_ON_THE_WEB = {"web": 70, "disk": 3}
"""So many rows come to the web where they may; a page on disk is an https page, and asks for little by http."""

BESIDE = ("window-", "blank-", "area-blank", "shared-worker", "service-worker", "rules-", "portal", "fenced-frame")
"""How the rows begin whose pages and workers never run, not even where their machine may be reached."""

WRITTEN = "window-open-written"
"""What is written into a new tab before it is shut asks by way of the page, whose gate sees it as the page's own."""


@cache
def has_namespaces() -> bool:
    """Whether a network of its own can be made here."""
    if not all(map(shutil.which, ("unshare", "ip", "mount"))):
        return False
    tried = ["unshare", "--net", "--mount", "ip", "link", "set", "lo", "up"]
    return subprocess.run(tried, capture_output=True).returncode == 0


def tried(layers: str, mode: str) -> dict[str, Any]:
    command = [sys.executable, "-m", "tests.browser.network.inside"]
    command += ["namespace" if has_namespaces() else "loopback", layers, mode]
    if has_namespaces():
        command = ["unshare", "--net", "--mount", *command]
    done = subprocess.run(command, capture_output=True, text=True, timeout=600)
    assert done.returncode == 0, done.stderr[-3000:]
    found: dict[str, Any] = json.loads(done.stdout)[mode]
    return found


def test_the_table_is_whole() -> None:
    names = [each.name for each in ways()]
    assert len(names) >= 150
    assert len({*names}) == len(names)
    assert len({own_port(each) for each in ways()}) == len(names)
    assert all(each.markup for each in ways())


SOCKETS = ("web-socket", "web-socket-tls", "worker-socket", "rtc-turn-tcp")
"""Ways that the protocol does not pause: the door alone holds them (docs/how-to/scripted-pages.md)."""


@pytest.mark.parametrize("mode", ["web", "disk"])
def test_nothing_comes_where_it_may_not(mode: str) -> None:
    found = tried("both", mode)
    came = found["came"]
    assert came["near"] == came["here"] == []
    assert len(came["web"]) >= LEAST_ON_THE_WEB[mode]
    assert [row for row in came["web"] if row.startswith(BESIDE) and row != WRITTEN] == []
    assert all(name.endswith(".test") for name in found["asked"] if not name[-1].isdigit())
    told = "\n".join(found["told"])
    for words in ("open a new tab", "shared worker", "was refused"):
        assert words in told


@pytest.mark.parametrize(("layer", "mode"), [("gate", "disk-offline"), ("door", "web-offline")])
def test_each_layer_is_enough_by_itself(layer: str, mode: str) -> None:
    came = tried(layer, mode)["came"]
    unseen = {name for each in ways() if each.name in SOCKETS for name in (each.name, f"port {own_port(each)}")}
    known = unseen if layer == "gate" else set()
    assert {*came["near"], *came["here"]} <= known
    assert {*came["web"]} == ({"page"} if mode.startswith("web") else {*came["web"]} & known)


@pytest.mark.parametrize("event", ["pagehide", "beforeunload", "unload", "visibilitychange"])
def test_a_page_that_is_closed_opens_none_on_its_way_out(event: str) -> None:
    """What a room opens while it closes has nobody to be told to; it is closed all the same."""
    script = f"addEventListener('{event}', () => {{ open('/beside'); new Image().src = '/beacon' }})"
    with serving() as server:
        server.answers = {"/": html(f"<title>x</title><h1>Beds</h1><script>{script}</script>")}
        stage = open_in_browser(f"{server.address}/", Setup(browser=BrowserSetup()))
        stage.close()
        again = open_in_browser(f"{server.address}/", Setup(browser=BrowserSetup()))
        assert "Beds" in "\n".join(to_text(again.tree))
        again.close()
        assert server.paths.count("/") == 2
        assert "/beside" not in server.paths
