"""Tab stops that hold nothing: one with a role is heard, one without is told in words; reading follows both."""

import pytest

from murvel.reader.moves.commands import command
from tests.support import session_of


@pytest.mark.parametrize(
    ("stop", "heard"),
    [
        ("<div role=region aria-label=Sheds tabindex=0></div>", "Sheds, region"),
        ("<div role=alert tabindex=0></div>", "alert"),
        ("<ul tabindex=0></ul>", "list"),
        ("<input role=article>", "article"),
        ("<div role=log tabindex=0 aria-label=News>Rain</div>", "log News, Rain"),
    ],
)
def test_an_empty_stop_with_a_role_is_heard(stop: str, heard: str) -> None:
    session = session_of(f"<p>Before</p>{stop}<p>After</p>")
    session.arrive()
    command(session, "first")
    assert command(session, "tab").text == heard
    assert command(session, "next").text.endswith("After")


@pytest.mark.parametrize(
    ("stop", "why"),
    [
        ("<div tabindex=0></div>", "which is empty and has no name"),
        ("<p tabindex=0></p>", "which is empty and has no name"),
        ("<a href=a aria-hidden=true>Way</a>", "which aria-hidden covers"),
    ],
)
def test_a_silent_stop_is_told_and_tab_goes_on_from_it(stop: str, why: str) -> None:
    session = session_of(f"<a href=b>Before</a>{stop}<a href=c>After</a>")
    session.arrive()
    command(session, "tab")
    command(session, "tab")
    assert session.log[-1].utterance.text == ""
    assert session.log[-1].notice.endswith(why)
    assert command(session, "tab").text == "After, link"
    command(session, "shift+tab")
    assert session.log[-1].notice.endswith(why)
    assert command(session, "shift+tab").text == "Before, link"


def test_what_only_scripts_focus_is_not_read_while_it_is_empty() -> None:
    session = session_of("<p>Before</p><div role=alert tabindex=-1></div><p>After</p>")
    assert [each.node.role for each in session.readout.objects] == ["text", "text"]
