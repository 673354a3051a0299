"""Rates of agreement between our tree and Chromium's, on our own cases and on pages that others wrote."""

from __future__ import annotations

import argparse
import sys
import tempfile
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.support import case_ids

from murvel.browser.agreement import Agreement, Difference, Fact, compare
from murvel.browser.chromium import chromium, exposed
from murvel.page.open import open_document
from murvel.tree.build import build_tree

CASES = Path(__file__).parent.parent / "tests" / "tree" / "cases"


def own_pages(folder: Path) -> list[Path]:
    """Write the cases of the tree's tests as pages and return them."""
    pages = []
    for number, case in enumerate(case_ids(CASES)):
        page = folder / f"{number:03}.html"
        page.write_text(f"<!DOCTYPE html><html lang=en><title>{case.title}</title><body>{case.markup}")
        pages.append(page)
    return pages


def corpus_pages(folder: Path) -> list[Path]:
    """Return a fixed choice of the fetched pages: every so many of each package."""
    pages = []
    for package, every, most in (
        ("sqlite3-doc", 60, 20),
        ("apache2-doc", 90, 20),
        ("debian-reference-en", 1, 14),
        ("startbootstrap-freelancer", 1, 2),
        ("startbootstrap-agency", 1, 2),
        ("startbootstrap-sb-admin", 1, 12),
    ):
        found = sorted((folder / "packages" / package).rglob("*.html"))
        pages.extend([page for page in found if page.stat().st_size > 500][::every][:most])
    return pages


def measure(title: str, pages: list[Path], shown: int) -> Agreement:
    """Compare pages and print their rates and the commonest differences."""
    total = Agreement()
    kinds: Counter[tuple[str, str, str, str]] = Counter()
    examples: dict[tuple[str, str, str, str], str] = {}
    with chromium() as context:
        for page in pages:
            agreement = compare(build_tree(open_document(str(page))), exposed(context, page))
            total.add(agreement)
            for difference in agreement.differences:
                kind = kind_of(difference)
                kinds[kind] += 1
                examples.setdefault(kind, f"{page.name} {difference.xpath}")
    print(f"\n{title}: {len(pages)} pages")
    for fact in Fact:
        print(f"  {fact.value:<20} {total.rate(fact):8.3%}  of {total.compared[fact]:,} elements")
    for kind, count in kinds.most_common(shown):
        print(f"  {count:>6}  {' | '.join(kind)}   e.g. {examples[kind]}")
    return total


def kind_of(difference: Difference) -> tuple[str, str, str, str]:
    """Return what a difference is grouped by: the fact, the element's tag, and what each side says."""
    tag = difference.xpath.rsplit("/", 1)[1].split("[")[0]
    return difference.fact.value, tag, f"theirs {difference.theirs[:50]!r}", f"ours {difference.ours[:50]!r}"


def main() -> None:
    """Measure both."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--corpus", type=Path, default=Path(".corpus"))
    parser.add_argument("--shown", type=int, default=25, help="how many kinds of difference are printed")
    arguments = parser.parse_args()
    with tempfile.TemporaryDirectory() as name:
        measure("Our own pages", own_pages(Path(name)), arguments.shown)
    if (arguments.corpus / "packages").is_dir():
        measure("Pages that others wrote", corpus_pages(arguments.corpus), arguments.shown)


if __name__ == "__main__":
    main()
