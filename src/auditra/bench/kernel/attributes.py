"""Files of the kernel's tree, read one at a time: each may be absent, refuse, vanish, or hold anything.

What cannot be read is None and never a guess; why it could not be is kept. No path is followed out of the root,
whichever part of it is a link: neither is anything read there, nor are its names told.
"""

from __future__ import annotations

import contextlib
import errno
import os
import re
from pathlib import Path

from auditra.core.host.snapshot import Flaw
from auditra.core.sanitize import sanitize

MAX_ATTRIBUTE_BYTES = 4096
MAX_ENTRIES = 4096
MAX_FLAWS = 400
_LEADS_OUT = "it leads out of this tree"
_NO_NUMBER_KNOWN = ("unknown", "N/A")
_ABSENT = {errno.ENOENT, errno.ENOTDIR}
_NO_VALUE_NOW = {errno.EINVAL, errno.ENODATA, errno.EAGAIN, errno.EOPNOTSUPP}
"""The kernel's own ways of saying that there is nothing to say in this state."""
_WORDS = {
    errno.EACCES: "it may not be read", errno.EPERM: "it may not be read", errno.ENODEV: "it went while it was read",
    errno.EIO: "the kernel could not read it", errno.EISDIR: "a folder where a file belongs",
    errno.ELOOP: "a link where a file belongs, or links that go in a circle",
}  # fmt: skip
_DECIMAL = re.compile(r"-?[0-9]{1,30}(?:\.[0-9]{1,12})?")
_INTEGER = re.compile(r"-?[0-9]+")
_BEYOND = 1 << 64
"""The kernel keeps no number of more bits."""
_NO_RATE = {0xFFFF, 0xFFFF_FFFF}
"""How -1 (SPEED_UNKNOWN) is written where 16 or 32 bits without a sign were printed. Source: Linux, ethtool.h."""
_DIGITS = re.compile("([0-9]+)")
_HEXADECIMAL = re.compile(r"(?:0x)?[0-9a-fA-F]{1,16}")
_CHOSEN = re.compile(r"\[([^\]]{1,60})\]")
_READ = os.O_RDONLY | os.O_NOFOLLOW | os.O_CLOEXEC | os.O_NONBLOCK
"""A named pipe in a copied tree must not hold anybody up."""


def in_order(name: str) -> tuple[tuple[str, int], ...]:
    """Sorts names by the numbers in them: ``port2`` before ``port10``."""
    parts = _DIGITS.split(name)
    numbers = [*parts[1::2], "0"]
    return tuple((text, int(number)) for text, number in zip(parts[::2], numbers, strict=True))


