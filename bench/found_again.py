"""Elements found again in edited pages: python bench/found_again.py EDITS PAGE... Status 1: a wrong one was certain.

Each page is edited at random, a few edits at a time, and elements of it are looked for in what came of that. Every
element carries a number that only the bench knows, so it knows which one is meant.
"""

from __future__ import annotations

import copy
import sys
from collections import Counter
from collections.abc import Callable
from random import Random
from xml.etree.ElementTree import Element as Markup

import html5lib

from murvel.dom.document import Element
from murvel.loading.fetch import fetch
from murvel.page.open_page import document_from_text
from murvel.retest.again import find_again
from murvel.tree.build import build_tree
from murvel.tree.model import Tree

NUMBER = "data-bench-number"
SMALLEST = 20
A_PAGE = 10
"""Elements that are looked for in each edited page."""
WORDS = "Compost Ladder Orchard Saturday Warden Bramble Kettle Notice Spade Bucket".split()
BLOCKS = frozenset("p div li section article h2 h3 h4 tr ul ol table form nav aside figure".split())
INLINE = frozenset("a button span img input label em strong select textarea".split())


def inner(root: Markup, *, among: frozenset[str] = BLOCKS | INLINE) -> list[Markup]:
    """The elements of a page that may be looked for."""
    body = next(each for each in root.iter() if each.tag == "body")
    return [each for each in body.iter() if each.tag in among]


def parents(root: Markup) -> dict[Markup, Markup]:
    """What each element stands in."""
    return {child: parent for parent in root.iter() for child in parent}


def another(at: Markup, random: Random) -> Markup:
    """An element of the same shape, with other words."""
    new = copy.deepcopy(at)
    for each in new.iter():
        each.attrib.pop(NUMBER, None)
        each.attrib.pop("id", None)
        if each.text and each.text.strip():
            each.text = " ".join(random.sample(WORDS, 2))
    if not (new.text or "").strip():
        new.text = random.choice(WORDS)
    return new


def insert(root: Markup, random: Random) -> None:
    """A paragraph, or something of the same shape as what is there, with other words."""
    at = random.choice(inner(root))
    above = parents(root)[at]
    if random.random() < 0.5:
        new = another(at, random)
    else:
        new = Markup("p")
        new.text = " ".join(random.sample(WORDS, 4))
    above.insert(list(above).index(at), new)


def move(root: Markup, random: Random) -> None:
    """An element to another place in its parent, or to the end of another parent."""
    at, to = random.choice(inner(root)), random.choice(inner(root, among=BLOCKS))
    above = parents(root)
    if to in at.iter():
        to = above[at]
    above[at].remove(at)
    to.insert(random.randint(0, len(to)), at)


def rename(root: Markup, random: Random) -> None:
    """Another text, or another name."""
    at = random.choice([each for each in inner(root) if (each.text or "").strip()] or inner(root))
    if at.text and random.random() < 0.5:
        at.text = f"{at.text.strip()} {random.choice(WORDS)}"
    elif at.text:
        at.text = " ".join(random.sample(WORDS, 2))
    else:
        at.set("aria-label", random.choice(WORDS))


def wrap(root: Markup, random: Random) -> None:
    """A div around an element."""
    at = random.choice(inner(root))
    above = parents(root)[at]
    place = list(above).index(at)
    around = Markup("div", {"class": random.choice(WORDS).lower()})
    above.remove(at)
    around.append(at)
    above.insert(place, around)


def reorder(root: Markup, random: Random) -> None:
    """The children of an element in another order."""
    many = [each for each in inner(root, among=BLOCKS) if len(each) > 1]
    if many:
        at = random.choice(many)
        children = list(at)
        random.shuffle(children)
        at[:] = children


def restyle(root: Markup, random: Random) -> None:
    """Other classes, on many elements."""
    for each in inner(root):
        if random.random() < 0.3:
            each.set("class", " ".join(random.sample(WORDS, 2)).lower())


def change_ids(root: Markup, random: Random) -> None:
    """Other ids, on many elements."""
    for each in root.iter():
        if "id" in each.attrib and random.random() < 0.5:
            each.set("id", f"{random.choice(WORDS)}-{random.randint(1, 10**6)}")


def grow(root: Markup, random: Random) -> None:
    """More entries in a list or a table."""
    many = [each for each in inner(root, among=frozenset({"ul", "ol", "tbody"})) if len(each)]
    if many:
        at = random.choice(many)
        for _ in range(random.randint(1, 3)):
            at.insert(random.randint(0, len(at)), another(random.choice(list(at)), random))


EDITS: tuple[Callable[[Markup, Random], None], ...] = (
    insert, move, rename, wrap, reorder, restyle, change_ids, grow,
)  # fmt: skip


def tree_of(root: Markup, address: str) -> tuple[Tree, dict[str, Element]]:
    """The tree of a page, and its elements by the bench's numbers, which are taken off again."""
    styled = document_from_text(html5lib.serialize(root, omit_optional_tags=False), address)
    numbers = {}
    for each in (styled.document.root, *styled.document.root.descendants()):
        if isinstance(each, Element) and NUMBER in each.attributes:
            numbers[each.attributes.pop(NUMBER)] = each
    return build_tree(styled), numbers


def main(edits: int, pages: list[str]) -> int:
    """Edit, look, count."""
    random = Random(18)
    told: dict[str, Counter[str]] = {}
    wrong = 0
    for at in range(edits // A_PAGE):
        page = pages[at % len(pages)]
        edit = EDITS[at // len(pages) % len(EDITS)]
        root = html5lib.parse(fetch(page).text, namespaceHTMLElements=False)
        for number, each in enumerate(root.iter()):
            if isinstance(each.tag, str):
                each.set(NUMBER, str(number))
        old, before = tree_of(root, page)
        if len(inner(root)) < SMALLEST:
            continue
        wanted = random.sample([each.get(NUMBER, "") for each in inner(root)], A_PAGE)
        for _ in range(random.randint(1, 4)):
            edit(root, random)
        new, now = tree_of(root, page)
        there = [each for each in wanted if each in now and each in before]
        found = find_again(old, new, [before[each] for each in there])
        counts = told.setdefault(edit.__name__, Counter())
        for each in there:
            answer = found.get(before[each])
            is_right = answer is not None and answer.element is now[each]
            how = "gone" if answer is None else "certain" if answer.is_certain else "likely"
            counts[f"{'right' if is_right else 'wrong'}, {how}"] += 1
            if not is_right and answer is not None:
                what = old.document.snippet(before[each], 70)
                print(f"{edit.__name__} {page}: {how}, {answer.likeness:.2f}, {what!r}: {answer.element}")
                wrong += answer.is_certain
    total = Counter[str]()
    for name, counts in told.items():
        total += counts
        print(f"{name:<11} {dict(counts)}")
    right = sum(count for words, count in total.items() if words.startswith("right"))
    print(f"found: {100 * right / total.total():.2f} % of {total.total()}; {dict(total)}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]), sys.argv[2:]))
