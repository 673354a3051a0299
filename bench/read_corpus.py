"""Opens, reads and lists pages that others wrote, and says of each how much there was; ends with 1 if one failed."""

from __future__ import annotations

import sys
import traceback
from pathlib import Path

from murvel.reader.readout.kinds import LISTS
from murvel.reader.readout.lists import entries
from murvel.reader.session import ReadingSession
from murvel.reader.speech.timing import clock
from murvel.tree.exchange.write import to_json, to_text
from murvel.tree.open_tree import open_tree

PAGES = (
    "startbootstrap-freelancer/package/dist/index.html",
    "startbootstrap-agency/package/dist/index.html",
    "startbootstrap-sb-admin/package/dist/index.html",
    "startbootstrap-sb-admin/package/dist/login.html",
    "startbootstrap-sb-admin/package/dist/register.html",
    "startbootstrap-sb-admin/package/dist/tables.html",
    "startbootstrap-sb-admin/package/dist/404.html",
    "sqlite3-doc/usr/share/doc/sqlite3/index.html",
    "sqlite3-doc/usr/share/doc/sqlite3/lang_select.html",
    "sqlite3-doc/usr/share/doc/sqlite3/windowfunctions.html",
    "sqlite3-doc/usr/share/doc/sqlite3/capi3ref.html",
    "sqlite3-doc/usr/share/doc/sqlite3/changes.html",
    "sqlite3-doc/usr/share/doc/sqlite3/fts5.html",
    "sqlite3-doc/usr/share/doc/sqlite3/doc_backlink_crossref.html",
    "apache2-doc/usr/share/doc/apache2-doc/manual/en/index.html",
    "apache2-doc/usr/share/doc/apache2-doc/manual/en/mod/core.html",
    "apache2-doc/usr/share/doc/apache2-doc/manual/ja/index.html",
    "apache2-doc/usr/share/doc/apache2-doc/manual/fr/sections.html",
    "debian-reference-en/usr/share/debian-reference/ch09.en.html",
    "debian-reference-en/usr/share/debian-reference/index.en.html",
)
"""Twenty pages of the fetched packages."""


def read(path: Path) -> str:
    """Open a page, read it through, make every list and both tree forms; return a line about it."""
    tree = open_tree(str(path))
    session = ReadingSession(tree)
    session.arrive()
    listed = sum(len(entries(session, name)) for name in LISTS)
    written = sum(map(len, to_json(tree))) + sum(map(len, to_text(tree)))
    total = clock(session.spoken.total)
    sizes = f"{len(tree.nodes):>7} nodes {len(session.readout.items):>6} items {total:>7}"
    return f"{sizes} {listed:>6} listed {written:>9} written"


def main() -> int:
    """Read the whole corpus."""
    folder = Path(sys.argv[1]) / "packages"
    failed = 0
    for page in PAGES:
        try:
            print(f"{read(folder / page)}  {page}")
        except Exception:
            failed += 1
            print(f"FAILED  {page}")
            traceback.print_exc()
    print(f"{len(PAGES) - failed} of {len(PAGES)} pages were read.")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
