"""What a person does with a page and a casebook: open, judge, document, edit, delete, take back.

A `Work` is both together; the application and the line mode drive it, and decide nothing of their own.
"""
