"""Thermometers of a rig that answer by themselves: over a line of their own, or as sensors of this host's kernel."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.on_demand import OnDemand
from auditra.core.errors import InstrumentError
from auditra.core.host.snapshot import Sensor
from auditra.core.instruments.description import HIGHEST_C, LOWEST_C, Measurand
from auditra.core.model.rig import CASE, Thermometer
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Celsius

SENSOR = "hwmon:"
_NAMED = re.compile(r"hwmon:([^/\s]{1,40})/([^/]{1,40})")
Sensors = Callable[[], tuple[Sensor, ...]]


def is_sensor(thermometer: Thermometer) -> bool:
    return isinstance(thermometer.address, str) and thermometer.address.startswith(SENSOR)


@dataclass(frozen=True)
class LiveThermometers:
    """By where they are: the first of the rig at a spot is the one that is read there."""

    by_spot: Mapping[str, Thermometer]
    on_lines: OnDemand[LiveInstrument]
    sensors: Sensors

    def spots(self) -> tuple[str, ...]:
        return tuple(self.by_spot)

    def read(self, spot: str) -> Celsius:
        """Raises: InstrumentError where it does not answer, or cannot be right."""
        gear = self.by_spot[spot]
        if is_sensor(gear):
            return Celsius(_sensor_value(gear, self.sensors()), gear.name, gear.error_k)
        measured = self.on_lines[gear.id].read(Measurand.TEMPERATURE)[Measurand.TEMPERATURE]
        return Celsius(measured.value, gear.name, max(gear.error_k, measured.error or 0.0), measured.resolution)


def answering(thermometers: tuple[Thermometer, ...]) -> dict[str, Thermometer]:
    """Those that answer by themselves, by where they are. Raises: InstrumentError for a sensor's name that is none."""
    found: dict[str, Thermometer] = {}
    for each in thermometers:
        if isinstance(each.address, str):
            if is_sensor(each) and not _NAMED.fullmatch(each.address):
                why = f'its address "{sanitize(each.address, 60)}" is not hwmon:CHIP/SENSOR'
                raise InstrumentError(each.name, why=why, do="auditra probe lists the sensors of this host")
            found.setdefault(each.spot if isinstance(each.spot, str) else CASE, each)
    return found


def _sensor_value(gear: Thermometer, sensors: tuple[Sensor, ...]) -> float:
    """By the name of its chip, and its own name or label. Raises: InstrumentError where there is not one such."""
    match = _NAMED.fullmatch(str(gear.address))
    assert match is not None
    chip, name = match.groups()
    found = [each for each in sensors if each.chip == chip and name in (each.name, each.label) and each.unit == "C"]
    if len(found) != 1:
        why = f"this host shows {len(found) or 'no'} sensors of that name"
        known = ", ".join(f"{each.chip}/{each.label or each.name}" for each in sensors if each.unit == "C")[:300]
        raise InstrumentError(gear.name, where=f"{gear.address}", why=why, do=f"Sensors here: {known or 'none'}")
    value = found[0].value
    if not LOWEST_C <= value <= HIGHEST_C:
        raise InstrumentError(gear.name, where=f"{gear.address}", why=f"it shows {value:g} C, which cannot be")
    return value
