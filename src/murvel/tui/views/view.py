"""What the application asks of each of its views, and what views tell the screen they stand on."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual.message import Message
from textual.reactive import var
from textual.widget import Widget

from murvel.casebook.defect import Defect
from murvel.casebook.records import Page
from murvel.stage.seen import Pair
from murvel.survey.entry import EntryKey
from murvel.tui.actions import Action
from murvel.work.opening import WantedPage
from murvel.work.work import Work


class View(Widget):
    """A view over a piece of work. It draws what has happened to the work while it is in front.

    A subclass sets the class variables, binds its actions, and draws in `watch_drawn`.

    Args:
        work: the open page with its casebook.
    """

    NAME: ClassVar[str]
    """Its name in actions and settings, one lower-case word."""
    TITLE: ClassVar[str]
    """Its name on the screen."""
    ABOUT: ClassVar[str]
    """What it shows, for help and palette."""
    ACTIONS: ClassVar[tuple[Action, ...]] = ()
    """What can be done in it; those that matter most stand first."""
    NEEDS_SURVEY: ClassVar[bool] = False
    """Whether the page has to be surveyed before it comes to the front."""
    NEEDS_PATH: ClassVar[bool] = False
    """Whether the Tab order has to be worked out as well."""

    moment: var[int] = var(0, init=False)
    """How often something has happened to the work."""
    is_in_front: var[bool] = var(False, init=False)
    """Whether it is the view that is shown."""
    drawn: var[int] = var(-1, init=False)
    """The moment that is drawn."""

    def __init__(self, work: Work) -> None:
        super().__init__(id=self.NAME)
        self.work = work

    @property
    def for_keys(self) -> Widget:
        """What gets the keys when the view comes to the front: the view itself, unless it has a part for them."""
        return self

    @property
    def takes_typing(self) -> bool:
        """Whether letters are typed into the page now."""
        return False

    @property
    def count(self) -> int | None:
        """A number to stand beside its title, None for none."""
        return None

    @property
    def colours(self) -> Pair | None:
        """The colours of what one stands at, None where they are not known."""
        return None

    def key_hints(self) -> list[tuple[str, str]] | None:
        """Return keys with a word or two each, where they are not those of its actions."""
        return None

    def stand_at(self, about: int | EntryKey | None) -> None:
        """Stand at what was just documented or brought back: a defect by its number, an entry by its key."""

    def watch_moment(self) -> None:
        """Draw what has happened, where it is seen."""
        if self.is_in_front:
            self.drawn = self.moment

    def watch_is_in_front(self, is_in_front: bool) -> None:
        """Draw what has happened while another view was in front."""
        if is_in_front:
            self.drawn = self.moment


class Happened(Message):
    """Something happened to the work, or in a view.

    Args:
        words: what the person is told; empty takes away what was told before.
        error: whether it failed.
    """

    def __init__(self, words: str = "", *, error: bool = False) -> None:
        self.words = words
        self.error = error
        super().__init__()


class ToFront(Message):
    """A view is to come to the front.

    Args:
        view: its name.
        words: what the person is told then.
    """

    def __init__(self, view: str, words: str = "") -> None:
        self.view = view
        self.words = words
        super().__init__()


class NeedsSurvey(Message):
    """The page has to be surveyed first.

    Args:
        then: what is done afterwards.
    """

    def __init__(self, then: Callable[[], None]) -> None:
        self.then = then
        super().__init__()


class ToDocument(Message):
    """A defect is to be documented, with what is filled in already."""

    def __init__(self, draft: Defect) -> None:
        self.draft = draft
        super().__init__()


class ToPage(Message):
    """Another page is to be opened."""

    def __init__(self, wanted: WantedPage) -> None:
        self.wanted = wanted
        super().__init__()


class ToRetest(Message):
    """A page is to be re-tested where it is found now."""

    def __init__(self, page: Page, address: str) -> None:
        self.page = page
        self.address = address
        super().__init__()
