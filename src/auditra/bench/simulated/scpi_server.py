"""Simulated instruments on real TCP sockets, on loopback alone, or in this process without one."""

from __future__ import annotations

import socketserver
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from auditra.core.simulate.scpi import SimulatedInstrument

LOOPBACK = "127.0.0.1"
MAX_LINE_LENGTH = 1024


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, instrument: SimulatedInstrument) -> None:
        self.instrument = instrument
        super().__init__((LOOPBACK, 0), _Conversation)


class _Conversation(socketserver.StreamRequestHandler):
    disable_nagle_algorithm = True

    def handle(self) -> None:
        server = self.server
        while isinstance(server, _Server) and (line := self.rfile.readline(MAX_LINE_LENGTH)):
            reply = server.instrument.answer(line.decode("ascii", "replace"))
            if reply is not None:
                self.wfile.write(reply.encode("ascii") + b"\n")


@contextmanager
def serve(instrument: SimulatedInstrument) -> Iterator[int]:
    """The port on loopback where the instrument answers, until the end of the block."""
    with _Server(instrument) as server:
        thread = threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.05}, daemon=True)
        thread.start()
        try:
            yield server.server_address[1]
        finally:
            server.shutdown()
            thread.join()


class InProcessSession:
    """A line to a simulated instrument that is only a call."""

    def __init__(self, instrument: SimulatedInstrument) -> None:
        self._instrument = instrument

    def query(self, message: str) -> str:
        reply = self._instrument.answer(message)
        if reply is None:
            raise TimeoutError(message)
        return reply

    def write(self, message: str) -> None:
        self._instrument.answer(message)

    def close(self) -> None:
        return None
