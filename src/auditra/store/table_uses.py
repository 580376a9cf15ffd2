"""What was said of logged tables before, by name: a file each, beside the library."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import replace
from pathlib import Path

from auditra.core.errors import InputError, SheetError, StoreError
from auditra.core.model.table_use import TableUse
from auditra.core.sanitize import sanitize
from auditra.documents.table_use import read_table_use, write_table_use
from auditra.store.files import read_text
from auditra.workflows.output_files import make_folder, write_atomically

FOLDER = "tables"
MAX_USES = 200
_MAX_NAME = 40


class TableUses:
    """A file that cannot be read hides no other."""

    def __init__(self, folder: Path, on_saved: Callable[[], None] = lambda: None) -> None:
        self.folder, self._on_saved = folder, on_saved

    def names(self) -> tuple[str, ...]:
        return tuple(use.name for use in self._all())

    def use(self, name: str) -> TableUse:
        """What was said under a name. Raises: InputError with those that there are."""
        found = next((use for use in self._all() if use.name == name), None)
        if found is None:
            known = ", ".join(sanitize(each, 40) for each in self.names()) or "none yet"
            raise InputError(
                f'"{sanitize(name, 40)}"', why="nothing is remembered under this name", do=f"Known: {known}"
            )
        return found

    def fitting(self, columns: Iterable[str]) -> TableUse | None:
        """What was said last of a table that has all these columns and no other that mattered."""
        names = frozenset(columns)
        return next((use for use in reversed(tuple(self._all())) if use.wanted and use.fits(names)), None)

    def remember(self, use: TableUse, name: str) -> Path:
        """In place of what was said under this name. Raises: InputError, StoreError."""
        if not name.replace("-", "").replace(" ", "").isalnum() or len(name) > _MAX_NAME:
            raise InputError(f'"{sanitize(name, 60)}"', why="letters, digits, blanks and dashes make a name")
        path = self.folder / f"{name.lower().replace(' ', '-')}.json"
        try:
            make_folder(self.folder)
            write_atomically(path, write_table_use(replace(use, name=name)).encode())
        except OSError as error:
            raise StoreError(
                str(path), why=error.strerror or str(error), do="Make room, or check its rights"
            ) from error
        self._on_saved()
        return path

    def _all(self) -> Iterator[TableUse]:
        """The one that was written last comes last."""
        try:
            paths = sorted(self.folder.glob("*.json"), key=lambda path: path.stat().st_mtime)[-MAX_USES:]
        except OSError:
            return
        for path in paths:
            try:
                yield read_table_use(read_text(path), str(path))
            except SheetError:
                continue
