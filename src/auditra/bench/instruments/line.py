"""Lines to instruments, through PyVISA: a TCP socket, VXI-11, USBTMC, a serial port.

What is read from them is bounded in length and in time.
"""

from __future__ import annotations

import re
import time
from collections.abc import Callable
from contextlib import suppress
from typing import Any, Protocol

from auditra.bench.address import host_and_port
from auditra.core.errors import InstrumentError
from auditra.core.instruments.description import COMMON_INSTRUMENT, Description
from auditra.core.sanitize import sanitize

MAX_ANSWER_BYTES = 1024
"""Far above any answer that is asked for here; IEEE 488.2 sets no limit of its own."""
AGAIN = "Check that it is on and its cable is in, then start the trial again"
_PORT = r"/dev/(?:tty\w{1,30}|pts/\d{1,6}|serial/by-(?:id|path)/[\w.:+-]{1,120})"
"""A serial port, and no other file."""
_RESOURCE = re.compile(
    r"(?:TCPIP\d{0,2}::[\w.-]{1,120}::(?:\d{1,5}::SOCKET|(?:[\w,-]{1,40}::)?INSTR)"
    r"|USB\d{0,2}::[0-9A-Za-z:._-]{3,120}::INSTR"
    rf"|ASRL{_PORT}::INSTR)"
)
"""Names of resources as VISA has them (IVI VPP-4.3, 4.3.1.1), of lines that instruments are on."""


class Line(Protocol):
    """A line to an instrument, one message at a time."""

    def query(self, message: str) -> str: ...

    def write(self, message: str) -> object: ...

    def close(self) -> None: ...


OpenLine = Callable[[], Line]


def resource_name(name: str, address: str) -> str:
    """What VISA calls the line: ``host:port``, ``/dev/ttyUSB0``, or the name of a resource itself.

    Raises: InstrumentError for an address that cannot be one.
    """
    if _RESOURCE.fullmatch(address) and ".." not in address:
        return address
    if re.fullmatch(_PORT, address) and ".." not in address:
        return f"ASRL{address}::INSTR"
    found = host_and_port(address)
    if found is None or not re.fullmatch(r"[\w.-]{1,120}", found[0]):
        why = f'its address "{sanitize(address, 60)}" is not host:port, a serial port, or the name of a VISA resource'
        raise InstrumentError(name, why=why, do="Correct it in the rig file; an IPv6 address needs a host name")
    return f"TCPIP::{found[0]}::{found[1]}::SOCKET"


def open_line(name: str, address: str, description: Description = COMMON_INSTRUMENT) -> Line:
    """Raises: InstrumentError where the address cannot be one, or nothing answers there."""
    import pyvisa  # slow to import, and only needed once an instrument is

    resource, end = resource_name(name, address), description.line_end.characters
    milliseconds = round(description.timeout_s * 1000)
    serial: dict[str, Any] = {"baud_rate": description.baud} if resource.startswith("ASRL") else {}
    try:
        opened: Any = pyvisa.ResourceManager("@py").open_resource(
            resource, read_termination=end, write_termination=end, timeout=milliseconds, open_timeout=milliseconds,
            **serial,
        )  # fmt: skip
    except Exception as error:  # each backend has errors of its own
        raise InstrumentError(name, where=address, why="it does not answer", do=AGAIN) from error
    return _VisaLine(opened, description.timeout_s, end, is_serial=bool(serial))


class _VisaLine:
    """A PyVISA resource. PyVISA itself reads until the terminator comes, however much that is."""

    def __init__(self, resource: Any, timeout_s: float, end: str, *, is_serial: bool = False) -> None:
        self._resource, self._timeout_s, self._end = resource, timeout_s, end.encode("ascii")
        self._is_serial = is_serial

    def query(self, message: str) -> str:
        """The next line. Raises: TimeoutError, or a VISA error, when none comes whole and in time."""
        from pyvisa.constants import BufferOperation, StatusCode

        # an unsolicited answer must not be taken for the next one; on a socket the thorough way takes 0.1 s
        away = BufferOperation.discard_read_buffer if self._is_serial else BufferOperation.discard_read_buffer_no_io
        with suppress(Exception):  # not every kind of line can; there an answer belongs to its question
            self._resource.flush(away)
        self.write(message)
        deadline, answer = time.monotonic() + self._timeout_s, bytearray()
        with self._resource.ignore_warning(StatusCode.success_max_count_read):
            while True:
                piece, status = self._resource.visalib.read(self._resource.session, MAX_ANSWER_BYTES + 1)
                answer += piece
                if answer.endswith(self._end) or (answer and status == StatusCode.success):
                    return answer.decode("latin-1")
                if len(answer) > MAX_ANSWER_BYTES or time.monotonic() > deadline:
                    raise TimeoutError(message)

    def write(self, message: str) -> None:
        self._resource.write(message)

    def close(self) -> None:
        self._resource.close()
