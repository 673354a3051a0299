"""The errors of the layer of drills."""

from murvel.errors import MurvelError


class DrillError(MurvelError):
    """A drill that cannot be run. Its message is one sentence that says what to do."""


class NotReachedError(Exception):
    """A widget that could not be reached, so that a drill concludes nothing. Its text says why, as a clause."""
