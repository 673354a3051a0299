"""The second stage: a page in a real browser (`murvel.stage.stage.Stage`), worked by real keys in real time.

The page is taken as a whole when it arrives; afterwards the script inside it tells what changes. Nobody waits longer
for a page than their patience lasts: what takes longer goes on beside, and a later `Wait` returns the result.
"""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import Callable, Coroutine, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from functools import partial
from typing import Any

from murvel.browser.answering import ANSWER_SECONDS, UNSEEN, unanswered
from murvel.browser.arriving import arrive
from murvel.browser.batching import batches_of, put_together
from murvel.browser.beside import Beside
from murvel.browser.errors import BrowserError
from murvel.browser.file import file_of
from murvel.browser.keys import Keyboard, echo
from murvel.browser.listeners import listened
from murvel.browser.opinion import AskedOpinion
from murvel.browser.revealing import CopiedPage
from murvel.browser.seen.copies import taken_wide
from murvel.browser.seen.measuring import measured
from murvel.browser.seen.portrait import picture_of
from murvel.browser.tab import Tab
from murvel.browser.taking import about, browser_tree, node_of, take
from murvel.dom.document import Element
from murvel.dom.memory import no_collection
from murvel.dom.places import find_xpath, xpath
from murvel.errors import MurvelError
from murvel.loading.problems import ProblemKind
from murvel.page.captured.capture import Capture
from murvel.page.captured.document import Batch, CapturedDocument
from murvel.stage.inputs import Activate, Focus, Hover, Input, Load, Press, Type, Wait
from murvel.stage.inputs import Tab as TabKey
from murvel.stage.missing import missing
from murvel.stage.reaction import Reaction
from murvel.stage.revealing import reveal
from murvel.stage.script import Handler
from murvel.stage.seen import ENLARGED, MissingSeen, Seen
from murvel.stage.stage import Revealed
from murvel.tree.exchange.agreement import BrowserNode
from murvel.tree.following.change import TreeChange
from murvel.tree.following.rebuild import LiveTree
from murvel.tree.model import Tree
from murvel.tree.roles.aria_roles import POINTED_AT

PATIENCE = 2.0
"""Seconds that are waited for what comes of a key, unless the setup says otherwise."""

_PATIENCE_FOR_PAGES = 90.0
"""Seconds that are waited for a page that takes the place of another, unless the setup says otherwise."""

_PATIENCE_FOR_LOOKING = 240.0
"""Seconds that are waited for a look at a page; looking itself ends long before on all but the largest pages."""

_NOT_LOOKED_AT = (
    "What frames of other origins show was not looked at: contrast, targets and focus there are not judged."
)

BUSY = "the page is busy; the result follows later"
_LOADING = "another page is loading; it is told when it has come"
_STILL_BUSY = "nothing happens yet: the page is still busy"

_STEP = 0.02
_GENERATION = 1 << 48


