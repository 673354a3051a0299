"""Murvel lets a tester hear a page with their eyes.

The packages are the steps of the work, each importing only those before it: page (bytes to a document), tree (a
document to its accessibility tree), reader (a tree to what is announced), casebook (what is kept), report (what
leaves), and the two faces, cli and tui.
"""
