"""The one error of the browser layer."""


class BrowserError(Exception):
    """A browser that cannot be started or asked. Its message is one sentence that says what to do."""
