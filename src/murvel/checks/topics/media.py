"""Media: audio and video, what stands in for them, and how they are operated (HTML §4.8; WCAG 2.2 1.2, 1.4.2)."""

from __future__ import annotations

import re
from collections.abc import Iterator

from murvel.checks.engine.check import NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts
from murvel.dom.document import Element
from murvel.patterns import pattern
from murvel.tree.roles.aria_roles import BUTTONS

checks = Checks(Topic.MEDIA)

_TRANSCRIPT = pattern(
    r"transcript|text version|in words|abschrift|textfassung|transkript|transcription|transcripción|trascrizione|"
    r"transcrição|uitgeschreven|文字起こし|書き起こし",
    re.IGNORECASE,
)
_CAPTIONS = frozenset({"captions", "subtitles"})
_NEAR = 3
"""How many elements around a medium may hold what belongs to it."""


def _media(page: Facts, *tags: str) -> Iterator[Element]:
    """Audio and video that is there for everybody; a silent film that only decorates is left out."""
    for element in page.elements(*tags):
        if not _is_decoration(element):
            yield element


def _is_decoration(element: Element) -> bool:
    attributes = element.attributes
    return (
        element.tag == "video" and {"autoplay", "muted", "loop"} <= attributes.keys() and "controls" not in attributes
    )


def _around(element: Element) -> Element:
    around = element
    for _ in range(_NEAR):
        if around.parent is None or around.parent.tag in ("body", "main"):
            break
        around = around.parent
    return around


def _tracks(element: Element) -> set[str]:
    """The kinds of the tracks of a medium; subtitles where none is stated (HTML §4.8.11.1)."""
    return {each.attributes.get("kind", "subtitles").lower() for each in element.elements() if each.tag == "track"}


def _can_be_operated(page: Facts, element: Element) -> bool:
    """Whether a medium has controls of its own, or a button near it."""
    around = page.node_around(_around(element))
    return "controls" in element.attributes or any(
        node.role in BUTTONS for node in page.tree.nodes[around.id : around.end]
    )


@checks.add(
    "captions-missing", "Video without captions", NEEDS_EARS, "1.2.2",
    means="People who do not hear the sound miss what is said.",
    repair="Add a track of kind captions, or make sure that the captions are part of the picture.",
    expect="captions that can be switched on",
)  # fmt: skip
def captions_missing(page: Facts) -> Found:
    """No track of captions or subtitles (HTML §4.8.11.1, track kind); its sound may say nothing, or the picture all."""
    for element in _media(page, "video"):
        if not _tracks(element) & _CAPTIONS and "muted" not in element.attributes:
            yield Finding(element)


@checks.add(
    "transcript-missing", "Recording without a transcript", NEEDS_EARS, "1.2.1", "1.2.3",
    means="People who cannot listen to it, or see it, have nothing to read instead.",
    repair="Put a transcript beside it, or a link to one.",
    expect="a transcript, or a link to it, near the recording",
)  # fmt: skip
def transcript_missing(page: Facts) -> Found:
    """No word of a transcript, and no description of the picture, near audio or video."""
    for element in _media(page, "audio", "video"):
        if "descriptions" not in _tracks(element) and not _TRANSCRIPT.search(_around(element).text()):
            yield Finding(element, element.tag)


@checks.add(
    "media-without-controls", "Recording without controls", NEEDS_EARS, "2.1.1", "1.4.2",
    means="Nothing on the page stops it or starts it, unless a script adds that.",
    repair="Give it the controls attribute, or buttons of your own.",
    expect="a button to play and to pause it",
)  # fmt: skip
def media_without_controls(page: Facts) -> Found:
    """Neither the attribute nor a button near it."""
    for element in _media(page, "audio", "video"):
        if not _can_be_operated(page, element):
            yield Finding(element, element.tag)


@checks.add(
    "media-starts-alone", "Sound starts by itself", NEEDS_EARS, "1.4.2",
    means="It speaks over the speech that listeners need to find the pause button.",
    repair="Remove autoplay, or mute it until somebody starts it.",
    expect="silence until it is started",
)  # fmt: skip
def media_starts_alone(page: Facts) -> Found:
    """Autoplay without muted (HTML §4.8.11.6); up to three seconds are allowed."""
    for element in page.elements("audio", "video"):
        if "autoplay" in element.attributes and "muted" not in element.attributes:
            yield Finding(element, element.tag)


@checks.add(
    "movement-without-pause", "Film that plays on and on", NEEDS_EARS, "2.2.2",
    means="People who are distracted by movement cannot stop it.",
    repair="Offer a button that pauses it, and start none for those who ask for less movement.",
    expect="a button that pauses it",
)  # fmt: skip
def movement_without_pause(page: Facts) -> Found:
    """A film that starts by itself, and has neither controls nor a button near it."""
    for element in page.tags.get("video", ()):
        if "autoplay" in element.attributes and not _can_be_operated(page, element):
            yield Finding(element, heard=None if page.is_exposed(element) else "")


@checks.add(
    "media-unnamed", "Recording without a name", NEEDS_EARS, "4.1.2", "1.1.1",
    means="Listeners hear that there is a recording, and not of what.",
    repair="Name it by aria-label, or by the heading above it with aria-labelledby.",
    expect="what it is a recording of, then “{role}”",
)  # fmt: skip
def media_unnamed(page: Facts) -> Found:
    """Audio and video that are exposed without a name; one in a figure has its caption."""
    for node in page.nodes(("audio", "video")):
        figures = (above for above in node.element.ancestors() if above.tag == "figure")
        in_figure = any(child.tag == "figcaption" for figure in figures for child in figure.elements())
        if not node.name.strip() and not in_figure and not _is_decoration(node.element):
            yield Finding(node.element, node.role)
