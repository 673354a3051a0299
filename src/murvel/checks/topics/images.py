"""Images and drawings: what is heard in their place (HTML §4.8.4.4; WCAG 2.2 1.1.1)."""

from __future__ import annotations

import re

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts, unnamed
from murvel.checks.tables.vocabulary import (
    DECORATION_WORDS,
    DECORATIVE,
    FILE_NAME,
    ICON_WORDS,
    IMAGE_WORDS,
    NO_ALTERNATIVE,
    plain,
)
from murvel.dom.document import Element, Namespace
from murvel.dom.html.inputs import control_type
from murvel.patterns import pattern
from murvel.text import collapse
from murvel.tree.roles.aria_roles import BUTTONS, LINKS
from murvel.tree.roles.semantics import Hiding

checks = Checks(Topic.IMAGES)

_CLOSE = 20
"""In an element with at most this many things, each is close to all others."""

_CHART_WORDS = pattern(r"(?:^|[^a-z])(?:bar|line|pie)?(?:chart|graph|diagram|histogram)s?(?:$|[^a-z])")


def _alternative(element: Element) -> str:
    return collapse(element.attributes.get("alt", ""))


@checks.add(
    "image-unnamed", "Image without a text alternative", FAILS, "1.1.1",
    means="Listeners hear that there is an image, but not what it shows. Some voices spell out its file name.",
    repair="Describe the image in alt, or use alt=\"\" if it is decorative.",
    expect="what the image tells, then “image”; or nothing",
)  # fmt: skip
def image_unnamed(page: Facts) -> Found:
    """Images without a name that are not taken out of the tree."""
    for node in unnamed(page.nodes(("img",))):
        if node.element.namespace is Namespace.HTML and node.element.tag != "area":
            yield Finding(node.element)
    for element in page.elements("input"):
        if control_type(element) == "image" and not page.semantics.named_by_author(element):
            if not _alternative(element):
                yield Finding(element, "a button")


@checks.add(
    "image-says-file", "Image named by its file", FAILS, "1.1.1",
    means="Listeners hear a file name instead of what the image shows.",
    repair="Describe the image in alt.",
    expect="what the image tells, then “image”",
)  # fmt: skip
def image_says_file(page: Facts) -> Found:
    """An alternative that is the name of a file."""
    return (Finding(each, _alternative(each)) for each in page.elements("img") if FILE_NAME.match(_alternative(each)))


@checks.add(
    "image-says-image", "Text alternative says “image”", NEEDS_EARS, "1.1.1",
    means="Listeners hear “image” twice, or instead of what it shows.",
    repair="Begin the alternative with what the image shows.",
    expect="what the image shows, then “image”",
)  # fmt: skip
def image_says_image(page: Facts) -> Found:
    """ "Image of", "photo of"; that a picture is a photograph or a painting may matter, so a person judges.

    A name of such a word alone does not say what the image shows.
    """
    for node in page.nodes(("img",)):
        name = node.name.strip()
        if NO_ALTERNATIVE.match(name):
            yield Finding(node.element, f"“{name}” and nothing else", FAILS)
        elif IMAGE_WORDS.match(name) or ICON_WORDS.search(name):
            yield Finding(node.element, f"“{name[:60]}”")


@checks.add(
    "image-repeats-text", "Text alternative repeats adjacent text", NEEDS_EARS, "1.1.1",
    means="Listeners hear the same words twice.",
    repair="Use alt=\"\"; the adjacent text is enough.",
    expect="the text once",
)  # fmt: skip
def image_repeats_text(page: Facts) -> Found:
    """The text in the same link, button, figure or cell, or directly beside it."""
    for element in page.elements("img"):
        said = plain(_alternative(element))
        if len(said) < 3:
            continue
        around = element.parent
        while around is not None and around.tag in ("picture", "span", "div") and len(around.children) == 1:
            around = around.parent
        if around is None or around.tag in ("body", "main", "section", "article"):
            continue
        if said in (plain(text) for text in _texts_beside(page, element, around)):
            yield Finding(element, f"“{_alternative(element)}”")


def _texts_beside(page: Facts, element: Element, around: Element) -> list[str]:
    if len(around.children) > _CLOSE:
        return list(page.beside(element))
    texts = [collapse(child.text()) for child in around.elements() if not child.contains(element)]
    holder = next((child for child in around.elements() if child.contains(element)), element)
    return [*texts, *page.beside(holder)]


@checks.add(
    "image-decoration-heard", "Decorative image is announced", NEEDS_EARS, "1.1.1",
    means="Listeners hear an announcement that tells them nothing.",
    repair="Use alt=\"\", or move the image into the style sheet.",
    expect="nothing",
)  # fmt: skip
def image_decoration_heard(page: Facts) -> Found:
    """Alternatives that say so themselves, and images of a pixel or two."""
    for node in page.nodes(("img",)):
        attributes = node.element.attributes
        is_tiny = all(attributes.get(name, "").removesuffix("px") in ("1", "2", "3") for name in ("width", "height"))
        name = node.name.strip()
        if name and (plain(name) in DECORATION_WORDS or DECORATIVE.match(name) or is_tiny):
            yield Finding(node.element, f"“{name}”")


