"""The cookies that a person gives a page, as the driver takes them."""

from __future__ import annotations

from typing import Any

from murvel.loading.setup import Setup


def cookies_for(setup: Setup) -> list[dict[str, Any]]:
    """Return the cookies of a setup; none where it names no file of them."""
    if setup.cookies is None:
        return []
    from murvel.loading.network import cookies_of

    return [
        {
            "name": each.name,
            "value": each.value or "",
            "domain": each.domain,
            "path": each.path,
            "secure": each.secure,
            "expires": float(each.expires or -1),
        }
        for each in cookies_of(setup) or ()
    ]
