"""Roles: those of ARIA, and those that elements of HTML and SVG have."""
