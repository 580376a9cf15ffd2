"""Readings: one measured, read or seen value each, with all that decides how much it is worth."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import IntEnum, StrEnum

from auditra.core.model.noted import NOT_NOTED, Noted


class Grade(IntEnum):
    """Evidence grade: how much a reading can decide. A verdict cannot outrank its evidence."""

    MEASURED = 5
    """By an instrument or engine under control."""
    READ = 4
    """From the machine: what the link says."""
    TYPED = 3
    """Read off another screen, or off a rule, and typed."""
    SEEN = 2
    """Seen or heard: a picture, a chime, a lamp."""
    TOLD = 1
    LOOKS = 0


class Quantity(StrEnum):
    """What a reading is of; the unit is fixed by it. The list is open: any other words are a quantity too."""

    WRITE = "write rate"
    READ = "read rate"
    SEND = "send rate"
    RECEIVE = "receive rate"
    SOAK_RATE = "rate while soaking"
    LINK = "negotiated link"
    POWER = "power"
    VOLTAGE = "voltage"
    VOLTAGE_LEFT = "voltage after removal"
    """At a port that gave power, a second after what drew it was pulled."""
    LOWEST_VOLTAGE = "lowest voltage"
    """While something started."""
    CURRENT = "current"
    DRAWN = "current drawn"
    """What a load took on its way to a promise: no measure of what a port gives."""
    DRAWN_POWER = "power drawn"
    """On the way to something else than a promise of power: until a battery is empty."""
    CURRENT_LIMIT = "current limit"
    """The most that a port kept up before it gave way."""
    ENERGY = "energy"
    RESISTANCE = "resistance"
    MODE = "display mode"
    DEPTH = "colour depth"
    LENGTH = "length"
    MASS = "mass"
    CASE_TEMPERATURE = "case temperature"
    AMBIENT_TEMPERATURE = "ambient temperature"
    APPEARED = "appeared"
    WRONG_BYTES = "wrong bytes"
    LATENCY = "latency"
    LOSS = "loss"
    LARGEST_FRAME = "largest frame"
    DROPPED_PICTURES = "dropped pictures"
    TIME_TO_APPEAR = "time to appear"
    DROPPED_OUT = "dropped out"
    TIME_TO_FAILURE = "time to failure"
    TIME_TO_RECOVERY = "time to recovery"
    BATTERY = "battery"
    PROCESSOR = "processor load"
    LOST_PROCESSOR = "processor time lost"
    """To other machines on the same processors."""
    NOISE = "noise"
    WORKS = "works"
    RESPONDS = "responds"
    """How often something worked where nothing is promised for it."""
    WORKS_WITHOUT = "works without the device"
    LINK_WITHOUT = "negotiated link without the device"
    CAPACITY = "capacity"
    TIME_TO_SWITCH = "time to switch"
    OWN_USE = "own use"
    DROP = "voltage drop"
    SLOT_WIDTH = "slot width"
    PORTS = "ports"
    PRICE = "price"
    SEEN_TO_BE = "seen to be"
    OFFERED = "power offered"
    AGREED = "power agreed"
    CONTRACT = "contract"
    CONTRACT_KIND = "kind of contract"
    MARKER = "marker"
    MODE_SENT = "mode sent"
    ARRANGEMENT = "arrangement of displays"
    DESCRIBED = "display description"
    SOAKED = "time at full load"
    MOVED = "bytes moved"
    ON_WIRE = "bytes on the wire"

    @property
    def unit(self) -> str:
        return _UNITS.get(self, "")


STORAGE_RATES = (Quantity.WRITE, Quantity.READ)
NETWORK_RATES = (Quantity.SEND, Quantity.RECEIVE)
PAYLOAD_RATES = (*STORAGE_RATES, *NETWORK_RATES)
_UNITS = {
    Quantity.WRITE: "b/s", Quantity.READ: "b/s", Quantity.SEND: "b/s", Quantity.RECEIVE: "b/s",
    Quantity.LINK: "b/s", Quantity.LINK_WITHOUT: "b/s",
    Quantity.SOAK_RATE: "b/s", Quantity.POWER: "W", Quantity.VOLTAGE: "V", Quantity.CURRENT: "A", Quantity.ENERGY: "J",
    Quantity.VOLTAGE_LEFT: "V",
    Quantity.LOWEST_VOLTAGE: "V", Quantity.DRAWN: "A", Quantity.DRAWN_POWER: "W", Quantity.CURRENT_LIMIT: "A",
    Quantity.RESISTANCE: "ohm", Quantity.DEPTH: "bit", Quantity.LENGTH: "m", Quantity.MASS: "kg",
    Quantity.CASE_TEMPERATURE: "C", Quantity.AMBIENT_TEMPERATURE: "C", Quantity.APPEARED: "tries",
    Quantity.WRONG_BYTES: "B", Quantity.LATENCY: "s", Quantity.LOSS: "%", Quantity.LARGEST_FRAME: "B",
    Quantity.TIME_TO_APPEAR: "s", Quantity.DROPPED_OUT: "s", Quantity.BATTERY: "%", Quantity.PROCESSOR: "%",
    Quantity.LOST_PROCESSOR: "%",
    Quantity.NOISE: "dB", Quantity.CAPACITY: "B", Quantity.TIME_TO_SWITCH: "s", Quantity.OWN_USE: "W",
    Quantity.DROP: "V", Quantity.SLOT_WIDTH: "m", Quantity.OFFERED: "W", Quantity.AGREED: "W",
    Quantity.TIME_TO_FAILURE: "s", Quantity.TIME_TO_RECOVERY: "s",
    Quantity.SOAKED: "s", Quantity.MOVED: "B", Quantity.ON_WIRE: "B",
}  # fmt: skip


_KNOWN = {str(quantity): quantity for quantity in Quantity}


def known_quantity(words: str) -> Quantity | None:
    """The quantity of these words; None for what is not in the list."""
    return _KNOWN.get(words)


@dataclass(frozen=True, eq=False)
class Trace:
    """Many values over time: seconds since the first, and the values in the reading's unit."""

    time_s: tuple[float, ...]
    values: tuple[float, ...]

    def __eq__(self, other: object) -> bool:
        """A trace is its columns, however a store keeps them."""
        return isinstance(other, Trace) and (self.time_s, self.values) == (other.time_s, other.values)

    def __hash__(self) -> int:
        return hash((self.time_s, self.values))


