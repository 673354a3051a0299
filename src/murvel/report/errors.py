"""The one error of the report layer."""

from __future__ import annotations

from murvel.errors import MurvelError


class ReportError(MurvelError):
    """A report that cannot be written. Its message is one sentence that says what to do."""
