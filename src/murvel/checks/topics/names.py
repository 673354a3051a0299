"""Names: what controls, frames, groups and other things are called, or are not (AccName 1.2; WCAG 2.2 4.1.2, 2.5.3)."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import NamedTuple

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Certainty, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts, unnamed
from murvel.checks.tables.vocabulary import (
    ADDRESS,
    EMPTY_NAMES,
    FILE_NAME,
    UNCLEAR_TWICE,
    WORDS_FOR_FIELDS,
    has_glyphs,
    is_symbols,
    plain,
)
from murvel.reader.speech.wording.words import role_words
from murvel.tree.fields import is_rich_text
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import BUTTONS, DIALOGS, FIELDS, LINKS, NAME_PROHIBITED

checks = Checks(Topic.NAMES)

_LONGEST = 150
"""Characters of a name that are still heard as one; about ten seconds."""

_ACTIONS = BUTTONS | {"menuitem", "menuitemcheckbox", "menuitemradio", "tab", "treeitem"}
_OPERATED = _ACTIONS | FIELDS | LINKS
_REFERENCES = ("aria-labelledby", "aria-describedby", "aria-details", "aria-errormessage", "aria-activedescendant")
_FROM_AUTHOR = (NameFrom.ARIA_LABEL, NameFrom.LABELLEDBY)


_Detail = Callable[[Facts, Node], str | None]
"""Says what in particular is wrong with a thing without a name; None if it needs none."""


def _always(page: Facts, node: Node) -> str:
    return ""


def _if_it_leads(page: Facts, node: Node) -> str | None:
    return "" if "href" in node.element.attributes or not page.is_source else None


def _if_around_fields(page: Facts, node: Node) -> str | None:
    count = len(page.within(node, page.fields))
    is_native = node.element.tag in ("fieldset", "details", "optgroup")
    return f"around {count} fields" if count > 1 and not is_native else None


class _Unnamed(NamedTuple):
    """Things that need a name: the texts of the check for those without one, their roles, and which of them count."""

    id: str
    title: str
    certainty: Certainty
    criteria: tuple[str, ...]
    roles: Iterable[str]
    looks_at: str
    means: str
    repair: str
    expect: str
    detail: _Detail = _always

    def find(self, page: Facts) -> Found:
        """Yield those without a name."""
        for node in unnamed(page.nodes(sorted(self.roles))):
            detail = self.detail(page, node)
            if detail is not None:
                yield Finding(node.element, detail)


for _each in (
    _Unnamed(
        "control-unnamed", "Control without a name", FAILS, ("4.1.2",), _ACTIONS,
        "Buttons and other things that are activated (WAI-ARIA 1.2 §5.2.8.4, names that are required).",
        means="Listeners hear that there is a control, but not what it does.",
        repair="Give it text, or an aria-label that says what it does.",
        expect="what it does, then “{role}”",
    ),
    _Unnamed(
        "link-unnamed", "Link without a name", FAILS, ("2.4.4", "4.1.2"), LINKS,
        "Links that say nothing.",
        means="Listeners do not hear where the link leads. Some voices spell out its address.",
        repair="Give the link text, or its image an alternative, that says where it leads.",
        expect="where it leads, then “link”",
        detail=_if_it_leads,
    ),
    _Unnamed(
        "frame-unnamed", "Frame without a name", FAILS, ("4.1.2", "2.4.1"), {"iframe"},
        "Frames (HTML §4.8.5).",
        means="Listeners have to enter the frame to learn what it holds.",
        repair="Give the iframe a title that says what it holds.",
        expect="what it holds, then “frame”",
    ),
    _Unnamed(
        "dialog-unnamed", "Dialog without a name", FAILS, ("4.1.2",), DIALOGS,
        "Dialogs that are open now (WAI-ARIA 1.2 §5.4, dialog).",
        means="Listeners do not hear what the dialog is about when it opens.",
        repair="Refer to the dialog's heading with aria-labelledby.",
        expect="“{role}”, then what it is about",
    ),
    _Unnamed(
        "group-unnamed", "Group of fields without a name", NEEDS_EARS, ("1.3.1",), {"group", "radiogroup", "toolbar"},
        "Groups by role; a fieldset has a check of its own.",
        means="Listeners hear that the fields belong together, but not what they are about.",
        repair="Refer to the text above the group with aria-labelledby.",
        expect="“group”, then what its fields are about",
        detail=_if_around_fields,
    ),
    _Unnamed(
        "meter-unnamed", "Meter or progress bar without a name", FAILS, ("1.1.1", "4.1.2"), {"meter", "progressbar"},
        "Ranges that are only shown.",
        means="Listeners hear a number, but not what it measures.",
        repair="Add a label element or an aria-label.",
        expect="what is measured, then “{role}” and the value",
    ),
):  # fmt: skip
    checks.add(
        _each.id, _each.title, _each.certainty, *_each.criteria,
        means=_each.means, repair=_each.repair, expect=_each.expect, looks_at=_each.looks_at,
    )(_each.find)  # fmt: skip


@checks.add(
    "name-from-tooltip", "Name comes from a tooltip only", NEEDS_EARS, "3.3.2", "4.1.2",
    means="Not every voice announces tooltips, and nobody sees them without a mouse.",
    repair="Add visible text or a label; keep the title for additional information.",
    expect="{name}, {role}",
)  # fmt: skip
def name_from_tooltip(page: Facts) -> Found:
    """Controls named by their title attribute (AccName 1.2 step 2I); frames have no other way."""
    return (
        Finding(node.element)
        for node in page.nodes(sorted(_OPERATED))
        if node.name_from is NameFrom.TITLE and node.name
    )


@checks.add(
    "editable-unnamed", "Editable region without a name", FAILS, "4.1.2", "3.3.2",
    means="Listeners hear that they can edit, and not what belongs there.",
    repair="Give it role=\"textbox\" and a name by aria-labelledby or aria-label.",
    expect="what belongs there, text box",
)  # fmt: skip
def editable_unnamed(page: Facts) -> Found:
    """Regions that can be edited without a role of a field (HTML §6.8.1); those with one are fields without a name."""
    return (Finding(node.element) for node in page.fields if is_rich_text(node) and not node.name.strip())


@checks.add(
    "name-is-file", "Name is a file name", FAILS, "1.1.1", "4.1.2",
    means="Listeners hear a file name, character by character, instead of what the element is.",
    repair="Replace the file name with what the element is or does.",
    expect="what it does, then “{role}”",
)  # fmt: skip
def name_is_file(page: Facts) -> Found:
    """Controls and links; images have a check of their own. A link may well name the file it leads to."""
    for node in page.nodes(sorted(_OPERATED)):
        if FILE_NAME.match(node.name.strip()):
            by_content = node.name_from is NameFrom.CONTENTS
            if not by_content or not any(child.role == "img" for child in node.children):
                is_told = node.role in LINKS and by_content
                yield Finding(node.element, node.name, NEEDS_EARS if is_told else None)


@checks.add(
    "name-is-address", "Name is an address", NEEDS_EARS, "4.1.2", "2.4.6",
    means="Listeners hear an address symbol by symbol and have to guess what the control does.",
    repair="Replace the address with what the control does.",
    expect="what it does, then “{role}”",
)  # fmt: skip
def name_is_address(page: Facts) -> Found:
    """Controls; links have a check of their own."""
    return (
        Finding(node.element, node.name)
        for node in page.nodes(sorted(_ACTIONS | FIELDS | {"heading"}))
        if ADDRESS.match(node.name.strip()) and node.name_from is not NameFrom.PLACEHOLDER
    )


@checks.add(
    "name-is-symbols", "Name has symbols only", NEEDS_EARS, "1.1.1", "4.1.2",
    means="Listeners hear the name of the symbol or nothing, but not what the control does.",
    repair="Name it in words, and hide the symbol with aria-hidden.",
    expect="what it does in words, then “{role}”",
)  # fmt: skip
def name_is_symbols(page: Facts) -> Found:
    """Punctuation, emoji, arrows; a glyph of an icon font has no words in any voice."""
    for node in page.nodes(sorted(_OPERATED | {"heading", "img"})):
        if is_symbols(node.name) and not _is_told_around(node):
            glyphs = has_glyphs(node.name)
            detail = "a glyph of an icon font" if glyphs else node.name.strip()
            yield Finding(node.element, detail, FAILS if glyphs else None)


def _is_told_around(node: Node) -> bool:
    """Whether an image is all that names the control around it: that is reported then."""
    outer = node.parent
    return node.role == "img" and outer is not None and outer.role in LINKS | BUTTONS


@checks.add(
    "label-not-in-name", "Visible label is not in the name", FAILS, "2.5.3",
    means="People who speak the visible words to their computer cannot activate it.",
    repair="Begin the name with the visible words, or remove the aria-label.",
    expect="the words that are seen, then “{role}”",
)  # fmt: skip
def label_not_in_name(page: Facts) -> Found:
    """WCAG 2.2 Understanding 2.5.3: compared by words, without punctuation and signs."""
    for node, seen in _named_over_text(page, _OPERATED):
        if seen and seen not in plain(node.name) and len(seen) > 1:
            yield Finding(node.element, f"seen: {page.words(node.element)}")


@checks.add(
    "aria-label-replaces-text", "aria-label replaces visible text", NEEDS_EARS, "1.3.1",
    means="Listeners hear the aria-label instead of the visible text.",
    repair="Remove the aria-label; put additional words into text that is hidden from sight.",
    expect="the text as it stands, then “{role}”",
)  # fmt: skip
def aria_label_replaces_text(page: Facts) -> Found:
    """Headings, cells and texts whose aria-label says something else than they do."""
    roles = ("heading", "cell", "columnheader", "rowheader", "listitem", "paragraph", "term")
    for node, seen in _named_over_text(page, frozenset(roles)):
        if seen and seen != plain(node.name):
            yield Finding(node.element, f"the text is: {page.words(node.element)}")


def _named_over_text(page: Facts, roles: frozenset[str]) -> Iterator[tuple[Node, str]]:
    """Yield the nodes that authors named, each with the words that stand in it."""
    for node in page.nodes(sorted(roles)):
        if node.name_from in _FROM_AUTHOR and node.role not in ("combobox", "listbox", "textbox"):
            yield node, plain(page.words(node.element))


@checks.add(
    "name-repeats-role", "Name repeats the role", NEEDS_EARS, "2.4.6",
    means="Listeners hear the same word twice: in the name and as the role.",
    repair="Remove the role's word from the name.",
    expect="the name without that word, then “{role}”",
)  # fmt: skip
def name_repeats_role(page: Facts) -> Found:
    """ "Search button, button"; landmarks and images have checks of their own."""
    for node in page.nodes(sorted(_OPERATED | {"table", "list", "heading", "dialog", "iframe"})):
        role = role_words(node).partition(" level")[0]
        from_text = node.role in LINKS and node.name_from is NameFrom.CONTENTS  # a link about links may be called so
        if role and not from_text and plain(node.name).endswith(f" {plain(role)}"):
            yield Finding(node.element, f"“{node.name.strip()}”")


@checks.add(
    "name-overlong", "Name takes long to hear", NEEDS_EARS, "2.4.6",
    means="Listeners have to hear all of the name, each time, before they hear the role.",
    repair="Name it in a few words, and move the rest into a description or into text beside it.",
    expect="a few words, then “{role}”",
)  # fmt: skip
def name_overlong(page: Facts) -> Found:
    """Names of more than 150 characters."""
    return (
        Finding(node.element, f"{len(node.name)} characters")
        for node in page.nodes(sorted(_OPERATED | {"iframe"}))
        if len(node.name) > _LONGEST
    )


@checks.add(
    "name-not-allowed", "Name on a role that must not have one", FAILS, "4.1.2",
    means="Some voices announce the name and others do not.",
    repair="Remove the aria-label, or use a role that may have a name.",
    expect="the text itself",
)  # fmt: skip
def name_not_allowed(page: Facts) -> Found:
    """WAI-ARIA 1.2 §5.2.8.6, roles which cannot be named."""
    for attribute in ("aria-label", "aria-labelledby"):
        for element in page.exposed_having(attribute):
            if not element.attributes[attribute].strip() or element.tag in ("html", "body", "label", "legend"):
                continue
            node = page.node(element)
            role = node.role if node is not None else page.semantics.role(element)
            if role in NAME_PROHIBITED and "-" not in element.tag:
                yield Finding(element, f"{attribute} on {role}")


@checks.add(
    "reference-broken", "Reference to a missing element", FAILS, "1.3.1", "4.1.2",
    means="Listeners do not hear the text that the attribute should refer to.",
    repair="Correct the id, or remove the attribute.",
    expect="what the reference should add",
)  # fmt: skip
def reference_broken(page: Facts) -> Found:
    """Ids that no element has, in references that add to what is heard."""
    for attribute in _REFERENCES:
        for element in page.exposed_having(attribute):
            ids = page.document.ids_around(element)
            missing = [token for token in element.attributes[attribute].split() if token not in ids]
            if missing:
                yield Finding(element, f"{attribute} names {', '.join(missing)}")


@checks.add(
    "reference-empty", "Reference to an element without text", FAILS, "4.1.2",
    means="Listeners do not hear the text that the attribute should refer to.",
    repair="Put text into the element that is referred to.",
    expect="what the reference should add",
)  # fmt: skip
def reference_empty(page: Facts) -> Found:
    """aria-labelledby whose targets are there and give no text (AccName 1.2 step 2B)."""
    for element in page.exposed_having("aria-labelledby"):
        targets = page.semantics.references(element, "aria-labelledby")
        node = page.node(element)
        if targets and node is not None and node.name_from is not NameFrom.LABELLEDBY:
            yield Finding(element, f'aria-labelledby="{element.attributes["aria-labelledby"]}"')


@checks.add(
    "id-twice-decides", "Duplicate id decides what is heard", FAILS, "1.3.1", "4.1.2",
    means="Browsers use the first element with the id, so listeners may hear the wrong name.",
    repair="Make each id unique.",
    expect="the name that is meant, then “{role}”",
)  # fmt: skip
def id_twice_decides(page: Facts) -> Found:
    """Ids that are referred to (DOM §4.2.6: ids are unique within a tree; the first in tree order is found)."""
    repeated = page.repeated_ids
    for attribute in (*_REFERENCES[:2], "for", "headers") if repeated else ():
        for element in page.having.get(attribute, ()):
            twice = [token for token in element.attributes[attribute].split() if token in repeated]
            if twice and page.is_exposed(element):
                yield Finding(element, f"{attribute} names {', '.join(twice)}, which stands more than once")


@checks.add(
    "name-says-little", "Name does not say what it acts on", NEEDS_EARS, "2.4.6",
    means="In a list of buttons, or by Tab, listeners do not hear what it shows, closes or opens.",
    repair="Say what it acts on: “Show opening hours” instead of “Show”.",
    expect="what it does to what, then “{role}”",
)  # fmt: skip
def name_says_little(page: Facts) -> Found:
    """Single words; those that are clear by themselves only where they stand more than once. Fields named as fields."""
    for node in page.nodes(sorted(FIELDS)):
        if plain(node.name) in WORDS_FOR_FIELDS and not node.description:
            yield Finding(node.element, f"“{node.name.strip()}”")
    nodes = list(page.nodes(sorted(BUTTONS | {"menuitem", "tab"})))
    counts: dict[str, int] = {}
    for node in nodes:
        counts[plain(node.name)] = counts.get(plain(node.name), 0) + 1
    for node in nodes:
        name = plain(node.name)
        if name not in EMPTY_NAMES or node.description or (name in UNCLEAR_TWICE and counts[name] == 1):
            continue
        if not any(above.role in DIALOGS for above in node.ancestors()):  # what is closed is heard on the way in
            yield Finding(node.element, f"“{node.name.strip()}”")
