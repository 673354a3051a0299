"""Where Tab goes by real keys in a browser: what keeps it, and what it passes by (WCAG 2.2, 2.1.1 and 2.1.2)."""

from __future__ import annotations

from murvel.checks.engine.check import FAILS, NEEDS_EARS, Checks, Finding, Found, Topic, Trait
from murvel.checks.engine.facts import Facts

checks = Checks(Topic.KEYBOARD)


@checks.add(
    "tab-kept", "Tab does not leave it", FAILS, "2.1.2",
    means="People who use the keyboard are caught here, and do not come to what follows.",
    repair="Let Tab go on; use other keys inside a widget.",
    expect="after Tab: the next stop",
    needs_browser=True,
)  # fmt: skip
def tab_kept(page: Facts) -> Found:
    """A stop that Tab was pressed at a dozen times and came to nothing new. Dialogs are left to
    drills, and frames have stops of their own. Where Escape lets Tab go on, the page has to tell that (2.1.2), and a
    person judges whether it does."""
    if page.tabbed is not None and page.tabbed.kept is not None and page.node(page.tabbed.kept) is not None:
        is_freed = page.tabbed.is_freed
        detail, certainty = ("after Escape it does; is that told?", NEEDS_EARS) if is_freed else ("", None)
        yield Finding(page.tabbed.kept, detail, certainty)


@checks.add(
    "tab-passes-by", "Tab does not come to it by real keys", NEEDS_EARS, "2.1.1",
    means="Its markup makes it a Tab stop, and pressing Tab led past it: a script or another element takes the focus.",
    repair="Do not move the focus on focus or blur, and let Tab take its course.",
    expect="{name}, {role}, at a Tab stop",
    traits=[Trait.NOT_REACHED],
    needs_browser=True,
)  # fmt: skip
def tab_passes_by(page: Facts) -> Found:
    """The Tab stops of the tree that Tab did not come to on its way through the whole page."""
    for element in page.tabbed.missed if page.tabbed is not None else ():
        if page.node(element) is not None:
            yield Finding(element)
