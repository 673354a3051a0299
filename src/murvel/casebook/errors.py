"""The one error of the casebook layer."""


class CasebookError(Exception):
    """A casebook that cannot be opened or written. Its message is one sentence that says what to do."""
