"""Hostile pages: a few bytes that ask for much, shapes that grow, and random mixtures of both."""

from __future__ import annotations

import re
from collections.abc import Callable
from random import Random

Shape = Callable[[int], str]
"""Makes a page of a size."""


def _chain(n: int, each: str, last: str) -> str:
    """A style sheet whose custom properties refer to each other."""
    own = "".join(
        each.replace("{i}", str(i)).replace("{j}", str(i + 1)).replace("{n}", str((i + 2) % n)) for i in range(n)
    )
    return f"<style>p{{{own}--v{n}:{last};display:var(--v0)}}</style><p>x"


def _styled(css: str, markup: str = "<p>x") -> str:
    return f"<style>{css}</style>{markup}"


def _many(n: int, piece: str) -> str:
    return "".join(piece.replace("{i}", str(i)).replace("{j}", str(i + 1)) for i in range(n))


SHAPES: dict[str, Shape] = {
    # Style sheets
    "nested &": lambda n: _styled("p{" + "& &{" * n + "display:none" + "}" * n + "}"),
    "nested lists of &": lambda n: _styled("p,b{&,&,& {" * n + "display:none" + "}}" * n),
    "many & in one rule": lambda n: _styled("p{" + "& " * n + "{" + "&" * n + "{display:none}}}"),
    "variables that double": lambda n: _chain(n, "--v{i}:var(--v{j})var(--v{j});", "x"),
    "variables that double and end empty": lambda n: _chain(n, "--v{i}:var(--v{j})var(--v{j});", " "),
    "variables in circles": lambda n: _chain(n, "--v{i}:var(--v{j})var(--v{n});", "x"),
    "variables in a chain": lambda n: _chain(n, "--v{i}:var(--v{j});", "none"),
    "fallbacks in fallbacks": lambda n: _styled("p{display:" + "var(--a,var(--b," * n + "none" + "))" * n + "}"),
    "a selector of many parts": lambda n: _styled(" ".join(["div"] * n) + " p{display:none}", "<div>" * 60 + "<p>x"),
    "a selector that matches nearly": lambda n: _styled(
        "i " + "div " * (n % 55) + "b{display:none}", "<div>" * 400 + "<b>y"
    ),
    "siblings that match nearly": lambda n: _styled("i~b~b~b~u{display:none}", "<b></b>" * n * 10 + "<u>y"),
    ":is in :is": lambda n: _styled(":is(" * n + "p" + ")" * n + "{display:none}"),
    ":not in :not": lambda n: _styled(":not(" * n + "p" + ")" * n + "{display:none}"),
    ":has in :has": lambda n: _styled(":has(" * n + "p" + ")" * n + "{display:none}"),
    ":has on every element": lambda n: _styled("div:has(b){display:none}", "<div><div></div></div>" * n),
    "counted children": lambda n: _styled("li:nth-last-child(2n+1) b{display:none}", "<ul>" + "<li><b>x</b>" * n),
    "counted among counted": lambda n: _styled(
        ":nth-last-child(2n+1 of :not(:nth-child(2n of *))){color:red}", "<p>x" * n
    ),
    "counted among those before": lambda n: _styled(":not(p ~ p ~ p:nth-child(n of p ~ p)){color:red}", "<p>x" * n),
    "open elements": lambda n: "<section>" * n * 4 + "<p>x",
    "open elements that are closed": lambda n: "<div>" * n * 4 + "x" + "</div>" * n * 4 + "<p>y",
    "a long list": lambda n: "<select>" + "<option>a" * n + "</select>",
    "spans to the end of empty rows": lambda n: "<table>" + "<tr>" * n + "<td rowspan=0 colspan=2>x" * n,
    "@media in @media": lambda n: _styled("@media all{" * n + "p{display:none}" + "}" * n),
    "@layer in @layer": lambda n: _styled("@layer a{" * n + "p{display:none}" + "}" * n),
    "a condition in parentheses": lambda n: _styled("@media " + "(" * n + "width>1px" + ")" * n + "{p{display:none}}"),
    "a condition of not": lambda n: _styled(
        "@supports " + "not (" * n + "display:none" + ")" * n + "{p{display:none}}"
    ),
    "a media attribute": lambda n: f"<style media='{'(' * n}'>p{{display:none}}</style><p>x",
    "braces that stay open": lambda n: _styled("p{" * n),
    "a style attribute": lambda n: f"<p style='display:{'(' * n}'>x",
    "generated content": lambda n: _styled("p::before{content:" + "'x' " * n + "}", "<p>y" * n),
    "rules for classes": lambda n: _styled(_many(n, ".c{i}{display:block}"), f"<p class='{_many(n, 'c{i} ')}'>x"),
    # Names
    "one label for many": lambda n: f"<p id=t>{'word ' * n}</p>" + "<button aria-labelledby=t>x</button>" * n,
    "one description for many": lambda n: f"<p id=t>{'<b>word</b> ' * n}</p>" + "<input aria-describedby=t>" * n,
    "a label of many references": lambda n: f"<p id=t>x</p><button aria-labelledby='{'t ' * n}'>x</button>",
    "buttons in buttons": lambda n: "<div role=button>" * n + "word " * n,
    "owners in a chain": lambda n: _many(n, "<p id=i{i} aria-owns=i{j}>x</p>"),
    "owners in a chain, last first": lambda n: _many(n, "<p id=i{j} aria-owns=i{i}>x</p>"),
    "one owner of many": lambda n: f"<ul aria-owns='{_many(n, 'i{i} ')}'></ul>" + _many(n, "<li id=i{i}>x"),
    # Tables
    "rows that span": lambda n: "<table><tr><th>h" + "<tr><td rowspan=65534>x" * n + "</table>",
    "rows that span to the end": lambda n: "<table>" + "<tr><td rowspan=0 colspan=2>x" * n + "</table>",
    "columns that span": lambda n: "<table>" + "<tr><td colspan=1000>x" * n + "</table>",
    "tables in tables": lambda n: "<table><td>" * n + "x",
    # Markup
    "deep elements": lambda n: "<div>" * n + "x",
    "formatting left open": lambda n: _many(n, "<a href={i}><b><p>"),
    "different formatting left open": lambda n: _many(n, "<p><b class=c{i}>x"),
    "formatting that stays open": lambda n: _many(n, "<b class=c{i}>") + "<p>x" * n,
    "formatting closed crosswise": lambda n: "<b><i>" * n + "</b></i>x",
    "labels for one field": lambda n: "<label for=f>x</label>" * n + "<input id=f>",
    "radios of one group": lambda n: "<form>" + "<input type=radio name=a>" * n,
    "fields with one list": lambda n: "<datalist id=d>" + "<option>x" * n + "</datalist>" + "<input list=d>" * n,
    "images with one map": lambda n: "<map name=m>" + "<area href=x>" * n + "</map>" + "<img usemap='#m'>" * n,
    "slots of one name": lambda n: (
        f"<div><template shadowrootmode=open>{'<slot name=a></slot>' * n}</template>{'<b slot=a>x</b>' * n}</div>"
    ),
    "frames in frames": lambda n: "<iframe srcdoc='<iframe srcdoc=x></iframe>'></iframe>" * n,
    "many attributes": lambda n: f"<p {_many(n, 'a{i}=b ')}>x",
    "comments left open": lambda n: "<!--" * n + "x",
    "ampersands": lambda n: "&" * n,
    "a pattern": lambda n: f"<input value='{'a' * n}!' pattern='(a|aa)+$'>",
}

