"""A simulated instrument that speaks SCPI: text in, text out, no socket.

IEEE 488.2-1992, 10 (common commands *IDN? *RST *CLS *OPC? *ESR? *STB?); SCPI-1999, volume 2: MEASure, SOURce:CURRent,
INPut, SYSTem:ERRor?. Keywords may be written short or long, in any case.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

NO_ERROR = '0,"No error"'
UNDEFINED_HEADER = '-113,"Undefined header"'
OUT_OF_RANGE = '-222,"Data out of range"'
NOT_NUMERIC = '-104,"Data type error"'
_COMMAND_ERROR_BIT, _EXECUTION_ERROR_BIT = 0x20, 0x10
_ERRORS_KEPT = 16


@dataclass
class SimulatedInstrument:
    """An instrument by its functions. `measure` gives volts and amperes; a meter has no `set_current`."""

    identity: str
    measure: Callable[[], tuple[float, float]]
    set_current: Callable[[float], None] | None = None
    switch: Callable[[bool], None] | None = None
    most_a: float = 12.0
    _errors: list[str] = field(default_factory=list)
    _events: int = 0
    _set_a: float = 0.0

    def answer(self, line: str) -> str | None:
        """The reply to one program message, of one unit or of several; None where none of them has a reply.

        Source: IEEE 488.2-1992, 7.3.3 (units of a message) and 8.4.1 (units of a response).
        """
        replies = [reply for unit in line.strip().split(";") if (reply := self._answer_unit(unit)) is not None]
        return ";".join(replies) if replies else None

    def _answer_unit(self, unit: str) -> str | None:
        header, _, argument = unit.strip().partition(" ")
        header = _long_form(header)
        if header in self._queries():
            return self._queries()[header]()
        command = self._commands().get(header)
        if command is None:
            self._fail(UNDEFINED_HEADER, _COMMAND_ERROR_BIT)
        else:
            command(argument.strip())
        return None

    def _queries(self) -> dict[str, Callable[[], str]]:
        return {
            "*IDN?": lambda: self.identity,
            "*OPC?": lambda: "1",
            "*ESR?": self._read_events,
            "*STB?": lambda: str(0x04 if self._errors else 0),
            "SYSTEM:ERROR?": lambda: self._errors.pop(0) if self._errors else NO_ERROR,
            "MEASURE:VOLTAGE?": lambda: f"{self.measure()[0]:.5E}",
            "MEASURE:CURRENT?": lambda: f"{self.measure()[1]:.5E}",
            "SOURCE:CURRENT?": lambda: f"{self._set_a:.5E}",
        }

    def _commands(self) -> dict[str, Callable[[str], None]]:
        return {"*RST": lambda _: self._reset(), "*CLS": lambda _: self._clear(), "*OPC": lambda _: None,
                "SOURCE:CURRENT": self._source, "INPUT": self._input}  # fmt: skip

    def _reset(self) -> None:
        if self.set_current and self.switch:
            self.set_current(0.0)
            self.switch(False)

    def _clear(self) -> None:
        self._errors.clear()
        self._events = 0

    def _read_events(self) -> str:
        events, self._events = self._events, 0
        return str(events)

    def _source(self, argument: str) -> None:
        try:
            amperes = float(argument)
        except ValueError:
            self._fail(NOT_NUMERIC, _COMMAND_ERROR_BIT)
            return
        if self.set_current is None or not 0 <= amperes <= self.most_a:
            self._fail(OUT_OF_RANGE if self.set_current else UNDEFINED_HEADER, _EXECUTION_ERROR_BIT)
        else:
            self.set_current(amperes)
            self._set_a = amperes

    def _input(self, argument: str) -> None:
        if self.switch is None or argument.upper() not in ("ON", "OFF", "1", "0"):
            self._fail(UNDEFINED_HEADER if self.switch is None else NOT_NUMERIC, _COMMAND_ERROR_BIT)
        else:
            self.switch(argument.upper() in ("ON", "1"))

    def _fail(self, error: str, bit: int) -> None:
        self._events |= bit
        if len(self._errors) < _ERRORS_KEPT:
            self._errors.append(error)


_LONG = {"MEAS": "MEASURE", "VOLT": "VOLTAGE", "CURR": "CURRENT", "SOUR": "SOURCE", "SYST": "SYSTEM", "ERR": "ERROR",
         "INP": "INPUT", "STAT": "STATE"}  # fmt: skip


def _long_form(header: str) -> str:
    """Keywords in long form and upper case. SCPI-1999, volume 1, 6.2.1."""
    query = header.endswith("?")
    words = header.removesuffix("?").lstrip(":").upper().split(":")
    return ":".join(_LONG.get(word, word) for word in words) + ("?" if query else "")
