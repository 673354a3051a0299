"""What came of a re-test: text and JSON."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import asdict
from typing import Any

from murvel.report.formats import RetestFormat
from murvel.report.sarif import dumped
from murvel.retest.answer import Answer, PageRetest, Proposal, Sureness
from murvel.text import counted, visible


def render_retest(pages: Sequence[PageRetest], form: RetestFormat) -> str:
    """Return what came of a re-test in one of the forms."""
    if form is RetestFormat.JSON:
        return dumped({"format": "murvel-retest", "version": 1, "pages": [_data(each) for each in pages]})
    return "".join(f"{visible(line)}\n" for page in pages for line in page_lines(page)) + f"{_counts(pages)}\n"


def _counts(pages: Sequence[PageRetest]) -> str:
    numbers = {proposal: sum(page.count(proposal) for page in pages) for proposal in Proposal}
    leads = sum(len(page.new_leads) for page in pages)
    changed = sum(len(page.changed) for page in pages)
    words = ", ".join(f"{count} {proposal}" for proposal, count in numbers.items())
    more = f"; {counted(leads, 'new lead', 'new leads')}, {changed} of what was judged changed"
    return f"{counted(len(pages), 'page', 'pages')}: {words}{more}"


def page_lines(page: PageRetest) -> Iterator[str]:
    """Yield in lines what came of a page."""
    where = page.address if page.address == page.page.address else f"{page.page.address}, found at {page.address}"
    if page.failure is not None:
        yield f"{where}: not re-tested: {page.failure}"
        return
    yield f"{where}, {page.page.width} pixels wide, take {page.take}"
    for answer in page.answers:
        yield from answer_lines(answer)
    for record in page.new_leads:
        place = f"line {record.line}" if record.line is not None else "no line"
        yield f"  new lead, {place}: {record.says}  [{record.check}]"
    if page.carried or page.changed:
        yield f"  {counted(page.carried, 'verdict', 'verdicts')} carried over, {len(page.changed)} to look at again"
    for each in page.changed:
        note = f" ({each.judgement.note})" if each.judgement.note else ""
        now = f", heard now: {each.now}" if each.now else ""
        sure = " (likely)" if each.sureness is Sureness.LIKELY else ""
        yield f"  {each.key.slice.value}, {each.judgement.word}{note}: {each.heard}: {each.change}{now}{sure}"


def answer_lines(answer: Answer) -> Iterator[str]:
    """Yield in lines what is said of a defect."""
    yield f"  defect {answer.defect.id}, {answer.defect.headline}"
    yield f"    {answer.proposal}: {answer.why}"
    yield f"    its element is {answer.found}; {answer.ground}" + (
        f", heard now: {answer.heard}" if answer.heard else ""
    )


def _data(page: PageRetest) -> dict[str, Any]:
    return {
        "page": page.page.address,
        "address": page.address,
        "width": page.page.width,
        "take": page.take,
        "failure": page.failure,
        "defects": [_answer(each) for each in page.answers],
        "new_leads": [asdict(each) for each in page.new_leads],
        "carried": page.carried,
        "changed": [
            {
                "list": each.key.slice.value,
                "verdict": each.judgement.verdict,
                "note": each.judgement.note,
                "heard": each.heard,
                "now": each.now,
                "change": each.change,
                "sureness": each.sureness,
            }
            for each in page.changed
        ],
    }


def _answer(answer: Answer) -> dict[str, Any]:
    return {
        "defect": answer.defect.id,
        "title": answer.defect.headline,
        "before": answer.status,
        "proposal": answer.proposal,
        "why": answer.why,
        "sureness": answer.sureness,
        "likeness": round(answer.likeness, 2),
        "ground": answer.ground,
        "heard": answer.heard,
        "xpath": answer.xpath,
        "line": answer.line,
        "moves": list(answer.moves),
    }
