"""What goes wrong with checks."""


class CheckError(Exception):
    """A check, a configuration or a baseline cannot be used; the message is one sentence that says what to do."""
