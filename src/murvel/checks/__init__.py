"""Checks: a page's tree and readout in, leads out; one module a topic, each check a small function with its texts.

What stands here is what checks of your own are written with (docs/how-to/own-checks.md).
"""

from murvel.checks.check import FAILS, NEEDS_EARS, Certainty, Check, Checks, Finding, Found, Topic, Trait
from murvel.checks.errors import CheckError
from murvel.checks.facts import Facts, unnamed

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
