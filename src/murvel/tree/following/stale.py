"""Which elements may be exposed in another way after a document changed, so that their objects have to be found again.

It errs on the side of too many. What depends on what:

- an element's own role, name, states and style;
- those around it: names are gathered from content, and the role of tables and drawings rests on what is in them;
- those that refer to any of these by id, and the controls of labels;
- those below, where what was changed says what they are (a role, a table, a fieldset that is disabled).
"""

from __future__ import annotations

from collections.abc import Iterable
from itertools import islice

from murvel.dom.change import DocumentChange, with_descendants
from murvel.dom.document import Element
from murvel.dom.html.controls import is_marked_selected
from murvel.dom.html.forms import radio_group
from murvel.dom.html.inputs import control_type
from murvel.dom.html.options import each_option
from murvel.tree.roles.semantics import Semantics

_ONLY_OWN = frozenset(
    "accept alt autocomplete checked class content dir download for form href id lang list max maxlength min minlength "
    "name pattern placeholder popovertarget readonly rel required src step style tabindex target title value width "
    "height xml:lang".split()
)
"""Attributes that say nothing of the elements inside."""

_OF_DESCENDANTS = frozenset({"aria-hidden", "aria-disabled", "aria-owns"})
"""Attributes of ARIA that do."""

_DECIDE_CHILDREN = frozenset(
    "datalist details dl fieldset figure legend map object optgroup picture ruby select svg table tbody tfoot thead tr"
    .split()
)  # fmt: skip
"""Elements whose children are what they are because of each other."""

_MOVING = frozenset({"aria-owns", "usemap"})
_OF_LISTS = frozenset({"optgroup", "option", "select"})
_LABELLING = frozenset({"for", "id", "type"})
_LANGUAGE = frozenset({"lang", "xml:lang"})
_SPANS = frozenset({"colspan", "headers", "rowspan", "scope", "span"})


class Stale:
    """What has to be found again.

    Attributes:
        elements: the elements, with all that they stand in.
        removed: the elements that are gone.
        spans: elements whose place in a table may be another one although their object is the same.
        spoken: elements that state another language now, in which all that is inside is spoken.
    """

    def __init__(self) -> None:
        self.elements: set[Element] = set()
        self.removed: set[Element] = set()
        self.spans: set[Element] = set()
        self.spoken: set[Element] = set()


def find_stale(change: DocumentChange, restyled: set[Element], semantics: Semantics) -> Stale | None:
    """Return what has to be found again; None if that is everything.

    What the semantics remember of it is forgotten here, and what is hidden and labelled is settled again.

    Args:
        change: what was changed in the document.
        restyled: the elements whose style is another one now.
        semantics: those of the document.
    """
    if change.everywhere or _begins_to_move(change) or (semantics.moves_things and _may_move(change)):
        return None
    stale = Stale()
    stale.removed = {element for root in change.removed for element in with_descendants(root)}
    semantics.forget(stale.removed)
    below = _changed_below(change)
    seeds = {*change.attributes, *change.states, *change.parents, *restyled, *below, *_chosen_instead(change)}
    for element in change.states if semantics.asks_for_choices else ():
        if control_type(element) == "radio":
            seeds.update(radio_group(semantics.document, element))  # the others may miss a choice no longer
    seeds |= semantics.survey_again(_outermost([*change.attributes, *restyled, *change.added]))
    if change.parents or any(names.keys() & _LABELLING for names in change.attributes.values()):
        seeds |= semantics.relate_again()
    referring = _by_id(semantics)
    for element, names in change.attributes.items():
        if "id" in names:
            for identifier in (names["id"], element.attributes.get("id")):
                seeds.update(referring.get(identifier or "", ()))
        if names.keys() & _SPANS:
            stale.spans.add(element)
        if names.keys() & _LANGUAGE:
            stale.spoken.add(element)
    for element in (*stale.removed, *change.added_elements()):
        seeds.update(referring.get(element.attributes.get("id", ""), ()))
    _close(stale, seeds, below, referring, semantics)
    return stale


