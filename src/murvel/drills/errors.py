"""The one error of the layer of drills."""

from murvel.errors import MurvelError


class DrillError(MurvelError):
    """A drill that cannot be run. Its message is one sentence that says what to do."""
