"""Pages that scripts make are told from pages that are there."""

import pytest

from murvel.loading.problems import ProblemKind, in_few_lines
from murvel.page.open_page import document_from_text
from tests.support import problems_of

SCRIPT = "<script src=app.js></script>"
WORDS = "<h1>Plots to let</h1><p>" + "Ninety plots on the old mill meadow wait for you. " * 10


@pytest.mark.parametrize(
    ("markup", "reason"),
    [
        (f"<div id=root></div>{SCRIPT}", "its element #root is empty"),
        (f"<div id=app> <!-- filled later --> </div><script>start()</script>{WORDS}", "its element #app is empty"),
        (f"<div id=root><p>Loading...</div>{SCRIPT}", "it has one word"),
        (f"<noscript>You need to enable JavaScript.</noscript><div id=x></div>{SCRIPT}", "it says that it needs JavaScript"),
        (f"<body><noscript><p>Scripts are off.</noscript><div></div>{SCRIPT}", "it says that it needs JavaScript"),
        ("<allotment-app></allotment-app><script type=module>import './a.js'</script>", "its element allotment-app is empty"),
        (f"<p>Plots</p>{'<plot-row></plot-row>' * 3}{SCRIPT}", "3 of its own elements are empty"),
        (f"{WORDS}{'<plot-row></plot-row>' * 12}{SCRIPT}", "12 of its own elements are empty"),
        # Pages that are there.
        (f"{WORDS}{SCRIPT}", None),
        (f"{WORDS}<div id=root></div>", None),
        ("<div id=root></div><script type='application/ld+json'>{}</script>", None),
        ("<div id=root></div><script></script>", None),
        ("<p>Hi", None),
        (f"<div id=root>{WORDS}</div><noscript>This page works better with JavaScript.</noscript>{SCRIPT}", None),
        (f"<plot-row><template shadowrootmode=open>{WORDS}</template></plot-row>{SCRIPT}{WORDS}", None),
        (f"{WORDS * 3}{'<plot-icon></plot-icon>' * 12}{SCRIPT}", None),
        (f"{WORDS}<plot-icon aria-label=Water></plot-icon>{SCRIPT}", None),
        (f"<noscript><img src=count.gif alt=''></noscript>{WORDS}{SCRIPT}", None),
        (f"<form>{'<label>Plot <input></label>' * 5}</form>{SCRIPT}", None),
    ],
)  # fmt: skip
def test_pages_that_scripts_make(markup: str, reason: str | None) -> None:
    document = document_from_text(markup).document
    told = [each.text for each in document.problems if each.kind is ProblemKind.SCRIPTS]
    if reason is None:
        assert told == []
    else:
        assert len(told) == 1
        assert f"which do not run here: {reason}. What is judged is the page before its scripts" in told[0]


def test_rules_that_are_not_understood_are_told_in_one_line() -> None:
    document = document_from_text("<style>p:odd{display:none} b:even{display:none}</style><p>x").document
    assert len(problems_of(document)) == 2
    (line,) = in_few_lines(document.problems)
    assert line.endswith("is not understood (and 1 more of the kind).")
