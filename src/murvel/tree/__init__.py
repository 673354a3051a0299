"""A Document in, its accessibility Tree out: roles, names with their traces, exposure, states, relations.

The tree is built once and never changed. It follows WAI-ARIA 1.2, HTML-AAM 1.0, AccName 1.2 and Core-AAM 1.2; the
facts of these documents are tables (roles, html_roles, attributes), their algorithms functions that bear their verbs.
"""
