"""Cue files: what they say, and what is said of those that cannot be used."""

from pathlib import Path

import pytest

from murvel.stage.errors import StageError
from murvel.stage.html.cues import read_cues
from murvel.stage.open_stage import cues_beside
from tests.support import problems_of, staged


def test_a_file_of_cues(tmp_path: Path) -> None:
    path = tmp_path / "a.cues.yaml"
    path.write_text(
        "cues:\n  - when: 3s\n    do: [{title: x}]\n  - when: activate\n    where: b\n    after: 0.5\n    do: []"
    )
    first, second = read_cues(path)
    assert (first.when, first.do[0].title) == (3.0, "x")
    assert (second.when, second.where, second.after) == ("activate", "b", 0.5)
    assert cues_beside(str(tmp_path / "a.html")) == path
    assert cues_beside(str(tmp_path / "b.html")) is None


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("cues: [", "is no YAML"),
        ("cues: 3", "usable: cues: "),
        ("other: []", "usable: cues: "),
        ("cues: [{when: never, do: []}]", "usable: cues.0.when"),
        ("cues: [{when: load, do: [{jump: x}]}]", "usable: cues.0.do.0"),
        ("cues: [{when: load, do: [{show: a, hide: b}]}]", "a change is one of"),
        ("cues: [{when: load, do: [{class: {where: a}}]}]", "either added or removed"),
        ("cues: [{when: load, after: -1, do: []}]", "usable: cues.0.after"),
        ("cues: [{when: load, do: [{set: {where: a, attribute: 'a b'}}]}]", "attribute"),
        ("cues: !!python/object/apply:os.system [ls]", "is no YAML"),
        ("cues: [{when: 2001-01-01, do: []}]", "usable: cues.0.when"),
        ("cues: !!int abc", "is no YAML"),
        (f"cues: [{{when: {'9' * 5000}, do: []}}]", "is no YAML"),
        ("a: &a [x]\ncues: [*a, *a]", "it has an alias"),
        ("[" * 5000, "is no YAML"),
        ("cues: !!bool abc", "is no YAML: 'abc' is no bool"),
        ("cues: !!timestamp abc", "is no YAML: 'abc' is no timestamp"),
        ("cues: !!int abc", "is no YAML: 'abc' is no int"),
        ("cues: !!binary é", "is no YAML"),
        ("cues: !!python/object:os.system x", "is no YAML"),
    ],
)
def test_what_is_wrong_with_a_file(tmp_path: Path, text: str, said: str) -> None:
    path = tmp_path / "a.cues.yaml"
    path.write_text(text)
    with pytest.raises(StageError, match="cue file") as caught:
        read_cues(path)
    assert said in str(caught.value)
    assert "\n" not in str(caught.value)


def test_a_missing_file(tmp_path: Path) -> None:
    with pytest.raises(StageError, match="cannot be read"):
        read_cues(tmp_path / "none.yaml")


def test_lone_surrogates_do_not_come_in(tmp_path: Path) -> None:
    path = tmp_path / "a.cues.yaml"
    path.write_text('cues: [{when: load, do: [{text: {where: p, to: "\\ud800x"}}]}]')
    change = read_cues(path)[0].do[0]
    assert change.text is not None
    assert change.text.to == "\ufffdx"


@pytest.mark.parametrize(
    ("where", "told"),
    [("b", False), ("i", True), ("b[aria-expanded=true]", False), ("b:checked", False), ("i[hidden]", True)],
)
def test_a_cue_for_a_place_that_is_nowhere_is_told(where: str, told: bool) -> None:
    session = staged("<p>x<b id=o>y</b>", f"cues: [{{when: activate, where: '{where}', do: [{{hide: p}}]}}]")
    assert any(where in problem for problem in problems_of(session.tree.document)) is told
