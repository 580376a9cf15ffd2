"""Sheets and rigs from files, those that ship with the product among them."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

from auditra.core.advice.for_whom import User
from auditra.core.errors import InputError, SheetError
from auditra.core.model.rig import Rig
from auditra.documents.claim_sheet import ClaimSheet, read_claim_sheet
from auditra.documents.for_whom_file import read_users
from auditra.documents.rig_file import read_rig
from auditra.documents.toml_lines import MAX_SHEET_BYTES
from auditra.store.evidence import MAX_BYTES
from auditra.workflows.input_files import read_plain

USERS_FILE = "for_whom.toml"
_DATA = resources.files("auditra") / "data"


def read_shipped(name: str) -> str:
    """The text of a file that ships with the product."""
    return _DATA.joinpath(name).read_text(encoding="utf-8")


def load_claim_sheet(path: Path) -> ClaimSheet:
    """A claim sheet from a file. Raises: SheetError."""
    return read_claim_sheet(read_text(path), str(path))


def load_rig(path: Path) -> Rig:
    """A rig from a file. Raises: SheetError."""
    return read_rig(read_text(path), str(path))


def load_evidence(path: str) -> tuple[str, bytes]:
    """A file that a person names: what it is called, and its bytes, as many as evidence may have.

    What each sort of file may have is asked by what reads it.
    Raises: InputError.
    """
    place = Path(path.strip()).expanduser()
    return place.name, read_plain(place, MAX_BYTES)


def load_users(library: Path) -> tuple[User, ...]:
    """For whom a device may be: the file beside the library where there is one, else what ships. Raises: SheetError."""
    own = library / USERS_FILE
    return read_users(read_text(own), str(own)) if own.exists() else read_users(read_shipped(USERS_FILE), USERS_FILE)


def read_text(path: Path) -> str:
    """The text of a file that a person wrote. Raises: SheetError."""
    try:
        data = read_plain(path, MAX_SHEET_BYTES)
        return data.decode("utf-8")
    except InputError as error:
        raise SheetError(error.why, file=str(path), line=None, key_path="", do=error.do) from error
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise SheetError("this is not UTF-8 text", file=str(path), line=line, key_path="") from error
