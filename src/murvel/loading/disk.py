"""Pages on disk: the file that is meant, the root of the site it belongs to, and what is read of it for a page."""

from __future__ import annotations

from pathlib import Path
from urllib.parse import unquote, urlsplit

from murvel.errors import did_you_mean
from murvel.loading.addresses import STANDARD_INPUT, is_web_address, resolve, shown
from murvel.loading.errors import PageError
from murvel.loading.resources import FRAME_ENDINGS, SHEET_ENDINGS, NotReadError, Resource, Resources
from murvel.loading.settings import settings_for
from murvel.loading.site import MAX_BYTES, Site
from murvel.text import HTML_SPACE, visible

INDEX_NAMES = ("index.html", "index.htm", "index.xhtml")


def page_file(address: str) -> Path:
    """Return the real path of the page that a path, a file: address or a folder means.

    Raises:
        PageError: it is no usable path, or a folder without an index.
    """
    try:
        path = named_path(address)
        if path.is_dir():
            for name in INDEX_NAMES:
                if (path / name).is_file():
                    return (path / name).resolve()
            raise PageError(f"The folder {shown(str(path))} has no index.html", "name the page itself.")
        return path.resolve()
    except (OSError, ValueError, RuntimeError) as error:
        reason = visible(getattr(error, "strerror", None) or str(error))
        raise PageError(f"{shown(address)} is not a usable path ({reason})", "check its spelling.") from error


def named_path(address: str) -> Path:
    """Return the path that a path or a file: address names, as it stands."""
    return Path(unquote(urlsplit(address).path) if address.lower().startswith("file:") else address).expanduser()


def read_page(path: Path) -> bytes:
    """Return the bytes of a page, one more than `MAX_BYTES` at most.

    Raises:
        PageError: it is not there, or cannot be read.
    """
    name = shown(str(path))
    try:
        if not path.exists():
            beside = [each.name for each in path.parent.iterdir()] if path.parent.is_dir() else []
            raise PageError(f"There is no file {name}", did_you_mean(path.name, beside, "check the path."))
        if not path.is_file():
            raise PageError(f"{name} is not a file", "give a page, a folder, - or an http(s) address.")
        with path.open("rb") as stream:
            return stream.read(MAX_BYTES + 1)
    except OSError as error:
        raise PageError(f"{name} cannot be read ({error.strerror})", "check its permissions.") from error


def site_of(page: Path, given: Path | None = None, folder: Path | None = None) -> Site:
    """Return the site that a page belongs to; nothing outside of its root is read for the page.

    The root is the one that was given; else the folder that was given as the page; else what the nearest settings at
    or above the page name; else the page's own folder. Nothing wider is guessed: a folder of work holds more than
    its pages.

    Args:
        page: the page's real path.
        given: the root that a person named.
        folder: the folder that was named in place of the page.

    Raises:
        PageError: the page does not lie in the root that was given, or the folder; or settings cannot be used.
    """
    settings = settings_for(page.parent)
    for root in (given, folder):
        if root is not None:
            real = root.expanduser().resolve()
            if not page.is_relative_to(real):
                raise PageError(
                    f"{shown(str(page))} is not in the folder {shown(str(real))}",
                    "name the folder that holds the page, and all it refers to, with --root.",
                )
            return Site(real, settings.excluded)
    named = settings.root
    if named is None or not page.is_relative_to(named):
        return Site(page.parent, settings.excluded)
    return Site(named, settings.excluded, settings.name if named != page.parent else "")


class FolderResources(Resources):
    """What belongs to a page on disk: the files in its root."""

    def __init__(self, site: Site) -> None:
        super().__init__()
        self._site = site
        self.root = site.root

    def note(self) -> str:
        """Return which folder files are read from, where settings name it."""
        return self._site.note()

    def resolve(self, base: str, reference: str) -> str:
        """Return the absolute address of a reference; one that begins with a slash is looked up in the root."""
        reference = reference.strip(HTML_SPACE)
        path, mark, rest = _parted(reference)
        if is_web_address(base):
            return resolve(base, reference)
        if base == STANDARD_INPUT:
            base = f"{self.root.as_uri()}/"
        path = path.replace("\\", "/")  # URL Standard §4.4: a backslash is a slash in a file: address
        if path.startswith("/") and not path.startswith("//"):
            path = self.root.as_uri().rstrip("/") + path
        return resolve(base, path + mark + rest)

    def is_missing(self, address: str) -> bool:
        """Whether an address names a file of the site that is not there."""
        try:
            parts = urlsplit(address)
        except ValueError:
            return True
        return parts.scheme == "file" and not parts.netloc and self._site.is_missing(Path(unquote(parts.path)))

    def _sheet(self, address: str) -> Resource:
        return self._read(address, SHEET_ENDINGS)

    def _frame(self, address: str) -> Resource:
        return self._read(address, FRAME_ENDINGS)

    def _read(self, address: str, endings: tuple[str, ...]) -> Resource:
        """Read a file of the site."""
        try:
            parts = urlsplit(address)
        except ValueError as error:
            raise NotReadError("its address is broken") from error
        if parts.scheme in ("http", "https"):
            raise NotReadError("it is on the web and the page is a file; open the page by its address on the web")
        if parts.scheme != "file" or parts.netloc:
            raise NotReadError("it is not a file")
        data = self._site.read(Path(unquote(parts.path)), endings)
        return self._take(data, None, address.partition("#")[0])


def _parted(reference: str) -> tuple[str, str, str]:
    """A reference's path, and what follows it with the mark before that."""
    at = next((at for at, character in enumerate(reference) if character in "?#"), len(reference))
    return reference[:at], reference[at : at + 1], reference[at + 1 :]
