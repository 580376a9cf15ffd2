"""How an instrument is spoken to: its queries with unit, scale, range and error, and what switches a load.

An instrument that speaks another dialect needs another description, and no other code.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from auditra.core.quantities.units import Dimension


class Measurand(StrEnum):
    """What an instrument may be asked for."""

    VOLTAGE = "voltage"
    CURRENT = "current"
    TEMPERATURE = "temperature"

    @property
    def dimension(self) -> Dimension:
        return _DIMENSIONS[self]


_DIMENSIONS = {
    Measurand.VOLTAGE: Dimension.VOLTAGE, Measurand.CURRENT: Dimension.CURRENT,
    Measurand.TEMPERATURE: Dimension.TEMPERATURE,
}  # fmt: skip


class LineEnd(StrEnum):
    """What ends a message on the line."""

    LF = "LF"
    CR = "CR"
    CR_LF = "CR LF"

    @property
    def characters(self) -> str:
        return {"LF": "\n", "CR": "\r", "CR LF": "\r\n"}[self.value]


@dataclass(frozen=True)
class ErrorLimit:
    """How far a value may be off in one range, as the maker states it: shares of the value and of the range, an offset,
    and the last digit. `up_to`, `offset` and `resolution` are in the SI unit of what is measured.
    """

    up_to: float
    percent: float = 0.0
    percent_of_range: float = 0.0
    offset: float = 0.0
    resolution: float = 0.0

    def at(self, value: float) -> float:
        """The limit of error at a value, without the last digit."""
        return abs(value) * self.percent / 100 + self.up_to * self.percent_of_range / 100 + self.offset


@dataclass(frozen=True)
class Query:
    """How one quantity is asked for, and what the answer means.

    `cell` counts from 1 where an answer has several, parted by commas. `unit` is of the number as it is answered, and
    `scale` what it is multiplied with (a divider, a shunt). Outside `lowest` to `highest`, in SI, it is no reading.
    """

    measures: Measurand
    ask: str
    lowest: float
    highest: float
    unit: str = ""
    cell: int = 1
    scale: float = 1.0
    errors: tuple[ErrorLimit, ...] = ()
    """By ranges, the smallest first."""

    def error_limit(self, value: float) -> ErrorLimit | None:
        """The statement for the range that a value is in; None where nothing was stated, or where none goes so far."""
        return next((limit for limit in self.errors if abs(value) <= limit.up_to), None)


@dataclass(frozen=True)
class LoadCommands:
    """What sets an electronic load: ``{amperes}`` or ``{milliamperes}`` stands for the current."""

    set_current: str
    on: str
    off: str
    asks_current: str = ""
    """The query for the current that it is set to, in the unit that it is set in; empty where there is none."""
    highest_a: float = 12.0

    def current(self, amperes: float) -> str:
        """The command that sets a current."""
        return self.set_current.replace("{milliamperes}", f"{amperes * 1000:.2f}").replace(
            "{amperes}", f"{amperes:.4f}"
        )

    @property
    def amperes_per_unit(self) -> float:
        return 1e-3 if "{milliamperes}" in self.set_current else 1.0


@dataclass(frozen=True)
class Description:
    """One kind of instrument."""

    name: str
    queries: tuple[Query, ...] = ()
    about: str = ""
    load: LoadCommands | None = None
    identity: str = "*IDN?"
    """What it is asked to say who it is; empty where it cannot."""
    answers: str = ""
    """What its identity has in it, whatever the case; something else at its address is then not believed."""
    clear: str = "*CLS"
    errors: str = "SYSTem:ERRor?"
    """The query for the oldest error it knows; empty where it keeps none."""
    several_in_a_message: bool = True
    """Whether a command and a query may be one message, parted by ``;:`` (IEEE 488.2, 7.3.3)."""
    begin: tuple[str, ...] = ()
    end: tuple[str, ...] = ()
    """What it is told before its line is closed, such as to listen to its own keys again."""
    timeout_s: float = 2.0
    line_end: LineEnd = LineEnd.LF
    baud: int = 9600
    """On a serial line, 8 bits without parity."""

    def query(self, measures: Measurand) -> Query | None:
        return next((each for each in self.queries if each.measures is measures), None)

    def measured(self) -> tuple[Measurand, ...]:
        return tuple(dict.fromkeys(each.measures for each in self.queries))


MAX_V, MAX_A = 60.0, 12.0
"""Nothing on a USB port goes beyond 48 V and 5 A (USB Power Delivery 3.1, 6.4.1); what is past these is no reading."""
LOWEST_C, HIGHEST_C = -60.0, 250.0
"""Nothing that is touched or used indoors is colder or hotter; broken sensors tell such values."""

COMMON, THERMOMETER = "common", "thermometer"
"""What an instrument, and a thermometer, speaks whose description was not named."""
COMMON_INSTRUMENT = Description(
    COMMON,
    (
        Query(Measurand.VOLTAGE, "MEASure:VOLTage?", -MAX_V, MAX_V),
        Query(Measurand.CURRENT, "MEASure:CURRent?", -MAX_A, MAX_A),
    ),
    about="Meters and loads that follow SCPI-1999, volume 2: MEASure, SOURce:CURRent, INPut.",
    load=LoadCommands("SOURce:CURRent {amperes}", on="INPut ON", off="INPut OFF", asks_current="SOURce:CURRent?"),
)
COMMON_THERMOMETER = Description(
    THERMOMETER,
    (Query(Measurand.TEMPERATURE, "MEASure:TEMPerature?", LOWEST_C, HIGHEST_C),),
    about="Thermometers that follow SCPI-1999, volume 2: MEASure:TEMPerature?.",
)
BUILT_IN = {each.name: each for each in (COMMON_INSTRUMENT, COMMON_THERMOMETER)}
