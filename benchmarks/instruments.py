"""Readings of an instrument over a socket, beside a bare socket that asks the same and believes every answer."""

from __future__ import annotations

import socket
import time

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.line import open_line
from auditra.bench.simulated.scpi_server import LOOPBACK, serve
from auditra.core.simulate.scpi import SimulatedInstrument
from benchmarks.pairs import take_pairs

PAIRS, READINGS = 7, 500
QUERIES = ("MEASure:VOLTage?", "SYSTem:ERRor?", "MEASure:CURRent?", "SYSTem:ERRor?")
"""What one reading of volts and amperes asks."""


def main() -> None:
    simulated = SimulatedInstrument("Lantern Works,METER,0,1.0", lambda: (5.01, 1.25))
    with serve(simulated) as port, LiveInstrument(
        "meter", LOOPBACK, lambda: open_line("meter", f"{LOOPBACK}:{port}")
    ) as meter, socket.create_connection((LOOPBACK, port)) as bare:  # fmt: skip
        bare.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)

        def ours() -> float:
            begun = time.perf_counter()
            for _ in range(READINGS):
                meter.measure()
            return (time.perf_counter() - begun) / READINGS

        def reference() -> float:
            begun = time.perf_counter()
            for _ in range(READINGS):
                for query in QUERIES:
                    bare.sendall(query.encode() + b"\n")
                    float(bare.recv(256).split(b",")[0])
            return (time.perf_counter() - begun) / READINGS

        print(take_pairs(reference, ours, PAIRS).told("one reading of volts and amperes", "ms", 1e3))


if __name__ == "__main__":
    main()