class Attributes:
    """The files below a root, with what was wrong with them."""

    def __init__(self, root: Path) -> None:
        self.root = os.path.realpath(root)
        self._flaws: dict[str, Flaw] = {}
        self._real_folders: dict[str, str] = {}
        self._inner_folders: dict[str, str | None] = {}

    @property
    def flaws(self) -> tuple[Flaw, ...]:
        return tuple(self._flaws.values())

    def flaw(self, path: str, why: str) -> None:
        if len(self._flaws) < MAX_FLAWS:
            below = sanitize(os.path.relpath(path, self.root), 160)
            self._flaws.setdefault(below, Flaw(below, why))

    def has(self, below: str) -> bool:
        return self._inside(os.path.join(self.root, below)) is not None and os.path.isdir(f"{self.root}/{below}")

    def entries(self, below: str) -> list[str]:
        """The names in a folder, in order; none where it is not there. `below` is under the root, or a whole path."""
        path = self._inside(os.path.join(self.root, below))
        if path is None:
            return []
        try:
            names = sorted(os.listdir(path), key=in_order)
        except OSError as error:
            self._say(path, error)
            return []
        if len(names) > MAX_ENTRIES:
            self.flaw(path, f"{len(names)} entries, of which {MAX_ENTRIES} were read")
        return names[:MAX_ENTRIES]

    def home(self, below: str, name: str) -> str | None:
        """Where an entry of a class or bus really is; None for one that leaves the root, loops, or is gone."""
        path = f"{self._real(f'{self.root}/{below}')}/{name}"
        place = self._resolved(path)
        if not self._is_below_root(place):
            self.flaw(f"{self.root}/{below}/{name}", _LEADS_OUT)
            return None
        if not os.path.isdir(place):
            self.flaw(path, "its links go in a circle" if os.path.islink(place) else "it went while it was read")
            return None
        self._inner_folders[place] = place
        return place

    def _resolved(self, path: str) -> str:
        """A path with its links followed. Most entries are one link into a folder that was met before."""
        with contextlib.suppress(OSError):
            path = os.path.normpath(os.path.join(os.path.dirname(path), os.readlink(path)))
        path = f"{self._real(os.path.dirname(path))}/{os.path.basename(path)}"
        return os.path.realpath(path) if os.path.islink(path) else path

    def _is_below_root(self, place: str) -> bool:
        return place == self.root or place.startswith(self.root + os.sep)

    def _inside(self, folder: str) -> str | None:
        """Where a folder really is; None for one that is not below the root, which is told."""
        if folder not in self._inner_folders:
            place = self._real(folder)
            self._inner_folders[folder] = place if self._is_below_root(place) else None
        inside = self._inner_folders[folder]
        if inside is None:
            self.flaw(folder, _LEADS_OUT)
        return inside

    def _real(self, folder: str) -> str:
        if folder not in self._real_folders:
            self._real_folders[folder] = os.path.realpath(folder)
        return self._real_folders[folder]

    def raw(self, folder: str, name: str, limit: int = MAX_ATTRIBUTE_BYTES) -> bytes | None:
        """The bytes of a file, at most so many; None where it is not there, or cannot be read."""
        inside = self._inside(folder)
        if inside is None:
            return None
        path = f"{inside}/{name}"
        try:
            file = os.open(path, _READ)
        except OSError as error:
            self._say(path, error)
            return None
        try:
            data = os.read(file, limit + 1)
            if limit > MAX_ATTRIBUTE_BYTES:  # text comes in one go; what is longer comes in pages
                while 0 < len(data) <= limit and (more := os.read(file, limit + 1 - len(data))):
                    data += more
        except OSError as error:
            self._say(path, error)
            return None
        finally:
            os.close(file)
        if len(data) > limit:
            self.flaw(path, f"longer than {limit} bytes; the rest was not read")
        return data[:limit]

    def text(self, folder: str, name: str, limit: int = 200) -> str | None:
        """One attribute in words that do nothing; empty where it says nothing."""
        data = self.raw(folder, name)
        if data is None:
            return None
        try:
            words = data.decode("utf-8")
        except UnicodeDecodeError:
            self.flaw(f"{folder}/{name}", "it is no UTF-8 text")
            words = data.decode("utf-8", "replace")
        words = words.strip("\0 \n\t\r")
        return words if words.isascii() and words.isprintable() and len(words) <= limit else sanitize(words, limit)

    def lines(self, folder: str, name: str, most: int = 200) -> tuple[str, ...]:
        data = self.raw(folder, name) or b""
        return tuple(sanitize(each, 60) for each in data.decode("utf-8", "replace").split("\n")[:most] if each.strip())

    def decimal(self, folder: str, name: str, unit: str = "") -> float | None:
        """A number, with its unit behind it where one belongs; empty, ``unknown`` and ``N/A`` are None and no flaw."""
        words = self.text(folder, name)
        if not words or words in _NO_NUMBER_KNOWN:
            return None
        plain = words.removesuffix(unit).strip()
        return float(plain) if self._is_number(_DECIMAL, plain, f"{folder}/{name}", unit) else None

    def integer(self, folder: str, name: str, unit: str = "") -> int | None:
        """A whole number, read as a decimal one is."""
        words = self.text(folder, name)
        if not words or words in _NO_NUMBER_KNOWN:
            return None
        plain, path = words.removesuffix(unit).strip(), f"{folder}/{name}"
        if not self._is_number(_INTEGER, plain, path, unit):
            return None
        value = int(plain)
        if abs(value) < _BEYOND:
            return value
        self.flaw(path, "the number exceeds 64 bits")
        return None

    def _is_number(self, form: re.Pattern[str], plain: str, path: str, unit: str) -> bool:
        if form.fullmatch(plain):
            return True
        self.flaw(path, f'"{plain[:40]}" is no number' + (f" of {unit}" if unit else ""))
        return False

    def thousandths(self, folder: str, name: str) -> int | None:
        """A value in micro-units, in thousandths."""
        value = self.integer(folder, name)
        return None if value is None else round(value / 1000)

    def rate(self, folder: str, name: str) -> float | None:
        """A speed in Mb/s; the kernel says -1, and other things that are no rate, where it knows none."""
        value = self.decimal(folder, name)
        return value if value is not None and value > 0 and value not in _NO_RATE else None

    def hexadecimal(self, folder: str, name: str, digits: int = 8) -> int | None:
        words = self.text(folder, name)
        if not words:
            return None
        if not _HEXADECIMAL.fullmatch(words) or len(words.removeprefix("0x")) > digits:
            self.flaw(f"{folder}/{name}", f'"{words[:40]}" is no hexadecimal number')
            return None
        return int(words, 16)

    def flag(self, folder: str, name: str) -> bool | None:
        """0 and 1, no and yes."""
        return {"0": False, "1": True, "no": False, "yes": True}.get(self.text(folder, name) or "")

    def word(self, folder: str, name: str) -> str | None:
        """One of the kernel's own words; ``unknown`` is no word."""
        words = self.text(folder, name)
        return None if not words or words == "unknown" else words

    def chosen(self, folder: str, name: str) -> str | None:
        """The current one of a list of choices; the whole where nothing is in brackets and there is one word."""
        words = self.text(folder, name)
        if not words:
            return None
        found = _CHOSEN.search(words)
        return found[1] if found else (words if " " not in words else None)

    def points_to(self, folder: str, name: str) -> str | None:
        """The last part of what a link points to; nothing where that is outside the root."""
        inside = self._inside(folder)
        if inside is None:
            return None
        try:
            target = os.readlink(f"{inside}/{name}")
        except OSError:
            return None
        if not self._is_below_root(os.path.normpath(os.path.join(inside, target))):
            self.flaw(f"{folder}/{name}", _LEADS_OUT)
            return None
        return sanitize(os.path.basename(target.rstrip("/")), 80)

    def _say(self, path: str, error: OSError) -> None:
        if error.errno not in _ABSENT | _NO_VALUE_NOW:
            self.flaw(path, _WORDS.get(error.errno or 0, error.strerror or str(error)))
