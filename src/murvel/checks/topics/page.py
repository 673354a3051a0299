"""The page as a whole: title, language, zoom, refresh (WCAG 2.2 2.4.2, 3.1.1, 3.1.2, 1.4.4, 2.2.1)."""

from __future__ import annotations

import re

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.tables.languages import is_tag, other_language
from murvel.checks.tables.vocabulary import ADDRESS, FILE_NAME, VAGUE_TITLES, plain
from murvel.dom.document import Element, Text
from murvel.patterns import pattern
from murvel.text import collapse
from murvel.tree.node import Node

checks = Checks(Topic.PAGE)

_REFRESH = pattern(r"\s*(\d+)(?:\.\d*)?\s*(?:[;,]|$)\s*(?:url\s*=)?", re.IGNORECASE)
_TWENTY_HOURS = 72_000
_ENOUGH = 40
_CODE = frozenset({"pre", "code", "kbd", "samp", "var"})


@checks.add(
    "title-missing", "Page without a title", FAILS, "2.4.2",
    means="On arrival, and in a list of windows, listeners hear the address instead of a title.",
    repair="Add a title element that says what the page is about.",
    expect="the title first",
)  # fmt: skip
def title_missing(page: Facts) -> Found:
    """HTML §4.2.2."""
    if not page.document.title:
        yield Finding(page.root)


@checks.add(
    "title-vague", "Title does not tell this page from others", NEEDS_EARS, "2.4.2",
    means="On arrival, listeners do not hear which page this is.",
    repair="Put the page's own subject first, then the name of the site.",
    expect="what is on this page, then whose it is",
)  # fmt: skip
def title_vague(page: Facts) -> Found:
    """Single general words, file names, addresses."""
    title = page.document.title
    if title and (plain(title) in VAGUE_TITLES or FILE_NAME.match(title) or ADDRESS.match(title)):
        yield Finding(page.root, f"“{title}”")


@checks.add(
    "language-missing", "Page language missing", FAILS, "3.1.1",
    means="Voices read it in the listener's own language, whatever language the page is in.",
    repair="Add lang to the html element.",
    expect="the same words, in the sounds of their language",
    traits=[Trait.LANGUAGE],
)  # fmt: skip
def language_missing(page: Facts) -> Found:
    """HTML §3.2.6.2; an empty attribute says that the language is unknown."""
    if page.is_source and not page.document.language:
        yield Finding(page.root)


@checks.add(
    "language-unknown", "Unknown language", FAILS, "3.1.1", "3.1.2",
    means="Voices read it in the listener's own language.",
    repair="Use a BCP 47 tag, such as en or de-AT.",
    expect="the same words, in the sounds of their language",
    traits=[Trait.LANGUAGE],
)  # fmt: skip
def language_unknown(page: Facts) -> Found:
    """BCP 47 §2.1: tags that are not well formed, and those whose language, script or region is not registered."""
    for element in page.having.get("lang", ()):
        value = element.attributes["lang"].strip()
        if value and not is_tag(value) and (element is page.root or page.is_exposed(element)):
            yield Finding(element, f'lang="{value[:30]}"')


@checks.add(
    "language-wrong", "Page language does not fit the text", NEEDS_EARS, "3.1.1",
    means="Voices pronounce the whole page in the wrong language.",
    repair="Set lang on the html element to the language of the text.",
    expect="the same words, in the sounds of their language",
    traits=[Trait.LANGUAGE],
)  # fmt: skip
def language_wrong(page: Facts) -> Found:
    """By the letters and the smallest words of all that is read."""
    stated = page.document.language
    if stated and (found := other_language(_all_text(page), stated)):
        yield Finding(page.root, f"it says {stated}, and reads like {found}")


def _all_text(page: Facts) -> str:
    text = ""
    for node in page.texts:
        text += f" {node.name}"
        if len(text) > 20_000:
            break
    return text


@checks.add(
    "language-change-unmarked", "Language change not marked", NEEDS_EARS, "3.1.2",
    means="Voices pronounce it in the wrong language, and listeners do not understand it.",
    repair="Add lang to the element around it.",
    expect="the passage, in the sounds of its language",
    traits=[Trait.PASSAGE],
)  # fmt: skip
def language_change_unmarked(page: Facts) -> Found:
    """Texts of some words, where the page as a whole is in the language it says."""
    stated = page.document.language
    if not stated or other_language(_all_text(page), stated):
        return
    for node in page.texts:
        if len(node.name) >= _ENOUGH and not any(each.tag in _CODE for each in _around(node)):
            language = page.tree.language_of(node)
            found = other_language(node.name, language) if language else ""
            if found:
                yield Finding(node.element, f"it reads like {found}: “{collapse(node.name)[:60]}”")


def _around(node: Node) -> list[Element]:
    return [node.element, *node.element.ancestors()]


