"""Opens the pages that try every way out, and prints what came to each machine, as JSON.

Run as a program of its own: `python -m tests.browser.network.inside namespace|loopback LAYERS MODES`; layers are both,
gate, door or none, and modes are separated by commas.
"""

from __future__ import annotations

import json
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any, NamedTuple

from murvel.browser.stage import BrowserStage
from murvel.errors import MurvelError
from murvel.loading.setup import BrowserSetup, Setup
from tests.browser.network.machines import LOOPBACK, OWN_PORTS, PORT, REAL, Network, running

MODES = ("disk", "web", "disk-offline", "web-offline")
TARGETS = ("web", "near", "here")
_A_PAGE = 50
_SECONDS, _PATIENCE = 0.8, 20
_TELLS = {"shared-worker": "shared worker"}
"""Rows whose refusal is waited for, however busy the machine is, with words of its sentence."""


class Way(NamedTuple):
    """A way out: its name, its markup, and whether it takes the page with it."""

    name: str
    markup: str
    is_alone: bool


def ways() -> list[Way]:
    """All ways out."""
    text = (Path(__file__).parent / "ways.txt").read_text(encoding="utf-8")
    found = []
    for part in ("\n" + text).split("\n# ")[1:]:
        head, _, markup = part.partition("\n")
        found.append(Way(head.removeprefix("alone "), markup.strip(), head.startswith("alone ")))
    return found


def own_port(way: Way) -> int:
    """The port at which a row is known that has no path."""
    return OWN_PORTS[[each.name for each in ways()].index(way.name)]


def filled(way: Way, target: str, network: Network, number: int) -> str:
    """A row's markup for one machine."""
    ip = network.places[target]
    url = f"http://{target}.test:{PORT}/{way.name}"
    values = {
        "url": url,
        "redirect": f"http://web.test:{PORT}/redirecting?to={url}",
        "host": f"{target}.test",
        "ip": ip,
        "number": str(int.from_bytes(socket.inet_aton(ip), "big")),
        "port": str(PORT),
        "own": str(own_port(way)),
        "row": way.name,
        "target": target,
        "n": str(number),
    }
    markup = way.markup
    for name, value in values.items():
        markup = markup.replace("{" + name + "}", value)
    return markup


def pages(network: Network, targets: Sequence[str]) -> Iterator[tuple[str, list[Way]]]:
    """The markup of each page, and the rows on it; those that take the page with them lead to `targets`."""
    together = [each for each in ways() if not each.is_alone]
    for at in range(0, len(together), _A_PAGE):
        rows = together[at : at + _A_PAGE]
        filled_in = [
            filled(row, target, network, 10 * at + 3 * number + offset)
            for number, row in enumerate(rows)
            for offset, target in enumerate(TARGETS)
        ]
        yield "\n".join(filled_in), rows
    for row in ways():
        if row.is_alone:
            for target in targets:
                yield filled(row, target, network, 0), [row]


_HEADERS = {
    "Link": "<http://here.test:8180/headers>; rel=preload; as=script, <http://here.test:9199>; rel=preconnect",
    "Reporting-Endpoints": 'default="http://here.test:8180/headers"',
    "Report-To": '{"group":"n","max_age":99,"endpoints":[{"url":"http://here.test:8180/headers"}]}',
    "NEL": '{"report_to":"n","max_age":99,"success_fraction":1}',
    "Content-Security-Policy-Report-Only": "img-src 'none'; report-uri http://here.test:8180/headers",
    "Speculation-Rules": '"http://here.test:8180/headers"',
    "SourceMap": "http://here.test:8180/headers",
}


def heard_of(stage: BrowserStage, awaited: Sequence[str]) -> Iterator[str]:
    """Give a page time for all that it tries, and yield what is told of it."""
    end = time.monotonic() + _PATIENCE
    time.sleep(_SECONDS)
    told: list[str] = []
    while True:
        told += stage.tab.take_happened().notes
        known = [each.text for each in stage.tab.problems if isinstance(each, tuple)]
        missing = [words for words in awaited if not any(words in each for each in (*told, *known))]
        if not missing or time.monotonic() > end:
            yield from (*told, *known)
            return
        time.sleep(_SECONDS)


