"""Re-testing the pages of a casebook, and keeping what a person accepts of what is proposed."""

from __future__ import annotations

from collections.abc import Callable, Sequence, Set
from contextlib import ExitStack, suppress
from dataclasses import replace

from murvel.casebook.changes import Before as StoodBefore
from murvel.casebook.changes import NoAttachment, NoStatus
from murvel.casebook.records import Page, Take
from murvel.casebook.status import standing
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import Catalogue
from murvel.errors import MurvelError
from murvel.loading.errors import PageError
from murvel.loading.setup import DEFAULT_SETUP, Setup
from murvel.reader.session import ReadingSession
from murvel.reader.speech.voice import Voice
from murvel.retest.answer import Answer, PageRetest, Proposal
from murvel.retest.page import Before, Now, retest
from murvel.retest.same_page import why_another
from murvel.retest.takes import session_of_take
from murvel.text import visible
from murvel.work.documenting import named
from murvel.work.sessions import open_session
from murvel.work.takes import keep_take


def address_now(address: str, old: str, new: str) -> str:
    """Return where a page is found now.

    Args:
        address: where it was.
        old, new: how the addresses of pages that have moved began, and begin now.
    """
    return new + address[len(old) :] if address.startswith(old) else address


def retest_page(
    casebook: Casebook, page: Page, address: str, catalogue: Catalogue, setup: Setup = DEFAULT_SETUP
) -> PageRetest:
    """Take a page anew, and return what became of its defects and verdicts; the result says what could not be done.

    Args:
        casebook: the casebook; the new take is kept in it, and nothing else.
        page: the page.
        address: where it is found now.
        catalogue: the checks.
        setup: how it is opened; its width is the page's.

    Raises:
        CasebookError: the casebook cannot be read or written.
    """
    result = PageRetest(page, address)
    pictured = {each.defect for each in casebook.attachments() if each.kind.is_picture}
    before = None
    with ExitStack() as stack:

        def opened(voice: Voice | None = None) -> ReadingSession:
            session = open_session(address, setup, voice)
            if session.stage is not None:
                stack.callback(session.stage.close)
            return session

        try:
            before = _before(casebook, page, stack)
            new = opened()
            last = before.takes.get(before.last) if before.last is not None else None
            another = why_another(last.tree if last is not None else None, new.tree, page.title)
            if another:
                raise PageError(
                    f"{visible(address)} is not the page that was tested: {another}",
                    "check the address, and what it takes to see the page, as a login or a browser.",
                )
            take = keep_take(casebook, page, new)
            result.take = take.number
            now = _retest(casebook, page, take, before, new, opened, catalogue)
            result.answers = [_pictured(each, new, pictured) for each in now.answers]
        except MurvelError as error:
            result.failure = str(error)
            return result
    result.new_leads, result.changed, result.carried = now.new_leads, now.changed, now.carried
    return result


def _pictured(answer: Answer, new: ReadingSession, pictured: Set[int]) -> Answer:
    """An answer with a picture of how its element looks now, where there is one of how it looked."""
    node = new.tree.node_at(answer.xpath) if answer.xpath and answer.defect.id in pictured else None
    if node is None or new.stage is None:
        return answer
    return replace(answer, picture=new.stage.picture(node.element))


def _retest(
    casebook: Casebook,
    page: Page,
    take: Take,
    before: Before,
    new: ReadingSession,
    opened: Callable[[Voice | None], ReadingSession],
    catalogue: Catalogue,
) -> Now:
    is_live = new.stage is not None and new.stage.is_live
    content = casebook.content(take.id) if is_live else None
    as_taken = session_of_take(content, page.address, page.width) if content is not None else None
    return retest(before, new, opened, catalogue, as_taken)


def _before(casebook: Casebook, page: Page, stack: ExitStack) -> Before:
    """What the casebook knows of a page; takes that cannot be opened any more count as not kept."""
    statuses = casebook.statuses()
    here = [each for each in casebook.defects() if page.id in {each.page, *(one.page for one in each.further)}]
    defects = [(each, standing(each, statuses)) for each in here]
    known = [each for each in casebook.takes() if each.is_kept and each.page == page.id]
    last = known[-1].id if known else None
    takes: dict[int, ReadingSession] = {}
    wanted = {each.take for each in here if each.page == page.id}
    wanted |= {place.take for each in here for place in each.further if place.page == page.id}
    for number in wanted | ({last} if last is not None else set()):
        with suppress(MurvelError):
            content = casebook.content(number)
            if content is not None:
                session = takes[number] = session_of_take(content, page.address, page.width)
                if session.stage is not None:
                    stack.callback(session.stage.close)
    return Before(page.id, defects, casebook.judgements(page), takes, last)


def settle(results: Sequence[PageRetest]) -> None:
    """Settle the answers of defects with places on several pages, where all of these were re-tested."""
    done: dict[int | None, set[int]] = {}
    for result in results:
        for each in result.answers:
            if each.proposal is Proposal.CONFIRMED:
                done.setdefault(each.defect.id, set()).add(result.page.id)
    for result in results:
        result.answers = [
            replace(each, elsewhere=each.elsewhere - done.get(each.defect.id, set())) for each in result.answers
        ]


def accept(casebook: Casebook, answers: Sequence[Answer], reason: str) -> list[Answer]:
    """Give defects the statuses that a re-test proposes, as one change that can be taken back.

    Args:
        casebook: the casebook.
        answers: the proposals that are accepted.
        reason: the reason that is kept with each status, beside why.

    Returns:
        Those whose defects have another status now.
    """
    changed: list[Answer] = []
    with casebook.together():
        before: list[StoodBefore] = []
        for answer in answers:
            status, defect = answer.next_status, answer.defect.id
            if status is not None and defect is not None and all(each.defect.id != defect for each in changed):
                change = casebook.keep_status(defect, status, f"{reason}: {answer.why}")
                before.append(NoStatus(change, defect))
                words = f"as it was re-tested: {answer.proposal}"
                kept = casebook.keep_attachment(defect, answer.picture, words) if answer.picture is not None else None
                before += [NoAttachment(kept, defect)] if kept is not None else []
                changed.append(answer)
        if before:
            casebook.remember(f"re-testing {named([each.defect for each in changed])}", *before)
    return changed
