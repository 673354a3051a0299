"""Forms: labels, groups, what is required, errors (HTML §4.10; WCAG 2.2 1.3.1, 1.3.5, 3.3.1 to 3.3.3)."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterator
from itertools import islice, pairwise

from tinycss2.color3 import parse_color

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic
from murvel.checks.engine.facts import Facts, unnamed
from murvel.checks.tables.autofill import datum_of, goes_with, problem_of_autocomplete
from murvel.checks.tables.vocabulary import (
    BARE_ERRORS,
    ERROR_WORDS,
    FORM_INSTRUCTION,
    PERSONAL,
    REQUIRED_WORDS,
    TIME_LIMIT,
)
from murvel.dom.document import Element
from murvel.dom.html.facts import first_child
from murvel.dom.html.forms import form_of
from murvel.dom.html.inputs import BUTTONS, SUBMITTING, control_type
from murvel.patterns import pattern
from murvel.text import collapse
from murvel.tree.names.name_sources import NameFrom
from murvel.tree.node import Node
from murvel.tree.roles.aria_roles import EDITS, FIELDS

checks = Checks(Topic.FORMS)

_PERSONAL = [(pattern(rf"^(?:your )?(?:{words})\W*(?:\((?:required|optional)\))?\W*$", re.I), datum)
             for words, datum in PERSONAL]  # fmt: skip
_LARGE = frozenset({"article", "aside", "body", "footer", "form", "header", "main", "nav", "section"})
"""Parts of a page in which not everything belongs together."""

_MUCH, _LITTLE = 0.6, 0.35
"""Shares of red, and of green and blue, in what is seen as red."""

_FEW_INSIDE = 30
"""Nodes of a label or a small part in which a field is looked for."""

_ENTERED = ("input", "select", "textarea")
_GROUPS = frozenset({"group", "radiogroup", "listbox", "table", "grid", "toolbar", "menu"})


def _is_submit(element: Element) -> bool:
    return control_type(element) in SUBMITTING


@checks.add(
    "field-unnamed", "Field without a label", FAILS, "4.1.2", "1.3.1", "3.3.2",
    means="Listeners hear that there is a field, but not what to enter.",
    repair="Add a label element: with for, or around the field.",
    expect="what is to be filled in, then “{role}”",
)  # fmt: skip
def field_unnamed(page: Facts) -> Found:
    """Fields that have no name from any source."""
    return (Finding(node.element) for node in unnamed(page.fields))


@checks.add(
    "name-from-placeholder", "Placeholder is the only label", NEEDS_EARS, "3.3.2", "1.3.1",
    means="The name is announced, but the visible label disappears as soon as something is typed.",
    repair="Add a permanent label; use the placeholder for an example at most.",
    expect="{name}, {role}",
)  # fmt: skip
def name_from_placeholder(page: Facts) -> Found:
    """AccName 1.2 step 2I, HTML-AAM 1.0 §4.1.1."""
    return (Finding(node.element, node.name) for node in page.fields if node.name_from is NameFrom.PLACEHOLDER)


@checks.add(
    "label-not-tied", "Label without a field", FAILS, "1.3.1", "3.3.2",
    means="The label's text is read before the field but not announced with it.",
    repair="Put the field's id into for, or the field into the label.",
    expect="the label's text, then the field's role",
)  # fmt: skip
def label_not_tied(page: Facts) -> Found:
    """Label elements that label nothing, where a field is near (HTML §4.10.4)."""
    for label in page.elements("label"):
        if page.semantics.labelled_control(label) is not None or not page.words(label).strip():
            continue
        reference = label.attributes.get("for")
        if reference and reference in page.document.ids_around(label):
            continue  # it names something that is operated in a way of its own
        if "id" in label.attributes and page.refers("aria-labelledby", label.attributes["id"]):
            continue
        if reference is not None:
            yield Finding(label, f'for="{reference}"')
        elif _has_field_near(page, label):
            yield Finding(label, "no for, and no field in it")


def _has_field_near(page: Facts, label: Element) -> bool:
    """Whether a field stands beside a label, or in or beside what the label stands in."""
    for around in islice((label, *label.ancestors()), 3):
        if around.tag in _LARGE:
            break
        if page.fields_in(around):
            return True
        following = page.next_element(around)
        if following is not None and following.tag not in _LARGE and page.fields_in(following):
            return True
    return False


@checks.add(
    "label-tied-to-two", "One label for two fields", NEEDS_EARS, "1.3.1", "3.3.2",
    means="The second field has no label of its own, or the same one as the first.",
    repair="Give each field its own label.",
    expect="a name of its own for each field",
)  # fmt: skip
def label_tied_to_two(page: Facts) -> Found:
    """Labels around several fields, or around one field and for another."""
    for label in page.elements("label"):
        inside = [
            each for each in label.descendants()
            if isinstance(each, Element) and each.tag in _ENTERED and control_type(each) != "hidden"
        ]  # fmt: skip
        control = page.semantics.labelled_control(label)
        if len(inside) > 1 or (inside and control is not None and control not in inside):
            yield Finding(label, page.words(label)[:60])


@checks.add(
    "choices-without-group", "Choices without a group name", NEEDS_EARS, "1.3.1", "3.3.2",
    means="Listeners hear the answers but not the question.",
    repair="Put the answers into a fieldset, with the question as its legend.",
    expect="“group”, the question, then the answers",
)  # fmt: skip
def choices_without_group(page: Facts) -> Found:
    """Two radios or three checkboxes of one name in no named group."""
    sets: dict[tuple[str, str, int], list[Node]] = defaultdict(list)
    for node in page.nodes(("radio", "checkbox")):
        name = node.element.attributes.get("name", "").removesuffix("[]")
        form = form_of(page.document, node.element)
        if name:
            sets[node.role, name, form.order if form is not None else -1].append(node)
    for (role, _, _), nodes in sets.items():
        if len(nodes) >= (2 if role == "radio" else 3) and not _is_grouped(nodes[0]):
            yield Finding(nodes[0].element, f"{len(nodes)} of them")


def _is_grouped(node: Node) -> bool:
    return any(above.role in _GROUPS for above in node.ancestors())


@checks.add(
    "legend-empty", "Fieldset without a legend", FAILS, "1.3.1",
    means="Listeners hear “group” but not what its fields are about.",
    repair="Put the question into a legend as the first child of the fieldset.",
    expect="“group”, then the question",
)  # fmt: skip
def legend_empty(page: Facts) -> Found:
    """Fieldsets without a name that hold more than one field; without a legend they may be there for looks only."""
    for element in page.elements("fieldset"):
        node = page.node(element)
        if node is not None and node.role in ("group", "radiogroup") and not node.name.strip():
            if len(page.within(node, page.fields)) > 1:
                has_legend = first_child(element, "legend") is not None
                yield Finding(element, "" if has_legend else "no legend", None if has_legend else NEEDS_EARS)


@checks.add(
    "group-of-one", "Group of one field", NEEDS_EARS, "1.3.1",
    means="Listeners hear the group's name and then the field's: two names for one field.",
    repair="Remove the group; the label is enough.",
    expect="the field's label once",
)  # fmt: skip
def group_of_one(page: Facts) -> Found:
    """Named groups around a single field; a checkbox with the text of its consent may want one."""
    for node in page.nodes(("group", "radiogroup")):
        if node.element.tag == "fieldset" or node.role == "radiogroup":
            fields = page.within(node, page.fields)
            if len(fields) == 1 and node.name.strip():
                yield Finding(node.element, f"“{node.name.strip()[:60]}”")


def _labels_text(page: Facts, node: Node) -> str:
    return collapse(" ".join(label.text() for label in page.semantics.labels(node.element)))


@checks.add(
    "required-unsaid", "Required state is only visual", NEEDS_EARS, "1.3.1", "3.3.2",
    means="Listeners learn that the field is required only when the form is rejected.",
    repair="Add required to the field.",
    expect="{name}, {role}, required",
)  # fmt: skip
def required_unsaid(page: Facts) -> Found:
    """A star or the word at the label of a field that is not required in code."""
    for node in page.fields:
        if node.states.get("required") is True or node.role in ("checkbox", "radio"):
            continue
        label = f"{_labels_text(page, node)} {_styled_after(page, node)}"
        if "*" in label or REQUIRED_WORDS.search(label):
            yield Finding(node.element, "a star" if "*" in label else "a word")
        elif any(_is_marked(page, each) for each in page.semantics.labels(node.element)):
            yield Finding(node.element, "a colour or style")


def _styled_after(page: Facts, node: Node) -> str:
    around = [each for label in page.semantics.labels(node.element) for each in (label, *label.elements())]
    boxes = [box for style in map(page.styles.of, around) for box in (style.after, style.before)]
    return " ".join(box.text for box in boxes if box is not None)


def _is_marked(page: Facts, label: Element) -> bool:
    words = label.attributes.get("class", "").lower().split()
    if {"required", "mandatory", "is-required"} & set(words):
        return True
    return _is_red(page.looks.of(label).get("color", ""))


def _is_red(colour: str) -> bool:
    """Whether a colour of CSS is seen as red: much of it, and little of the others."""
    parsed = parse_color(colour)
    if parsed is None or parsed == "currentColor":
        return False
    return bool(parsed.alpha > 0 and parsed.red >= _MUCH and max(parsed.green, parsed.blue) <= _LITTLE)


@checks.add(
    "star-read", "Star of a required field is read aloud", NEEDS_EARS, "3.3.2",
    means="Listeners hear “star” at each field and have to know what it stands for.",
    repair="Hide the star with aria-hidden and add required to the field.",
    expect="the label without a star, then “{role}, required”",
)  # fmt: skip
def star_read(page: Facts) -> Found:
    """Names of fields with an asterisk in them."""
    return (Finding(node.element, node.name.strip()) for node in page.fields if "*" in node.name)


@checks.add(
    "error-not-tied", "Error is not tied to its field", FAILS, "3.3.1", "1.3.1",
    means="Listeners at the field do not hear that it is wrong, or why.",
    repair="Set aria-invalid on the field and refer to the message with aria-describedby.",
    expect="{name}, {role}, invalid, and the message",
)  # fmt: skip
def error_not_tied(page: Facts) -> Found:
    """Invalid fields without a message, and messages beside fields that do not refer to them.

    A message is known by its class; a text in red or of a class of errors that says what is wrong is one as well.
    """
    for node in page.fields:
        attributes = node.element.attributes
        if attributes.get("aria-invalid", "false").lower() not in ("false", ""):
            message = page.semantics.references(node.element, "aria-errormessage")
            if not node.description and not message:
                yield Finding(node.element, "invalid, and no message is tied to it")
    told: set[Element] = set()
    for element in sorted({*page.exposed_having("class"), *_red_texts(page)}, key=lambda each: each.order):
        if (_is_message(element) or _says_error(page, element)) and not _is_tied(page, element):
            field = _field_beside(page, element)
            if field is not None and collapse(element.text()) in field.name and element.tag not in _PLAIN_TEXT:
                continue  # it is the field's own label, whatever its class is called
            if field is not None and "aria-invalid" not in field.element.attributes and field.element not in told:
                told.add(field.element)
                yield Finding(field.element, f"beside it stands “{collapse(element.text())[:60]}”")


def _red_texts(page: Facts) -> Iterator[Element]:
    """The short texts in forms that are set in red."""
    seen: set[Element] = set()
    for field in page.fields:
        around = field.element.parent
        for _ in range(_AROUND_FIELD):
            if around is None or around in seen:
                break
            seen.add(around)
            for each in around.elements():
                inside = each.elements() if each.tag in ("ul", "ol") else (each,)
                yield from (text for text in inside if text.tag in _TEXTS and _is_seen_as_red(page, text))
            around = around.parent if around.tag not in _LARGE else None


def _is_seen_as_red(page: Facts, element: Element) -> bool:
    return page.is_exposed(element) and _is_red(page.looks.of(element).get("color", ""))


def _says_error(page: Facts, element: Element) -> bool:
    """Whether a short text says what is wrong with a field, in red or under a class of errors."""
    if element.tag not in _TEXTS or any(
        each.tag not in ("b", "br", "i", "strong", "svg") for each in element.elements()
    ):
        return False
    text = collapse(element.text())
    if not 2 < len(text) < _LONGEST_MESSAGE or not ERROR_WORDS.search(text) or FORM_INSTRUCTION.match(text):
        return False
    return bool(_ERROR_CLASSES.search(element.attributes.get("class", ""))) or _is_seen_as_red(page, element)


_MESSAGE_CLASSES = pattern(
    r"(?:^|[\s_-])(?:error|invalid-feedback|field-error|error-message|errormsg)(?:$|[\s_-])", re.I
)


_ERROR_CLASSES = pattern(
    r"(?:^|[\s_-])(?:text-(?:danger|error|red(?:-\d+)?)|danger|invalid|is-danger|has-error|errors?)(?:$|[\s_-])", re.I
)
_TEXTS = frozenset({"p", "span", "div", "small", "em", "strong", "b", "font", "li"})
_PLAIN_TEXT = frozenset({"em", "strong", "small", "b", "font"})
_LONGEST_MESSAGE, _AROUND_FIELD = 150, 3


def _is_message(element: Element) -> bool:
    if element.tag not in _TEXTS or any(True for _ in element.elements()):
        return False
    text = collapse(element.text())
    return 2 < len(text) < _LONGEST_MESSAGE and bool(_MESSAGE_CLASSES.search(element.attributes.get("class", "")))


def _is_tied(page: Facts, element: Element) -> bool:
    identifier = element.attributes.get("id")
    names = ("aria-describedby", "aria-errormessage", "aria-labelledby")
    return identifier is not None and any(page.refers(name, identifier) for name in names)


def _field_beside(page: Facts, element: Element) -> Node | None:
    """The only field that stands in the same parent as an element, or in a label, list or part beside it."""
    if element.parent is None:
        return None
    around = element.parent
    if around.tag in ("ul", "ol", "div") and around.parent is not None and _holds_only(around, element):
        around = around.parent
    beside = [each for each in around.elements() if each is not element]
    entered = [each for each in beside if each.tag in _ENTERED]
    if not entered and around.tag not in _LARGE and ERROR_WORDS.search(collapse(element.text())):
        inside = (inner for each in beside for inner in islice(each.descendants(), _FEW_INSIDE))
        entered = [inner for inner in inside if isinstance(inner, Element) and inner.tag in _ENTERED]
    nodes = (page.node(each) for each in entered)
    fields = [node for node in nodes if node is not None and node.role in FIELDS]
    return fields[0] if len(fields) == 1 else None


def _holds_only(around: Element, element: Element) -> bool:
    return all(each is element for each in around.elements()) and around.text().strip() == element.text().strip()


@checks.add(
    "error-without-advice", "Error does not say how to correct it", NEEDS_EARS, "3.3.3", "3.3.1",
    means="Listeners hear that something is wrong, but not how to correct it.",
    repair="Say what is expected and give an example.",
    expect="what is wrong and how to put it right",
)  # fmt: skip
def error_without_advice(page: Facts) -> Found:
    """Messages of a word or two, at fields and in alerts."""
    for node in page.fields:
        if node.description and BARE_ERRORS.match(node.description.strip()):
            yield Finding(node.element, f"“{node.description.strip()}”")
    for alert in page.nodes(("alert",)):
        for node in page.tree.nodes[alert.id + 1 : alert.end]:
            if node.is_text and BARE_ERRORS.match(node.name.strip()):
                yield Finding(node.element, f"“{node.name.strip()}”")
    for element in page.exposed_having("class"):
        if _is_message(element) and not _is_tied(page, element) and BARE_ERRORS.match(collapse(element.text())):
            yield Finding(element, f"“{collapse(element.text())}”")
    for element in page.having.get("data-error", ()):
        if BARE_ERRORS.match(element.attributes["data-error"].strip()):
            yield Finding(element, f"“{element.attributes['data-error'].strip()}”")


@checks.add(
    "instructions-after", "Instructions come after the field", NEEDS_EARS, "3.3.2", "1.3.2",
    means="Listeners hear the instructions only after they have filled in the field.",
    repair="Put the instructions before the form, or refer to them with aria-describedby.",
    expect="the instructions before the first field, or with their field",
)  # fmt: skip
def instructions_after(page: Facts) -> Found:
    """Texts in a form, after its first field, that say how to fill it in and are tied to no field."""
    for form in page.nodes(("form", "generic")):
        if form.element.tag != "form":
            continue
        fields = page.within(form, page.fields)
        for node in page.within(form, page.texts) if fields else ():
            is_late = node.id > fields[0].id and not any(
                above.role in ("label", "legend") for above in node.ancestors()
            )
            if is_late and FORM_INSTRUCTION.search(node.name) and not _describes(page, node):
                yield Finding(node.element, f"“{node.name.strip()[:60]}”")


def _describes(page: Facts, node: Node) -> bool:
    return any(_is_tied(page, element) for element in (node.element, *list(node.element.ancestors())[:2]))


def _personal_datum(node: Node) -> str | None:
    if node.role not in EDITS | {"combobox"} or node.element.tag not in ("input", "select", "textarea"):
        return None
    label = collapse(node.name.replace("*", ""))
    return next((datum for form, datum in _PERSONAL if form.match(label)), None)


@checks.add(
    "autocomplete-missing", "autocomplete is missing", NEEDS_EARS, "1.3.5",
    means="People have to type it each time. No program can fill it in or mark it with a familiar symbol.",
    repair="Add autocomplete with the matching token.",
    expect="{name}, {role}; and the browser offers to fill it in",
)  # fmt: skip
def autocomplete_missing(page: Facts) -> Found:
    """Fields whose label asks for a datum of WCAG 2.2 §7 (Input Purposes)."""
    for node in page.fields:
        datum = _personal_datum(node)
        if datum is not None and not datum_of(node.element.attributes.get("autocomplete", "")):
            if control_type(node.element) not in ("search", "hidden"):
                yield Finding(node.element, f'autocomplete="{datum}"')


@checks.add(
    "autocomplete-wrong", "autocomplete is unknown or does not fit the label", FAILS, "1.3.5",
    means="Browsers fill in the wrong value, or nothing.",
    repair="Use the token that matches the label.",
    expect="{name}, {role}; and the browser fills in what is asked for",
)  # fmt: skip
def autocomplete_wrong(page: Facts) -> Found:
    """HTML §4.10.18.7.1; another datum than the label's is for a person to judge."""
    for element in page.exposed_having("autocomplete"):
        value = element.attributes["autocomplete"]
        if element.tag not in ("input", "select", "textarea"):
            continue
        problem = problem_of_autocomplete(value)
        node = page.node(element)
        if problem is not None:
            yield Finding(element, problem)
        elif node is not None and datum_of(value):
            asked = _personal_datum(node)
            if asked is not None and not goes_with(asked, datum_of(value)):
                yield Finding(element, f"{datum_of(value)} at “{node.name.strip()[:40]}”", NEEDS_EARS)


