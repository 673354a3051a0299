"""Which machines a page may reach: the one rule for both stages.

A machine is as near as its address says. A page reaches machines of its own zone and of those further away, never
nearer ones. Each name is resolved once in the life of a page, and whoever connects gets the addresses that were judged,
so that a name cannot mean another machine a moment later.
"""

from __future__ import annotations

import asyncio
import ipaddress
import socket
import threading
from collections.abc import Callable, Iterable
from contextlib import suppress
from enum import IntEnum

from murvel.loading.addresses import shown


class Zone(IntEnum):
    """How near a machine is."""

    PUBLIC = 0
    PRIVATE = 1
    LOOPBACK = 2


PLACES = {Zone.PUBLIC: "the web", Zone.PRIVATE: "a private network", Zone.LOOPBACK: "this machine"}
"""What a zone is called."""


class ForbiddenError(Exception):
    """A request that a page may not make; the message is a clause that says why."""


class UnknownHostError(OSError):
    """A name that has no address; the message is a clause."""


_EMBEDDING = tuple(ipaddress.ip_network(each) for each in ("64:ff9b::/96", "::/96"))
"""Networks whose addresses end in an IPv4 address that is meant (RFC 6052 §2.1; RFC 4291 §2.5.5.1)."""


def zone_of(address: str) -> Zone:
    """Return the zone of an IP address (IANA's registries of special-purpose addresses)."""
    ip: ipaddress.IPv4Address | ipaddress.IPv6Address = ipaddress.ip_address(address.partition("%")[0])
    if isinstance(ip, ipaddress.IPv6Address) and not (ip.is_loopback or ip.is_unspecified):
        inner = ip.ipv4_mapped or ip.sixtofour
        if inner is None and any(ip in network for network in _EMBEDDING):
            inner = ipaddress.IPv4Address(int(ip) & 0xFFFFFFFF)
        ip = inner or ip
    if ip.is_loopback or ip.is_unspecified:
        return Zone.LOOPBACK
    return Zone.PUBLIC if ip.is_global and not ip.is_multicast else Zone.PRIVATE


def nearest(addresses: Iterable[str]) -> Zone:
    """Return the zone of the nearest of some IP addresses: a name with several is judged by that."""
    return max(map(zone_of, addresses), default=Zone.PUBLIC)


def look_up(host: str, port: int) -> list[str]:
    """Return the IP addresses of a host.

    Raises:
        OSError, UnicodeError: it has none.
    """
    found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
    return list(dict.fromkeys(str(each[4][0]).partition("%")[0] for each in found))


class Reach:
    """Which machines one page reaches.

    Args:
        zone: the zone of the page; None until it is known.
    """

    def __init__(self, zone: Zone | None = None) -> None:
        self.zone = zone
        self._resolved: dict[str, asyncio.Future[list[str]]] = {}

    async def judged(self, host: str, port: int, limit: Zone | None = None) -> list[str]:
        """Return the IP addresses of a host that the page may reach.

        Args:
            host: a name or an IP address, one of IPv6 with or without brackets.
            port: where it is asked.
            limit: the nearest zone for this request; None for that of the page.

        Raises:
            UnknownHostError: it has no address.
            ForbiddenError: it is nearer than the page.
        """
        found = await self.resolved(host, port)
        limits = [each for each in (limit, self.zone) if each is not None]
        zone = nearest(found)
        if limits and zone > min(limits):
            raise ForbiddenError(f"it leads to {PLACES[zone]}, and the page comes from outside")
        return found

    async def resolved(self, host: str, port: int) -> list[str]:
        """Return the IP addresses of a host, as they were when it was first asked for.

        Raises:
            UnknownHostError: it has none.
        """
        host = host.strip("[]").rstrip(".").lower()
        if host not in self._resolved:
            self._resolved[host] = asyncio.ensure_future(_looked_up(host, port))
        try:
            return await asyncio.shield(self._resolved[host])
        except (OSError, UnicodeError) as error:
            self._resolved.pop(host, None)  # it may be known a moment later
            raise UnknownHostError(f"its host {shown(host)} is not known") from error

    def again(self, zone: Zone) -> Reach:
        """Return what a page of a zone reaches, for which names mean the same machines as for this one."""
        other = Reach(zone)
        other._resolved = self._resolved
        return other

    def narrow(self, zone: Zone) -> None:
        """Let the page reach no nearer than a zone from now on."""
        self.zone = zone if self.zone is None else min(self.zone, zone)


async def _looked_up(host: str, port: int) -> list[str]:
    """Look a host up in a thread that nobody waits for: a name server that does not answer must not hold us up."""
    loop = asyncio.get_running_loop()
    future: asyncio.Future[list[str]] = loop.create_future()

    def tell(say: Callable[[], None]) -> None:
        with suppress(RuntimeError):  # the loop is closed where nobody waits any more
            loop.call_soon_threadsafe(lambda: None if future.done() else say())

    def work() -> None:
        try:
            found = look_up(host, port)
        except (OSError, UnicodeError) as error:
            reason = error
            tell(lambda: future.set_exception(reason))
        else:
            tell(lambda: future.set_result(found))

    threading.Thread(target=work, daemon=True).start()
    return await future