_TEXTS = (
    "plain words", "\x00\x01\x1b[31m\x7f\x9b", "\u202eabc\u2066", "\u200b\u200d\ufeff", "\ufffe\uffff", "\ud800",
    "=cmd|' /C calc'!A0", "[x](javascript:y)", "{{7*7}}", "a" * 3000, "&#x110000;&#0;", "@name http://a.example/",
)  # fmt: skip
_VALUES = (
    *_TEXTS, "", "-1", "0", "99999999999999999999", "true", "mixed", "a a a", "#", "javascript:x", "//", "http://[", "%00",
    "file:///etc/passwd", "data:,x", "../../x", "1" * 400, "-0.5e9", "\n\n",
)  # fmt: skip
_TAGS = (
    "a area article aside b base button canvas caption col details dialog dl dt fieldset form h1 h2 iframe img input label "
    "legend li link main map math meta meter nav object ol optgroup option output p picture progress q ruby script section "
    "select slot style summary svg table tbody td template textarea tfoot th thead time title tr ul video x-y"
).split()
_NAMES = (
    "id class role href src alt title style hidden lang dir tabindex type value name for list open disabled required min max "
    "step pattern placeholder autocomplete rowspan colspan headers scope usemap slot shadowrootmode popover popovertarget "
    "srcdoc rel media content http-equiv charset onclick accesskey contenteditable inert aria-hidden aria-label "
    "aria-labelledby aria-describedby aria-owns aria-controls aria-level aria-live aria-checked aria-expanded aria-selected "
    "aria-rowindex aria-colcount aria-posinset aria-setsize aria-valuenow aria-roledescription aria-activedescendant"
).split()
_WORDS = (
    "a",
    "b",
    "button",
    "heading",
    "table",
    "row",
    "listbox",
    "dialog",
    "none",
    "radio",
    "checkbox",
    "stylesheet",
    "open",
)


