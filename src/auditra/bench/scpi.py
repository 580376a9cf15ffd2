"""Meter and load over SCPI on a TCP socket, through PyVISA. What they say is checked before it is believed."""

from __future__ import annotations

import math
from contextlib import suppress
from types import TracebackType
from typing import Any, Protocol, Self

from auditra.core.errors import InstrumentError
from auditra.core.inert import inert
from auditra.workflows.ports import VoltsAmperes

TIMEOUT_S = 2.0
MOST_V, MOST_A = 60.0, 12.0
"""Nothing on a USB port goes beyond 48 V and 5 A; a reading past these is no reading."""
_NO_ERROR = "0"
_AGAIN = "See that it is on and its cable is in, then start the trial again"


class Session(Protocol):
    """A line to an instrument, one message at a time."""

    def query(self, message: str) -> str: ...

    def write(self, message: str) -> object: ...

    def close(self) -> None: ...


def open_socket(name: str, host: str, port: int, timeout_s: float = TIMEOUT_S) -> Session:
    """A session over TCP, through PyVISA. Raises: InstrumentError when nothing answers there."""
    import pyvisa  # slow to import, and only needed once an instrument is

    milliseconds = round(timeout_s * 1000)
    try:
        session: Any = pyvisa.ResourceManager("@py").open_resource(
            f"TCPIP::{host}::{port}::SOCKET",
            read_termination="\n",
            write_termination="\n",
            timeout=milliseconds,
            open_timeout=milliseconds,
        )
    except Exception as error:  # each backend has errors of its own
        raise InstrumentError(name, where=f"{host}:{port}", why="it does not answer", do=_AGAIN) from error
    opened: Session = session
    return opened


class ScpiInstrument:
    """One instrument. Raises: InstrumentError when it is silent, when it closes, or when its answer cannot be right."""

    def __init__(self, name: str, address: str, session: Session) -> None:
        self.name, self.address = name, address
        self._session = session
        self.identity = self._ask("*IDN?")
        self._tell("*CLS")

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        with suppress(Exception):  # a line that is gone already needs no closing
            self._session.close()

    def measure(self) -> VoltsAmperes:
        volts = self._number("MEASure:VOLTage?", MOST_V, "V")
        amperes = self._number("MEASure:CURRent?", MOST_A, "A")
        return VoltsAmperes(volts, amperes)

    def _number(self, query: str, most: float, unit: str) -> float:
        said = self._ask(query)
        self._check_errors(query)
        try:
            value = float(said)
        except ValueError:
            raise self._lie(query, said, "that is no number") from None
        if not math.isfinite(value) or abs(value) > most:
            raise self._lie(query, said, f"that is outside ±{most:g} {unit}")
        return value

    def _check_errors(self, after: str) -> None:
        """The instrument's own list of errors must be empty. SCPI-1999, volume 2, 21.8."""
        said = self._ask("SYSTem:ERRor?")
        if said.split(",")[0].strip().lstrip("+") != _NO_ERROR:
            raise self._lie(after, said, "it reports an error")

    def _ask(self, query: str) -> str:
        try:
            said = self._session.query(query)
        except Exception as error:
            why = f"no answer to {query} in time"
            raise InstrumentError(self.name, where=self.address, why=why, do=_AGAIN) from error
        return said.strip()

    def _tell(self, command: str) -> None:
        try:
            self._session.write(command)
        except Exception as error:
            raise InstrumentError(self.name, where=self.address, why=f"it did not take {command}", do=_AGAIN) from error

    def _lie(self, query: str, said: str, why: str) -> InstrumentError:
        return InstrumentError(
            self.name, where=self.address, why=f'it answered "{inert(said, 40)}" to {query}: {why}', do=_AGAIN
        )


class ScpiLoad(ScpiInstrument):
    """An electronic load."""

    def set_current(self, amperes: float) -> None:
        self._tell(f"SOURce:CURRent {amperes:.4f}")
        self._check_errors("SOURce:CURRent")

    def switch(self, on: bool) -> None:
        self._tell(f"INPut {'ON' if on else 'OFF'}")
        self._check_errors("INPut")
