"""What eyes meet, measured in a browser: contrast, targets, focus indicators (WCAG 2.2 1.4.3, 1.4.11, 2.4.7, 2.5.8)."""

from __future__ import annotations

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.questions.sight import DRAWN_OVER
from murvel.css.values.colours import AA_LARGE, AA_TEXT, AAA_LARGE, AAA_TEXT, NON_TEXT, nearest, ratio, ratio_words
from murvel.dom.document import Element
from murvel.reader.following import takes_text
from murvel.stage.seen import ENLARGED, NARROW, TARGET_AA, Contrast, Indication, Pair, State, TextKind, TextSeen

checks = Checks(Topic.EYES)

_UNTOLD_AT_MOST = 20
_MOST_OPENERS = 3


def contrast_words(seen: TextSeen, contrast: Contrast) -> str:
    """Return a contrast in words: the ratio, the colours, and which colour would pass."""
    pair = contrast.least
    words = pair.words()
    if not contrast.is_even:
        words = f"{words} where it is least, {ratio_words(contrast.typical.ratio)} in the middle"
    aa, aaa = (AA_LARGE, AAA_LARGE) if seen.is_large else (AA_TEXT, AAA_TEXT)
    passing = [
        f"{found.hex} would pass {level}"
        for level, wanted in (("AA", aa), ("AAA", aaa))
        if (found := nearest(pair.colour, pair.behind, wanted)) is not None and pair.ratio < wanted
    ]
    return "; ".join([words, *passing])


def _drawn_words(pair: Pair, between: str) -> str:
    """The contrast of something drawn in words, and which colour would pass."""
    better = nearest(pair.colour, pair.behind, NON_TEXT)
    return f"{pair.words(between)}; {better.hex} would pass" if better is not None else pair.words(between)


@checks.add(
    "text-contrast", "Text has too little contrast", FAILS, "1.4.3",
    means="People who see a little cannot read it.",
    repair="Take a colour that passes, for the text or for what is behind it.",
    expect="the same to the ear; to the eye, at least 4.5:1, and 3:1 for large text",
    traits=[Trait.CONTRAST],
    needs_browser=True,
)  # fmt: skip
def text_contrast(page: Facts) -> Found:
    """Text, values and placeholders against the pixels behind them; large text apart, disabled controls left out; text
    of controls under the pointer and with the focus as well. Where what is behind differs and only its worst part is
    too near, a person judges."""
    low: dict[tuple[Element, TextKind], list[tuple[TextSeen, Contrast]]] = {}
    for seen in page.seen.texts if page.seen is not None else ():
        if seen.contrast is None or seen.is_inactive or not page.is_exposed(seen.element):
            continue
        if seen.contrast.least.ratio < _wanted(seen):
            low.setdefault((seen.element, seen.kind), []).append((seen, seen.contrast))
    for (element, kind), states in low.items():
        states.sort(key=lambda each: each[0].state is not State.REST)
        (first, contrast), *others = states
        is_sure = any(one.is_even or one.typical.ratio < _wanted(seen) for seen, one in states)
        which = [str(kind)] if kind is not TextKind.TEXT else []
        which += [str(first.state)] if first.state is not State.REST else []
        words = ": ".join([*which, contrast_words(first, contrast)])
        also = [f"{seen.state} {ratio_words(one.least.ratio)}" for seen, one in others]
        yield Finding(element, "; ".join([words, *also]), FAILS if is_sure else NEEDS_EARS)


def _wanted(seen: TextSeen) -> float:
    return AA_LARGE if seen.is_large else AA_TEXT


@checks.add(
    "text-contrast-untold", "Contrast of text cannot be told", NEEDS_EARS, "1.4.3",
    means="Nothing was measured: what the text stands on, or its colour, is not one that pixels tell.",
    repair="Look at it, and measure by hand where it is hardest to read: murvel contrast TEXT GROUND.",
    expect="the same to the ear; to the eye, at least 4.5:1, and 3:1 for large text",
    traits=[Trait.CONTRAST],
    needs_browser=True,
)  # fmt: skip
def text_contrast_untold(page: Facts) -> Found:
    """Text with a shadow, cut out of a picture, over something that moves; what is not in sight is left out."""
    untold = [
        seen
        for seen in (page.seen.texts if page.seen is not None else ())
        if seen.contrast is None and seen.is_hindered and not seen.is_inactive and page.is_exposed(seen.element)
    ]
    yield from (Finding(seen.element, seen.reason) for seen in untold[:_UNTOLD_AT_MOST])


