"""Checks: a page's tree and readout in, leads out; one module a topic, each check a small function with its texts.

What stands here is what checks of your own are written with (docs/how-to/own-checks.md). It is loaded when it is asked
for: most commands need none of it.
"""

from importlib import import_module
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from murvel.checks.engine.check import FAILS, NEEDS_EARS, Certainty, Check, Checks, Finding, Found, Topic, Trait
    from murvel.checks.engine.facts import Facts, unnamed
    from murvel.checks.errors import CheckError

__all__ = [
    "FAILS",
    "NEEDS_EARS",
    "Certainty",
    "Check",
    "CheckError",
    "Checks",
    "Facts",
    "Finding",
    "Found",
    "Topic",
    "Trait",
    "unnamed",
]

_ELSEWHERE = {"CheckError": "errors", "Facts": "engine.facts", "unnamed": "engine.facts"}
"""The modules of what does not stand in `engine.check`."""


def __getattr__(name: str) -> object:
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"{__name__}.{_ELSEWHERE.get(name, 'engine.check')}"), name)
