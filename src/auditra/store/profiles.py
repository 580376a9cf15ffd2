"""Score profiles by name."""

from __future__ import annotations

from pathlib import Path

from auditra.core.model.profile import Profile
from auditra.documents.profile_file import read_profile, write_profile
from auditra.store.files import read_shipped
from auditra.store.named_files import NamedFiles

FOLDER = "profiles"
USUAL = "balanced"
SHIPPED = (USUAL, "travel", "desk", "studio", "cable")


def load_profile(name: str = USUAL) -> Profile:
    """A score profile that ships with the product."""
    return read_profile(read_shipped(f"profiles/{name}.toml"), f"{name}.toml")


def profile_files(folder: Path) -> NamedFiles[Profile]:
    """Those that ship, and the reviewer's own in a folder."""
    return NamedFiles(folder, "profile", lambda: tuple(map(load_profile, SHIPPED)), read_profile, write_profile)
