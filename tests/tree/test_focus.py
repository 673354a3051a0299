"""Tab stops: which elements, and in which order."""

import pytest

from murvel.tree.focus import tab_index
from tests.support import document_of, element, tree_of


@pytest.mark.parametrize(
    ("markup", "stops"),
    [
        ("<a href=x id=a>x</a><a id=b>x</a><button id=c></button><input id=d><p id=e tabindex=0>x", "a c d e"),
        ("<input id=a tabindex=2><input id=b><input id=c tabindex=1><input id=d tabindex=1>", "c d a b"),
        ("<input id=a tabindex=-1><input id=b tabindex=x><input id=c tabindex='1px'>", "c b"),
        ("<input id=a disabled><fieldset disabled><legend><input id=b></legend><input id=c></fieldset>", "b"),
        ("<input type=hidden id=a><input id=b hidden><input id=c style='visibility:hidden'><input id=d>", "d"),
        ("<details><summary id=a>s</summary><input id=b></details><details open><summary id=c>s</summary><input id=d>", "a c d"),
        ("<input type=radio name=n id=a><input type=radio name=n id=b checked><input type=radio name=n id=c>", "b"),
        ("<input type=radio name=n id=a><input type=radio name=m id=b><input type=radio id=c><input type=radio id=d>", "a b c d"),
        ("<form><input type=radio name=n id=a></form><form><input type=radio name=n id=b></form>", "a b"),
        ("<div contenteditable id=a>x</div><div contenteditable=false id=b>x</div><iframe id=c></iframe>", "a c"),
        ("<audio controls id=a></audio><video id=b></video>", "a"),
        ("<div inert><input id=a></div><div aria-hidden=true><p>x</p></div><select id=b><option>x</select>", "b"),
        ("<map name=m><area href=x id=a></map><a href=y id=b>y</a><img src=x alt=I usemap=#m>", "a b"),
        ("<map name=m><area href=x id=a><a href=y id=b>y</a></map><img src=x alt=I usemap=#m hidden>", "b"),
        ("<button id=a tabindex=0 disabled>x</button><div role=button id=b>x</div>", ""),
    ],
)  # fmt: skip
def test_stops(markup: str, stops: str) -> None:
    assert " ".join(node.element.get("id") or "?" for node in tree_of(markup).stops) == stops


@pytest.mark.parametrize(
    ("value", "index"),
    [
        ("0", 0),
        ("-1", -1),
        (" 5", 5),
        ("+3", 3),
        ("2.9", 2),
        ("x", None),
        ("", None),
        ("-", None),
        ("9" * 12, None),
        ("٣", None),
    ],
)
def test_the_value_of_tabindex(value: str, index: int | None) -> None:
    assert tab_index(element(document_of(f"<p tabindex='{value}'>"), "p")) == index