def tried(network: Network, mode: str) -> dict[str, Any]:
    """Open all pages in one mode, and return what came."""
    from murvel.browser.open_in_browser import open_in_browser

    network.forget()
    told: list[str] = []
    setup = Setup(is_offline="offline" in mode, browser=BrowserSetup())
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / ".env").write_text("secret")
        for markup, rows in pages(network, ["web"] if setup.is_offline else ["here"]):
            whole = f"<!DOCTYPE html><title>Page</title><body><p>x\n{markup}"
            address = f"http://web.test:{PORT}/page"
            if mode.startswith("disk"):
                address = f"{folder}/page.html"
                Path(address).write_text(whole)
            else:
                network.pages["/page"] = (_HEADERS if rows[0].name == "headers" else {}, whole)
            try:
                stage = open_in_browser(address, setup)
            except MurvelError as error:
                told.append(f"{rows[0].name}: {error}")
                continue
            told += list(heard_of(stage, [_TELLS[row.name] for row in rows if row.name in _TELLS]))
            with suppress(MurvelError):
                stage.close()
    return {
        "came": {name: sorted(rows) for name, rows in network.came.items()},
        "asked": sorted(set(network.asked)),
        "told": told,
    }


def without(layer: str, network: Network) -> None:
    """Take one of the two layers away, to see that the other holds by itself."""
    from murvel.browser import door, gate

    if layer in ("door", "none"):  # without the gate, pages on disk still come from their folder

        async def let(self: Any, asked: Any) -> Any:
            is_own = self.is_local and asked.address.startswith(gate.ORIGIN)
            if is_own or (self.is_offline and asked.is_page and not self.is_local):
                return await known(self, asked)
            return None

        known: Callable[..., Any] = gate.Gate.answer
        gate.Gate.answer = let  # type: ignore[method-assign]
    if layer in ("gate", "none"):

        async def judged(self: Any, host: str, port: int) -> list[str]:
            found = network.address_of(host) or host
            return [found]

        door.Door._judged = judged  # type: ignore[method-assign]


def main() -> None:
    """Print what came, by layer and mode."""
    place, layers, modes = sys.argv[1:]
    is_namespace = place == "namespace"
    places = REAL if is_namespace else LOOPBACK
    if is_namespace:
        commands = ["ip link set lo up", *(f"ip addr add {places[each]}/32 dev lo" for each in ("web", "near"))]
        for command in commands:
            subprocess.run(command.split(), check=True)
        Path("/tmp/murvel-resolv.conf").write_text("nameserver 127.0.0.53\noptions timeout:1 attempts:1\n")
        subprocess.run("mount --bind /tmp/murvel-resolv.conf /etc/resolv.conf".split(), check=True)
    with running(places, with_names=is_namespace) as network:
        if not is_namespace:
            _stand_in(network)
        without(layers, network)
        print(json.dumps({mode: tried(network, mode) for mode in modes.split(",")}))


def _stand_in(network: Network) -> None:
    """Let loopback addresses be what they stand for."""
    from murvel.browser import gate
    from murvel.loading import reach

    zones = {"127.0.1.1": reach.Zone.PUBLIC, "127.0.2.1": reach.Zone.PRIVATE}
    known = reach.zone_of

    def look_up(host: str, port: int) -> list[str]:
        network.asked.append(host)
        with suppress(OSError):
            return [socket.inet_ntoa(socket.inet_aton(host))]
        found = network.address_of(host)
        if found is None:
            raise OSError("unknown")
        return [found]

    reach.zone_of = lambda ip: zones[ip] if ip in zones else known(ip)
    reach.look_up = look_up
    gate.look_up = look_up


if __name__ == "__main__":
    main()
