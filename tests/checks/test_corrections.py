"""Corrections: the start tag as it would be right, for every check that knows how; what is corrected is not noticed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from murvel.checks.engine.catalogue import built_in
from murvel.checks.engine.corrections import CORRECTIONS, corrected
from murvel.checks.engine.run import leads_of
from tests.support import session_of


@pytest.mark.parametrize(
    ("check", "before", "after"),
    [
        ("image-says-file", '<img src=a.png alt="a.png" width=4>', '<img src=a.png width=4 alt="what the image tells">'),
        ("image-unnamed", "<img src=a.png/>", '<img src=a.png alt="what the image tells" />'),
        ("image-decoration-heard", "<IMG ALT='line' src=l.png>", '<IMG src=l.png alt="">'),
        ("tabindex-positive", "<a href=x TabIndex = 3>x", "<a href=x tabindex=0>"),
        ("click-not-reached", '<span class="b" onclick="go(1 > 0)">Apply</span>', '<button class="b" onclick="go(1 > 0)" type=button>'),
        ("role-redundant", "<button role=button>", "<button>"),
        ("language-missing", "<html>", "<html lang=en>"),
        ("required-unsaid", "<input name=a>", "<input name=a required>"),
        ("name-not-allowed", "<p aria-label='a b' id=aria-label>", "<p id=aria-label>"),
    ],
)  # fmt: skip
def test_what_is_corrected(check: str, before: str, after: str) -> None:
    found = corrected(check, before)
    assert found is not None
    assert found[1] == after


def test_nothing_is_corrected_that_nobody_knows_how_to() -> None:
    assert corrected("heading-empty", "<h1>") is None
    assert corrected("image-unnamed", "") is None
    assert corrected("role-redundant", "<button>") is None
    assert set(CORRECTIONS) <= {check.id for check in built_in()}


@pytest.mark.parametrize(
    "markup",
    [
        "<img src=a.png>", "<button></button>", "<a href=x tabindex=4>x</a>", "<p aria-label=x>a</p>", "<iframe srcdoc=x></iframe>",
        "<button role=button>a</button>", "<div role=nonsense>x</div>", "<video autoplay controls src=a></video>", "<html><p>a",
    ],
)  # fmt: skip
def test_what_is_corrected_is_not_noticed_any_more(markup: str) -> None:
    leads = [lead for lead in leads_of(session_of(markup), built_in()) if lead.check.id in CORRECTIONS]
    assert leads
    for lead in leads:
        found = corrected(lead.check.id, lead.page.document.snippet(lead.element))
        if found is None:
            continue
        again = leads_of(session_of(markup.replace(*found)), [lead.check])
        assert [each.says for each in again] == []


@given(st.sampled_from(sorted(CORRECTIONS)), st.text(alphabet="<>ab =\"'/", max_size=40))
def test_any_source_is_taken(check: str, source: str) -> None:
    found = corrected(check, source)
    assert found is None or (source.startswith(found[0]) and found[0] != found[1])
