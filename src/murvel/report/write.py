"""Reports as documents: one self-contained HTML file, or Markdown."""

from __future__ import annotations

import re
from base64 import b64encode
from datetime import date

import jinja2

from murvel.casebook.store import Casebook
from murvel.patterns import pattern
from murvel.report.content import gather
from murvel.report.formats import Format
from murvel.text import visible

_TEMPLATES = {Format.HTML: "report.html.jinja", Format.MARKDOWN: "report.md.jinja"}

# What Markdown could take for markup inside a line (CommonMark §6, with the pipes of tables).
_MARKDOWN = pattern(r"([\\`*_\[\]<>#|~&$])")
_LINKED = pattern(r"((?:\b(?:https?|ftp|mailto|xmpp):|\bwww\.)\S+|(?<!\S)\S*@\S+|(?<!\S)\S*#\d\S*)", re.IGNORECASE)
"""What GitHub Flavored Markdown and its like make links of: addresses, mentions, numbers of issues."""


def render(casebook: Casebook, form: Format, made: date) -> str:
    """Return the report on a casebook as text.

    Args:
        casebook: what is reported.
        form: HTML or Markdown.
        made: the date the report bears.

    Raises:
        CasebookError: the casebook cannot be read.
    """
    environment = jinja2.Environment(
        loader=jinja2.PackageLoader("murvel.report"),
        autoescape=form is Format.HTML,
        trim_blocks=True,
        lstrip_blocks=True,
        undefined=jinja2.StrictUndefined,
        keep_trailing_newline=True,
    )
    environment.filters["safe_text"] = visible
    environment.filters["safe_block"] = lambda text: visible(text, keep_lines=True)
    environment.filters["base64"] = lambda data: b64encode(data).decode("ascii")
    environment.filters["md"] = markdown_text
    environment.filters["code"] = markdown_code
    environment.filters["fenced"] = fenced
    environment.filters["long_date"] = lambda day: f"{day.day} {day:%B %Y}"
    return environment.get_template(_TEMPLATES[form]).render(report=gather(casebook, made))


def markdown_text(text: str) -> str:
    """Return text as Markdown that shows it, whatever characters are in it, on one line.

    What a reader of Markdown would link by itself, addresses and names behind an @, becomes code.
    """
    pieces = _LINKED.split(visible(" ".join(text.split())))
    return "".join(markdown_code(piece) if at % 2 else _MARKDOWN.sub(r"\\\1", piece) for at, piece in enumerate(pieces))


def markdown_code(text: str) -> str:
    """Return text as a code span that nothing in it can end (CommonMark §6.1)."""
    text = visible(" ".join(text.split()))
    fence = "`" * (1 + max((len(run) for run in re.findall(r"`+", text)), default=0))
    return f"{fence} {text} {fence}" if "`" in text else f"{fence}{text}{fence}"


def fenced(text: str, language: str = "html") -> str:
    """Return text as a fenced code block in a language that nothing in it can end."""
    longest = max((len(run) for run in re.findall(r"`+", text)), default=0)
    fence = "`" * max(3, longest + 1)
    return f"{fence}{language}\n{visible(text, keep_lines=True)}\n{fence}"