@dataclass(frozen=True)
class Number:
    """A number in the unit of its quantity, as often as it was taken; none where nothing was got."""

    repeats: tuple[float, ...]


@dataclass(frozen=True)
class Count:
    """How often something happened: `seen` of `tries`."""

    seen: int
    tries: int


@dataclass(frozen=True)
class Words:
    """Words, such as a display mode."""

    text: str


@dataclass(frozen=True)
class YesNo:
    """The answer to a question."""

    yes: bool


Value = Number | Count | Words | YesNo


@dataclass(frozen=True)
class Reading:
    """One value.

    `error` is the limit of the instrument's error and `resolution` its last digit, both in the unit of the quantity.
    `at` is the port or spot where it was taken. `unit` is reported for quantities that are not in the list alone.
    """

    trial: str
    quantity: Quantity | str
    at: str
    instrument: str
    """What, or who, says so: an instrument's name, the eye, memory, another screen, the host itself."""
    grade: Grade
    value: Value
    error: float = 0.0
    resolution: float = 0.0
    trace: Trace | None = None
    note: str = ""
    unit: str = ""
    end: Noted[str] = NOT_NOTED
    """Which end of a lead: near the host, or far from it."""
    hop: Noted[str] = NOT_NOTED
    direction: Noted[str] = NOT_NOTED
    behind_a: Noted[float] = NOT_NOTED
    """The current that was drawn while a voltage was read, in amperes."""
    moment: Noted[datetime] = NOT_NOTED
    evidence: tuple[str, ...] = ()
    """SHA-256 of the files that it came from."""
    typed: str = ""
    """As a person typed it, with its unit (``117 MiB/s``); empty where it was not typed."""

    def __post_init__(self) -> None:
        """Words that name a known quantity are that quantity, however they were read."""
        if (known := known_quantity(self.quantity)) is not None:
            object.__setattr__(self, "quantity", known)

    @property
    def values(self) -> tuple[float, ...]:
        """The repeats of a number; none where it is no number."""
        value = self.value
        return value.repeats if type(value) is Number else ()

    @property
    def count(self) -> Count | None:
        return self.value if isinstance(self.value, Count) else None

    @property
    def text(self) -> str | None:
        return self.value.text if isinstance(self.value, Words) else None

    @property
    def yes(self) -> bool | None:
        return self.value.yes if isinstance(self.value, YesNo) else None

    @property
    def si_unit(self) -> str:
        """The unit of its values."""
        return self.quantity.unit if isinstance(self.quantity, Quantity) else self.unit
