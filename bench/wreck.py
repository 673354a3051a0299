"""Programs killed and casebooks damaged: python bench/wreck.py TIMES [FIRST]. Status 1: something was lost."""

from __future__ import annotations

import os
import signal
import sys
import tempfile
import time
import traceback
from dataclasses import replace
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.casebook.support import PICTURE, a_defect, a_tree, damage, keep_one_of_each, read_all
from tests.support import document_of

from murvel.casebook.attaching import attach
from murvel.casebook.changes import NoStatus
from murvel.casebook.defect import Defect
from murvel.casebook.inspection import inspect
from murvel.casebook.records import Left
from murvel.casebook.status import Status
from murvel.casebook.store import Casebook
from murvel.checks.engine.catalogue import built_in
from murvel.errors import MurvelError
from murvel.retest.answer import Proposal
from murvel.survey.entry import EntryKey, Judgement, Slice, Verdict
from murvel.work.retest_casebook import accept, retest_page

MOST_SECONDS = 0.8
"""How long a program keeps things, at most, before it is killed."""


_TAKES_BACK = 0.2
"""How often the last change is taken back after a kill."""

ODD_NAMES = ("a\x1b]2;x\x07.txt", "b \u202e.txt", "-rf.txt", "c;d'e\".txt", "link.txt")
"""Names of files that are attached meanwhile; the last one is a link."""


NOW = "now.html"
"""The page as a re-test finds it."""


def make_files(folder: Path) -> None:
    """Make the files that are attached, and the page that is re-tested."""
    (folder / NOW).write_text("<!DOCTYPE html><html lang=en><title>Beds</title><h1>Beds</h1><p>3<p>5<p>8")
    for name in ODD_NAMES[:-1]:
        (folder / name).write_bytes(PICTURE if name.startswith("b") else b"said by the page")
    (folder / ODD_NAMES[-1]).symlink_to(folder / ODD_NAMES[0])


def number_of(defect: Defect) -> int:
    """The number of a kept defect."""
    assert defect.id is not None
    return defect.id


def keep_on(path: Path, said: int, random: Random) -> None:
    """Keep a defect and something else in turn, without end; say a defect's number once it is kept."""
    with Casebook(path) as book:
        while True:
            defect = book.keep_defect(a_defect(book))
            os.write(said, f"{defect.id}\n".encode())
            random.choice(KEPT)(book, number_of(random.choice(book.defects())), path.parent)


def keep_verdict(book: Casebook, number: int, folder: Path) -> None:
    """Keep a take and a verdict on it."""
    page = book.pages()[0]
    take = book.keep_take(page, document_of(f"<p>{number}"), a_tree)
    book.judge(page.id, take.id, EntryKey(Slice.LINKS, "a", "", f"Rota {number}"), Judgement(Verdict.PASS))
    book.leave(page, Left(f"/html[{number}]", None))


def keep_status(book: Casebook, number: int, folder: Path) -> None:
    """Say that a defect is repaired."""
    with book.together():
        change = book.keep_status(number, Status.REPAIRED, "soon")
        book.remember("a status", NoStatus(change, number))


def keep_attachment(book: Casebook, number: int, folder: Path) -> None:
    """Attach a file."""
    attach(book, number, folder / ODD_NAMES[number % len(ODD_NAMES)])


def keep_retest(book: Casebook, number: int, folder: Path) -> None:
    """Re-test the page, and say that each defect still fails, whatever is proposed."""
    again = retest_page(book, book.pages()[0], str(folder / NOW), built_in())
    assert not again.failure
    accept(book, [replace(each, proposal=Proposal.STILL_FAILS) for each in again.answers], "tried")


def keep_draft(book: Casebook, number: int, folder: Path) -> None:
    """Keep a draft of a defect."""
    book.keep_draft(a_defect(book))


def take_back(book: Casebook, number: int, folder: Path) -> None:
    """Take the last change back."""
    book.take_back()


KEPT = (keep_verdict, keep_status, keep_status, keep_attachment, keep_retest, keep_draft, take_back)


def kill(path: Path, random: Random) -> str:
    """Kill a program that keeps things; return what was lost, empty if nothing was."""
    hears, says = os.pipe()
    child = os.fork()
    if not child:
        try:
            keep_on(path, says, random)
        finally:
            os._exit(1)
    os.close(says)
    time.sleep(random.uniform(0.005, MOST_SECONDS))
    os.kill(child, signal.SIGKILL)
    with os.fdopen(hears) as heard:
        announced = [int(line) for line in heard if line.endswith("\n")]
    _, status = os.waitpid(child, 0)
    if not os.WIFSIGNALED(status):
        return f"the program ended by itself with status {status}"
    if not path.exists():
        return "the casebook is gone" if announced else ""
    with Casebook(path) as book:
        kept = {each.id for each in book.defects()}
        given = {change.id for changes in book.statuses().values() for change in changes}
        remembered = book.take_back() if random.random() < _TAKES_BACK else None
        if remembered is not None and not given >= {
            each.change for each in remembered.before if isinstance(each, NoStatus)
        }:
            return f"what could be taken back was not there: {remembered}"
    read_all(path)
    damaged = inspect(path).damaged
    lost = set(announced) - kept
    return f"lost: {sorted(lost)}, damaged: {damaged}" if lost or damaged else ""


def read_damaged(path: Path, random: Random) -> str:
    """Read a damaged casebook; a sentence is a good answer, anything else that is raised is not."""
    path.unlink(missing_ok=True)
    keep_one_of_each(path)
    damage(path, random)
    for look in (read_all, inspect):
        try:
            look(path)
        except MurvelError:
            pass
        except Exception:
            return traceback.format_exc(limit=-3)
    return ""


def said_of(path: Path) -> str:
    """How much a casebook holds, that a person may see what was going on."""
    if not path.exists():
        return "no casebook came of it"
    try:
        with Casebook(path) as book:
            changes = [each for changes in book.statuses().values() for each in changes]
            tried = sum(each.reason.startswith("tried") for each in changes)
            counts = f"{len(book.defects())} defects, {len(book.takes())} takes, {len(book.attachments())} attachments"
            return f"{counts}, {len(changes)} statuses ({tried} by re-tests), {path.stat().st_size:,} bytes"
    except MurvelError as error:
        return str(error)


def main() -> None:
    """Kill so many programs, damage so many casebooks, and print what went wrong."""
    count = int(sys.argv[1])
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    failures = 0
    with tempfile.TemporaryDirectory() as folder:
        make_files(Path(folder))
        for name, attack in (("killed", kill), ("damaged", read_damaged)):
            path = Path(folder, f"{name}.murvel")
            for seed in range(first, first + count):
                failure = attack(path, Random(seed))
                if failure:
                    failures += 1
                    print(f"{name} {seed}: {failure}", flush=True)
            print(f"{name}: {count} times; {said_of(path)}", flush=True)
    print(f"{failures} failures")
    sys.exit(bool(failures))


if __name__ == "__main__":
    main()