@checks.add(
    "submit-missing", "Form without a submit button", NEEDS_EARS, "2.1.1", "3.2.2",
    means="Nothing after the last field says how to send the form.",
    repair="Add a submit button.",
    expect="at the end of the form: what sending does, then “button”",
)  # fmt: skip
def submit_missing(page: Facts) -> Found:
    """Forms with fields that no button submits (HTML §4.10.22.2); one field alone sends itself by Enter."""
    for form, controls in page.controls.items():
        fields = [each for each in controls if control_type(each) not in BUTTONS]
        if form is None or not fields or not page.is_exposed(form):
            continue
        if not any(_is_submit(each) for each in controls) and not any(each.tag == "button" for each in controls):
            yield Finding(form, f"{len(fields)} fields")


@checks.add(
    "submit-outside", "Submit button outside its form", NEEDS_EARS, "1.3.1", "1.3.2",
    means="Listeners who read to the end of the form do not reach the button.",
    repair="Move the button into the form, after its last field.",
    expect="the button after the last field",
)  # fmt: skip
def submit_outside(page: Facts) -> Found:
    """Submit buttons with a form attribute that stand elsewhere, or before the form's fields."""
    for form, controls in page.controls.items():
        if form is None:
            continue
        fields = [each for each in controls if not _is_submit(each) and each.tag != "button"]
        for button in controls:
            if _is_submit(button) and not form.contains(button):
                yield Finding(button)
            elif _is_submit(button) and fields and button.order < fields[0].order and len(fields) > 1:
                if sum(_is_submit(each) for each in controls) == 1:
                    yield Finding(button, "before the first field")


