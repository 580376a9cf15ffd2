"""How instruments are spoken to, by name."""

from __future__ import annotations

from pathlib import Path

from auditra.core.instruments.description import BUILT_IN, Description
from auditra.documents.instrument_file import read_instrument, write_instrument
from auditra.store.files import read_shipped
from auditra.store.named_files import NamedFiles

FOLDER = "instruments"
SHIPPED = ("voltmeter", "supply", "logger", "serial-meter")


def _shipped() -> tuple[Description, ...]:
    return (
        *BUILT_IN.values(),
        *(read_instrument(read_shipped(f"instruments/{name}.toml"), f"{name}.toml") for name in SHIPPED),
    )


def instrument_files(folder: Path) -> NamedFiles[Description]:
    """The built-in ones, those that ship, and the reviewer's own in a folder."""
    return NamedFiles(folder, "instrument description", _shipped, read_instrument, write_instrument)
