"""The pages that are measured: made up, and of the shapes that people test."""

from __future__ import annotations

from pathlib import Path

_SECTION = """
<section aria-labelledby="h{n}"><h2 id="h{n}">Plot {n}</h2>
<p>Full plot by the stream, <a href="#a">sun until four</a>, tap at the <b>corner</b>.</p>
<ul><li>beans</li><li><a href="#b">peas</a></li><li>chard</li></ul>
<form><label for="f{n}">Your name</label><input id="f{n}" required><label><input type="checkbox"> Remind me</label>
<button type="submit">Reserve <span>plot {n}</span></button></form><img src="x.jpg" alt=""></section>
"""


_LONG = "Beds are counted from the gate, rows from the path; what was dug over since is left out, and so is the hedge."


def sections(count: int) -> str:
    """Return a page with 20 elements a section: headings, text with links, a list, fields."""
    body = "".join(_SECTION.format(n=number) for number in range(count))
    return f"<!DOCTYPE html><html lang=en><title>Bench</title><style>.x{{display:none}}</style><main>{body}</main>"


def reference(count: int = 1700) -> str:
    """Return a page like that of a manual, of about 700 KB and 36,000 nodes: short texts, links, code and lists."""
    entries = "".join(_ENTRY.format(n=n, half=n // 2, long=_LONG) for n in range(count))
    return f"<!DOCTYPE html><html lang=en><title>Manual</title><main><h1>Manual</h1><dl>{entries}</dl></main>"


_ENTRY = """<dt id="e{n}"><code>plot_{n}(<var>bed</var>, <var>row</var>)</code>
<a href="#e{n}">link to this entry</a></dt><dd><p>Returns what grows in row {n}, as
<a href='#e{half}'>plot_{half}()</a> does. {long}</p><ul><li>a bed</li><li>a row of <em>it</em></li></ul></dd>"""

_ROW = """<tr class="row-{seventh}"><td class="cell pad-2">Plot {n}</td><td class="cell num"><span
class="badge tone-{ninth}">{n}0</span></td><td class="cell"><a class="btn btn-{twentieth}" href="#p{n}">Open</a></td>
<td><i class="ic ic-{n}"></i></td></tr>"""

_CARD = """<div class="card card-{seventh} d-flex"><div class="card-body pad-3"><h2 class="h5 text-upper">Bed {n}</h2>
<p class="muted">Watered <time>today</time></p><button class="btn btn-{twentieth}"><i class="ic ic-{n}"></i> Water
</button>
<span class=only-print>{n}</span></div></div>"""


def dashboard(folder: Path) -> Path:
    """Write a page of 1,300 elements with 460 KB of style sheets of the usual kinds; return its path."""
    (folder / "icons.css").write_text("".join(f'.ic-{n}:before{{content:"\\{0xF000 + n:x}"}}' for n in range(1500)))
    (folder / "site.css").write_text(_components() + _utilities())
    rows = "".join(_ROW.format(n=n, seventh=n % 7, ninth=n % 9, twentieth=n % 20) for n in range(120))
    cards = "".join(_CARD.format(n=n, seventh=n % 7, twentieth=n % 20) for n in range(40))
    path = folder / "dashboard.html"
    path.write_text(
        "<!DOCTYPE html><html lang=en><title>Dashboard</title><link rel=stylesheet href=icons.css>"
        f"<link rel=stylesheet href=site.css><nav class=navbar><a class=brand href=a>Plots</a></nav><main>{cards}"
        f"<table class=table>{rows}</table></main>"
    )
    return path


def _components() -> str:
    rules = []
    for n in range(1220):
        name = ("card", "btn", "navbar", "table", "badge", "menu", "tile", "panel", "modal", "alert")[n % 10]
        rules.append(
            f".{name}-{n // 10},.{name}-{n // 10}:hover>.{name}-title a:not(.x){{color:#{n % 4096:03x};"
            f"background-color:rgba({n % 256},0,0,.5);border:1px solid transparent;padding:.375rem .75rem;"
            f"transition:color .15s ease-in-out}}\n"
            f".{name}-{n // 10} .{name}-body::after{{display:block;clear:both;content:''}}\n"
        )
    return "".join(rules)


def _utilities() -> str:
    blocks = []
    for size in ("", "sm", "md", "lg", "xl"):
        mark = f"{size}-" if size else ""
        rules = [
            f".m-{mark}{n}{{margin:{n / 4}rem!important}}.pad-{mark}{n}{{padding:{n / 4}rem!important}}"
            f".w-{mark}{n}{{width:{n}%!important}}.order-{mark}{n}{{order:{n}!important}}"
            for n in range(160)
        ]
        rules += [
            f".d-{mark}{value}{{display:{value}!important}}" for value in ("none", "block", "flex", "grid", "inline")
        ]
        rules += [f".float-{mark}{side}{{float:{side}!important}}" for side in ("left", "right", "none")]
        sheet = "".join(rules)
        blocks.append(f"@media (min-width:{len(blocks) * 300}px){{{sheet}}}" if size else sheet)
    return "".join(blocks) + ".text-upper{text-transform:uppercase}@media screen{.only-print{display:none}}"