@checks.add(
    "order-changed-by-owns", "aria-owns changes the reading order", NEEDS_EARS, "1.3.2",
    means="The reading order differs from the visible order, and browsers differ in it.",
    repair="Put the element into its place in the source.",
    expect="the same order as it is seen in",
)  # fmt: skip
def order_changed_by_owns(page: Facts) -> Found:
    """aria-owns that takes something from elsewhere, other than what a control opens."""
    for element in page.exposed_having("aria-owns"):
        node = page.node(element)
        if node is not None and node.role in ("combobox", "textbox", "searchbox"):
            continue
        targets = page.semantics.references(element, "aria-owns")
        if any(not element.contains(target) and page.is_exposed(target) for target in targets):
            yield Finding(element, f'aria-owns="{element.attributes["aria-owns"][:40]}"')


@checks.add(
    "zoom-forbidden", "Zoom is disabled", FAILS, "1.4.4",
    means="People who see a little cannot enlarge the text.",
    repair="Remove user-scalable=no and maximum-scale from the viewport.",
    expect="the same; and the page can be enlarged to twice its size",
)  # fmt: skip
def zoom_forbidden(page: Facts) -> Found:
    """meta viewport (CSS Viewport 1 §3) that holds the scale below 2."""
    for element in page.tags.get("meta", ()):
        if element.attributes.get("name", "").lower() != "viewport":
            continue
        content = element.attributes.get("content", "").lower().replace(" ", "")
        settings = dict(part.partition("=")[::2] for part in re.split("[,;]", content))
        largest = settings.get("maximum-scale", "10")
        is_small = re.fullmatch(r"\d+(?:\.\d+)?", largest) is not None and float(largest) < 2
        if settings.get("user-scalable") in ("no", "0", "false") or is_small:
            yield Finding(element, content[:80])


@checks.add(
    "page-refreshes", "Page refreshes or redirects by itself", FAILS, "2.2.1", "3.2.5",
    means="Reading is interrupted and begins again at the top, or on another page.",
    repair="Let people request it by a link or a button.",
    expect="nothing until it is asked for",
)  # fmt: skip
def page_refreshes(page: Facts) -> Found:
    """meta refresh (HTML §4.2.5.3) after some time; at once, or after more than twenty hours, is allowed."""
    for element in page.tags.get("meta", ()):
        if element.attributes.get("http-equiv", "").lower() == "refresh":
            found = _REFRESH.match(element.attributes.get("content", ""))
            if found and 0 < int(found.group(1)[:9]) < _TWENTY_HOURS:
                yield Finding(element, f"after {found.group(1)} seconds")


@checks.add(
    "bullets-by-hand", "List typed by hand", NEEDS_EARS, "1.3.1",
    means="Listeners do not hear that it is a list, how long it is, or where an entry begins.",
    repair="Use ul or ol with li.",
    expect="“list with n items”, then its entries without signs",
    traits=[Trait.LOOK_ALIKE],
)  # fmt: skip
def bullets_by_hand(page: Facts) -> Found:
    """Paragraphs or lines one after another that begin with a sign or a number; one lead for a run."""
    reported: set[Element] = set()
    for element in page.elements("p", "div"):
        if _lines_with_bullets(element) >= 2:
            yield Finding(element, "lines")
        elif element.parent is not None and element.parent not in reported and _BULLET.match(_first_words(element)):
            following = page.next_element(element)
            if following is not None and following.tag == element.tag and _BULLET.match(_first_words(following)):
                reported.add(element.parent)
                yield Finding(element, f"“{_first_words(element)[:40]}”")


_BULLET = pattern(r"(?:[-–—•·*▪▸►‣◦]|\(?\d{1,2}[.)])\s+\S")


def _first_words(element: Element) -> str:
    first = element.children[0] if element.children else None
    return first.data.lstrip() if isinstance(first, Text) else ""


def _lines_with_bullets(element: Element) -> int:
    """How many texts directly after a line break, or at the start, begin with a bullet."""
    starts = [child for at, child in enumerate(element.children) if at == 0 or _is_break(element.children[at - 1])]
    return sum(isinstance(child, Text) and _BULLET.match(child.data.lstrip()) is not None for child in starts)


def _is_break(child: Element | Text) -> bool:
    return isinstance(child, Element) and child.tag == "br"


@checks.add(
    "frame-says-nothing", "Frame is empty or cannot be read", NEEDS_EARS, "4.1.2", "2.4.1",
    means="Listeners hear a frame, or Tab stops at it, but it has no content.",
    repair="Hide frames that hold nothing for people; give the others content.",
    expect="no frame; or the frame, then what it holds",
)  # fmt: skip
def frame_says_nothing(page: Facts) -> Found:
    """Frames of a pixel, or whose document was read and is empty."""
    for node in page.nodes(("iframe",)):
        attributes = node.element.attributes
        sizes = [attributes.get(name, "").strip().removesuffix("px") for name in ("width", "height")]
        if all(size in ("0", "1") for size in sizes):
            yield Finding(node.element, "of a pixel or none")
        elif any(True for _ in node.element.elements()) and not _says_anything(page, node):
            yield Finding(node.element, "its page is empty")


def _says_anything(page: Facts, node: Node) -> bool:
    first = page.readout.first_object(node)
    return first is not None and first.node is not node
