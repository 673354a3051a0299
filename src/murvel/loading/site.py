"""What a page on disk may read: the files of its site, and of those nothing that is kept beside a site.

The one rule for both stages. A folder of work holds more than a site: secrets, keys, databases, archives of sources. No
page needs them, and the scripts of a page that is not trusted must not get them.
"""

from __future__ import annotations

from collections.abc import Sequence
from fnmatch import fnmatchcase
from pathlib import Path

from murvel.loading.addresses import shown
from murvel.loading.kinds import kind_of_bytes
from murvel.loading.resources import NotReadError

MAX_BYTES = 64 * 1024 * 1024
"""The largest file that is read."""

_HIDDEN = "files and folders that begin with a dot are kept from pages"
_KEY = "keys and certificates are kept from pages"
_DATABASE = "databases are kept from pages"
_ARCHIVE = "archives are kept from pages"
_SOURCE = "sources and settings of programs on the server are kept from pages"
_EXCLUDED = "murvel.toml excludes it"

_ENDINGS = {
    _KEY: "pem key p12 pfx p8 jks keystore kdbx kdb ppk gpg crt cer der pub ovpn age",
    _DATABASE: "db db3 sqlite sqlite3 sdb mdb accdb dump sql bak murvel ldb rdb frm ibd",
    _ARCHIVE: "zip tar gz tgz bz2 tbz xz txz zst 7z rar jar war ear whl egg gem deb rpm phar iso dmg",
    _SOURCE: "env ini conf cfg toml htpasswd htaccess netrc npmrc pgpass tfstate tfvars php py rb pyc",
}
_REASONS = {ending: reason for reason, endings in _ENDINGS.items() for ending in endings.split()}

_COPIES = frozenset({"bak", "old", "orig", "copy", "tmp", "save", "swp", "txt"})
"""Endings behind the one that counts, as in data.sqlite.old."""

_NAMES = {
    **dict.fromkeys(("id_rsa", "id_dsa", "id_ecdsa", "id_ed25519", "authorized_keys", "known_hosts"), _KEY),
    **dict.fromkeys(("credentials", "secrets.json", "secrets.yml", "secrets.yaml", "credentials.json"), _KEY),
    **dict.fromkeys(("makefile", "dockerfile", "docker-compose.yml", "docker-compose.yaml"), _SOURCE),
}
"""Files that are known by their whole name, in lower case."""

_KINDS = {"a database": _DATABASE, "an archive": _ARCHIVE, "a compressed file": _ARCHIVE}
"""What bytes that begin as these are, whatever a file is called (`murvel.loading.kinds`)."""

_PRIVATE_KEY = b"PRIVATE KEY"
_ZIP = b"PK\x03\x04"
_HEAD = 256


class Site:
    """A folder with pages and what belongs to them.

    Args:
        root: the real path of the folder.
        excluded: patterns of paths below it that are kept from pages, as "drafts/*" or "*.csv".
        settings: the name of the settings that name the root; empty where a person did, or nobody.
    """

    def __init__(self, root: Path, excluded: Sequence[str] = (), settings: str = "") -> None:
        self.root = root
        self._settings = settings
        self._excluded = tuple(excluded)

    def read(self, path: Path, endings: tuple[str, ...] = ("",)) -> bytes:
        """Return the bytes of a file.

        Args:
            path: as a page named it; links are followed, and what they lead to counts.
            endings: of the files that are wanted, in lower case.

        Raises:
            NotReadError: a page may not have it, or it cannot be read.
        """
        try:
            real = path.resolve()
            if not real.is_relative_to(self.root):
                raise NotReadError(
                    f"it is not in {shown(str(self.root))}; name a folder that holds both with --root, if you trust it"
                )
            # The name that was asked for counts as well as the one that a link leads to.
            for each in (real, path):
                reason = self._why_kept(each)
                if reason:
                    raise NotReadError(reason)
            if not real.name.lower().endswith(endings):
                raise NotReadError(f"only {', '.join(endings)} files are")
            if not real.is_file():
                raise NotReadError("there is no such file")
            with real.open("rb") as stream:
                data = stream.read(MAX_BYTES + 1)
        except (OSError, ValueError, RuntimeError) as error:
            reason = getattr(error, "strerror", None) or "its address is broken"
            raise NotReadError(reason[:1].lower() + reason[1:]) from error
        if len(data) > MAX_BYTES:
            raise NotReadError(f"it is larger than {MAX_BYTES // 2**20} MB")
        reason = _why_kept_by_content(data)
        if reason:
            raise NotReadError(reason)
        return data

    def note(self) -> str:
        """Return a sentence with the root, where settings name it and no person did; else an empty one."""
        if not self._settings:
            return ""
        return f"What belongs to the page is read from {shown(str(self.root))}, as {self._settings} says."

    def is_folder(self, path: Path) -> bool:
        """Whether a path is a folder of the site that a page may know of."""
        real = path.resolve()
        return real.is_relative_to(self.root) and not self._why_kept(real) and real.is_dir()

    def is_missing(self, path: Path) -> bool:
        """Whether a path would be in the site, and nothing is there."""
        try:
            real = path.resolve()
            return real.is_relative_to(self.root) and not self._why_kept(real) and not real.exists()
        except (OSError, ValueError, RuntimeError):
            return True

    def _why_kept(self, path: Path) -> str:
        """Return why a page may not have a file, by its path; empty if it may."""
        parts = path.relative_to(self.root).parts if path.is_relative_to(self.root) else ()
        if any(part.startswith(".") and part not in (".", "..") for part in parts):
            return _HIDDEN
        below = "/".join(parts)
        if any(_matches(below, pattern) for pattern in self._excluded):
            return _EXCLUDED
        name = parts[-1].lower() if parts else ""
        if name in _NAMES:
            return _NAMES[name]
        endings = name.rstrip("~").split(".")[1:]
        while len(endings) > 1 and (endings[-1] in _COPIES or endings[-1].isdecimal()):
            endings.pop()
        return _REASONS.get(endings[-1], "") if endings else ""


def _matches(below: str, pattern: str) -> bool:
    """Whether a path below a root is meant by a pattern; one that names a folder means all that is in it."""
    pattern = pattern.strip("/").removeprefix("./")
    return any(fnmatchcase(below, each) for each in (pattern, f"{pattern}/*", f"*/{pattern}", f"*/{pattern}/*"))


def _why_kept_by_content(data: bytes) -> str:
    head = data[:_HEAD]
    if head.lstrip().startswith(b"-----BEGIN") and _PRIVATE_KEY in head:
        return _KEY
    if head.startswith(_ZIP):
        return _ARCHIVE
    return _KINDS.get(kind_of_bytes(head) or "", "")