@checks.add(
    "image-meaning-hidden", "Meaningful image is silent", NEEDS_EARS, "1.1.1",
    means="Listeners do not hear what the image shows.",
    repair="Describe the image in alt.",
    expect="what the image tells, then “image”",
)  # fmt: skip
def image_meaning_hidden(page: Facts) -> Found:
    """An empty alternative in a figure of its own, and an alternative that aria-hidden silences."""
    for element in page.tags.get("img", ()):
        hidden = page.semantics.hidden(element)
        if hidden is not None:
            if hidden.by is element and hidden.why is Hiding.ARIA_HIDDEN and _alternative(element):
                yield Finding(element, _alternative(element), heard="")
        elif element.attributes.get("alt") == "" and page.node(element) is None:
            figure = next((above for above in element.ancestors() if above.tag == "figure"), None)
            if figure is not None and sum(each.tag in ("img", "table", "pre") for each in _elements(figure)) == 1:
                yield Finding(element, "the only content of a figure", heard="")


def _elements(around: Element) -> list[Element]:
    return [node for node in around.descendants() if isinstance(node, Element)]


@checks.add(
    "drawing-unnamed", "Drawing without a name", FAILS, "1.1.1",
    means="Listeners hear that there is an image, but not what it shows.",
    repair="Give the svg a title element, or aria-hidden=\"true\" if it is decorative.",
    expect="what the drawing tells, then “image”; or nothing",
)  # fmt: skip
def drawing_unnamed(page: Facts) -> Found:
    """SVG with role img and no name fails; without the role, a person has to judge what browsers make of it."""
    for element in page.elements("svg svg"):
        node = page.node(element)
        outer = next((page.node(above) for above in element.ancestors() if page.node(above) is not None), None)
        if any(above.tag == "svg" for above in element.ancestors()) or (node is not None and node.name.strip()):
            continue
        if node is not None and node.role in ("img", "graphics-symbol") and "role" in element.attributes:
            yield Finding(element)
        elif outer is not None and not outer.name.strip() and not _is_told(element) and not _is_icon(element):
            if outer.role in BUTTONS | LINKS:
                continue  # that it has no name is reported
            yield Finding(element, "no role, no name", NEEDS_EARS, heard="")


def _is_icon(element: Element) -> bool:
    """Whether a drawing is as small as a letter: it stands for something that is said beside it."""
    attributes = element.attributes
    sizes = (attributes.get("viewbox") or attributes.get("viewBox") or "").split()[2:] or [attributes.get("width", "")]
    small = all(
        re.fullmatch(r"\d{1,2}(?:\.\d+)?(?:px)?", size) and float(size.removesuffix("px")) <= 32 for size in sizes
    )
    return small or "icon" in attributes.get("class", "").lower()


def _is_told(element: Element) -> bool:
    """Whether a drawing has text in it, or something beside it tells that it is a part of it."""
    if any(each.tag in ("text", "title", "desc") for each in _elements(element)):
        return True
    parent = element.parent
    return parent is not None and bool(collapse(parent.text()))


@checks.add(
    "map-area-unnamed", "Image map area without a name", FAILS, "1.1.1", "2.4.4",
    means="Listeners do not hear where the area leads.",
    repair="Say in the area's alt where it leads.",
    expect="where it leads, then “link”",
)  # fmt: skip
def map_area_unnamed(page: Facts) -> Found:
    """HTML §4.8.13: an area with href must have an alternative."""
    for element in page.elements("area"):
        if "href" in element.attributes and not page.semantics.named_by_author(element):
            if not _alternative(element):
                yield Finding(element, element.attributes["href"][:60])


@checks.add(
    "chart-untold", "Chart without text", NEEDS_EARS, "1.1.1", "1.3.1",
    means="Listeners hear at most that there is a chart, but none of its data.",
    repair="Name the chart, sum it up in a sentence, and give its data as a table.",
    expect="what the chart shows, then its figures",
)  # fmt: skip
def chart_untold(page: Facts) -> Found:
    """canvas without content or name fails; where a chart has a name only, a person judges."""
    for element in page.elements("canvas"):
        if not page.semantics.named_by_author(element) and not collapse(element.text()):
            yield Finding(element, "canvas without a name or content", FAILS)
        elif not _has_figures(page, element):
            yield Finding(element, "no table and no description")
    for element in (*page.elements("svg svg"), *page.elements("img")):
        words = " ".join(element.attributes.get(name, "") for name in ("class", "id", "src", "alt")).lower()
        node = page.node(element)
        if node is None or not _CHART_WORDS.search(words):
            continue
        if not _has_figures(page, element):
            yield Finding(element, "no table and no description")


def _has_figures(page: Facts, element: Element) -> bool:
    """Whether a chart is described, or a table stands in the same figure or next to it."""
    node = page.node(element)
    if node is not None and (node.description or "aria-details" in element.attributes):
        return True
    around = next((above for above in element.ancestors() if above.tag in ("figure", "section", "main")), element)
    inside = _elements(around)
    return any(each.tag == "table" for each in inside) or (
        around.tag == "figure" and any(len(collapse(each.text())) > 80 for each in inside if each.tag == "figcaption")
    )


@checks.add(
    "style-adds-text", "Text added by a style sheet", NEEDS_EARS, "1.1.1", "1.3.1",
    means="Browsers differ in whether they read it as text. Translation programs do not reach it.",
    repair="Put meaningful words into the page; give symbols an empty alternative: content: \"★\" / \"\".",
    expect="the words that matter, once",
)  # fmt: skip
def style_adds_text(page: Facts) -> Found:
    """Words in ::before and ::after (CSS Content 3 §2); one lead for each of them."""
    known: set[str] = set()
    for tag, elements in page.tags.items():
        for element in elements if not tag.startswith("svg ") and tag not in ("q",) else ():
            style = page.styles.of(element)
            for box in (style.before, style.after):
                words = box.text.strip() if box is not None else ""
                if words and words not in known and page.is_exposed(element):
                    if sum(character.isalpha() for character in words) > 1 and not words.startswith("http"):
                        known.add(words)
                        yield Finding(element, f"“{words[:60]}”")
