"""Readings: one measured, read or seen value each, with all that decides how much it is worth."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum, StrEnum


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
    """What a reading is of; the unit is fixed by it."""

    WRITE = "write rate"
    READ = "read rate"
    SEND = "send rate"
    RECEIVE = "receive rate"
    LINK = "negotiated link"
    POWER = "power"
    MODE = "display mode"
    LENGTH = "length"
    CASE_TEMPERATURE = "case temperature"
    AMBIENT_TEMPERATURE = "ambient temperature"
    APPEARED = "appeared"
    WRONG_BYTES = "wrong bytes"

    @property
    def unit(self) -> str:
        return _UNITS[self]


_UNITS = {
    Quantity.WRITE: "b/s", Quantity.READ: "b/s", Quantity.SEND: "b/s", Quantity.RECEIVE: "b/s",
    Quantity.LINK: "b/s", Quantity.POWER: "W", Quantity.MODE: "", Quantity.LENGTH: "m",
    Quantity.CASE_TEMPERATURE: "C", Quantity.AMBIENT_TEMPERATURE: "C", Quantity.APPEARED: "tries",
    Quantity.WRONG_BYTES: "B",
}  # fmt: skip


@dataclass(frozen=True)
class Trace:
    """Many values over time: seconds since the first, and the values in the reading's unit."""

    time_s: tuple[float, ...]
    values: tuple[float, ...]


@dataclass(frozen=True)
class Count:
    """How often something happened: `seen` of `tries`."""

    seen: int
    tries: int


@dataclass(frozen=True)
class Reading:
    """One value. `values` are the repeats of a number; `count` and `text` stand for what is no number.

    `error` is the limit of the instrument's error and `resolution` its last digit, both in the unit of the quantity.
    `at` is the port or spot where it was taken.
    """

    trial: str
    quantity: Quantity
    at: str
    instrument: str
    grade: Grade
    values: tuple[float, ...] = ()
    error: float = 0.0
    resolution: float = 0.0
    text: str | None = None
    count: Count | None = None
    trace: Trace | None = None
    note: str = ""
