"""Meter and load over SCPI on a TCP socket, through PyVISA. Answers are checked before they are believed."""

from __future__ import annotations

import math
import time
from collections.abc import Callable
from contextlib import suppress
from types import TracebackType
from typing import Any, Protocol, Self
from weakref import WeakSet

from auditra.core.errors import InstrumentError
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import VoltsAmperes

TIMEOUT_S = 2.0
MAX_V, MAX_A = 60.0, 12.0
"""Nothing on a USB port goes beyond 48 V and 5 A; a reading past these is no reading."""
MAX_ANSWER_BYTES = 1024
"""Far above any answer that is asked for here; IEEE 488.2 sets no limit of its own."""
_PIECE_BYTES = 128
_NO_ERROR = "0"
_ERROR_QUERY = "SYSTem:ERRor?"
_AGAIN = "Check that it is on and its cable is in, then start the trial again"


class TrialSession(Protocol):
    """A line to an instrument, one message at a time."""

    def query(self, message: str) -> str: ...

    def write(self, message: str) -> object: ...

    def close(self) -> None: ...


class _VisaSession:
    """A PyVISA resource whose answers are bounded in length and in time.

    PyVISA itself reads until the terminator comes, however much that is.
    """

    def __init__(self, resource: Any, timeout_s: float) -> None:
        self._resource, self._timeout_s = resource, timeout_s

    def query(self, message: str) -> str:
        """The next line. Raises: TimeoutError, or a VISA error, when none comes whole and in time."""
        from pyvisa.constants import BufferOperation, StatusCode

        self._resource.flush(
            BufferOperation.discard_read_buffer_no_io
        )  # an unsolicited answer must not be taken for the next one
        self.write(message)
        deadline, answer = time.monotonic() + self._timeout_s, bytearray()
        with self._resource.ignore_warning(StatusCode.success_max_count_read):
            while not answer.endswith(b"\n"):
                if len(answer) > MAX_ANSWER_BYTES or time.monotonic() > deadline:
                    raise TimeoutError(message)
                answer += self._resource.visalib.read(self._resource.session, _PIECE_BYTES)[0]
        return answer.decode("latin-1")

    def write(self, message: str) -> None:
        self._resource.write(message)

    def close(self) -> None:
        self._resource.close()


def open_socket(name: str, host: str, port: int, timeout_s: float = TIMEOUT_S) -> TrialSession:
    """A session over TCP, through PyVISA. Raises: InstrumentError when nothing answers there."""
    import pyvisa  # slow to import, and only needed once an instrument is

    milliseconds = round(timeout_s * 1000)
    try:
        resource: Any = pyvisa.ResourceManager("@py").open_resource(
            f"TCPIP::{host}::{port}::SOCKET",
            read_termination="\n",
            write_termination="\n",
            timeout=milliseconds,
            open_timeout=milliseconds,
        )
    except Exception as error:  # each backend has errors of its own
        raise InstrumentError(name, where=f"{host}:{port}", why="it does not answer", do=_AGAIN) from error
    return _VisaSession(resource, timeout_s)


class ScpiInstrument:
    """One instrument. Raises: InstrumentError when it is silent, when it closes, or when its answer cannot be right.

    A line that failed is closed, since a late answer on it would pass for the next one; the next message opens
    another.
    """

    def __init__(self, name: str, address: str, open_session: Callable[[], TrialSession]) -> None:
        self.name, self.address = name, address
        self._open_session = open_session
        self._session: TrialSession | None = None
        self.identity = ""
        self._join()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def _join(self) -> None:
        """Open a line and make sure that an instrument with an empty list of errors is at its other end."""
        self._session = self._open_session()
        self.identity = self._ask("*IDN?")
        self._tell("*CLS")

    def close(self) -> None:
        session, self._session = self._session, None
        if session is not None:
            with suppress(Exception):  # a line that is gone already needs no closing
                session.close()

    def measure(self) -> VoltsAmperes:
        volts = self._number("MEASure:VOLTage?", MAX_V, "V")
        amperes = self._number("MEASure:CURRent?", MAX_A, "A")
        return VoltsAmperes(volts, amperes)

    def _number(self, query: str, most: float, unit: str) -> float:
        answer = self._ask(query)
        self._check_error(self._ask(_ERROR_QUERY), query)
        try:
            value = float(answer)
        except ValueError:
            raise self._refuse(query, answer, "that is no number") from None
        if not math.isfinite(value) or abs(value) > most:
            raise self._refuse(query, answer, f"that is outside ±{most:g} {unit}")
        return value

    def _command(self, command: str) -> None:
        """A command and the query for its error, as one message (IEEE 488.2, 7.3.3): sent as two, the second
        waits 40 ms for the first one's delayed acknowledgement (RFC 896, RFC 1122 4.2.3.2)."""
        self._check_error(self._ask(f"{command};:{_ERROR_QUERY}"), command)

    def _check_error(self, answer: str, after: str) -> None:
        """The instrument's own list of errors must be empty. SCPI-1999, volume 2, 21.8."""
        if answer.split(",")[0].strip().lstrip("+") != _NO_ERROR:
            raise self._refuse(after, answer, "it reports an error")

    def _ask(self, query: str) -> str:
        return self._on_line(lambda session: session.query(query), f"no answer to {query} in time").strip()

    def _tell(self, command: str) -> None:
        self._on_line(lambda session: str(session.write(command)), f"it did not take {command}")

    def _on_line(self, use: Callable[[TrialSession], str], why: str) -> str:
        if self._session is None:
            self._join()
        try:
            assert self._session is not None
            return use(self._session)
        except Exception as error:  # each backend has errors of its own
            self.close()
            raise InstrumentError(self.name, where=self.address, why=why, do=_AGAIN) from error

    def _refuse(self, query: str, answer: str, why: str) -> InstrumentError:
        return InstrumentError(
            self.name, where=self.address, why=f'it answered "{sanitize(answer, 40)}" to {query}: {why}', do=_AGAIN
        )


_JOINED: WeakSet[ScpiLoad] = WeakSet()
"""Loads that this process has switched."""


def switch_all_off() -> None:
    """Every load off, each over a line of its own: a trial on another thread may hold the other one."""
    for load in tuple(_JOINED):
        with suppress(Exception):  # the next one is switched off all the same
            load.switch_off_anew()


class ScpiLoad(ScpiInstrument):
    """An electronic load. It is off when its line is opened, and switched off before its line is closed."""

    def _join(self) -> None:
        super()._join()
        _JOINED.add(self)
        self.switch(on=False)

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        with suppress(InstrumentError):  # it may be what ended the trial
            self.switch(on=False)
        super().__exit__(kind, error, trace)

    def switch_off_anew(self) -> None:
        """Off, over another line. Raises: whatever its opening raises."""
        session = self._open_session()
        try:
            session.query(f"INPut OFF;:{_ERROR_QUERY}")
        finally:
            session.close()

    def set_current(self, amperes: float) -> None:
        self._command(f"SOURce:CURRent {amperes:.4f}")

    def switch(self, on: bool) -> None:
        self._command(f"INPut {'ON' if on else 'OFF'}")
