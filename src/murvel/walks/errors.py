"""The one error of the layer of walks."""

from murvel.errors import MurvelError


class WalkError(MurvelError):
    """A walk that cannot be read or made. Its message is one sentence that says what to do."""
