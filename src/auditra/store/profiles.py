"""Score profiles: those that ship with the product, and the reviewer's own as files beside the library."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from auditra.core.errors import InputError, SheetError, StoreError
from auditra.core.model.profile import Profile
from auditra.core.sanitize import sanitize
from auditra.documents.profile_file import read_profile, write_profile
from auditra.store.files import read_shipped, read_text
from auditra.workflows.output_files import make_folder, write_atomically

FOLDER = "profiles"
USUAL = "balanced"
SHIPPED = (USUAL, "travel", "desk", "studio", "cable")
MAX_PROFILES = 100


def load_profile(name: str = USUAL) -> Profile:
    """A score profile that ships with the product."""
    return read_profile(read_shipped(f"profiles/{name}.toml"), f"{name}.toml")


class ProfileShelf:
    """Profiles by name. A file of the reviewer's comes before a shipped one of its name; a bad one hides no other."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def profiles(self) -> tuple[Profile, ...]:
        """All that can be read, the shipped ones first."""
        found = {name: load_profile(name) for name in SHIPPED}
        found |= {profile.name: profile for _, profile in self._own() if isinstance(profile, Profile)}
        return tuple(found.values())

    def troubles(self) -> tuple[str, ...]:
        """Files that cannot be read, each with its reason."""
        return tuple(str(error) for _, error in self._own() if isinstance(error, SheetError))

    def profile(self, name: str) -> Profile:
        """The profile of a name. Raises: InputError with those that there are."""
        known = {profile.name: profile for profile in self.profiles()}
        if name not in known:
            do = "; ".join((f"Choose from: {', '.join(sanitize(each, 40) for each in known)}", *self.troubles()))
            raise InputError(f'profile "{sanitize(name, 60)}"', why="there is none of this name", do=do)
        return known[name]

    def write_copy(self, name: str, own_name: str) -> Path:
        """A copy of a profile under a name of the reviewer's, to be edited. Raises: InputError, StoreError."""
        if not own_name.replace("-", "").isalnum() or len(own_name) > 40:
            raise InputError(f'"{sanitize(own_name, 60)}"', why="letters, digits and dashes make a name")
        path, copy = self.folder / f"{own_name}.toml", replace(self.profile(name), name=own_name)
        if path.exists():
            raise InputError(str(path), why="there is a file of this name", do="Edit it, or choose another name")
        try:
            make_folder(self.folder)
            return write_atomically(path, write_profile(copy).encode())
        except OSError as error:
            raise StoreError(str(path), why=error.strerror or str(error), do="Check the folder") from error

    def _own(self) -> Iterator[tuple[Path, Profile | SheetError]]:
        try:
            paths = sorted(self.folder.glob("*.toml"))[:MAX_PROFILES]
        except OSError:
            return
        for path in paths:
            try:
                yield path, read_profile(read_text(path), str(path))
            except SheetError as error:
                yield path, error
