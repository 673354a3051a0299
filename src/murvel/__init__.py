"""Murvel lets a tester hear a page with their eyes.

The packages are the steps of the work, each importing only those before it: errors, page (bytes to a document with its
styles), files (settings and what is written), tree (a document to its accessibility tree), stage (what a page runs on),
reader (a tree to what is announced), browser (what a real one exposes), checks (what is noticed), survey (lists to be
judged), casebook (what is kept), work (what a person does with both), report (what leaves), demo, and the two faces,
tui and cli.
"""

__version__ = "0.1.0"
