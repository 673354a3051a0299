"""The one error of the page layer."""


class PageError(Exception):
    """A page that cannot be opened. Its message is one sentence that says what to do."""
