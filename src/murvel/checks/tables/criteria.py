"""The success criteria of WCAG 2.2, all of them, each with its level and a line in our own words.

4.1.1 Parsing is not among them: WCAG 2.2 made it obsolete and removed it.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Level(StrEnum):
    """The levels of WCAG, the lowest first."""

    A = "A"
    AA = "AA"
    AAA = "AAA"

    @property
    def rank(self) -> int:
        """Its place among the levels, from 0."""
        return list(Level).index(self)


@dataclass(frozen=True, slots=True)
class Criterion:
    """A success criterion.

    Attributes:
        number: as "1.4.3".
        name: WCAG's handle for it.
        level: its level.
        gist: what it asks for, in one line of ours.
    """

    number: str
    name: str
    level: Level
    gist: str

    @property
    def label(self) -> str:
        """Number, name and level, as "1.1.1 Non-text Content (A)"."""
        return f"{self.number} {self.name} ({self.level})"

    def matches(self, words: str) -> bool:
        """Whether every word of `words` stands in the number, name, level or gist."""
        text = f"{self.number} {self.name} level {self.level} {self.gist}".casefold()
        return all(word in text for word in words.casefold().split())


_TABLE = """
1.1.1 | Non-text Content | A | Every image and other thing without text has words that do its job, or is left out of speech.
1.2.1 | Audio-only and Video-only (Prerecorded) | A | A recording with only sound or only pictures has a text or a track that tells the same.
1.2.2 | Captions (Prerecorded) | A | What is heard in a recorded film can be read as captions.
1.2.3 | Audio Description or Media Alternative (Prerecorded) | A | What is only seen in a recorded film is told in a track or a text.
1.2.4 | Captions (Live) | AA | What is heard in a live broadcast can be read as captions.
1.2.5 | Audio Description (Prerecorded) | AA | What is only seen in a recorded film is spoken in a track.
1.2.6 | Sign Language (Prerecorded) | AAA | Recorded speech is given in sign language too.
1.2.7 | Extended Audio Description (Prerecorded) | AAA | The film pauses where its own gaps are too short for the description.
1.2.8 | Media Alternative (Prerecorded) | AAA | A full text tells all that a film shows and says.
1.2.9 | Audio-only (Live) | AAA | Live sound without pictures has a text that keeps up with it.
1.3.1 | Info and Relationships | A | What the layout shows (headings, lists, tables, labels, groups) is there in the code and can be heard.
1.3.2 | Meaningful Sequence | A | Read in the order of the code, the content still makes sense.
1.3.3 | Sensory Characteristics | A | Instructions do not rest on shape, place, size or sound alone.
1.3.4 | Orientation | AA | The page works held upright and on its side.
1.3.5 | Identify Input Purpose | AA | Fields about the person say in code which datum they want, so that it can be filled in.
1.3.6 | Identify Purpose | AAA | Controls, icons and regions say their purpose in code, so that they can be shown in another way.
1.4.1 | Use of Color | A | Nothing is told by colour alone.
1.4.2 | Audio Control | A | Sound that starts by itself can be stopped or turned down.
1.4.3 | Contrast (Minimum) | AA | Text stands out from its background by 4.5 to 1, large text by 3 to 1.
1.4.4 | Resize Text | AA | Text can be made twice as large with nothing lost.
1.4.5 | Images of Text | AA | Words are text, not pictures of text.
1.4.6 | Contrast (Enhanced) | AAA | Text stands out by 7 to 1, large text by 4.5 to 1.
1.4.7 | Low or No Background Audio | AAA | Speech is not drowned by what plays behind it.
1.4.8 | Visual Presentation | AAA | Readers can set colours, width, spacing and size of blocks of text.
1.4.9 | Images of Text (No Exception) | AAA | Pictures of text only as decoration or where there is no other way.
1.4.10 | Reflow | AA | At 320 pixels of width one scrolls in one direction only.
1.4.11 | Non-text Contrast | AA | Controls, their states and what a drawing needs stand out by 3 to 1.
1.4.12 | Text Spacing | AA | Wider lines, words and letters cut nothing off.
1.4.13 | Content on Hover or Focus | AA | What appears on pointing or focus can be dismissed, pointed at, and stays.
2.1.1 | Keyboard | A | Everything that can be done can be done with the keyboard.
2.1.2 | No Keyboard Trap | A | The keyboard gets out of everything it gets into.
2.1.3 | Keyboard (No Exception) | AAA | Everything by keyboard, without any exception.
2.1.4 | Character Key Shortcuts | A | Shortcuts of a single letter can be turned off, changed, or work only in focus.
2.2.1 | Timing Adjustable | A | A time limit can be turned off, changed or extended.
2.2.2 | Pause, Stop, Hide | A | What moves, blinks or updates by itself can be stopped.
2.2.3 | No Timing | AAA | Nothing depends on being quick.
2.2.4 | Interruptions | AAA | Interruptions can be put off.
2.2.5 | Re-authenticating | AAA | Signing in again loses nothing that was entered.
2.2.6 | Timeouts | AAA | One is told after how long of doing nothing data will be lost.
2.3.1 | Three Flashes or Below Threshold | A | Nothing flashes more than three times a second.
2.3.2 | Three Flashes | AAA | Nothing flashes more than three times a second, however small.
2.3.3 | Animation from Interactions | AAA | Motion set off by an action can be turned off.
2.4.1 | Bypass Blocks | A | What repeats on every page can be passed over.
2.4.2 | Page Titled | A | The page has a title that tells what it is.
2.4.3 | Focus Order | A | Tab moves in an order that keeps meaning and works.
2.4.4 | Link Purpose (In Context) | A | Where a link leads is clear from it and what stands around it.
2.4.5 | Multiple Ways | AA | There is more than one way to find a page.
2.4.6 | Headings and Labels | AA | Headings and labels say what they are about.
2.4.7 | Focus Visible | AA | One sees where the keyboard's focus is.
2.4.8 | Location | AAA | One is told where in the site one is.
2.4.9 | Link Purpose (Link Only) | AAA | Where a link leads is clear from the link alone.
2.4.10 | Section Headings | AAA | Sections have headings.
2.4.11 | Focus Not Obscured (Minimum) | AA | What has the focus is not wholly covered by other content.
2.4.12 | Focus Not Obscured (Enhanced) | AAA | No part of what has the focus is covered.
2.4.13 | Focus Appearance | AAA | The mark of the focus is large and strong enough.
2.5.1 | Pointer Gestures | A | Gestures of several fingers or along a path have a simple alternative.
2.5.2 | Pointer Cancellation | A | Pressing alone does nothing: one can still slide off or undo.
2.5.3 | Label in Name | A | The name that is heard holds the words that are seen.
2.5.4 | Motion Actuation | A | What is done by shaking or tilting can be done by a control, and turned off.
2.5.5 | Target Size (Enhanced) | AAA | Targets are at least 44 by 44 pixels.
2.5.6 | Concurrent Input Mechanisms | AAA | Mouse, touch and keyboard may be mixed at will.
2.5.7 | Dragging Movements | AA | What is done by dragging can be done without it.
2.5.8 | Target Size (Minimum) | AA | Targets are at least 24 by 24 pixels, or far enough apart.
3.1.1 | Language of Page | A | The page says in code which language it is in.
3.1.2 | Language of Parts | AA | Passages in another language say so in code.
3.1.3 | Unusual Words | AAA | Jargon and figures of speech are explained.
3.1.4 | Abbreviations | AAA | Abbreviations are spelled out somewhere.
3.1.5 | Reading Level | AAA | Difficult text has a simpler version.
3.1.6 | Pronunciation | AAA | Where the meaning hangs on it, the pronunciation is given.
3.2.1 | On Focus | A | Getting the focus changes nothing by surprise.
3.2.2 | On Input | A | Filling in or choosing changes nothing by surprise.
3.2.3 | Consistent Navigation | AA | Menus that repeat come in the same order on every page.
3.2.4 | Consistent Identification | AA | The same function has the same name everywhere.
3.2.5 | Change on Request | AAA | Things change only when the person asks for it.
3.2.6 | Consistent Help | A | Help stands in the same place on every page.
3.3.1 | Error Identification | A | An error is found, told in text, and the field is named.
3.3.2 | Labels or Instructions | A | Fields say what is to be filled in.
3.3.3 | Error Suggestion | AA | The message says how to put the error right.
3.3.4 | Error Prevention (Legal, Financial, Data) | AA | What binds, costs or deletes can be undone, checked or confirmed.
3.3.5 | Help | AAA | There is help that fits the place.
3.3.6 | Error Prevention (All) | AAA | Whatever is sent can be undone, checked or confirmed.
3.3.7 | Redundant Entry | A | What was entered once is not asked for again.
3.3.8 | Accessible Authentication (Minimum) | AA | Signing in needs no memory test or puzzle, or there is help with it.
3.3.9 | Accessible Authentication (Enhanced) | AAA | Signing in needs no memory test or puzzle of any kind.
4.1.2 | Name, Role, Value | A | Each control tells its name, what it is and its state, and changes of them.
4.1.3 | Status Messages | AA | Messages are announced without the focus moving to them.
"""


def _read(table: str) -> tuple[Criterion, ...]:
    rows = (tuple(cell.strip() for cell in line.split(" | ")) for line in table.strip().splitlines())
    return tuple(Criterion(number, name, Level(level), gist) for number, name, level, gist in rows)


CRITERIA: tuple[Criterion, ...] = _read(_TABLE)

BY_NUMBER: dict[str, Criterion] = {criterion.number: criterion for criterion in CRITERIA}
assert len(BY_NUMBER) == len(CRITERIA) == 86, "WCAG 2.2 has 86 success criteria"
