"""The limit of error of the rig's instruments, as their makers state it."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Accuracy, Instrument, Rig, Rule, Thermometer

HIGHEST_USUAL_V = 20.0
"""At which both ends of a lead are read at most. Source: USB PD R3.1, 10.3.1 (the range that is not extended)."""
UNKNOWN_POWER_ERROR_PERCENT = 5.0
"""Where the maker's figures for power were not noted."""


def instruments_of(rig: Rig) -> Iterator[Instrument | Rule | Thermometer]:
    """Everything of a rig that measures."""
    yield from rig.meters
    yield from rig.loads
    yield from rig.rules
    yield from rig.thermometers


def power_error_w(instrument: Instrument, watts: float, described_w: float | None = None) -> float:
    """The limit of an instrument's error at so many watts: as the rig notes it, else as the description of what it
    answers has it, else 5 %."""
    percent, offset = instrument.power_error_percent, instrument.power_error_w
    if described_w is not None and not isinstance(percent, float | int):
        return described_w
    share = percent if isinstance(percent, float | int) else UNKNOWN_POWER_ERROR_PERCENT
    return watts * share / 100 + (offset if isinstance(offset, float | int) else 0.0)


def limit_of_error(instrument: Instrument | Rule | Thermometer, quantity: Quantity | str, value: float) -> float:
    """The limit of error at a value, in the unit of the quantity; 0 where it is not known, or not read off it."""
    if isinstance(instrument, Thermometer):
        warm = quantity in (Quantity.CASE_TEMPERATURE, Quantity.AMBIENT_TEMPERATURE)
        return instrument.error_k if warm else 0.0
    if isinstance(instrument, Rule):
        return instrument.division_m / 2 if quantity is Quantity.LENGTH else 0.0
    if quantity is Quantity.POWER and isinstance(instrument.power_error_percent, float | int):
        return power_error_w(instrument, abs(value))
    stated = instrument.accuracy if isinstance(instrument.accuracy, tuple) else ()
    return max((_error(each, value) for each in stated if each.quantity == quantity), default=0.0)


def limit_of_drop(instrument: Instrument | Rule | Thermometer) -> float:
    """The limit of error of a drop, in volts: a difference of two voltages, each off by its own limit; 0 where
    none is stated of voltages."""
    accuracy = instrument.accuracy if isinstance(instrument, Instrument) else ()
    stated = accuracy if isinstance(accuracy, tuple) else ()
    of_volts = (_error(each, HIGHEST_USUAL_V) for each in stated if each.quantity == Quantity.VOLTAGE)
    return 2 * max(of_volts, default=0.0)


def _error(accuracy: Accuracy, value: float) -> float:
    percent, offset, digit = (
        each if isinstance(each, float | int) else 0.0
        for each in (accuracy.error_percent, accuracy.error, accuracy.resolution)
    )
    return abs(value) * percent / 100 + offset + digit / 2
