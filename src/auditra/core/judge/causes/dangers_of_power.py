"""A voltage above its contract or left standing, power that flows into a source, a surface too hot to touch."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.records import Counted
from auditra.core.links.vbus import DEFAULT_V, GONE_V, GONE_WITHIN_S, highest_v
from auditra.core.model.device import Role as PortRole
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.rig import Drain, Load, Rig
from auditra.core.model.trial import DIRECT

MIN_LOAD_A = 0.02
"""A meter on nothing shows what its leads pick up: a voltage counts only with a load behind it."""
MAX_PLAUSIBLE_V = 60.0
"""Above every contract there is (USB PD, 48 V): what shows more is out of its range."""
HOT_C, MAX_PLAUSIBLE_C = 77.0, 150.0
"""Too hot for a touch of a second, whatever the surface is made of. Source: IEC 62368-1:2018, table 38 (plastic)."""
AFTER_REMOVAL = re.compile(r"\bafter (?:removal|unplugging|pulling)\b", re.IGNORECASE)
"""How a voltage that is left standing is named, as a quantity or in the note of one."""
_FIXED = re.compile(r"(\d+(?:\.\d+)?)\s*V\b")


@dataclass(frozen=True, kw_only=True)
class OverVoltage(Finding):
    kind = "over voltage"
    role = Role.DANGER

    volts: Estimate
    agreed_v: float

    @property
    def sentence(self) -> str:
        return f"{self.ports[0]} gives {self.volts.value:.1f} V where {self.agreed_v:g} V were agreed"

    @property
    def arithmetic(self) -> str:
        return f"{self.volts.value:.2f} - {self.volts.expanded:.2f} V > {highest_v(self.agreed_v):.2f} V"


@dataclass(frozen=True, kw_only=True)
class StandingVoltage(Finding):
    kind = "standing voltage"
    role = Role.DANGER

    volts: Estimate

    @property
    def sentence(self) -> str:
        return f"{self.ports[0]} still has {self.volts.value:.1f} V after removal"

    @property
    def arithmetic(self) -> str:
        limit = f"{GONE_V:g} V, which must be reached in {GONE_WITHIN_S:g} s"
        return f"{self.volts.value:.2f} - {self.volts.expanded:.2f} V > {limit}"


@dataclass(frozen=True, kw_only=True)
class IntoSource(Finding):
    kind = "power into a source"
    role = Role.DANGER

    quantity: Quantity
    shown: Estimate

    @property
    def sentence(self) -> str:
        unit = self.quantity.unit
        return f"{abs(self.shown.value):.2f} {unit} flow into what feeds {self.ports[0]}"

    @property
    def arithmetic(self) -> str:
        return f"{self.shown.value:.2f} + {self.shown.expanded:.2f} {self.quantity.unit} < 0"


@dataclass(frozen=True, kw_only=True)
class HotSurface(Finding):
    kind = "hot surface"
    role = Role.DANGER

    celsius: Estimate

    @property
    def sentence(self) -> str:
        return f"its case reaches {self.celsius.value:.0f} C: too hot to touch"

    @property
    def arithmetic(self) -> str:
        return f"{self.celsius.value:.1f} - {self.celsius.expanded:.1f} C > {HOT_C:g} C (IEC 62368-1)"


def _measured(
    inquiry: Inquiry, *quantities: Quantity, above: float = -math.inf
) -> Iterator[tuple[Counted, Reading, Estimate]]:
    """Readings through the device that an instrument gave, or that were read off one with its error known."""
    for trial in inquiry.records.with_quantity(*quantities):
        for reading in trial.taken.readings if not trial.direct else ():
            if reading.quantity not in quantities or not reading.values or max(reading.values) <= above:
                continue
            measured = reading.grade >= Grade.READ or inquiry.records.measures(reading)
            if measured and reading.at != DIRECT and estimate(reading).founded:
                yield trial, reading, estimate(reading)


def _find_over(inquiry: Inquiry) -> Iterator[OverVoltage]:
    """Voltages under load that clearly exceed what was agreed at their port; the highest of each port."""
    worst: dict[str, OverVoltage] = {}
    for trial, reading, volts in _measured(inquiry, Quantity.VOLTAGE):
        agreed = _agreed_v(inquiry.audit.rig, trial, reading.at)
        if agreed is None or volts.high > MAX_PLAUSIBLE_V or not _is_loaded(trial, reading):
            continue
        before = worst.get(reading.at)
        if volts.low > highest_v(agreed) and (before is None or volts.value > before.volts.value):
            worst[reading.at] = OverVoltage(ports=(reading.at,), trials=(trial.id,), volts=volts, agreed_v=agreed)
    yield from worst.values()


def _agreed_v(rig: Rig, trial: Counted, port: str) -> float | None:
    """The voltage of the contract, or what a load asks for; the default where nothing asks, None where that is not
    known."""
    words = [reading.text for reading in trial.at(port).of(Quantity.CONTRACT) if reading.text]
    if words:
        found = _FIXED.search(words[-1])
        return float(found[1]) if found else None
    gear = trial.setup.gear_at(port)
    if gear is None or trial.at(port).of(Quantity.OFFERED, Quantity.AGREED):
        return None
    part = rig.find(gear)
    if isinstance(part, Load):
        return part.asks_v if isinstance(part.asks_v, float | int) else DEFAULT_V if part.asks_v is None else None
    return None if isinstance(part, Drain) else DEFAULT_V


def _is_loaded(trial: Counted, reading: Reading) -> bool:
    if isinstance(reading.behind_a, float | int):
        return reading.behind_a >= MIN_LOAD_A
    currents = trial.at(reading.at).of(Quantity.CURRENT).numbers()
    return any(estimate(current).low >= MIN_LOAD_A for current in currents)


def _find_standing(inquiry: Inquiry) -> Iterator[StandingVoltage]:
    """Voltages that were read after removal, above what counts as gone."""
    volts_by_name = [name for name in inquiry.records.quantities if AFTER_REMOVAL.search(name)]
    for trial in inquiry.records.with_quantity(Quantity.VOLTAGE, *volts_by_name):
        for reading in trial.taken.of(Quantity.VOLTAGE, *volts_by_name).numbers():
            named = AFTER_REMOVAL.search(f"{reading.quantity} {reading.note}")
            if named and reading.si_unit == "V" and estimate(reading).founded:
                volts = estimate(reading)
                if volts.low > GONE_V and volts.high <= MAX_PLAUSIBLE_V:
                    yield StandingVoltage(ports=(reading.at,), trials=(trial.id,), volts=volts)


def _find_into(inquiry: Inquiry) -> Iterator[IntoSource]:
    """Current or power that is negative for certain where the device is fed, at its inlet or its plug to the host."""
    fed = {port.id for face in inquiry.audit.device.faces for port in face.ports if port.role is PortRole.INLET}
    for trial, reading, shown in _measured(inquiry, Quantity.CURRENT, Quantity.POWER):
        limit = MIN_LOAD_A if reading.quantity is Quantity.CURRENT else MIN_LOAD_A * DEFAULT_V
        if reading.at in fed and shown.high < -limit and isinstance(reading.quantity, Quantity):
            yield IntoSource(ports=(reading.at,), trials=(trial.id,), quantity=reading.quantity, shown=shown)
            return


def _find_hot(inquiry: Inquiry) -> Iterator[HotSurface]:
    """The hottest reading of the case, where that is too hot for certain."""
    seen = [
        (trial, celsius)
        for trial, _, celsius in _measured(inquiry, Quantity.CASE_TEMPERATURE, above=HOT_C)
        if celsius.low > HOT_C and celsius.high < MAX_PLAUSIBLE_C
    ]
    if seen:
        trial, celsius = max(seen, key=lambda pair: pair[1].value)
        yield HotSurface(trials=(trial.id,), celsius=celsius)


OVER_VOLTAGE = Cause(
    "over voltage", "USB Power Delivery R3.1, table 7-11", "a voltage under load, and its contract", _find_over,
    Role.DANGER,
)  # fmt: skip
STANDING_VOLTAGE = Cause(
    "standing voltage", "USB Power Delivery R3.1, tables 7-11 and 7-12", "a voltage read after removal", _find_standing,
    Role.DANGER,
)  # fmt: skip
INTO_SOURCE = Cause(
    "power into a source", "USB Type-C R2.2, 4.5.1 (a sink must not source)", "current or power at an inlet",
    _find_into, Role.DANGER,
)  # fmt: skip
HOT_SURFACE = Cause("hot surface", "IEC 62368-1:2018, table 38", "the temperature of the case", _find_hot, Role.DANGER)
