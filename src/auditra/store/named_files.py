"""Things by name, those that ship with the product and the reviewer's own as files in a folder beside the library."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, Generic, TypeVar

from auditra.core.errors import InputError, SheetError, StoreError
from auditra.core.sanitize import sanitize
from auditra.store.files import read_text
from auditra.workflows.output_files import make_folder, write_atomically

MAX_FILES = 100
_MAX_NAME = 40
Kind = TypeVar("Kind", bound=Any)


@dataclass(frozen=True)
class NamedFiles(Generic[Kind]):
    """Frozen dataclasses with a `name`. A file of the reviewer comes before a shipped one of its name; a bad one hides
    no other.
    """

    folder: Path
    what: str
    """What one of them is called in a sentence."""
    shipped: Callable[[], tuple[Kind, ...]]
    read: Callable[[str, str], Kind]
    """From its text and the file's name. Raises: SheetError."""
    write: Callable[[Kind], str]

    def every(self) -> tuple[Kind, ...]:
        """All that can be read, the shipped ones first."""
        found = {each.name: each for each in self.shipped()}
        found |= {each.name: each for _, each in self._own() if not isinstance(each, SheetError)}
        return tuple(found.values())

    def troubles(self) -> tuple[str, ...]:
        """Files that cannot be read, each with its reason."""
        return tuple(str(error) for _, error in self._own() if isinstance(error, SheetError))

    def named(self, name: str) -> Kind:
        """Raises: InputError with the names that there are."""
        known = {each.name: each for each in self.every()}
        if name not in known:
            do = "; ".join((f"Choose from: {', '.join(sanitize(each, 40) for each in known)}", *self.troubles()))
            raise InputError(f'{self.what} "{sanitize(name, 60)}"', why="there is none of this name", do=do)
        return known[name]

    def write_copy(self, name: str, own_name: str) -> Path:
        """A copy under a name of the reviewer's, to be edited. Raises: InputError, StoreError."""
        if not own_name.replace("-", "").isalnum() or len(own_name) > _MAX_NAME:
            raise InputError(f'"{sanitize(own_name, 60)}"', why="letters, digits and dashes make a name")
        path, copy = self.folder / f"{own_name}.toml", replace(self.named(name), name=own_name)
        if path.exists():
            raise InputError(str(path), why="there is a file of this name", do="Edit it, or choose another name")
        try:
            make_folder(self.folder)
            return write_atomically(path, self.write(copy).encode())
        except OSError as error:
            raise StoreError(str(path), why=error.strerror or str(error), do="Check the folder") from error

    def _own(self) -> Iterator[tuple[Path, Kind | SheetError]]:
        try:
            paths = sorted(self.folder.glob("*.toml"))[:MAX_FILES]
        except OSError:
            return
        for path in paths:
            try:
                yield path, self.read(read_text(path), str(path))
            except SheetError as error:
                yield path, error
