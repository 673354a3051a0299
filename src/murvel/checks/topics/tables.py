"""Tables: headers, captions, and what only looks like a table (HTML §4.9; WCAG 2.2 1.3.1, 1.3.2)."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts, unnamed
from murvel.checks.questions.sight import first_text
from murvel.dom.document import Element, Text
from murvel.patterns import pattern
from murvel.text import collapse
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import TABLES

checks = Checks(Topic.TABLES)

_HEADERS = frozenset({"columnheader", "rowheader"})
_MANY_ROWS, _SEVERAL_COLUMNS = 4, 3
"""A grid from this size on compares things, whatever is in its cells."""

_COLUMNS = pattern(r"\S(?: {3,}|\t+|[ \u00a0]{3,})\S")
_CODE_CLASSES = pattern(r"code|lang|prettyprint|highlight|listing|screen|source|example", re.IGNORECASE)
_SHORT_CELL = 40
_HOLDS_MORE = frozenset("a button form h1 h2 h3 h4 h5 h6 img input label select svg table textarea ul".split())
"""What is in a card, a menu or a form rather than in the cell of a table."""

_ROW_GROUPS = frozenset({"thead", "tbody", "tfoot"})
_SCOPES = frozenset({"row", "col", "rowgroup", "colgroup"})


def _cells(table: Node, page: Facts) -> list[Node]:
    """The cells of a table, those of tables inside it left out."""
    return page.tree.grid_of(table).cells


def _tables(page: Facts) -> Iterator[Node]:
    for node in page.nodes(sorted(TABLES)):
        grid = page.tree.grid_of(node)
        if grid.rows and grid.columns:
            yield node


@checks.add(
    "table-without-headers", "Table without headers", FAILS, "1.3.1",
    means="Listeners hear values without the headers they belong to.",
    repair="Use th for the first row, and for the first column if it names the rows.",
    expect="the header of the column, then the value",
)  # fmt: skip
def table_without_headers(page: Facts) -> Found:
    """Tables of three rows and columns or more fail; in smaller ones, pairs or a layout, a person judges."""
    for table in _tables(page):
        grid = page.tree.grid_of(table)
        if grid.rows < 2 or grid.columns < 2 or any(cell.role in _HEADERS for cell in _cells(table, page)):
            continue
        if not _is_layout(table, page):
            is_data = grid.rows >= 3 and grid.columns >= 3 and "summary" not in table.element.attributes
            is_data = is_data and not _holds_parts(table, page)
            certainty = None if is_data else NEEDS_EARS
            yield Finding(table.element, f"{grid.rows} rows, {grid.columns} columns", certainty)
    for element in page.elements("table"):
        rows = _rows_of_values(page, element)
        if rows and page.semantics.role(element) not in TABLES:
            detail = f"{len(rows)} rows, {len(rows[0])} columns; browsers take it for a layout and say no table"
            yield Finding(element, detail, None if _first_row_heads(page, rows) else NEEDS_EARS)


def _rows_of_values(page: Facts, table: Element) -> list[list[Element]]:
    """The cells of a table of short values, by row; empty where rows differ in length, or hold more than values."""
    if any(above.tag == "table" for above in table.ancestors()):
        return []
    own = [*table.elements(), *(row for part in table.elements() if part.tag in _ROW_GROUPS for row in part.elements())]
    rows = [[*row.elements()] for row in own if row.tag == "tr"]
    cells = [cell for row in rows for cell in row]
    if len(rows) < _MANY_ROWS - 1 or len({len(row) for row in rows}) > 1 or len(rows[0]) < _SEVERAL_COLUMNS - 1:
        return []
    if any(cell.tag != "td" or _HOLDS_MORE.intersection(each.tag for each in _inside(cell)) for cell in cells):
        return []
    texts = [collapse(cell.text()) for cell in cells]
    is_short = all(len(text) <= _SHORT_CELL for text in texts) and sum(not text for text in texts) <= len(texts) // 4
    is_wide = len(rows[0]) >= _SEVERAL_COLUMNS or _first_row_heads(page, rows)
    return rows if is_short and is_wide else []


def _first_row_heads(page: Facts, rows: list[list[Element]]) -> bool:
    """Whether the first row stands out in bold, and no other does."""
    heads = [all(_is_bold(page, cell) for cell in row if cell.text().strip()) for row in rows[:_MANY_ROWS]]
    return heads[0] and not any(heads[1:])


def _is_bold(page: Facts, cell: Element) -> bool:
    return page.sight.font(first_text(cell) or cell).is_bold


def _is_layout(table: Node, page: Facts) -> bool:
    """Whether the cells hold whole parts of a page rather than values, in no more of them than a page has."""
    grid = page.tree.grid_of(table)
    return (grid.rows < _MANY_ROWS or grid.columns < _SEVERAL_COLUMNS) and _holds_parts(table, page)


def _holds_parts(table: Node, page: Facts) -> bool:
    inside = page.tree.nodes[table.id + 1 : table.end]
    parts = sum(node.role in ("heading", "list", "form", "table") or node.is_landmark for node in inside)
    return parts >= 2


@checks.add(
    "header-empty", "Empty table header", NEEDS_EARS, "1.3.1",
    means="Listeners hear the column's values without a header.",
    repair="Say what the column or row holds; the words may be hidden from sight. Use td for an empty corner.",
    expect="the header's text, then “{role}”",
)  # fmt: skip
def header_empty(page: Facts) -> Found:
    """Header cells without a name."""
    return (Finding(node.element) for node in unnamed(page.nodes(sorted(_HEADERS))))


@checks.add(
    "header-not-tied", "headers refers to no header", FAILS, "1.3.1",
    means="Listeners hear the wrong header at the cell, or none.",
    repair="Put the ids of header cells of the same table into headers.",
    expect="the header that is meant, then the value",
)  # fmt: skip
def header_not_tied(page: Facts) -> Found:
    """The headers attribute (HTML §4.9.12): ids of header cells in the same table."""
    for element in page.exposed_having("headers"):
        table = next((above for above in element.ancestors() if above.tag == "table"), None)
        ids = page.document.ids_around(element)
        for token in element.attributes["headers"].split():
            target = ids.get(token)
            if target is None or table is None or not table.contains(target) or target.tag not in ("th", "td"):
                yield Finding(element, f"headers names {token}")
                break


@checks.add(
    "scope-wrong", "scope without effect", FAILS, "1.3.1",
    means="Listeners hear the wrong header at some cells, or none.",
    repair="Use scope=\"col\" or scope=\"row\" on th only.",
    expect="the header at each of its cells",
)  # fmt: skip
def scope_wrong(page: Facts) -> Found:
    """HTML §4.9.10: scope stands on th only, with four values."""
    for element in page.exposed_having("scope"):
        value = element.attributes["scope"].strip().lower()
        if element.tag == "td":
            yield Finding(element, "scope on td")
        elif element.tag == "th" and value not in _SCOPES:
            yield Finding(element, f'scope="{value}"')


@checks.add(
    "caption-missing", "Table without a name", NEEDS_EARS, "1.3.1", "2.4.6",
    means="Listeners hear how large the table is, but not what it holds. It has no name in a list of tables.",
    repair="Add a caption.",
    expect="“table”, its caption, rows and columns",
)  # fmt: skip
def caption_missing(page: Facts) -> Found:
    """Tables with headers and no name; a heading directly before it may do."""
    for table in _tables(page):
        grid = page.tree.grid_of(table)
        if not table.name.strip() and grid.rows > 2 and grid.columns > 1:
            if any(cell.role in _HEADERS for cell in _cells(table, page)):
                yield Finding(table.element)


@checks.add(
    "layout-table-heard", "Layout table is announced as a table", NEEDS_EARS, "1.3.1",
    means="Listeners hear rows and columns where there is nothing to compare.",
    repair="Lay it out with a style sheet, or add role=\"presentation\".",
    expect="the content without rows and columns",
)  # fmt: skip
def layout_table_heard(page: Facts) -> Found:
    """Tables of one row or column, or with parts of a page in their cells, and without headers."""
    for table in _tables(page):
        grid = page.tree.grid_of(table)
        if table.role != "table" or any(cell.role in _HEADERS for cell in _cells(table, page)):
            continue
        if grid.rows == 1 or grid.columns == 1 or _is_layout(table, page):
            yield Finding(table.element, f"{grid.rows} rows, {grid.columns} columns")


@checks.add(
    "tables-nested", "Nested tables", NEEDS_EARS, "1.3.1",
    means="Listeners hear rows and columns of two tables at once and lose their place.",
    repair="Put the inner table after the outer one, or make a list of it.",
    expect="one table at a time",
)  # fmt: skip
def tables_nested(page: Facts) -> Found:
    """Tables that are exposed inside others."""
    for table in page.nodes(sorted(TABLES)):
        if any(above.role in TABLES for above in table.ancestors()):
            yield Finding(table.element)


@checks.add(
    "columns-by-spaces", "Columns made with spaces or line breaks", NEEDS_EARS, "1.3.1", "1.3.2",
    means="Listeners hear each line straight across, and what belongs together is torn apart.",
    repair="Use a table.",
    expect="the header, then the value, cell by cell",
    traits=[Trait.LOOK_ALIKE],
)  # fmt: skip
def columns_by_spaces(page: Facts) -> Found:
    """Preformatted lines or runs of no-break spaces in columns, and lines side by side in the cells of a row."""
    for element in page.elements("pre", "p", "div", "li"):
        text = _own_text(element)
        if element.tag == "pre" and not any(each.tag in ("code", "kbd", "samp") for each in element.elements()):
            aligned = _aligned_lines(text)
            if aligned >= 2 and not _is_code(text) and not _CODE_CLASSES.search(element.attributes.get("class", "")):
                yield Finding(element, f"{aligned} lines")
        elif text.count("\u00a0\u00a0\u00a0") >= 2:
            yield Finding(element, "no-break spaces")
    for element in page.elements("tr"):
        breaks = [sum(each.tag == "br" for each in cell.elements()) for cell in element.elements() if cell.tag == "td"]
        if len(breaks) > 1 and min(breaks[:2]) >= 2 and len(set(breaks)) == 1:
            yield Finding(element, f"{breaks[0] + 1} lines in each cell")


def _aligned_lines(text: str) -> int:
    """How many lines have something begin, after a gap, in the same column: at least half of them, else none count."""
    lines = [line for line in text.splitlines() if line.strip()]
    begins = Counter(found.end() - 1 for line in lines for found in _COLUMNS.finditer(line))
    most = max(begins.values(), default=0)
    return most if most * 2 >= len(lines) else 0


def _own_text(element: Element) -> str:
    if element.tag == "pre":
        return element.text()
    return "".join(child.data for child in element.children if isinstance(child, Text))


def _is_code(text: str) -> bool:
    return sum(text.count(sign) for sign in '{};=$<>|/\\#"()') * 20 > len(text)


@checks.add(
    "row-header-missing", "Row headers are not marked", NEEDS_EARS, "1.3.1",
    means="Listeners who go down a column do not hear which row they are in.",
    repair="Make the first cell of each row a th with scope=\"row\".",
    expect="the name of the row, then the value",
)  # fmt: skip
def row_header_missing(page: Facts) -> Found:
    """Tables with column headers whose first column holds different words, and the others figures or short values."""
    for table in _tables(page):
        cells = _cells(table, page)
        grid = page.tree.grid_of(table)
        roles = {cell.role for cell in cells}
        if "columnheader" not in roles or "rowheader" in roles or grid.rows < 3 or grid.columns < 2:
            continue
        first = [collapse(cell.name) for cell in cells if cell.role == "cell" and grid.places[cell.id].column == 1]
        wordy = [text for text in first if any(character.isalpha() for character in text)]
        if len(first) > 1 and len(wordy) == len(first) == len(set(first)) and max(map(len, first)) <= 40:
            yield Finding(table.element, f"“{first[0]}”, “{first[1]}”")


@checks.add(
    "table-look-alike", "Rows and columns that are no table", NEEDS_EARS, "1.3.1",
    means="People who see the page compare down the columns; listeners hear one value after the other.",
    repair="Use a table with headers.",
    expect="the header, then the value, cell by cell",
    traits=[Trait.LOOK_ALIKE],
)  # fmt: skip
def table_look_alike(page: Facts) -> Found:
    """Rows of as many short cells each: laid out by CSS as a table, or in rows of flex or grid items side by side."""
    if not page.is_source:
        return
    for element in page.elements("div", "section", "ul", "ol", "article"):
        rows = [row for row in element.elements() if page.is_exposed(row)]
        if len(rows) < _MANY_ROWS - 1 or len({row.tag for row in rows}) > 1 or page.semantics.role(element) in TABLES:
            continue
        columns = {_columns(page, row) for row in rows}
        if len(columns) == 1 and (count := columns.pop()) >= _SEVERAL_COLUMNS:
            yield Finding(element, f"{len(rows)} rows, {count} columns")


def _columns(page: Facts, row: Element) -> int:
    """How many cells a row has that hold a short text each; 0 if it is no such row."""
    style = page.styles.of(row)
    cells = [cell for cell in row.elements() if page.is_exposed(cell)]
    is_row = style.display == "table-row" or (style.holds_items and style.display in ("flex", "grid"))
    if not is_row or page.semantics.role(row) not in (None, "generic", "none", "listitem"):
        return 0
    texts = [collapse(cell.text()) for cell in cells]
    if any(not text or len(text) > _SHORT_CELL for text in texts):
        return 0
    is_plain = all(not _HOLDS_MORE.intersection(each.tag for each in _inside(cell)) for cell in cells)
    return len(cells) if is_plain else 0


def _inside(element: Element) -> Iterator[Element]:
    yield element
    yield from (node for node in element.descendants() if isinstance(node, Element))
