"""What moves, counts down and appears by itself, as a browser shows it (WCAG 2.2 2.2.1, 2.2.2, 1.4.13)."""

from __future__ import annotations

from murvel.checks.engine.check import NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts
from murvel.stage.seen import Movement
from murvel.text import collapse, counted

checks = Checks(Topic.MOTION)

_MOST_WORDS = 60


@checks.add(
    "moves-by-itself", "It moves by itself for more than five seconds", NEEDS_EARS, "2.2.2",
    means="People who are drawn to what moves cannot read beside it.",
    repair="Let it stop after five seconds, or put a button for pausing it before it; respect prefers-reduced-motion.",
    expect="the same to the ear, and a button that pauses it; to the eye, rest",
    needs_browser=True,
)  # fmt: skip
def moves_by_itself(page: Facts) -> Found:
    """Animations, marquees, videos, pictures with several frames, and what scripts change all the time. Whether the
    page has a way to stop it is for a person to see."""
    for seen in page.seen.moving if page.seen is not None else ():
        if seen.movement is not Movement.COUNTDOWN:
            length = "without end" if seen.seconds is None else f"for {seen.seconds:g} seconds"
            rests = "; it rests for people who prefer less motion" if seen.rests else ""
            yield Finding(seen.element, f"{seen.movement}, {length}{rests}")


@checks.add(
    "counts-down", "Time runs out", NEEDS_EARS, "2.2.1",
    means="People who read by ear or by switch need many times as long.",
    repair="Let the time be turned off, adjusted or extended before it runs out, and say so beforehand.",
    expect="a warning before the time is over, and a way to extend it",
    needs_browser=True,
)  # fmt: skip
def counts_down(page: Facts) -> Found:
    """Texts with a time in them that scripts change by themselves, within the first half minute of the page; dialogs
    and alerts that appear, and leaving the page, within twenty minutes in which nobody does anything."""
    for seen in page.seen.moving if page.seen is not None else ():
        if seen.movement is Movement.COUNTDOWN:
            yield Finding(seen.element, f"“{collapse(seen.words)[:_MOST_WORDS]}”")
    for limit in page.seen.limits if page.seen is not None else ():
        minutes = counted(limit.minutes, "minute", "minutes")
        yield Finding(limit.element or page.root, f"{limit.words}, within {minutes}")


@checks.add(
    "shown-by-pointer", "Only a pointer shows it", NEEDS_EARS, "2.1.1", "1.4.13",
    means="People without a pointer do not see it.",
    repair="Show it for :focus or :focus-within as well, and hide it on Escape.",
    expect="at the stop: the same words",
    needs_browser=True,
)  # fmt: skip
def shown_by_pointer(page: Facts) -> Found:
    """What the page's styles show for `:hover` at something to be pressed, and not for `:focus` or `:focus-within`. A
    script may show it all the same."""
    for seen in page.seen.shown if page.seen is not None else ():
        if not seen.is_on_focus:
            yield Finding(seen.element, f"“{collapse(seen.shown.text())[:_MOST_WORDS]}”")