class BrowserStage:
    """A page at work in a browser.

    Attributes:
        tab: the page.
        about: the browser, and how it was set up, in words.
    """

    is_live = True

    def __init__(self, tab: Tab, capture: Capture) -> None:
        """Take over a page that has come to rest, with its capture."""
        self.tab = tab
        self.about = about(tab)
        self._keyboard = Keyboard(tab)
        self._generation = 0
        self._waiting: list[Batch] = []
        self._news = True  # the page may have changed since it was taken, and told nobody
        self._began = time.monotonic()
        self._moment: float | None = None
        """The second at which the change happened that was taken last; None until another is taken."""
        self._ahead = 0.0
        """By how many seconds our clock is ahead of the page's."""
        self._opinion = AskedOpinion(self.exposed)
        self._page = self._captured(capture)
        self._tree = self._built()
        self._focus = self._told_focus = capture.focus
        self._address = capture.address
        assert tab.setup.browser is not None
        self._beside = Beside(tab.browser.thread, tab.setup.browser.patience)
        self._seen: Seen | None = None
        self._told: Mapping[str, Any] = {}
        self._moves: list[int] = []
        """What the focus went to since that was last told, by the browser's numbers; 0 for nothing."""
        self._is_overrun = False
        self._told_problems = tab.problems
        """The tab's problems that the document has."""
        tab.told = self._on_told

    def _captured(self, capture: Capture) -> CapturedDocument:
        with no_collection():
            return CapturedDocument(capture, self._looks, self._matching, self._file)

    def _built(self) -> LiveTree:
        with no_collection():
            live = LiveTree(self._page.styled)
        live.tree.opinion = self._opinion
        return live

    def _on_told(self) -> None:
        self._news = True

    def _run(self, work: Coroutine[Any, Any, Any], patience: float = PATIENCE) -> Any:
        return self.tab.browser.thread.run(work, patience)

    def _looks(self) -> Mapping[str, list[Any]]:
        looks: Mapping[str, list[Any]] = self._run(self.tab.frames.looks(), _PATIENCE_FOR_PAGES)
        return looks

    def _file(self) -> str:
        text: str = self._run(file_of(self.tab), _PATIENCE_FOR_PAGES)
        return text

    def _matching(self, selector: str) -> list[int] | None:
        numbers: list[int] | None = self._run(self.tab.frames.matching(json.dumps(selector)))
        return numbers

    # What is there

    @property
    def tree(self) -> Tree:
        """The tree as it was when the page was last followed."""
        return self._tree.tree

    @property
    def focus(self) -> int | None:
        """The key of the element that has the focus as far as it was told, None if nothing has."""
        return self._key(self._told_focus) if self._told_focus else None

    @property
    def now(self) -> float:
        """The seconds since the page was opened, when what was taken last happened on the page; else they run on."""
        return self._clock() if self._moment is None else self._moment

    def _clock(self) -> float:
        return time.monotonic() - self._began

    @property
    def next_due(self) -> float | None:
        """Return 0.0 if a change is waiting, else None: the time of later changes is not known."""
        if self._beside.is_busy:
            return 0.0 if self._beside.is_done else None
        return 0.0 if self._waiting or self._news else None

    @property
    def is_busy(self) -> bool:
        """Whether the page, or one that takes its place, still works on what it was given."""
        return self._beside.is_busy

    def key_of(self, element: Element) -> int | None:
        """Return an element's key; None for one that is no longer on the page."""
        number = self._page.number_of(element)
        return self._key(number) if number is not None else None

    def element(self, key: int | None) -> Element | None:
        """Return the element with a key, None if it is no longer on the page."""
        number = self._number(key)
        return self._page.by_number.get(number) if number is not None else None

    def revealed(self) -> Revealed:
        """Return a copy of the page as it is now, with everything shown that is hidden."""
        capture = self.take()
        capture.boxes = []
        return reveal(CopiedPage(capture, self._file))

    def handlers(self) -> Sequence[Handler]:
        """Return what scripts listen to on the page's elements; what they do then is not known."""
        heard = self._run(listened(self.tab), _PATIENCE_FOR_PAGES)
        by_number = self._page.by_number
        return [
            Handler(event, tuple(by_number[each] for each in numbers if each in by_number))
            for event, numbers in heard.items()
        ]

    def _key(self, number: int) -> int:
        return self._generation * _GENERATION + number

    def _number(self, key: int | None) -> int | None:
        """The browser's number for a key; None if the element was on a page before this one."""
        if key is None or key // _GENERATION != self._generation:
            return None
        return key % _GENERATION

    # What happens

    def perform(self, given: Input) -> Reaction:
        """Let something happen, and return what came of it as far as it has come."""
        reaction = Reaction()
        self._moment = None
        try:
            if self._go_on(given, reaction):
                self._give(given, reaction)
            if not self._beside.is_busy:
                self._take_next(reaction)
            if not self._beside.is_busy:
                self._tell_focus(given, reaction)
        except MurvelError as error:
            happened = self.tab.take_happened()
            reaction.notes += [*happened.notes, *([] if happened.is_gone else [str(error)])]
        return reaction

    def _go_on(self, given: Input, reaction: Reaction) -> bool:
        """Finish what goes on beside, if it is done; return whether the page can be given something now."""
        if not self._beside.is_busy:
            return True
        if isinstance(given, Wait):
            self._pass_time(given.until, lambda: self._beside.is_done)
        elif not self._beside.is_done:
            reaction.notes.append(_STILL_BUSY)
        if not self._beside.is_done:
            return False
        self._beside.finish(reaction)
        return not isinstance(given, Wait)

    def _give(self, given: Input, reaction: Reaction) -> None:
        match given:
            case Wait(until):
                self._pass_time(until, self._has_news)
                while self._news and not self._waiting and not self._beside.is_busy:
                    self._beside.do(self._collect(), reaction, patience=PATIENCE)
                    if self._clock() >= until:
                        break
                    self._pass_time(until, self._has_news)  # what was told may be nothing to us
            case Load():
                self._beside.do(self._collect(), reaction, patience=PATIENCE)
            case _:
                asked = self._asked(given)
                if self.tab.happened.is_gone:
                    reaction.notes.append("nothing happens: the page is gone")
                elif asked is not None:
                    reaction.handled = True
                    if isinstance(given, Type):
                        reaction.typed = echo(self.element(given.key), given.character)
                    self._beside.do(self._given(*asked), reaction, patience=PATIENCE, words=BUSY)

    async def _given(self, given: Input, number: int | None) -> None:
        try:
            await asyncio.wait_for(self._keyboard.give(given, number), ANSWER_SECONDS)
        except TimeoutError as error:
            raise unanswered() from error
        await self._settle()

    def _has_news(self) -> bool:
        return bool(self._waiting or self._news)

    def _pass_time(self, until: float, is_enough: Callable[[], bool]) -> None:
        """Let time pass until something is the case, but not beyond a second."""
        while not is_enough():
            left = until - self._clock()
            if left <= 0:
                return
            time.sleep(min(_STEP, left))

    def _asked(self, given: Input) -> tuple[Input, int | None] | None:
        """What is done, and the number of the element that it is done to; None if that is gone."""
        match given:
            case TabKey(_, start):
                return given, self._number(start)
            case Press(_, None) | Hover(None):
                return given, None
            case Activate(key) | Focus(key) | Hover(key) | Press(_, key) | Type(key, _):
                number = self._number(key)
                return (given, number) if number is not None else None
        return None

    async def _settle(self) -> None:
        """Let the page do what it does at once and in the next frames."""
        for turn in range(3):
            await asyncio.sleep(_STEP)
            if not await self._collect(is_all=not turn):
                return

    async def _collect(self, *, is_all: bool = False) -> bool:
        """Ask the page what changed; return whether anything did.

        Args:
            is_all: whether every element is looked at, also where nothing is known to have changed: what the pointer
                or the focus does is in rules alone.
        """
        self._news = False
        if self.tab.happened.is_gone:
            return False
        try:
            told = await self.tab.frames.collect(is_all=is_all)
        except BrowserError:
            if await self.tab.is_leaving():
                return False
            raise
        if told is None or self.tab.happened.is_new_page:
            return False
        self._ahead = self._clock() - told["now"]
        self._page.styles.table.extend(told["styles"])
        batches = batches_of(told["batches"])
        self._waiting += batches
        self._focus = told["focus"]
        self._moves += [number for _, number in told["focusMoves"]]
        self._told = told
        if told["isOverrun"]:
            self._waiting.clear()
            self._is_overrun = True
        return bool(batches) or bool(told["focusMoves"])

    def _take_next(self, reaction: Reaction) -> None:
        """Apply the next change of the page, and note what else happened."""
        happened = self.tab.take_happened()
        reaction.notes += happened.notes
        self._tell_problems()
        if happened.is_new_page:
            self._take_anew(reaction, is_new_page=True)
            return
        if self._is_overrun:
            self._is_overrun = False
            self._take_anew(reaction, is_new_page=False)
        elif self._waiting:
            batch = self._waiting.pop(0)
            while self._waiting and not self._knows_focus(batch):
                put_together(batch, self._waiting.pop(0))  # the focus is on what comes with a later one
            self._moment = min(batch.at + self._ahead, self._clock())
            with no_collection():
                change, restyled = self._page.apply(batch)
                renewed = self._page.renewed
                if change or restyled:
                    reaction.change = replace(self._tree.follow(change, restyled), renewed=frozenset(renewed))
                    self._tree.tree.opinion = self._opinion
        self._page.document.focused = self._page.by_number.get(self._focus)
        address = self.tab.gate.own_address(str(self._told.get("address", ""))) if self._told else self._address
        if address and address != self._address:
            self._address = self._page.document.address = reaction.address = address

    def _tell_problems(self) -> None:
        """Let the document have the problems that the tab knows now."""
        self._page.document.problems.replace(self._told_problems, self.tab.problems)
        self._told_problems = self.tab.problems

    def _knows_focus(self, batch: Batch) -> bool:
        known = not self._focus or self._focus in self._page.by_number
        return known or any(node[0] == self._focus for node in batch.added)

    def _take_anew(self, reaction: Reaction, *, is_new_page: bool) -> None:
        """Take the whole page again: another one has come, or more changed than was told."""

        async def taken() -> Capture:
            return await (arrive(self.tab) if is_new_page else take(self.tab, whole=False))

        def arrived(capture: Capture, reaction: Reaction) -> None:
            old = self.tree
            self._waiting.clear()
            self._told = {}
            self._generation += is_new_page
            self._page = self._captured(capture)
            self._tree = self._built()
            self._seen = None
            self._focus, self._address = capture.focus, capture.address
            reaction.change = TreeChange.whole(old, self.tree)
            reaction.has_arrived = is_new_page
            self._news = True
            self.tab.take_happened()

        self._beside.do(taken(), reaction, arrived, patience=_PATIENCE_FOR_PAGES, words=_LOADING)

    def _tell_focus(self, given: Input, reaction: Reaction) -> None:
        """Note where the focus is now, if the page or the key put it somewhere else."""
        before, self._told_focus = self._told_focus, self._focus
        aimed, now = getattr(given, "key", None), self.focus
        came_back = any(self._key(number) == now != aimed for number in self._moves)
        self._moves.clear()
        if self._focus == before and not came_back and not isinstance(given, TabKey):
            return
        if now is not None and (now != aimed or isinstance(given, Focus)):
            reaction.focus = now
        if now is not None and not reaction.has_arrived:
            why = UNSEEN.get(self._run(self.tab.frames.ask_of(self._focus, "sight({})")) or "")
            if why:
                reaction.notes.append(f"the focus is not seen: {why}")

    def ask(self, question: str) -> Any:
        """Ask the script in the page.

        Raises:
            BrowserError: it does not answer.
        """
        return self._run(self.tab.ask(question), _PATIENCE_FOR_PAGES)

    def exposed(self, element: Element | None = None) -> list[BrowserNode]:
        """Return what the browser itself exposes now: of one element at most one node, or of the whole page."""
        if element is None:
            found: list[BrowserNode] = self._run(browser_tree(self.tab), _PATIENCE_FOR_PAGES)
            return found
        self._refuse_if_busy()
        number = self._page.number_of(element)
        node = self._run(node_of(self.tab, number, xpath(element))) if number is not None else None
        return [node] if node is not None else []

    def _refuse_if_busy(self) -> None:
        if self.is_busy:
            raise BrowserError("The page is busy", "ask again when it is not.")

    def measure(self) -> None:
        """Give the elements their boxes as they are now."""
        self._page.take_boxes(self._run(self.tab.frames.boxes(), _PATIENCE_FOR_PAGES))

    def look(self) -> Seen:
        """Return what is seen of the page now, from pictures of it.

        Raises:
            BrowserError: the page is busy, or does not answer.
        """
        self._refuse_if_busy()
        page, tree = self._page, self.tree
        pressed = [page.number_of(node.element) for node in tree.nodes if node.role in POINTED_AT and not node.is_part]
        stops = [page.number_of(element) for element in tree.tab_order]
        pressed_there, stops_there = map(self.tab.frames.of_page, (pressed, stops))
        find = partial(find_xpath, tree.document)
        look = measured(self.tab, page.by_number, pressed_there, stops_there, find, can_copy=self._can_copy)
        seen: Seen = self._run(look, _PATIENCE_FOR_LOOKING)
        if self.tab.frames.has_others:
            self.tab.note(ProblemKind.BROWSER, _NOT_LOOKED_AT)
        self._tell_problems()
        if seen.width <= ENLARGED and self._can_copy:
            seen.missing = self._missing()
        self._seen = seen
        return seen

    @property
    def _can_copy(self) -> bool:
        """Whether the page can be opened once more beside: it is the one that was opened, its profile nobody's else."""
        setup = self.tab.setup.browser
        return not self._generation and setup is not None and setup.profile is None and not setup.is_shown

    def _missing(self) -> list[MissingSeen]:
        """What the page has in a wide window and not in this one."""
        try:
            capture: Capture = self._run(taken_wide(self.tab), _PATIENCE_FOR_PAGES)
        except BrowserError as error:
            text = f"What is missing in this narrow window is not known: {error}"
            self.tree.document.problems.add(ProblemKind.BROWSER, text)
            return []
        with no_collection():
            return missing(self.tree, LiveTree(CapturedDocument(capture).styled).tree)

    @property
    def seen(self) -> Seen | None:
        """What was seen of the page when it was looked at last."""
        return self._seen

    def take(self) -> Capture:
        """Return a capture of the page as it is now, with looks, boxes and the browser's own tree.

        Raises:
            BrowserError: the page is busy, or does not answer.
        """
        self._refuse_if_busy()
        capture: Capture = self._run(take(self.tab, whole=True), _PATIENCE_FOR_PAGES)
        return capture

    def picture(self, element: Element) -> bytes | None:
        """Return a picture of an element as it is now, with a little of what is around it; None if it has no box.

        Raises:
            BrowserError: the page is busy, or does not answer.
        """
        self._refuse_if_busy()
        number = self._page.number_of(element)
        if number is None:
            return None
        found: bytes | None = self._run(picture_of(self.tab, number), _PATIENCE_FOR_PAGES)
        return found

    def close(self) -> None:
        """Close the page; where it does not let itself be closed, it ends with the browser."""
        with suppress(BrowserError):
            self._run(self.tab.close(), PATIENCE)
