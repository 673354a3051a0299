"""A stage of takes: each activation, and each due time, puts the next tree in the place of the last."""

from collections.abc import Sequence

from murvel.dom.document import Element
from murvel.page.captured.capture import Capture
from murvel.stage.inputs import Activate, Input, Wait
from murvel.stage.reaction import Reaction
from murvel.stage.script import Handler
from murvel.stage.seen import Seen
from murvel.stage.stage import Revealed
from murvel.tree.following.change import TreeChange
from tests.support import tree_of


class TakesStage:
    """A stage whose page is given as the markup of each take; an element's key is its id, a number."""

    is_live = False
    is_busy = False
    seen = None

    def __init__(self, *takes: str, due: float | None = None) -> None:
        self.takes = [tree_of(markup) for markup in takes]
        self.tree = self.takes.pop(0)
        self.focus: int | None = None
        self.now, self.next_due = 0.0, due

    def key_of(self, element: Element) -> int | None:
        return int(element.attributes["id"]) if "id" in element.attributes else None

    def element(self, key: int | None) -> Element | None:
        return self.tree.document.ids.get(str(key))

    def perform(self, given: Input) -> Reaction:
        if isinstance(given, Wait):
            self.now = min(given.until, self.next_due or given.until)
            if self.now != self.next_due:
                return Reaction()
            self.next_due = None
        elif not isinstance(given, Activate) or not self.takes:
            return Reaction()
        old, self.tree = self.tree, self.takes.pop(0)
        return Reaction(handled=True, change=TreeChange.whole(old, self.tree))

    def revealed(self) -> Revealed:
        return Revealed(self.tree, set())

    def measure(self) -> None:
        pass

    def look(self) -> Seen | None:
        return None

    def take(self) -> Capture | None:
        return None

    def close(self) -> None:
        pass

    def handlers(self) -> Sequence[Handler]:
        return ()
