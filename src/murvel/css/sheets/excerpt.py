"""Excerpts: style sheets without what cannot matter for speech, which is most of most sheets.

An excerpt is a style sheet as well. Its rules stand in the same lines, and what is collected from it for speech is what
is collected from the whole.
"""

from __future__ import annotations

from collections.abc import Iterator

from murvel.css.cascade.spoken import is_spoken
from murvel.css.sheets.limits import DEEPEST, may_be_deep
from murvel.css.sheets.raw import FOLLOWED, RawRule, raw_rules


def excerpt(text: str, *, is_sheet: bool = True, depth: int = 0) -> str:
    """Return the excerpt of a sheet.

    Args:
        text: its text, normalised.
        is_sheet: whether it is a whole sheet, and not the block of an at-rule.
        depth: how many at-rules are around.
    """
    kept: list[str] = []
    line = 1
    may_import = is_sheet
    for rule in raw_rules(text, is_sheet=is_sheet):
        is_import = rule.keyword == "import" and may_import
        may_import &= rule.keyword in ("import", "charset") or (rule.keyword == "layer" and rule.content is None)
        found = text[rule.start : rule.end] if is_import else "".join(_kept(text, rule, depth))
        if found:
            kept += ["\n" * (rule.line - line), found]
            line = rule.line + found.count("\n")
    return "".join(kept)


def _kept(text: str, rule: RawRule, depth: int) -> Iterator[str]:
    """What is kept of a rule: all of it, what matters of what stands in it, or nothing."""
    whole = text[rule.start : rule.end]
    content = rule.content
    if not rule.keyword:
        if content is not None and ("{" in content or is_spoken(rule.prelude, content)):
            yield whole
    elif rule.keyword not in FOLLOWED:
        return
    elif rule.keyword == "property" or content is None or may_be_deep(rule.prelude) or depth >= DEEPEST:
        yield whole
    else:
        inside = excerpt(content, is_sheet=False, depth=depth + 1)
        if inside or rule.keyword == "layer":  # the order of layers counts, also of those without rules
            yield text[rule.start : rule.content_start]
            yield inside
            yield text[rule.content_start + len(content) : rule.end]
