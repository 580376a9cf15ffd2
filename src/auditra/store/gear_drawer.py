"""The gear drawer: the rigs that a reviewer owns, a rig file each, shared by all audits of a library."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from pathlib import Path

from auditra.core.errors import InputError, SheetError, StoreError
from auditra.core.model.rig import Rig
from auditra.core.sanitize import sanitize
from auditra.documents.rig_file import write_rig
from auditra.store.files import load_rig
from auditra.workflows.output_files import make_folder, write_atomically

FOLDER = "rigs"
MAX_RIGS = 200


class GearDrawer:
    """Rigs by name. A file that cannot be read hides no other, and is never written over."""

    def __init__(self, folder: Path, on_saved: Callable[[], None] = lambda: None) -> None:
        self.folder, self._on_saved = folder, on_saved

    def names(self) -> tuple[str, ...]:
        """The rigs that can be read, by name."""
        return tuple(sorted(rig.name for _, rig in self._rigs()))

    def troubles(self) -> tuple[str, ...]:
        """Rig files that cannot be read, each with its reason."""
        return tuple(str(error) for _, error in self._read() if isinstance(error, SheetError))

    def rig(self, name: str) -> Rig | None:
        """The rig of a name; None where the drawer has none."""
        return next((rig for _, rig in self._rigs() if rig.name == name), None)

    def save(self, rig: Rig) -> Path:
        """Put a rig in the drawer, in place of the one of its name. Raises: StoreError."""
        path = next((path for path, known in self._rigs() if known.name == rig.name), None) or self._new_file(rig.name)
        written = self._write(path, rig)
        self._on_saved()
        return written

    def take_in(self, path: str) -> Rig:
        """Copy a rig file into the drawer. Raises: SheetError, StoreError; InputError where its name is taken."""
        rig = load_rig(Path(path.strip()).expanduser())
        if (known := self.rig(rig.name)) is not None and known != rig:
            do = "Give it another name in the file, or save over it from an audit"
            raise InputError(f'rig "{sanitize(rig.name, 60)}"', why="the drawer has another of this name", do=do)
        self.save(rig)
        return rig

    def write_out(self, rig: Rig, path: str) -> Path:
        """Write a rig file where the reviewer says. Raises: StoreError; InputError where something is there already."""
        target = Path(path.strip()).expanduser()
        if target.is_dir():
            target = target / f"{_slug(rig.name)}.toml"
        if target.exists():
            raise InputError(sanitize(str(target), 200), why="there is a file of this name", do="Choose another name")
        return self._write(target, rig)

    def _write(self, path: Path, rig: Rig) -> Path:
        try:
            make_folder(path.parent)
            return write_atomically(path, write_rig(rig).encode())
        except (OSError, UnicodeEncodeError, ValueError) as error:
            why = getattr(error, "strerror", None) or str(error)
            raise StoreError(sanitize(str(path), 200), why=why, do="Choose another place") from error

    def _new_file(self, name: str) -> Path:
        stem, turn = _slug(name), 1
        path = self.folder / f"{stem}.toml"
        while path.exists():
            turn += 1
            path = self.folder / f"{stem}-{turn}.toml"
        return path

    def _rigs(self) -> Iterator[tuple[Path, Rig]]:
        for path, rig in self._read():
            if isinstance(rig, Rig):
                yield path, rig

    def _read(self) -> Iterator[tuple[Path, Rig | SheetError]]:
        try:
            paths = sorted(self.folder.glob("*.toml"))[:MAX_RIGS]
        except OSError:
            return
        for path in paths:
            try:
                yield path, load_rig(path)
            except SheetError as error:
                yield path, error


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:48] or "rig"