@checks.add(
    "link-by-colour", "Link in text is told by its colour only", FAILS, "1.4.1",
    means="People who do not see colours well take it for text.",
    repair="Underline links in text, or set them apart by more than their colour.",
    expect="the same to the ear; to the eye, an underline or another mark",
    traits=[Trait.CONTRAST],
    needs_browser=True,
)  # fmt: skip
def link_by_colour(page: Facts) -> Found:
    """Links in sentences without underline, border, weight, ground or picture; where their colour has 3:1 with the text
    around (technique G183), a person sees whether pointer and focus mark them."""
    if page.seen is None:
        return
    resting = (each for each in page.seen.texts if each.state is State.REST)
    colours = {each.element: each.contrast.typical.colour for each in resting if each.contrast is not None}
    for link, around in page.seen.plain_links:
        if link in colours and around in colours and page.is_exposed(link):
            found = ratio(colours[link], colours[around])
            words = f"{ratio_words(found)} with the text around, {colours[link].hex} and {colours[around].hex}"
            yield Finding(link, words, FAILS if found < NON_TEXT else NEEDS_EARS)


@checks.add(
    "page-too-wide", "Page scrolls sideways in a narrow window", NEEDS_EARS, "1.4.10",
    means="People who enlarge the page have to scroll to and fro for each line.",
    repair="Let it wrap, or scroll only what needs two directions: a table, a map, a drawing.",
    expect="the same to the ear; to the eye, one column",
    needs_browser=True,
)  # fmt: skip
def page_too_wide(page: Facts) -> Found:
    """In windows of 320 CSS pixels and less, as at 400 %: what reaches beyond by itself. Tables, drawings and frames
    may have to."""
    if page.seen is None or page.seen.width > NARROW:
        return
    for element, beyond in page.seen.wide:
        yield Finding(element, f"{beyond:g} pixels beyond a window of {page.seen.width:g}")


@checks.add(
    "text-cut-off", "Text is cut off when it is enlarged", NEEDS_EARS, "1.4.4", "1.4.10",
    means="People who enlarge the page do not see the rest of it.",
    repair="Let the text wrap, and the box grow with it: no fixed height, no overflow: hidden.",
    expect="the same to the ear; to the eye, all of the text",
    needs_browser=True,
)  # fmt: skip
def text_cut_off(page: Facts) -> Found:
    """In windows of 640 CSS pixels and less, as at 200 %: text that reaches out of a box that hides what does. Text
    that is all out of sight is meant for the ear and left out."""
    if page.seen is None or page.seen.width > ENLARGED:
        return
    for element, part in page.seen.cut:
        if page.is_exposed(element):
            yield Finding(element, f"{part} in a window of {page.seen.width:g} pixels")


@checks.add(
    "narrow-lacks", "Content is missing in a narrow window", NEEDS_EARS, "1.4.10",
    means="People who enlarge the page, and those on a small screen, do not get what others get.",
    repair="Keep it in the narrow layout, or behind a control that is found there and says what it opens.",
    expect="all that is heard in a wide window, perhaps behind a control",
    needs_browser=True,
)  # fmt: skip
def narrow_lacks(page: Facts) -> Found:
    """In windows of 640 CSS pixels and less: texts, controls and pictures that are heard at 1280 pixels and not here,
    wherever they stand. What may open them is named."""
    for each in page.seen.missing if page.seen is not None else ():
        closed = " or ".join(each.openers[:_MOST_OPENERS])
        yield Finding(each.element, f"{each.words}{f'; perhaps behind {closed}' if closed else ''}")


@checks.add(
    "edge-contrast", "Edge of a field is hardly seen", NEEDS_EARS, "1.4.11",
    means="People who see a little do not find the field, or how large it is.",
    repair="Give the field a border, or a ground, of at least 3:1 with what is around it.",
    expect="the same to the ear; to the eye, an edge of at least 3:1",
    traits=[Trait.CONTRAST],
    needs_browser=True,
)  # fmt: skip
def edge_contrast(page: Facts) -> Found:
    """Fields that are typed into, choices, and boxes to tick that the page draws itself: border against what is outside
    and inside, ground against outside."""
    for seen in page.seen.edges if page.seen is not None else ():
        if seen.contrast is not None and not seen.is_inactive and seen.contrast.ratio < NON_TEXT:
            yield Finding(seen.element, _drawn_words(seen.contrast, "beside"))


@checks.add(
    "icon-contrast", "Icon is hardly seen", FAILS, "1.4.11",
    means="People who see a little do not see what the control is for, or whether it is set.",
    repair="Draw it in a colour of at least 3:1 with its ground.",
    expect="the same to the ear; to the eye, an icon of at least 3:1",
    traits=[Trait.CONTRAST],
    needs_browser=True,
)  # fmt: skip
def icon_contrast(page: Facts) -> Found:
    """Drawings in controls that show no text, and marks of boxes that are ticked: their strongest tenth against the
    colour around them. A ground of several colours is for a person to judge."""
    for seen in page.seen.icons if page.seen is not None else ():
        if seen.contrast is not None and not seen.is_inactive and seen.contrast.ratio < NON_TEXT:
            yield Finding(seen.element, _drawn_words(seen.contrast, "on"))