RUNS = (
    "a", "A", "a.", "1", "www", "-", "a ", "<a ", "<!--", "&quot;", "&#", "(", "[", "{", "a{", "/*", "\\", "a,", "é", "@",
    "a@", "#", "_", "url(", "--a", "a=", "://", "a/", "~", "*", "1e", "x1", "\n",
)  # fmt: skip
"""Texts that stand again and again without a break, as in data that was pasted by mistake."""
PLACES = (
    "<h1>{}</h1>", "<a href='{}'>x</a>", "<p id='{}' class='{}' lang='{}'>x", "<p style='{}'>x", "<p style='width:{}px'>x",
    "<button aria-label='{}' tabindex='{}'></button>", "<img alt='{}' src='{}' srcset='{}'>", "<style>{}</style>",
    "<style>{} [color:red]</style>", "<style>p[content:{};width:{}]</style>", "<style>@media (width:{}) [p[]]</style>",
    "<input pattern='{}' value='{}' min='{}' required>", "<input type=email value='{}'>", "<p role='{}' title='{}'>x",
    "<{}>x", "<meta http-equiv=refresh content='{}'>", "<td rowspan='{}' colspan='{}'>", "<ol start='{}'><li value='{}'>x",
    "<style media='{}'>p[]</style>", "<progress value='{}' max='{}'></progress>", "<area coords='{}'>",
)  # fmt: skip
"""Where they stand."""


def run_in(place: str, unit: str, length: int) -> str:
    """Return markup with a run of a text in a place; braces of the place are written as brackets."""
    run = (unit * length)[:length].replace("'", "&#39;")
    return "".join(run if piece == "{}" else piece.replace("[", "{").replace("]", "}") for piece in _split(place))


def _split(place: str) -> list[str]:
    return re.split(r"(\{\})", place)


def random_page(random: Random) -> str:
    """Return a page that mixes shapes with elements, attributes and texts at random."""
    pieces: list[str] = []
    for _ in range(random.randint(1, 40)):
        chance = random.random()
        if chance < 0.04:
            pieces.append(SHAPES[random.choice(list(SHAPES))](random.choice((1, 2, 10, 60, 300))))
        elif chance < 0.05:
            pieces.append(run_in(random.choice(PLACES), random.choice(RUNS), random.choice((300, 5_000, 20_000))))
        elif chance < 0.6:
            attributes = "".join(_attribute(random) for _ in range(random.randint(0, 4)))
            pieces.append(f"<{random.choice(_TAGS)}{attributes}{random.choice(('>', '>', '>', '/>', ' '))}")
        elif chance < 0.8:
            pieces.append(f"</{random.choice(_TAGS)}>")
        else:
            pieces.append(random.choice(_TEXTS))
    page = "".join(pieces)
    return page[: random.randint(0, len(page))] if random.random() < 0.1 else page


def _attribute(random: Random) -> str:
    value = random.choice(_VALUES if random.random() < 0.5 else _WORDS)
    begin, end = (random.choice(("", '"', "'")) for _ in range(2))
    return f" {random.choice(_NAMES)}={begin}{value}{end}"
