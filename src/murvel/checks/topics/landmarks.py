"""Landmarks: the page's large parts, as they are jumped to (WAI-ARIA 1.2 §5.3.4; WCAG 2.2 1.3.1, 2.4.1)."""

from __future__ import annotations

from collections import defaultdict

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts
from murvel.checks.tables.vocabulary import plain
from murvel.reader.speech.wording.words import ENGLISH
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import DIALOGS, LINKS

checks = Checks(Topic.LANDMARKS)

_MUCH = 25
"""Items of a page from which on landmarks are missed."""

_TOO_MANY = 15


@checks.add(
    "main-missing", "No main landmark", NEEDS_EARS, "1.3.1", "2.4.1",
    means="Listeners cannot jump to the content.",
    repair="Put the content into a main element.",
    expect="“main”, where the content begins",
)  # fmt: skip
def main_missing(page: Facts) -> Found:
    """Where there is enough on the page that one would jump."""
    if not page.roles.get("main") and len(page.readout.items) >= _MUCH:
        yield Finding(page.root)


@checks.add(
    "main-several", "Several main landmarks", FAILS, "1.3.1",
    means="Listeners cannot tell which of them is the content.",
    repair="Keep one visible main element.",
    expect="one “main”",
)  # fmt: skip
def main_several(page: Facts) -> Found:
    """HTML §4.4.14: not more than one that is not hidden."""
    mains = [node for node in page.roles.get("main", ()) if node.parent is not None and not _in_frame(node)]
    return (Finding(node.element, f"number {at} of {len(mains)}") for at, node in enumerate(mains, 1) if at > 1)


def _in_frame(node: Node) -> bool:
    return any(above.role == "iframe" for above in node.ancestors())


@checks.add(
    "outside-landmarks", "Content outside landmarks", NEEDS_EARS, "1.3.1",
    means="Listeners who move by landmarks do not reach it.",
    repair="Put it into the landmark it belongs to: banner, main, complementary or contentinfo.",
    expect="the landmark it is in, then its text",
    traits=[Trait.OUTSIDE_LANDMARKS],
)  # fmt: skip
def outside_landmarks(page: Facts) -> Found:
    """Where a page has a main part; one lead for a run of such content; skip links and dialogs belong outside."""
    if not page.roles.get("main"):
        return
    first_stop = page.tree.stops[0] if page.tree.stops else None
    covered = sorted((node.id, node.end) for node in page.tree.nodes if node.is_landmark or node.role in _APART)
    at = end = 0
    is_running = False
    for each in page.readout.objects:
        node = each.node
        while at < len(covered) and covered[at][0] <= node.id:
            end = max(end, covered[at][1])
            at += 1
        if node.id < end:
            is_running = False
        elif not is_running and node is not first_stop and not _skips(node) and each.text.strip() + node.name.strip():
            is_running = True
            yield Finding(node.element, node.name.strip()[:60])


_APART = DIALOGS | frozenset({"alert", "status", "log", "tooltip", "iframe", "timer", "marquee"})


def _skips(node: Node) -> bool:
    return node.role in LINKS and node.element.attributes.get("href", "").startswith("#")


@checks.add(
    "landmarks-alike", "Landmarks that sound the same", NEEDS_EARS, "1.3.1", "2.4.6",
    means="Listeners cannot tell the landmarks apart in a list.",
    repair="Name each of them by its content, with aria-labelledby or aria-label.",
    expect="“{role}”, then what it holds",
)  # fmt: skip
def landmarks_alike(page: Facts) -> Found:
    """Of one role and one name, or none."""
    alike: dict[tuple[str, str], list[Node]] = defaultdict(list)
    for node in page.landmarks:
        alike[node.role, plain(node.name)].append(node)
    for (role, name), nodes in alike.items():
        if len(nodes) > 1 and role != "main":
            for node in nodes[1:]:
                called = f"called “{node.name.strip()}”" if name else "without a name"
                yield Finding(node.element, f"{len(nodes)} of them {called}")


@checks.add(
    "landmark-says-role-twice", "Landmark name repeats the role", NEEDS_EARS, "2.4.6",
    means="Listeners hear the same word twice, as in “navigation Main navigation”.",
    repair="Remove the role's word from the name.",
    expect="“{role}”, then the name without that word",
)  # fmt: skip
def landmark_says_role_twice(page: Facts) -> Found:
    """The role's word as a word of the name."""
    for node in page.landmarks:
        role = plain(ENGLISH.roles.get(node.role, ""))
        if role and role in plain(node.name).split():
            yield Finding(node.element, f"“{node.name.strip()}”")


@checks.add(
    "landmarks-many", "Too many landmarks", NEEDS_EARS, "1.3.1",
    means="Moving by landmarks takes as long as reading the page.",
    repair="Keep landmarks for the main areas; use headings inside them.",
    expect="on arrival: a handful of landmarks",
)  # fmt: skip
def landmarks_many(page: Facts) -> Found:
    """More than 15."""
    if len(page.landmarks) > _TOO_MANY:
        yield Finding(page.root, f"{len(page.landmarks)} landmarks")
