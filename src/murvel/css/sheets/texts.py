"""The texts of a document's style sheets, kept for those who collect them again."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

from murvel.css.sheets.excerpts import excerpts_in
from murvel.css.sheets.raw import normalised
from murvel.loading.resources import NotReadError, Resource, Resources

_Answer = Resource | NotReadError


class SheetTexts:
    """What the style sheets say that a document links to.

    Args:
        resources: what may be read for the document.

    Attributes:
        answers: what came of each address, as often as it was asked for.
    """

    def __init__(self, resources: Resources) -> None:
        self.resources = resources
        self.answers: dict[str, list[_Answer]] = defaultdict(list)
        self._excerpts = excerpts_in(resources.excerpts)

    def resolve(self, base: str, reference: str) -> str:
        """Return the absolute address of a sheet that a document, or another sheet, refers to."""
        return self.resources.resolve(base, reference)

    def prepare(self, addresses: Iterable[str]) -> None:
        """Prepare sheets that will be asked for soon: they are fetched together."""
        self.resources.prepare(addresses, ())

    def read(self, address: str) -> Resource:
        """Return the sheet at an address, its text normalised.

        Raises:
            NotReadError: it may not be read, or cannot be.
        """
        answer = self._answer(address)
        self.answers[address].append(answer)
        if isinstance(answer, NotReadError):
            raise answer
        return answer

    def to_collect(self, text: str) -> str:
        """Return a sheet that has all rules of another one that are collected for speech."""
        return self._excerpts.of(text)

    def _answer(self, address: str) -> _Answer:
        try:
            found = self.resources.sheet(address)
        except NotReadError as error:
            return error
        return found._replace(text=normalised(found.text))


class SheetsAgain(SheetTexts):
    """The same answers once more, each as often as it was given: nothing is read, and no limit counts it."""

    def __init__(self, texts: SheetTexts) -> None:
        super().__init__(texts.resources)
        self._given = {address: iter(answers) for address, answers in texts.answers.items()}

    def prepare(self, addresses: Iterable[str]) -> None:
        """Nothing has to be fetched."""

    def to_collect(self, text: str) -> str:
        """Return the sheet itself: who collects again asks for other rules."""
        return text

    def _answer(self, address: str) -> _Answer:
        return next(self._given.get(address, iter(())), NotReadError("it was not asked for before"))
