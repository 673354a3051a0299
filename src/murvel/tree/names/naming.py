"""Names and descriptions (AccName 1.2 §4.3 with HTML-AAM 1.0 §4), each with the trace of its computation.

An element's sources stand in order of precedence. The name is what the first source gives that is not empty; the
trace asks all of them, because testers repair the wrong attribute when they cannot see which one wins.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from enum import Enum

from murvel.dom.document import Element, Namespace, Text, title_of
from murvel.dom.html.facts import LABELABLE, first_child
from murvel.dom.html.inputs import TYPED, control_type, input_type
from murvel.dom.html.options import chosen_options, option_text
from murvel.loading.problems import ProblemKind
from murvel.text import collapse, transformed
from murvel.tree.names.drawings import OF_DRAWINGS, drawing_name
from murvel.tree.names.joining import NOTHING, Joined, Piece
from murvel.tree.names.name_sources import ATTRIBUTE_OF, DEFAULT_TEXT, NameFrom, NameStep, Outcome, default_text, given
from murvel.tree.roles.aria_roles import GENERIC, NAME_FROM_CONTENT, NAME_PROHIBITED, RANGES
from murvel.tree.roles.semantics import Hiding, Semantics
from murvel.tree.states.control_values import range_value, text_value


class _Mode(Enum):
    """In whose service text is gathered (AccName 1.2 §4.3.2, step 2A and 2B)."""

    CONTENT = 1
    REFERENCED = 2
    """For aria-labelledby, aria-describedby or a label: references are not followed again."""
    REFERENCED_HIDDEN = 3
    """The same where what was referenced is hidden: then hidden content counts."""


_Source = tuple[NameFrom, Callable[[Element], str]]

_VALUE_BUTTONS = frozenset({"button", "submit", "reset"})
_DESCRIBING: dict[str, tuple[str, ...]] = {"svg": ("desc", "title"), "ruby": ("rt",)}
"""Child elements that describe their parent, where they do not name it (SVG-AAM 1.0 §8.2)."""

_ADJUSTABLE_TEXT = frozenset({"textbox", "searchbox"})
_RUNS_ON = frozenset({"inline", "contents", "ruby", "ruby-text", "ruby-base"})
_ATOMIC = frozenset({"embed", "iframe", "img", "object", "svg", "video"})
_BREAKS = frozenset({"br", "wbr"})
_CONTROLS = frozenset(
    "button checkbox combobox datefield colorwell filebutton listbox menuitemcheckbox menuitemradio radio searchbox "
    "slider spinbutton switch textbox".split()
)
_SET_APART = frozenset(
    "alert alertdialog application article audio banner blockquote combobox comment complementary contentinfo dialog "
    "document embeddedobject feed figure grid group iframe img listbox log main marquee math menu menubar navigation "
    "note radiogroup row rowgroup scrollbar search separator status suggestion table tablist tabpanel timer toolbar "
    "tree treegrid video".split()
)
_TAKEN_IN = frozenset({"address", "details", "footer", "svg"})
"""Elements whose content browsers do take in, although their role is among those."""

_PLAIN_TAGS = frozenset("a b br div em i li p small span strong u ul".split())
_NEVER_CONTENT = frozenset({"script", "style", "template", "noframes", "noembed"})


_LONG, _MOST_LONG = 1_000, 2_000_000
"""From how many characters on a name is long, and how many the long ones of a page may have together."""

_TAKEN_ANYWAY = (NameFrom.IMAGE_ALTERNATIVE, NameFrom.LABELLEDBY, NameFrom.ARIA_LABEL)
"""Sources that name an element even where its role is not to be named: that is forbidden to authors (WAI-ARIA 1.2
§5.2.8.6), but browsers take what they find (docs/standards.md)."""


class Naming:
    """Computes the names and descriptions of a document's elements."""

    def __init__(self, semantics: Semantics) -> None:
        self.semantics = semantics
        self._style_of = semantics.styles.of
        self._known: dict[_Mode, dict[Element, Piece]] = {mode: {} for mode in _Mode}
        self._whole: dict[_Mode, dict[Element, str]] = {mode: {} for mode in _Mode}
        """What was gathered of elements that references lead to."""
        self._spent = 0
        """How many characters the long names and descriptions have together."""

    def forget(self, elements: Iterable[Element]) -> None:
        """Let what elements add to the text around them be gathered again when it is next asked for."""
        self._spent = 0
        for element in elements:
            for mode in _Mode:
                self._known[mode].pop(element, None)
                self._whole[mode].pop(element, None)

    def name(self, element: Element, role: str | None) -> tuple[str, NameFrom | None]:
        """Return an element's name and its source; ("", None) where it has none."""
        if role is None:
            return "", None
        prohibited = role in NAME_PROHIBITED
        for source, text_of in self._sources(element, role):
            if prohibited and source not in _TAKEN_ANYWAY:
                break
            text = text_of(element)
            if text:
                return self._afforded(text), source
        return "", None

    def _afforded(self, text: str) -> str:
        """Return a name or description, cut where those of the page take more room together than any page needs.

        Each element may refer to the same long text, so they could take as much as the square of the page.
        """
        if len(text) <= _LONG:
            return text
        self._spent += len(text)
        if self._spent <= _MOST_LONG:
            return text
        text_cut = f"Names and descriptions of more than {_LONG} characters are cut."
        self.semantics.document.problems.add(ProblemKind.LIMIT, text_cut)
        return text[:_LONG]

    def trace(self, element: Element, role: str | None) -> list[NameStep]:
        """Return what every source gave, in order of precedence."""
        prohibited = role is None or role in NAME_PROHIBITED
        steps = []
        won = False
        for source, text_of in self._sources(element, role or "", every=True):
            text = text_of(element)
            if not text:
                outcome = Outcome.EMPTY if self._is_there(source, element) else Outcome.ABSENT
            elif prohibited and (role is None or source not in _TAKEN_ANYWAY):
                outcome = Outcome.NOT_ALLOWED
            else:
                outcome = Outcome.BEATEN if won else Outcome.WON
                won = True
            steps.append(NameStep(source, given(source, element), text, outcome))
        return steps

    def description(self, element: Element, name_from: NameFrom | None, name: str) -> tuple[str, NameFrom | None]:
        """Return an element's description (AccName 1.2 §4.3.1; HTML-AAM 1.0 §4) and its source."""
        attributes = element.attributes
        if "aria-describedby" in attributes:
            text = self._join_references(element, "aria-describedby")
            if text:
                return self._afforded(text), NameFrom.DESCRIBEDBY
        if "aria-description" in attributes:
            text = collapse(attributes["aria-description"])
            if text:
                return text, NameFrom.ARIA_DESCRIPTION
        if element.tag == "table" and name_from not in (NameFrom.CAPTION, None):
            text = self._child_text(element, "caption")
            if text:
                return text, NameFrom.CAPTION
        for tag in _DESCRIBING.get("svg" if element.namespace is Namespace.SVG else element.tag, ()):
            child = first_child(element, tag)
            if child is not None and collapse(child.text()) not in ("", name):
                return collapse(child.text()), NameFrom.DESC if tag == "desc" else NameFrom.TITLE_ELEMENT
        if "title" in attributes and name_from is not NameFrom.TITLE:
            text = collapse(attributes["title"])
            says_more = text != name or name_from is not NameFrom.CONTENTS
            if text and says_more and text != collapse(element.text()):  # browsers tell nothing that is seen already
                return text, NameFrom.TITLE
        return "", None

    # The sources, in order of precedence: steps 2B, 2D, 2E, 2F and 2I.

    def _sources(self, element: Element, role: str, *, every: bool = False) -> Iterator[_Source]:
        """Yield the sources an element has; with `every`, also those whose attribute is not there."""
        attributes = element.attributes
        tag = element.tag
        if self._style_of(element).replaced:
            yield NameFrom.IMAGE_ALTERNATIVE, self._alternative
        if every or "aria-labelledby" in attributes:
            yield NameFrom.LABELLEDBY, self._labelledby
        if every or "aria-label" in attributes:
            yield NameFrom.ARIA_LABEL, _aria_label
        if element.namespace is Namespace.HTML:
            yield from self._native_sources(element, tag)
        elif tag == "svg" or element.namespace is Namespace.SVG:
            yield NameFrom.TITLE_ELEMENT, self._svg_title
        if tag != "input" and (role in NAME_FROM_CONTENT or (role == "row" and self._in_grid(element))):
            yield NameFrom.CONTENTS, self.contents
        if tag == "img" and "alt" in attributes:
            return  # an empty alternative is an answer: the title does not name the image then (HTML-AAM img)
        if every or "title" in attributes:
            yield NameFrom.TITLE, _title
        if (every or "placeholder" in attributes) and _takes_placeholder(element):
            yield NameFrom.PLACEHOLDER, _READ[NameFrom.PLACEHOLDER]

    def _native_sources(self, element: Element, tag: str) -> Iterator[_Source]:
        """HTML-AAM 1.0 §4.1, by element."""
        if tag in LABELABLE:
            yield NameFrom.LABEL, self._label
        if tag == "html":
            yield NameFrom.PAGE_TITLE, title_of
        if tag == "input":
            kind = input_type(element)
            if kind in _VALUE_BUTTONS:
                yield NameFrom.VALUE, _READ[NameFrom.VALUE]
            elif kind == "image":
                yield NameFrom.ALT, _READ[NameFrom.ALT]
                yield NameFrom.VALUE, _READ[NameFrom.VALUE]
                if "title" in element.attributes:
                    yield NameFrom.TITLE, _title
            if kind in DEFAULT_TEXT and not (kind == "file" and self.semantics.labels(element)):
                yield NameFrom.DEFAULT, default_text
            return
        native = _NATIVE.get(tag)
        if native is not None:
            source, child = native
            if child is None:
                yield source, _READ[source]
            else:
                yield source, lambda element: self._child_text(element, child)
        if tag == "table" and "summary" in element.attributes:
            yield NameFrom.SUMMARY, _READ[NameFrom.SUMMARY]

    def _is_there(self, source: NameFrom, element: Element) -> bool:
        """Whether the page has something for a source, though it may give no text."""
        attribute = ATTRIBUTE_OF.get(source)
        if attribute is not None:
            return attribute in element.attributes
        if source is NameFrom.LABEL:
            return bool(self.semantics.labels(element))
        child = _NATIVE.get(element.tag, (source, None))[1] or "title"
        return source is NameFrom.CONTENTS or first_child(element, child) is not None

    def _in_grid(self, row: Element) -> bool:
        """Whether a row stands in a grid: browsers name rows from their content only there."""
        for above in row.ancestors():
            role = self.semantics.role(above)
            if role in ("table", "grid", "treegrid"):
                return role != "table"
        return False

    def _alternative(self, element: Element) -> str:
        """What the property `content` says of the image that it puts in place of an element's content."""
        return collapse(self._style_of(element).replaced or "")

    def _labelledby(self, element: Element) -> str:
        return self._join_references(element, "aria-labelledby")

    def _label(self, element: Element, *, follow: bool = True) -> str:
        """The text of an element's labels; with `follow`, what those refer to themselves (step 2B: only once)."""
        labels = [label for label in self.semantics.labels(element) if self.semantics.hidden(label) is None]
        return collapse(" ".join(self._label_text(label, element, follow) for label in labels))

    def _label_text(self, label: Element, control: Element, follow: bool) -> str:
        stated = ""
        if "aria-labelledby" in label.attributes and follow:
            stated = self._labelledby(label)
        return stated or _aria_label(label) or self._gathered(label, embedded_in=control) or _title(label)

    def _svg_title(self, element: Element) -> str:
        return drawing_name(element, self.semantics.drawn_by)

    def _child_text(self, element: Element, tag: str) -> str:
        child = first_child(element, tag)
        if child is None or self.semantics.hidden(child) is not None:
            return ""
        return _aria_label(child) or collapse(self._gathered(child))

    def contents(self, element: Element) -> str:
        """Return the name an element has from its content (step 2F), whatever its role allows."""
        children, style = self.semantics.children(element), self._style_of(element)
        if len(children) == 1 and isinstance(children[0], Text) and style.before is None and style.after is None:
            # Most names are a single run of text: there is nothing to gather.
            text = children[0].data if self.semantics.shows_text(element) else ""
            return collapse(transformed(text, style.text_transform))
        return collapse(self._content(element, _Mode.CONTENT))

    def referenced_texts(self, element: Element, attribute: str) -> list[str]:
        """Return the text alternative of each element that an attribute refers to, those that have none left out."""
        targets = self.semantics.references(element, attribute)
        texts = (self._referenced(target, is_self=target is element) for target in targets)
        return [text for text in texts if text]

    def _join_references(self, element: Element, attribute: str) -> str:
        return collapse(" ".join(self.referenced_texts(element, attribute)))

    def _referenced(self, target: Element, *, is_self: bool) -> str:
        """The text alternative of an element that an IDREF names (step 2B.ii): its own references are not followed.

        A control that names itself gives its label; its value stands for it in the name of another one (step 2C).
        """
        role = self.semantics.role(target) or ""
        control = self._embedded_value(target, role)
        if control and not is_self:
            return control
        for source, text_of in self._sources(target, role):
            if source in (NameFrom.LABELLEDBY, NameFrom.CONTENTS, NameFrom.TITLE, NameFrom.PLACEHOLDER):
                continue
            text = self._label(target, follow=False) if source is NameFrom.LABEL else text_of(target)
            if text:
                return text
        return control or collapse(self._gathered(target)) or collapse(target.attributes.get("title", ""))

    def _gathered(self, element: Element, embedded_in: Element | None = None) -> str:
        """The text of a label or referenced element; hidden content counts if the element itself is hidden."""
        hidden = self.semantics.hidden(element) is not None
        mode = _Mode.REFERENCED_HIDDEN if hidden else _Mode.REFERENCED
        if embedded_in is None or not element.contains(embedded_in):
            whole = self._whole[mode]
            if element not in whole:
                whole[element] = self._content(element, mode)
            return whole[element]
        # A control does not take part in its own label (step 2C speaks of another widget's control), so what is
        # known about the label's content does not hold here.
        known = self._known[mode]
        self._known[mode] = {embedded_in: self._placed(embedded_in, NOTHING, mode)}
        try:
            return self._content(element, mode)
        finally:
            self._known[mode] = known

    # Gathering text from content: steps 2A to 2I for what stands inside, without recursion.

    def _content(self, root: Element, mode: _Mode) -> str:
        known = self._known[mode]
        stack = [child for child in self.semantics.children(root) if isinstance(child, Element)]
        waiting: list[Element] = []
        while stack:
            element = stack.pop()
            if element in known:
                continue
            text = self._without_children(element, mode)
            if text is not None:
                known[element] = self._placed(element, Piece(text), mode)
                continue
            waiting.append(element)
            stack.extend(child for child in self.semantics.children(element) if isinstance(child, Element))
        for element in reversed(waiting):
            piece = self._joined(element, mode)
            if not piece.text.strip() and "title" in element.attributes and self._may_be_titled(element):
                piece = Piece(element.attributes["title"])  # step 2I
            known[element] = self._placed(element, piece, mode)
        return self._joined(root, mode).text

    def _joined(self, element: Element, mode: _Mode) -> Piece:
        """Step 2F.i: before, children, after; what is not inline is set apart."""
        known = self._known[mode]
        own_text = mode is _Mode.REFERENCED_HIDDEN or self.semantics.shows_text(element)
        style = self._style_of(element)
        joined = Joined()
        if style.before and own_text:
            joined.add(style.before.name, after=style.before.is_apart and bool(style.before.name))
        has_owned = self.semantics.moves_things
        for child in self.semantics.children(element):
            if isinstance(child, Element):
                text, before, after = known[child]
                is_owned = has_owned and self.semantics.owner(child) is element
                joined.add(text, before=before or is_owned, after=after or is_owned)
            elif own_text:
                joined.add(transformed(child.data, style.text_transform))
        if style.after and style.after.name and own_text:
            joined.add(style.after.name, before=style.after.is_apart, after=style.after.is_apart)
        return joined.piece

    def _placed(self, element: Element, piece: Piece, mode: _Mode) -> Piece:
        """What an element adds to the text around it, set apart where it is not plainly inline."""
        if element.tag in _NEVER_CONTENT or not self._is_apart(element, piece.text, mode):
            return piece
        return Piece(piece.text, True, True)

    def _is_apart(self, element: Element, text: str, mode: _Mode) -> bool:
        style = self._style_of(element)
        if style.display == "none":
            return mode is _Mode.REFERENCED_HIDDEN
        if not style.is_inline and not style.is_out_of_flow:
            return True  # it breaks the line, even where nothing of it is exposed
        if mode is not _Mode.REFERENCED_HIDDEN and self.semantics.hidden(element) is not None:
            return False
        if style.is_out_of_flow or style.display == "contents" or element.tag in _BREAKS:
            return True
        if style.display in _RUNS_ON and element.tag not in _ATOMIC:
            return bool(text) and bool(element.attributes) and self._is_an_object(element)
        role = self.semantics.role(element)
        return bool(text) or "title" in element.attributes or role not in (None, "none", GENERIC)

    def _is_an_object(self, element: Element) -> bool:
        """Whether an inline element stands apart: one with a name of its author's, or a control."""
        attributes = element.attributes
        if "aria-label" in attributes or "aria-labelledby" in attributes:
            return True
        return self.semantics.role(element) in _CONTROLS

    def _may_be_titled(self, element: Element) -> bool:
        """Whether a tooltip can stand for what is in an element: not where it is hidden, nor on a generic one, which
        browsers give a description instead."""
        return self.semantics.hidden(element) is None and self.semantics.role(element) not in NAME_PROHIBITED

    def _without_children(self, element: Element, mode: _Mode) -> str | None:
        """What an element adds to the text around it, where that does not depend on its children; else None."""
        if element.tag in _NEVER_CONTENT or (element.tag == "rt" and mode is _Mode.CONTENT):
            return ""
        if mode is not _Mode.REFERENCED_HIDDEN:  # 2A
            hidden = self.semantics.hidden(element)
            if hidden is not None and hidden.why is not Hiding.NOT_VISIBLE:
                return ""
        attributes = element.attributes
        if self._style_of(element).replaced is not None:
            return self._alternative(element)
        if attributes:
            if mode is _Mode.CONTENT and "aria-labelledby" in attributes:  # 2B
                text = self._labelledby(element)
                if text:
                    return text
            role = self.semantics.role(element) or ""
            value = self._embedded_value(element, role)  # 2C
            if value is not None:
                return value
            if "aria-label" in attributes:  # 2D
                text = _aria_label(element)
                if text:
                    return text
        elif element.tag in ("textarea", "select"):
            return self._embedded_value(element, self.semantics.role(element) or "") or ""
        native = self._native_text(element, mode)
        if native is None and mode is _Mode.CONTENT and self._is_set_apart(element):
            return _title(element)
        return native

    def _is_set_apart(self, element: Element) -> bool:
        """Whether an element's content stays out of the name of what is around it.

        AccName 1.2 step 2H would take all of it; browsers leave out what has a structure of its own.
        """
        if element.tag in _TAKEN_IN or (not element.attributes and element.tag in _PLAIN_TAGS):
            return False
        return self.semantics.role(element) in _SET_APART

    def _native_text(self, element: Element, mode: _Mode) -> str | None:
        """Step 2E for an element inside other content."""
        tag = element.tag
        if element.attributes and self.semantics.role(element) == "none":
            return "" if tag == "img" else None  # nothing of a presentational element names what is around it (2D)
        if tag in ("img", "area"):
            return _READ[NameFrom.ALT](element) or _title(element)
        if tag == "input":
            for source, text_of in self._native_sources(element, tag):
                if source is not NameFrom.LABEL or mode is _Mode.CONTENT:
                    text = text_of(element)
                    if text:
                        return text
            return _title(element) or (_READ[NameFrom.PLACEHOLDER](element) if _takes_placeholder(element) else "")
        if element.namespace is Namespace.SVG:
            return "" if tag in OF_DRAWINGS else self._svg_title(element) or None
        return _title(element) if tag == "iframe" else None

    def _embedded_value(self, element: Element, role: str) -> str | None:
        """Step 2C: what an adjustable control inside a label stands for; None for anything else."""
        if role in _ADJUSTABLE_TEXT:
            return text_value(element) or None
        if role in ("combobox", "listbox"):
            if element.tag == "select":
                return " ".join(option_text(option) for option in chosen_options(element))
            if role == "listbox":
                return " ".join(self.contents(option) for option in self._selected(element)) or None
            return text_value(element) or None if element.tag == "input" else None
        if role in RANGES:
            return range_value(element, role) or ""
        return None

    def _selected(self, listbox: Element) -> list[Element]:
        """The options of a listbox made of roles that are selected."""
        return [
            node
            for node in listbox.descendants()
            if isinstance(node, Element)
            and node.attributes.get("aria-selected", "").strip().lower() == "true"
            and self.semantics.role(node) == "option"
        ]


def _takes_placeholder(element: Element) -> bool:
    return element.tag == "textarea" or control_type(element) in TYPED


def _reader(attribute: str) -> Callable[[Element], str]:
    """Return what reads an attribute as text: white space collapsed, empty if it is absent."""
    return lambda element: collapse(element.attributes.get(attribute, ""))


_READ: dict[NameFrom, Callable[[Element], str]] = {
    source: _reader(attribute) for source, attribute in ATTRIBUTE_OF.items() if source is not NameFrom.LABELLEDBY
}
"""What gives the text of each source that is one attribute."""

_aria_label, _title = _READ[NameFrom.ARIA_LABEL], _READ[NameFrom.TITLE]


_NATIVE: dict[str, tuple[NameFrom, str | None]] = {
    "area": (NameFrom.ALT, None),
    "fieldset": (NameFrom.LEGEND, "legend"),
    "img": (NameFrom.ALT, None),
    "optgroup": (NameFrom.LABEL_ATTRIBUTE, None),
    "option": (NameFrom.LABEL_ATTRIBUTE, None),
    "table": (NameFrom.CAPTION, "caption"),
}
"""HTML-AAM 1.0 §4.1: the attribute, or the child element, that names an element."""
