"""The one error of the report layer."""


class ReportError(Exception):
    """A report that cannot be written. Its message is one sentence that says what to do."""
