"""Invented pages for what must always hold."""

from hypothesis import strategies as st

from murvel.tree.roles.aria_roles import ROLES
from murvel.tree.states.states import ARIA

TAGS = st.sampled_from(
    "a area article aside b button dd details div dl dt fieldset figure footer form h1 header i iframe img input label legend li main map "
    "nav ol option p section select slot span summary svg table tbody td template textarea th title tr ul x-a".split()
)
NAMES = st.sampled_from("a b c d".split())
LISTS = st.one_of(st.lists(NAMES, max_size=4).map(" ".join), st.just("a b c d none " * 400))
ATTRIBUTES = st.one_of(
    st.tuples(st.just("id"), NAMES),
    st.tuples(st.sampled_from(["aria-labelledby", "aria-describedby", "aria-owns", "for"]), LISTS),
    st.tuples(st.just("role"), st.sampled_from([*sorted(ROLES), "none button", "nonsense", "WIDGET"])),
    st.tuples(st.sampled_from(sorted(f"aria-{name}" for name in ARIA)), st.sampled_from(["true", "", "-1", "x", "mixed"])),
    st.tuples(st.sampled_from(["hidden", "open", "disabled", "aria-hidden", "inert", "href", "title", "alt"]), st.text(max_size=3)),
    st.tuples(st.just("usemap"), st.sampled_from(["#a", "#b", "#", "a"])),
    st.tuples(st.just("shadowrootmode"), st.sampled_from(["open", "closed", "x"])),
    st.tuples(st.sampled_from(["slot", "name", "headers", "scope"]), st.sampled_from(["a", "", "row", "rowgroup"])),
    st.tuples(st.just("srcdoc"), st.sampled_from(["<p id=a>x", "<iframe srcdoc='<b id=b>'>", "<x-a><template shadowrootmode=open>"])),
    st.tuples(st.just("style"), st.sampled_from(["--x:var(--y);--y:var(--x);display:var(--x,none)", "display:none", "visibility:hidden", "display:contents", "}{"])),
    st.tuples(st.sampled_from(["tabindex", "type", "value", "colspan", "size"]), st.sampled_from(["0", "-3", "radio", "x" * 30])),
)  # fmt: skip


@st.composite
def hostile_markup(draw: st.DrawFn) -> str:
    """Elements opened and closed at will, with odd attributes, repeated ids and references in circles."""
    pieces = []
    for _ in range(draw(st.integers(0, 25))):
        tag = draw(TAGS)
        if draw(st.booleans()):
            attributes = draw(st.lists(ATTRIBUTES, max_size=3))
            written = "".join(' {}="{}"'.format(name, value.replace('"', "'")) for name, value in attributes)
            pieces.append(f"<{tag}{written}>")
        else:
            pieces.append(draw(st.sampled_from([f"</{tag}>", "text ", " ", "\n"])))
    return "".join(pieces)


_SOUP = st.sampled_from(
    [
        "<p>", "<b>", "</b>", "<i class=a>", "</i>", "<div id='x'>", "</div>", "<table>", "<tr>", "<td>", "</table>",
        "<select>", "<option>", "</select>", "<script>", "</script>", "<style>", "</style>", "<textarea>",
        "</textarea>",
        "<title>", "</title>", "<svg>", "<path/>", "</svg>", "<![CDATA[", "]]>", "<!--", "-->", "--!>", "<!-->", "<!x>",
        "<?y>", "</ >", "<a href=x<b>", '<a title="', '"', "'", "=", "<", ">", "/", "text", " ", "\n", "&amp;", "\x00",
        "<body a=1>", "<html b=2>", "<head>", "<template>", "</template>", "<plaintext>", "<br/>", "<img src=a/b>",
        "<frameset>", "<p =a>", "<p a = 'b' c>", "<noscript>", "</noscript>", "<form>", "</form>", "<math>", "<mi>",
    ]
)  # fmt: skip


def tag_soup() -> st.SearchStrategy[str]:
    """Pieces of markup in any order, most of it broken."""
    return st.lists(_SOUP, max_size=25).map("".join)


_SHEET = st.sampled_from(
    [
        "a", ".b", "#c", ":hover", "::before", ">", ",", " ", "\n", "{", "}", "{", "}", ":", ";", "display", "none",
        "display:none", "content:'x'", "content:'\\201c'", "--d:1px", "display:var(--d)", "color:red", "all:unset", "!important",
        "@media screen", "@media print", "@supports (display:grid)", "@layer x", "@layer y;", "@import 'z.css';",
        "@font-face", "@container (width > 1px)", "@property --d", "@\\6dedia screen", "@scope (.b)",
        "/* don't */", "/*", "*/", "'", '"', "\\", "\\'", "(", ")", "[", "]", "[x='}']", "url(", "url(it's;{)", "URL( 'q' )", "u\\72l(", "\\41 ", "\\a",
        "d\\69splay", "&", "& .e", "<!--", "-->", "\r\n", "\f", "é", "visibility:hidden",
    ]
)  # fmt: skip


def sheet_soup() -> st.SearchStrategy[str]:
    """Pieces of style sheets in any order, most of it broken."""
    return st.lists(_SHEET, max_size=40).map("".join)
