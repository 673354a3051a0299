"""Selectors: which are valid, what they cost, which elements they match."""
