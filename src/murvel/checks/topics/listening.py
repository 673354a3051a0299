"""Listening: what takes long, or is heard again and again (WCAG 2.2 2.4.1, 2.4.6, 1.3.1)."""

from __future__ import annotations

from murvel.checks.engine.check import NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts
from murvel.patterns import pattern
from murvel.reader.moves.reach import is_in_link
from murvel.reader.moves.skip import skip_link
from murvel.reader.readout.items import Object
from murvel.reader.readout.kinds import BY_ID
from murvel.reader.speech.capitals import misread
from murvel.text import collapse
from murvel.tree.lists import items_of
from murvel.tree.roles.aria_roles import LINKS

checks = Checks(Topic.LISTENING)

_RUN = 15
_STRETCH = 180.0
_TIMES = 3
_SHORT_LISTS = 5
_SPACED = pattern(r"(?<![^\W_])(?:[^\W\d_][ \u00a0]){3,}[^\W\d_](?![^\W_])")


@checks.add(
    "links-before-main", "Many links before the content", NEEDS_EARS, "2.4.1",
    means="Listeners who read from the top, or use Tab, hear all of them before the content.",
    repair="Begin with a skip link, and keep menus short or behind a button.",
    expect="the content after a few key presses",
)  # fmt: skip
def links_before_main(page: Facts) -> Found:
    """More than fifteen links in a row before the main part, and no link past them."""
    mains = page.roles.get("main")
    first = page.readout.first_object(mains[0]) if mains else None
    if first is None or skip_link(page.tree) is not None:
        return
    run: list[Object] = []
    for each in page.readout.objects[: first.index]:
        if each.node.is_text and not each.text.strip():
            continue
        run = [*run, each] if each.node.role in LINKS or is_in_link(each.node) else []
        if len(run) == _RUN:
            yield Finding(run[0].node.element, f"{_RUN} or more in a row")
            return


@checks.add(
    "stretch-without-heading", "Long stretch without a heading", NEEDS_EARS, "2.4.10", "2.4.6",
    means="Listeners have to read for minutes with no heading to jump to.",
    repair="Divide it by headings.",
    expect="a heading every minute or two",
)  # fmt: skip
def stretch_without_heading(page: Facts) -> Found:
    """More than three minutes of listening from one heading to the next, in the voice of the session."""
    spoken = page.session.spoken
    begin, node = 0.0, None
    places = [(0.0, page.root)]
    for node in page.session.targets(BY_ID["headings"]):
        first = page.readout.first_object(node)
        if first is not None:
            places.append((spoken.start(first.item.index), node.element))
    for (begin, element), (end, _) in zip(places, [*places[1:], (spoken.total, page.root)], strict=True):
        if end - begin > _STRETCH:
            yield Finding(element, f"{(end - begin) / 60:.0f} minutes after this")


@checks.add(
    "said-again-and-again", "Same words several times in a row", NEEDS_EARS, "2.4.6", "1.1.1",
    means="Listeners think they are stuck.",
    repair="Say it once, or say each time what is different.",
    expect="each time something else",
)  # fmt: skip
def said_again_and_again(page: Facts) -> Found:
    """Three items in a row that sound the same."""
    utterances = page.session.spoken.utterances
    run = 1
    for at in range(1, len(utterances)):
        run = run + 1 if utterances[at].parts == utterances[at - 1].parts else 1
        is_code = page.readout.items[at].objects[0].node.element.tag in ("pre", "code")
        if run == _TIMES and not is_code and any(character.isalnum() for character in utterances[at].text):
            first = page.readout.items[at - _TIMES + 1].objects[0]
            yield Finding(first.node.element, heard=utterances[at].text)


@checks.add(
    "lists-of-one", "Many lists of one item", NEEDS_EARS, "1.3.1",
    means="Listeners hear “list with 1 item, 1 of 1” each time, around a single thing.",
    repair="Make one list of them, or none.",
    expect="one list with all its items, or the text alone",
)  # fmt: skip
def lists_of_one(page: Facts) -> Found:
    """Five or more lists that hold one item each, on one page."""
    short = [node for node in page.nodes(("list",)) if [each.role for each in items_of(node)] == ["listitem"]]
    if len(short) >= _SHORT_LISTS:
        yield Finding(short[0].element, f"{len(short)} of them")


@checks.add(
    "positions-chatty", "Positions say more than the content", NEEDS_EARS, "1.3.1",
    means="Listeners hear more about positions and containers than about the content.",
    repair="Remove lists and tables that serve only layout or hold single words.",
    expect="the content, with few words around it",
)  # fmt: skip
def positions_chatty(page: Facts) -> Found:
    """Lists in lists in lists with one entry on the way, which are announced one by one on entering."""
    for node in page.nodes(("list",)):
        depth, inner = 0, node
        while True:
            entries = items_of(inner)
            if [each.role for each in entries] != ["listitem"]:
                break
            nested = [each for each in entries[0].children if each.role == "list"]
            if len(nested) != 1 or len(entries[0].children) != 1:
                break
            depth, inner = depth + 1, nested[0]
        if depth and not (
            node.parent is not None and node.parent.role == "listitem" and len(node.parent.children) == 1
        ):
            yield Finding(node.element, f"{depth + 1} lists in each other around the first entry")


@checks.add(
    "capitals-misread", "Words in capitals may be misread", NEEDS_EARS, "1.3.1",
    means="A synthesiser takes a word for an abbreviation and spells it, as “U S” in “ABOUT US”.",
    repair="Write it in small letters, and let its weight or size set it apart.",
    expect="the words as words",
)  # fmt: skip
def capitals_misread(page: Facts) -> Found:
    """Texts in capitals, by their author or by text-transform, with words that are abbreviations as well."""
    for node in page.texts:
        words = misread(node.name)
        if words:
            yield Finding(node.element, ", ".join(words), heard=node.name.strip())


@checks.add(
    "letters-spaced", "Letters set apart by spaces", NEEDS_EARS, "1.3.2",
    means="A word whose letters stand apart is read letter by letter.",
    repair="Write the word as a word, and set letter-spacing in the style sheet.",
    expect="the word as a word",
)  # fmt: skip
def letters_spaced(page: Facts) -> Found:
    """At least four single letters in a row (WCAG technique C8, failure F32)."""
    for node in page.texts:
        found = _SPACED.search(node.name)
        if found is not None:
            yield Finding(node.element, f"“{collapse(found.group())}”", heard=node.name.strip())
