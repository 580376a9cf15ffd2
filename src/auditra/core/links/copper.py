"""What copper costs: resistance, and the volts and watts that a current leaves in a cable."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

_RESISTIVITY_OHM_M = 1.7241e-8
"""Of annealed copper at 20 degrees Celsius. Source: IEC 60028:1925, 1.1 (1/58 ohm mm2/m)."""
_A_KELVIN = 0.00393
"""Source: IEC 60028:1925, 1.4 (temperature coefficient at 20 degrees Celsius)."""
_REFERENCE_C = 20.0
_COLDEST_C, _HOTTEST_C = -40.0, 105.0
MIN_CURRENTS = 2


def diameter_m(gauge_awg: int) -> float:
    """The diameter of a solid wire of that gauge. Source: ASTM B258-18, 4 (0.005 in at 36, a factor of 92 in 39 steps).

    Raises: ValueError outside gauges 10 to 40, the wires of cables.
    """
    if not 10 <= gauge_awg <= 40:
        raise ValueError(f"gauge {gauge_awg} is no wire of a cable: 10 to 40 are")
    return 0.000127 * float(92 ** ((36 - gauge_awg) / 39))


def wire_ohm(gauge_awg: int, length_m: float, celsius: float = _REFERENCE_C) -> float:
    """The resistance of one wire, one way, in ohms. Raises: ValueError outside -40 to 105 degrees Celsius."""
    if not _COLDEST_C <= celsius <= _HOTTEST_C:
        raise ValueError(f"{celsius:g} C is outside {_COLDEST_C:g} to {_HOTTEST_C:g} C, where this holds")
    area_m2 = 3.141592653589793 / 4 * diameter_m(gauge_awg) ** 2
    return _RESISTIVITY_OHM_M * length_m / area_m2 * (1 + _A_KELVIN * (celsius - _REFERENCE_C))


@dataclass(frozen=True)
class Drop:
    """What is left in a cable at a current: volts and watts, there and back."""

    amperes: float
    ohm: float

    @property
    def volts(self) -> float:
        return self.amperes * self.ohm

    @property
    def watts(self) -> float:
        return self.amperes**2 * self.ohm


def drop_in(
    gauge_awg: int, length_m: float, amperes: float, celsius: float = _REFERENCE_C, contacts_ohm: float = 0.0,
    *, ground_awg: int | None = None,
) -> Drop:  # fmt: skip
    """The drop over both wires of a cable and its contacts; `ground_awg` where ground is another wire than power."""
    there = wire_ohm(gauge_awg, length_m, celsius)
    back = there if ground_awg is None else wire_ohm(ground_awg, length_m, celsius)
    return Drop(amperes, there + back + contacts_ohm)


@dataclass(frozen=True)
class AtCurrent:
    """A voltage that was read, and the current that flowed, in volts and amperes."""

    volts: float
    amperes: float


def loop_ohm(readings: Sequence[AtCurrent]) -> float:
    """There and back: by how much a voltage at the far end falls for each ampere more, by least squares, in ohms.

    Raises: ValueError for less than two different currents.
    """
    count = len(readings)
    mean_a = math.fsum(each.amperes for each in readings) / max(1, count)
    mean_v = math.fsum(each.volts for each in readings) / max(1, count)
    spread = math.fsum((each.amperes - mean_a) ** 2 for each in readings)
    if count < MIN_CURRENTS or spread == 0:
        raise ValueError("at least two readings at different currents are required")
    return -math.fsum((each.amperes - mean_a) * (each.volts - mean_v) for each in readings) / spread


def thinnest_gauge(length_m: float, amperes: float, most_v: float) -> int | None:
    """The thinnest wire that keeps a drop within a limit; None where not even gauge 10 does."""
    return next((gauge for gauge in range(40, 9, -1) if drop_in(gauge, length_m, amperes).volts <= most_v), None)


USB_C_VBUS_DROP_V, USB_C_GROUND_DROP_V = 0.5, 0.25
"""The most a cable may drop at its rated current. Source: USB Type-C R2.2, 4.4.1 "IR Drop"."""
USB_2_CABLE_DROP_V = 0.125
"""The most that each of VBUS and ground may drop in a detachable cable at 500 mA. Source: USB 2.0, 7.2.2."""