@checks.add(
    "colours-meet", "Areas of a drawing are told apart by colour only", NEEDS_EARS, "1.4.11", "1.4.1",
    means="People who do not see colours well see one area instead of two.",
    repair="Draw a line of 3:1 between them, or take colours that have 3:1 with each other; write names beside them.",
    expect="the same to the ear; to the eye, a line between the areas",
    traits=[Trait.CONTRAST],
    needs_browser=True,
)  # fmt: skip
def colours_meet(page: Facts) -> Found:
    """Drawings (SVG, canvas) of 80 pixels and more: areas that meet with less than 3:1 and with no line between."""
    for seen in page.seen.charts if page.seen is not None else ():
        if seen.pairs:
            yield Finding(seen.element, "; ".join(pair.words("beside") for pair in seen.pairs))


@checks.add(
    "lost-in-forced-colours", "Forced colours take it away", NEEDS_EARS, "2.4.7", "1.4.11", "1.4.1",
    means="People who set their own colours do not see it.",
    repair="Draw it with a border, an outline or an SVG in currentColor, not with a ground or a shadow alone.",
    expect="the same to the ear; to the eye, the same in forced colours",
    traits=[Trait.INDICATOR],
    needs_browser=True,
)  # fmt: skip
def lost_in_forced_colours(page: Facts) -> Found:
    """With `forced-colors: active`: focus indicators, edges of fields and icons that were clear before and are not seen
    then, and states that show in no style that is left."""
    for element, lost in page.seen.lost if page.seen is not None else ():
        yield Finding(element, f"{lost} is not seen")


@checks.add(
    "target-small", "Target is small, and another is near", FAILS, "2.5.8",
    means="People who cannot point exactly press the one beside it.",
    repair="Make it at least 24 by 24 CSS pixels, or leave more room around it.",
    expect="the same to the ear; to the pointer, 24 by 24 pixels or room around it",
    traits=[Trait.TARGET],
    needs_browser=True,
)  # fmt: skip
def target_small(page: Facts) -> Found:
    """Under 24 pixels, and a circle of 24 pixels around its middle meets another target or the circle of a small one;
    not in sentences, nor where the browser decides the size, nor where a larger link leads to the same place. A label
    counts, and so do parts that stand out."""
    targets = page.seen.targets if page.seen is not None else ()
    led_to = {_leads_to(page, each.element) for each in targets if each.is_at_least(TARGET_AA)} - {None}
    for seen in targets:
        if not seen.is_at_least(TARGET_AA) and seen.near is not None and not seen.is_excepted:
            if page.is_exposed(seen.element) and _leads_to(page, seen.element) not in led_to:
                size = f"{seen.width:g} by {seen.height:g} pixels"
                yield Finding(seen.element, f"{size}, too near to {page.tree.place_words(seen.near)}")


def _leads_to(page: Facts, element: Element) -> str | None:
    """Where a link leads, None for what is no link."""
    href = element.attributes.get("href") if element.tag in ("a", "area") else None
    return page.document.resolve(href) if href else None


@checks.add(
    "focus-not-shown", "Nothing shows that it has the focus", FAILS, "2.4.7",
    means="People who see the page and use the keyboard do not know where they are.",
    repair="Leave the browser's outline, or draw one for :focus-visible.",
    expect="the same to the ear; to the eye, an outline or another ground at the stop",
    traits=[Trait.INDICATOR],
    needs_browser=True,
)  # fmt: skip
def focus_not_shown(page: Facts) -> Found:
    """No pixel changes at the stop or around it with the styles of focus; in a field that is typed into, the caret may
    be enough, and a script may draw something. A stop that is out of sight has a check of its own (`stop-not-seen`)."""
    for seen in page.seen.indicators if page.seen is not None else ():
        is_told = seen.element.tag not in DRAWN_OVER and page.sight.unseen(seen.element)
        if seen.indication is Indication.NONE and not is_told:
            node = page.node(seen.element)
            has_caret = node is not None and takes_text(node)
            yield Finding(seen.element, "but for the caret" if has_caret else "", NEEDS_EARS if has_caret else None)


@checks.add(
    "focus-faint", "Focus is hardly seen", NEEDS_EARS, "2.4.7", "1.4.11",
    means="People who see a little lose the place of the focus.",
    repair="Draw an outline of 2 pixels whose colour has 3:1 with what is behind it.",
    expect="the same to the ear; to the eye, an indicator of at least 3:1",
    traits=[Trait.INDICATOR],
    needs_browser=True,
)  # fmt: skip
def focus_faint(page: Facts) -> Found:
    """What changes with the focus is small, or has less than 3:1 with what was there before."""
    for seen in page.seen.indicators if page.seen is not None else ():
        if seen.indication is Indication.FAINT:
            pair = seen.pair
            colours = f", mostly {pair.colour.hex} for {pair.behind.hex}" if pair is not None else ""
            yield Finding(seen.element, f"{seen.strong:.0f} of {seen.area:.0f} square pixels have 3:1{colours}")
