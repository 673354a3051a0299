"""The one error of the page layer."""

from __future__ import annotations

from murvel.errors import MurvelError


class PageError(MurvelError):
    """A page that cannot be opened. Its message is one sentence that says what to do."""


class CredentialsError(PageError):
    """A page that wants a user name and password.

    Attributes:
        origin: the origin that wants them.
    """

    def __init__(self, origin: str, message: str) -> None:
        super().__init__(message, "put them into the address, as http://USER@HOST/, or into the file .netrc.")
        self.origin = origin
