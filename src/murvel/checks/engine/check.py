"""What a check is, what it finds, and how checks of a topic are registered."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import StrEnum

from murvel.checks.engine.facts import Facts
from murvel.checks.errors import CheckError
from murvel.checks.tables.criteria import BY_NUMBER, Level
from murvel.dom.document import Element


class Certainty(StrEnum):
    """How sure a lead is."""

    FAILS = "fails"
    """A standard says so."""
    NEEDS_EARS = "needs-ears"
    """A person has to listen and judge."""


class Topic(StrEnum):
    """What checks are about."""

    NAMES = "names"
    HEADINGS = "headings"
    LANDMARKS = "landmarks"
    LINKS = "links"
    KEYBOARD = "keyboard"
    FORMS = "forms"
    IMAGES = "images"
    TABLES = "tables"
    MEDIA = "media"
    LIVE = "live"
    ARIA = "aria"
    PAGE = "page"
    SIGHT = "sight"
    MARKUP = "markup"
    LISTENING = "listening"
    EYES = "eyes"
    MOTION = "motion"


class Trait(StrEnum):
    """What the survey and the keyboard path need to know of a check beside its topic."""

    NOT_REACHED = "not reached"
    """It finds what Tab does not reach."""
    LOOK_ALIKE = "look-alike"
    """It finds text that only looks like a heading, a table or a list."""
    CONTRAST = "contrast"
    """It finds text or an edge that has too little contrast."""
    TARGET = "target"
    """It finds what a pointer does not meet well."""
    INDICATOR = "indicator"
    """It finds what does not show that it has the focus."""
    OUTSIDE_LANDMARKS = "outside landmarks"
    """It finds what stands in no landmark."""
    UNSEEN = "unseen"
    """It finds what is heard and not seen."""
    UNHEARD = "unheard"
    """It finds what is seen and not heard."""
    LANGUAGE = "language"
    """What it finds of the page as a whole is about its language."""
    PASSAGE = "passage"
    """It finds passages in another language; the detail says which."""


FAILS, NEEDS_EARS = Certainty.FAILS, Certainty.NEEDS_EARS


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check found in one place.

    Attributes:
        element: where.
        detail: what in particular, in a few words; empty if the check's title says it all.
        certainty: how sure, where that differs from the check's own.
        heard: what is heard, where that is not the announcement of the element.
    """

    element: Element
    detail: str = ""
    certainty: Certainty | None = None
    heard: str | None = None


@dataclass(frozen=True, slots=True)
class Check:
    """A check.

    Attributes:
        id: its identifier, words joined by hyphens.
        topic: what it is about.
        title: what is wrong, in a few words.
        certainty: how sure a lead of it is, if the finding does not say otherwise.
        criteria: the numbers of success criteria of WCAG 2.2.
        means: what a listener therefore cannot know or do.
        repair: how to repair it.
        expect: what should be announced once it is repaired; `{role}` and `{name}` stand for those of the node.
        looks_at: where it looks and by which rule.
        find: yields what it finds.
        traits: what else it is known for.
        needs_browser: whether it finds something only where a browser has laid out and painted the page.
    """

    id: str
    topic: str
    title: str
    certainty: Certainty
    criteria: tuple[str, ...]
    means: str
    repair: str
    expect: str
    looks_at: str
    find: Callable[[Facts], Iterable[Finding]]
    traits: frozenset[Trait] = frozenset()
    needs_browser: bool = False

    @property
    def level(self) -> Level:
        """The level of WCAG at which it counts: the lowest of its criteria."""
        return min((BY_NUMBER[number].level for number in self.criteria), key=lambda level: level.rank)

    def is_within(self, level: Level) -> bool:
        """Whether it counts for those who want a level."""
        return self.level.rank <= level.rank


Found = Iterable[Finding]
"""What the function of a check returns."""


class Checks:
    """The checks of one topic; its `add` registers a function with the texts of the check.

    Args:
        topic: one of `Topic`, or a word of your own.
    """

    def __init__(self, topic: str) -> None:
        self.topic = topic
        self.all: list[Check] = []

    def add(
        self,
        id: str,
        title: str,
        certainty: Certainty,
        *criteria: str,
        means: str,
        repair: str,
        expect: str,
        looks_at: str = "",
        traits: Iterable[Trait] = (),
        needs_browser: bool = False,
    ) -> Callable[[Callable[[Facts], Found]], Callable[[Facts], Found]]:
        """Register a function as a check; the arguments are the check's attributes.

        `looks_at` is the function's docstring, if it is not given.
        """
        known_for = frozenset(traits)
        unknown = [number for number in criteria if number not in BY_NUMBER]
        if not criteria or unknown:
            named = f"names {', '.join(unknown)}" if unknown else "names no criterion"
            raise CheckError(f"The check {id} {named}", "name success criteria of WCAG 2.2, as 4.1.2.")

        def register(find: Callable[[Facts], Found]) -> Callable[[Facts], Found]:
            looks = looks_at or " ".join((find.__doc__ or "").split())
            texts = (title, certainty, criteria, means, repair, expect, looks)
            self.all.append(Check(id, self.topic, *texts, find, known_for, needs_browser))
            return find

        return register
