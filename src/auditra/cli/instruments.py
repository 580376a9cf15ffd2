"""``auditra instruments``: the descriptions there are, one to edit, and whether an instrument answers by one."""

from __future__ import annotations

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.line import open_line
from auditra.cli.composition import LibraryHandle
from auditra.cli.judging import say
from auditra.core.instruments.answer import Measured
from auditra.core.instruments.description import Measurand
from auditra.core.quantities.display import plain_number


def list_descriptions(handle: LibraryHandle) -> None:
    """Every description with what it measures; files that cannot be read with the reason."""
    for each in handle.instruments.every():
        what = ", ".join((*each.measured(), *(("load",) if each.load is not None else ())))
        say(f"{each.name:14} {what}: {each.about}")
    for trouble in handle.instruments.troubles():
        say(f"! {trouble}")


def copy_description(handle: LibraryHandle, name: str, own_name: str) -> None:
    """A copy to edit. Raises: InputError, StoreError."""
    say(str(handle.instruments.write_copy(name, own_name)))


def ask_instrument(handle: LibraryHandle, address: str, speaks: str) -> None:
    """Who it says it is, and each value with its limit of error; a load is never switched on.

    Raises: InputError for no such description, InstrumentError.
    """
    description = handle.instruments.named(speaks)
    with LiveInstrument(
        "instrument", address, lambda: open_line("instrument", address, description), description
    ) as instrument:
        say(f"identity     {instrument.identity or 'not asked'}")
        for measurand in description.measured():
            say(f"{measurand:12} {_shown(measurand, instrument.read(measurand)[measurand])}")


def _shown(measurand: Measurand, measured: Measured) -> str:
    unit = measurand.dimension.value
    error = "error not known" if measured.error is None else f"\u00b1 {measured.error:.3g} {unit}"
    return f"{plain_number(measured.value)} {unit} ({error})"
