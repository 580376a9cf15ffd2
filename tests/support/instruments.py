"""Something to draw from, and instruments that speak as they like, on real sockets and serial lines."""

from __future__ import annotations

import os
import socketserver
import threading
import time
import tty
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field

from auditra.bench.simulated.scpi_server import LOOPBACK
from auditra.core.errors import InstrumentError
from auditra.workflows.trials.doors import Volts, VoltsAmperes
from tests.support.benches import SteppedClock

Answers = Callable[[str], str | None]
"""What an instrument answers to a line; None for nothing. EOFError closes the line."""


class Server(socketserver.ThreadingTCPServer):
    daemon_threads, allow_reuse_address = True, True


@contextmanager
def on_socket(answers: Answers, end: str = "\n") -> Iterator[str]:
    """The address of an instrument on TCP."""

    class Talk(socketserver.StreamRequestHandler):
        disable_nagle_algorithm = True

        def handle(self) -> None:
            with suppress(EOFError, OSError):
                while line := self.rfile.readline():
                    if (reply := answers(line.decode("latin-1").strip())) is not None:
                        self.wfile.write((reply + end).encode("latin-1"))

    with Server((LOOPBACK, 0), Talk) as server:
        threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.02}, daemon=True).start()
        try:
            yield f"{LOOPBACK}:{server.server_address[1]}"
        finally:  # a server that is only closed goes on polling a dead socket for the rest of the run
            server.shutdown()


@contextmanager
def on_serial_line(answers: Answers, end: str = "\r\n") -> Iterator[str]:
    """The address of an instrument on a serial line: one end of a pseudo-terminal."""
    own, other = os.openpty()
    for each in (own, other):
        tty.setraw(each)

    def talk() -> None:
        got = b""
        with suppress(OSError):
            while piece := os.read(own, 256):
                got += piece
                while end.encode() in got:
                    line, got = got.split(end.encode(), 1)
                    if (reply := answers(line.decode("latin-1").strip())) is not None:
                        os.write(own, (reply + end).encode("latin-1"))

    thread = threading.Thread(target=talk, daemon=True)
    thread.start()
    try:
        yield os.ttyname(other)
    finally:
        os.close(other)
        thread.join(2)
        os.close(own)


@dataclass
class Source:
    """A source of so many volts behind so many ohms, and a load on it. Above its limit it sags, or cuts off and tries
    again once it has been without load for a while.
    """

    clock: SteppedClock
    open_v: float = 5.0
    ohm: float = 0.05
    limit_a: float = 100.0
    cuts_off: bool = False
    back_after_s: float | None = 1.0
    set_a: float = 0.0
    is_on: bool = False
    set_to: list[float] = field(default_factory=list)
    _off_since: float | None = None

    def draw(self, amperes: float) -> None:
        self.set_to.append(amperes)
        self.set_a = amperes

    def switch(self, on: bool) -> None:
        self.is_on = on

    def now(self) -> tuple[float, float]:
        """Volts and amperes."""
        amperes = self.set_a if self.is_on else 0.0
        if amperes > self.limit_a and not self.cuts_off:
            return 0.3 * self.open_v, self.limit_a
        if self.cuts_off and (amperes > self.limit_a or (self._off_since is not None and amperes > 0)):
            self._off_since = self.clock.now_s()
        if self._off_since is not None:
            is_back = self.back_after_s is not None and self.clock.now_s() - self._off_since >= self.back_after_s
            if not is_back:
                return 0.0, 0.0
            self._off_since = None
        return self.open_v - self.ohm * amperes, amperes


def goes_off(source: Source, within_s: float = 5.0) -> bool:
    """Whether its load is switched off soon: one that answers nothing to that does it a moment later."""
    until = time.monotonic() + within_s
    while source.is_on and time.monotonic() < until:
        time.sleep(0.01)
    return not source.is_on


@dataclass
class LoadDoor:
    """A load on a source, without a line in between; `lies` is how much of its current it really takes."""

    source: Source
    lies: float = 1.0
    highest_a: float = 12.0

    def measure(self) -> VoltsAmperes:
        volts, amperes = self.source.now()
        return VoltsAmperes(volts, amperes * self.lies)

    def volts(self) -> Volts:
        return Volts(self.source.now()[0])

    def set_current(self, amperes: float) -> None:
        self.source.draw(amperes)

    def switch(self, on: bool) -> None:
        self.source.switch(on)


@dataclass
class MeterDoor:
    """A meter in line that may stick at what it showed first, or fall silent."""

    source: Source
    sticks: bool = False
    silent_after: int = 10_000
    _first: VoltsAmperes | None = None

    def measure(self) -> VoltsAmperes:
        self.silent_after -= 1
        if self.silent_after < 0:
            raise InstrumentError("meter", where="here", why="no answer in time", do="Start the trial again")
        taken = VoltsAmperes(*self.source.now())
        self._first = self._first or taken
        return self._first if self.sticks else taken

    def volts(self) -> Volts:
        return Volts(self.measure().volts)
