"""A tree that follows a page in a browser is the one that the page would give if it were taken again."""

import random
from pathlib import Path

import pytest

from murvel.browser.launch import find_chromium
from murvel.browser.open_in_browser import open_in_browser
from murvel.loading.setup import BrowserSetup, Setup
from murvel.page.captured.document import CapturedDocument
from murvel.reader import acting
from murvel.reader.session import ReadingSession
from murvel.tree.build import build_tree
from murvel.tree.exchange.write import to_text

pytestmark = [pytest.mark.thorough, pytest.mark.skipif(find_chromium() is None, reason="Chromium is not installed")]

PAGE = """<!DOCTYPE html><html lang=en><title>Page</title><style>
  .off { display: none } .off + * { visibility: hidden } .up > * { text-transform: uppercase }
  .numbered > li { list-style: decimal } .quoted::before { content: "(" attr(id) ") " } .row { display: flex }
</style><body class=x><main><h1 id=h>Beds</h1><p id=p>One <b>two</b> three</p>
<ul id=l><li>a<li>b<ul><li>c</ul></ul><table id=t border=1><tr><th>A<th>B<tr><td>1<td>2</table>
<form id=f aria-labelledby=h><label for=n>Name</label><input id=n><input type=checkbox id=c><select id=s><option>x<option>y</select></form>
<details id=d><summary>More</summary>inside</details><dialog id=g><p>dialog</dialog><div id=o aria-owns=p></div>
<x-host id=x><i slot=s>slotted</i></x-host><div id=r role=status></div></main>"""

CHANGES = """
const all = [...document.body.querySelectorAll("*")], any = () => all[Math.floor(random() * all.length)];
const made = () => { const e = document.createElement(["p", "li", "button", "a", "h2", "span", "td", "label", "nav"][Math.floor(random() * 9)]);
  e.textContent = "new " + Math.floor(random() * 100); if (random() < .3) e.id = "i" + Math.floor(random() * 5);
  if (random() < .3) e.innerHTML = "<b>in</b> <input value=v>"; return e; };
const deeds = [
  () => any().append(made()), () => any().before(made()), () => { const e = any(); if (e.localName !== "main") e.remove(); },
  () => any().prepend(any().cloneNode(true)), () => { const a = any(), b = any(); if (!a.contains(b) && !b.contains(a)) a.append(b); },
  () => any().classList.toggle(["off", "up", "numbered", "quoted", "row"][Math.floor(random() * 5)]),
  () => { any().style.display = ["none", "block", "inline", ""][Math.floor(random() * 4)]; },
  () => any().setAttribute(["aria-label", "role", "aria-hidden", "hidden", "aria-labelledby", "aria-describedby", "title", "tabindex",
    "aria-expanded", "inert", "lang", "id"][Math.floor(random() * 12)], ["true", "h", "button", "list", "p n", "0", "de"][Math.floor(random() * 7)]),
  () => { const e = any(), names = e.getAttributeNames(); if (names.length) e.removeAttribute(names[0]); },
  () => { const e = any(); if (!e.children.length) e.textContent = "text " + Math.floor(random() * 100); },
  () => { for (const e of document.querySelectorAll("input")) { e.checked = !e.checked; if (e.type === "text") e.value += "v"; } },
  () => { const e = document.querySelector("dialog"); if (e) e.open ? e.close() : e.showModal(); },
  () => { const e = document.querySelector("details"); if (e) e.open = !e.open; },
  () => { const e = document.querySelector("x-host"); if (e && !e.shadowRoot) e.attachShadow({mode: "open"}).innerHTML = "<u>s</u><slot name=s></slot>"; },
  () => { const e = document.querySelector("x-host")?.shadowRoot; if (e) e.append(made()); },
  () => { const e = any(); e.normalize(); if (e.firstChild) e.append(e.firstChild); },
  () => { const e = document.querySelector("ul"); if (e?.lastElementChild) e.prepend(e.lastElementChild); },
];
for (let n = 0; n < COUNT; n++) try { deeds[Math.floor(random() * deeds.length)](); } catch {}
"""

RANDOM = "let seed = SEED; const random = () => { seed = (seed * 1103515245 + 12345) % 2147483648; return seed / 2147483648; };"


@pytest.mark.parametrize("seed", range(8))
def test_what_follows_is_what_would_be_taken(seed: int, tmp_path: Path) -> None:
    (tmp_path / "page.html").write_text(PAGE)
    stage = open_in_browser(str(tmp_path / "page.html"), Setup(root=tmp_path, browser=BrowserSetup()))
    session = ReadingSession(stage.tree, stage=stage)
    numbers = random.Random(seed)
    for _ in range(12):
        script = RANDOM.replace("SEED", str(numbers.randrange(1 << 30))) + CHANGES.replace(
            "COUNT", str(numbers.randrange(1, 6))
        )
        stage._run(stage.tab.page.evaluate("script => { (0, eval)('{' + script + '}') }", script))
        stage._run(stage._collect(is_all=True))
        acting.wait(session, 0.0)
        followed = list(to_text(stage.tree))
        anew = list(to_text(build_tree(CapturedDocument(stage.take()).styled)))
        assert followed == anew
    stage.close()
