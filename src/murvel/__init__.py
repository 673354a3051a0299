"""Murvel lets a tester hear a page with their eyes.

The packages are the steps of the work; each imports only those before it. On the ground stand `errors` and `text`.
`loading` fetches bytes, `dom` makes a document of them, `css` gives it styles, `page` is all of that together. `files`
reads settings and writes files. `tree` is the accessibility tree, `stage` what a page runs on, `browser` a real one.
`reader` says what is announced. `checks` notice, `survey` lists what a person judges, `drills` work widgets, `walks`
are made again. `casebook` keeps, `retest` compares takes, `work` is what a person does, `report` what leaves. `demo` is
the example; `tui` and `cli` are the two faces. docs/architecture.md has more.
"""

__version__ = "0.1.0"