@checks.add(
    "forms-run-together", "Forms without a boundary", NEEDS_EARS, "1.3.1", "2.4.6",
    means="Listeners do not hear where one form ends and the next begins.",
    repair="Put a heading before each form, or name the forms.",
    expect="a heading, or “form” with its name, where the second begins",
)  # fmt: skip
def forms_run_together(page: Facts) -> Found:
    """Forms without a name that follow each other with no heading between their fields."""
    forms = [form for form in page.controls if form is not None and page.is_exposed(form)]
    forms.sort(key=lambda form: form.order)
    for before, form in pairwise(forms):
        node = page.node(form)
        here, there = page.fields_in(form), page.fields_in(before)
        if not here or not there or (node is not None and node.name.strip()):
            continue
        heading = page.heading_over(here[0])
        if heading is None or heading.id < there[-1].id:
            yield Finding(form)


@checks.add(
    "time-limit", "Time limit", NEEDS_EARS, "2.2.1", "2.2.6",
    means="Listening takes longer than reading by sight; the time may run out and the entries be lost.",
    repair="Let people switch off or extend the limit, and warn them before it ends.",
    expect="a warning in time, with a way to go on",
)  # fmt: skip
def time_limit(page: Facts) -> Found:
    """Text about one."""
    for node in page.texts:
        tells_time = "min" in node.name or "sec" in node.name or "Sek" in node.name
        if tells_time and TIME_LIMIT.search(node.name) and (page.roles.get("textbox") or page.roles.get("button")):
            yield Finding(node.element, f"“{node.name.strip()[:80]}”")


@checks.add(
    "format-unsaid", "Expected format is not said", NEEDS_EARS, "3.3.2",
    means="Listeners find out by trial which format is accepted.",
    repair="State the format in the label, or in text referred to by aria-describedby.",
    expect="{name} with the format, then “{role}”",
)  # fmt: skip
def format_unsaid(page: Facts) -> Found:
    """Fields with a pattern, and text fields for dates, whose name and description give no example or rule."""
    for node in page.fields:
        element = node.element
        if control_type(element) not in ("text", "tel", "password", "search"):
            continue
        wants = "pattern" in element.attributes or re.search(r"\bdate\b|\bdatum\b", node.name, re.I)
        said = f"{node.name} {node.description}"
        if wants and not node.description and not _tells_format(said):
            yield Finding(element, "pattern" if "pattern" in element.attributes else "a date")


def _tells_format(text: str) -> bool:
    return bool(
        re.search(r"\d|\b(?:as in|e\.g\.|for example|format|dd|mm|yyyy|day|digits?|letters?|characters?)\b", text, re.I)
    )