def _close(
    stale: Stale,
    seeds: Iterable[Element],
    below: Iterable[Element],
    referring: dict[str, list[Element]],
    semantics: Semantics,
) -> None:
    """Add what depends on elements that are stale, and what depends on that."""
    waiting = list(seeds)
    subtrees = list(below)
    found = stale.elements
    while waiting or subtrees:
        if subtrees:
            inside = with_descendants(subtrees.pop())
            semantics.forget_roles(inside)
            waiting += inside
        element: Element | None = waiting.pop() if waiting else None
        while element is not None and element not in found:
            found.add(element)
            semantics.forget_roles((element,))
            identifier = element.attributes.get("id")
            if identifier:
                waiting += referring.get(identifier, ())
            if element.tag == "label":
                control = semantics.labelled_control(element)
                if control is not None:
                    waiting.append(control)
            elif element.tag == "table" and semantics.lays_out_again(element):
                subtrees.append(element)
            waiting += semantics.labels(element)  # they may say what it is named
            owner = semantics.owner(element)
            if owner is not None:
                waiting.append(owner)
            element = element.parent


def _changed_below(change: DocumentChange) -> list[Element]:
    """The elements whose whole content may have changed."""
    found: dict[Element, None] = dict.fromkeys(change.added)
    for element, names in change.attributes.items():
        if any(_says_of_descendants(name) for name in names):
            found[element] = None
    for element in (*change.attributes, *change.parents):
        # Which options are chosen, and disabled, is settled among all of a list.
        if element.tag in _OF_LISTS:
            found |= dict.fromkeys(above for above in element.ancestors() if above.tag in ("select", "datalist"))
    for parent in change.parents:
        if parent.tag in ("td", "th") and parent.parent is not None:
            found[parent.parent] = None
        elif parent.tag in _DECIDE_CHILDREN:
            found[parent] = None
    return list(found)


def _chosen_instead(change: DocumentChange) -> Iterable[Element]:
    """Other options that may be chosen now, or no longer (HTML §4.10.7, selectedness setting algorithm)."""
    changed = (option for option in change.states if option.tag == "option")
    lists = {above for option in changed for above in option.ancestors() if above.tag == "select"}
    for each in lists:
        yield from (option for option in each_option(each) if is_marked_selected(option))
        yield from islice((option for option in each_option(each) if "disabled" not in option.attributes), 1)


def _says_of_descendants(name: str) -> bool:
    if name.startswith("aria-"):
        return name in _OF_DESCENDANTS
    return name not in _ONLY_OWN and not name.startswith(("data-", "on"))


def _may_move(change: DocumentChange) -> bool:
    """Whether something may now stand elsewhere in the tree than in the document, or no longer do so."""
    if change.parents:
        return True
    return any(
        names.keys() & {"aria-owns", "id", "slot", "name", "usemap", "href", "hidden", "style", "class"}
        for names in change.attributes.values()
    )


def _begins_to_move(change: DocumentChange) -> bool:
    """Whether something comes that takes things from their place: an owner, or an image map."""
    return any(names.keys() & _MOVING for names in change.attributes.values()) or any(
        element.tag == "area" or element.attributes.keys() & _MOVING for element in change.added_elements()
    )


def _by_id(semantics: Semantics) -> dict[str, list[Element]]:
    """The elements whose objects depend on others, by the ids that they name."""
    found: dict[str, list[Element]] = {}
    for element in semantics.referring():
        for attribute in ("aria-labelledby", "aria-describedby", "popovertarget", "list"):
            for token in element.attributes.get(attribute, "").split():
                found.setdefault(token, []).append(element)
        if element.tag == "use":
            reference = element.attributes.get("href") or element.attributes.get("xlink:href") or ""
            found.setdefault(reference[1:], []).append(element)
    return found


def _outermost(elements: Iterable[Element]) -> list[Element]:
    """Return elements in document order, without those that stand inside another of them."""
    found: list[Element] = []
    for element in sorted(set(elements), key=lambda each: each.order):
        if not found or not found[-1].contains(element):
            found.append(element)
    return found
