"""What belonged to a page when it was kept: nothing is read from anywhere else."""

from __future__ import annotations

from collections.abc import Mapping

from murvel.loading.addresses import is_web_address, resolve
from murvel.loading.resources import NotReadError, Resource, Resources
from murvel.text import HTML_SPACE


class KeptResources(Resources):
    """The style sheets and frames that were read for a page once.

    Args:
        kept: their texts, by the addresses they came from at last.
    """

    why_not = "it was not kept with the take"

    def __init__(self, kept: Mapping[str, str]) -> None:
        super().__init__()
        self._kept = kept

    def resolve(self, base: str, reference: str) -> str:
        """Return the absolute address of a reference; on disk, one that begins with a slash is found by its end."""
        path = reference.strip(HTML_SPACE).replace("\\", "/")
        if path.startswith("/") and not path.startswith("//") and not is_web_address(base):
            return next((each for each in self._kept if each.endswith(path)), resolve(base, reference))
        return resolve(base, reference)

    def _sheet(self, address: str) -> Resource:
        return self._found(address)

    def _frame(self, address: str) -> Resource:
        return self._found(address)

    def _found(self, address: str) -> Resource:
        plain = address.partition("#")[0]
        text = self._kept.get(plain)
        if text is None:
            raise NotReadError(self.why_not)
        self.texts[plain] = text
        return Resource(text, plain)
