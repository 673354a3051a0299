"""Markup in, a Document out: elements, their state beside attributes, places in the source."""
