"""Rates of agreement between our tree and Chromium's, on our own cases and on pages that others wrote."""

from __future__ import annotations

import argparse
import sys
import tempfile
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.support import case_ids

from murvel.browser.chromium import chromium, exposed, tab_order
from murvel.page.open_page import open_document
from murvel.tree.build import build_tree
from murvel.tree.exchange.agreement import Agreement, Difference, Fact, compare, compare_order

MOST_OF_ONE = 20
"""How many pages of a package are compared, at most."""

FRAMEWORKS = {
    "bootstrap": "dist/css/bootstrap.css",
    "bootstrap@4.6.2": "dist/css/bootstrap.css",
    "bootstrap@3.4.1": "dist/css/bootstrap.css",
    "bulma": "css/bulma.css",
    "foundation-sites": "dist/css/foundation.css",
    "uikit": "dist/css/uikit.css",
    "purecss": "build/pure.css",
    "milligram": "dist/milligram.css",
    "tachyons": "css/tachyons.css",
    "spectre.css": "dist/spectre.css",
    "semantic-ui-css": "semantic.css",
    "materialize-css": "dist/css/materialize.css",
    "picnic": "picnic.min.css",
    "water.css": "out/water.css",
    "mini.css": "dist/mini-default.css",
    "chota": "dist/chota.css",
    "halfmoon": "css/halfmoon.css",
}
"""Packages of CSS frameworks, each with the style sheet that pages link to."""

LARGEST = 1_000_000
"""How many bytes such a page has, at most."""

CASES = [Path(__file__).parent.parent / "tests" / "tree" / folder for folder in ("cases", "compared", "order")]


def own_pages(folder: Path) -> list[tuple[str, list[Path]]]:
    """Write the cases of the tests as pages and return them, by the file they stand in."""
    pages: dict[str, list[Path]] = {}
    for number, case in enumerate(case for folder in CASES for case in case_ids(folder)):
        page = folder / f"{number:04}.html"
        page.write_text(f"<!DOCTYPE html><html lang=en><title>{case.title}</title><body>{case.markup}")
        pages.setdefault(case.title.partition(":")[0], []).append(page)
    return list(pages.items())


def corpus_pages(folder: Path) -> list[tuple[str, list[Path]]]:
    """Return a fixed choice of the pages fetched: of each package so many, from all over it."""
    pages = []
    for package in sorted(folder.glob("packages/*")):
        found = [page for page in sorted(package.rglob("*.html")) if 500 < page.stat().st_size < LARGEST]
        if found:
            pages.append((package.name, found[:: max(1, len(found) // MOST_OF_ONE)][:MOST_OF_ONE]))
    return pages


def framework_pages(folder: Path) -> list[tuple[str, list[Path]]]:
    """Write a page that uses the classes of CSS frameworks beside each of those that were fetched, and return them."""
    template = (Path(__file__).parent / "framework_page.html").read_text(encoding="utf-8")
    pages = []
    for name, sheet in FRAMEWORKS.items():
        package = folder / "packages" / name
        if (package / "package" / sheet).is_file():
            page = package / "package" / "framework.html"
            page.write_text(template.replace("{sheet}", sheet), encoding="utf-8")
            pages.append((name, [page]))
    return pages


def measure(title: str, pages: list[Path], shown: int) -> Agreement:
    """Compare pages and print their rates and the commonest differences."""
    total = Agreement()
    kinds: Counter[tuple[str, str, str, str]] = Counter()
    examples: dict[tuple[str, str, str, str], str] = {}
    with chromium() as context:
        for page in pages:
            tree = build_tree(open_document(str(page)))
            for agreement in (compare(tree, exposed(context, page)), compare_order(tree, tab_order(context, page))):
                total.add(agreement)
                for difference in agreement.differences:
                    kind = kind_of(difference)
                    kinds[kind] += 1
                    examples.setdefault(kind, f"{page.name} {difference.xpath}")
    print(f"{title:<24} {len(pages):>5} {sum(total.compared.values()):>8,}  {rates(total)}", flush=True)
    for kind, count in kinds.most_common(shown):
        print(f"  {count:>6}  {' | '.join(kind)}   e.g. {examples[kind]}")
    return total


def rates(agreement: Agreement) -> str:
    """Return the rate of each fact, as a line of a table."""
    return "".join(f"{agreement.rate(fact):>18.2%}" for fact in Fact)


def kind_of(difference: Difference) -> tuple[str, str, str, str]:
    """Return what a difference is grouped by: the fact, the element's tag, and what each side says."""
    tag = difference.xpath.rsplit("/", 1)[1].split("[")[0]
    return difference.fact.value, tag, f"theirs {difference.theirs[:50]!r}", f"ours {difference.ours[:50]!r}"


def main() -> None:
    """Measure our own cases by file, and the pages of packages by package."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--corpus", type=Path, default=Path(".corpus"))
    parser.add_argument("--shown", type=int, default=6, help="how many kinds of difference are printed for each")
    parser.add_argument("--only", default="", help="measure only what has this in its name")
    arguments = parser.parse_args()
    print(f"{'':<24} {'pages':>5} {'compared':>8}  {''.join(f'{fact.value:>18}' for fact in Fact)}")
    with tempfile.TemporaryDirectory() as name:
        groups = (
            ("Our own pages", own_pages(Path(name))),
            ("Frameworks", framework_pages(arguments.corpus)),
            ("Others'", corpus_pages(arguments.corpus)),
        )
        for title, found in groups:
            total = Agreement()
            for part, pages in found:
                if arguments.only in part:
                    total.add(measure(part, pages, arguments.shown))
            print(f"{title:<24} {'':>5} {sum(total.compared.values()):>8,}  {rates(total)}\n")


if __name__ == "__main__":
    main()
