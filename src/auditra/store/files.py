"""Sheets, rigs and profiles from files, those that ship with the product among them."""

from __future__ import annotations

import tomllib
from decimal import Decimal
from importlib import resources
from pathlib import Path

from auditra.core.audit.rig import Rig
from auditra.core.errors import InputError, SheetError
from auditra.core.inert import inert
from auditra.core.judge.profile import Profile
from auditra.workflows.sheets import LARGEST_SHEET_BYTES, ClaimSheet, read_claim_sheet, read_rig

_DATA = resources.files("auditra") / "data"


def read_shipped(name: str) -> str:
    """The text of a file that ships with the product."""
    return _DATA.joinpath(name).read_text(encoding="utf-8")


def load_claim_sheet(path: Path) -> ClaimSheet:
    """A claim sheet from a file. Raises: SheetError."""
    return read_claim_sheet(_read(path), str(path))


def load_rig(path: Path) -> Rig:
    """A rig from a file. Raises: SheetError."""
    return read_rig(_read(path), str(path))


def load_evidence(path: str) -> tuple[str, bytes]:
    """A file that a person names: what it is called, and its bytes, at most one more than may be kept.

    Raises: InputError.
    """
    from auditra.workflows.attach import LONGEST_FILE  # its decoders are loaded once they are wanted

    place = Path(path.strip()).expanduser()
    try:
        with place.open("rb") as file:
            return place.name, file.read(LONGEST_FILE + 1)
    except OSError as error:
        raise InputError(
            inert(path, 120), why=error.strerror or str(error), do="Name a file that can be read"
        ) from error


def load_profile(name: str = "balanced") -> Profile:
    """A score profile that ships with the product."""
    kept = tomllib.loads(read_shipped(f"profiles/{name}.toml"))
    weights = {words: Decimal(weight) for words, weight in kept["weights"].items()}
    return Profile(kept["name"], weights, Decimal(kept["other"]))


def _read(path: Path) -> str:
    try:
        with path.open("rb") as file:
            data = file.read(LARGEST_SHEET_BYTES + 1)
        return data.decode("utf-8")
    except OSError as error:
        raise SheetError(error.strerror or str(error), file=str(path), line=None, key_path="") from error
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise SheetError("this is not UTF-8 text", file=str(path), line=line, key_path="") from error
