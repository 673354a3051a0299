"""The built-in stage: a page behaves as HTML alone makes it, with cues in place of its scripts.

A page's markup and keys go in, trees come out.
"""
