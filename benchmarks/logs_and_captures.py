"""Logged tables beside a bare numeric load of the same file; CC-line captures beside a plain loop over the lines."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np

from auditra.core.decode.cc_line.biphase import bursts_of
from auditra.core.decode.cc_line.packets import packets_of
from auditra.core.decode.cc_line.waveform import read_vcd
from auditra.core.decode.power_delivery.messages import Start
from auditra.core.simulate.cc_line import Sent, as_vcd, edges_of
from auditra.core.tables.layout import LOOKED_AT_BYTES, detect_layout
from auditra.core.tables.reader import read_table
from benchmarks.pairs import take_pairs

PAIRS, ROWS, MESSAGES, PIECE = 7, 2_000_000, 3000, 1 << 18
OFFER = bytes.fromhex("61412c9101002cd102002cc10300f4410600")


def pieces(data: bytes) -> list[bytes]:
    return [data[at : at + PIECE] for at in range(0, len(data), PIECE)]


def captures() -> None:
    edges = edges_of([Sent(0.0015 * n + 0.001, Start.PORT, OFFER) for n in range(MESSAGES)])
    regular = "".join(as_vcd({"CC1": edges})).encode()
    beside = "".join(as_vcd({"CC1": edges, "CC2": [edge + 1e-7 for edge in edges[::7]]})).encode()

    def lines_a_second() -> float:
        """Time stamps and levels by a loop over the lines: what the arrays are compared with."""
        begun, now, found = time.perf_counter(), 0, []
        for line in regular.splitlines():
            if line[:1] == b"#":
                now = int(line[1:])
            elif line[:1] in b"01":
                found.append((now, line[0] - 48))
        assert len(found) >= len(edges)
        return len(edges) / (time.perf_counter() - begun)

    def edges_a_second(data: bytes) -> float:
        begun = time.perf_counter()
        assert len(read_vcd(pieces(data)).lines[0].edges_s) == len(edges)
        return len(edges) / (time.perf_counter() - begun)

    def to_packets() -> float:
        begun = time.perf_counter()
        found = list(packets_of(bursts_of(read_vcd(pieces(regular)).lines[0].edges_s)))
        assert len(found) == MESSAGES
        assert all(not packet.problems for packet in found)
        return len(edges) / (time.perf_counter() - begun)

    for name, measured, aim in (
        ("regular text to edges", lambda: edges_a_second(regular), "10,000,000 a second"),
        ("text of any layout to edges", lambda: edges_a_second(beside), "4,000,000 a second"),
        ("regular text to packets", to_packets, "8 times the loop"),
    ):
        print(take_pairs(lines_a_second, measured, PAIRS).told(name, "edges a second", aim=f"aim: {aim}"))


def tables() -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "log.csv"
        values = np.column_stack((np.arange(ROWS) / 1000, np.full(ROWS, 5.0), np.arange(ROWS) % 7 / 10))
        np.savetxt(path, values, delimiter=";", fmt="%.3f")
        data = path.read_bytes()
        layout = detect_layout(data[:LOOKED_AT_BYTES])

        def bare_rows_a_second() -> float:
            begun = time.perf_counter()
            assert len(np.loadtxt(path, delimiter=";")) == ROWS
            return ROWS / (time.perf_counter() - begun)

        def own_rows_a_second() -> float:
            begun = time.perf_counter()
            table = read_table(pieces(data), layout, (1, 2))
            assert len(table) == ROWS
            assert not table.bad_rows
            return ROWS / (time.perf_counter() - begun)

        pairs = take_pairs(bare_rows_a_second, own_rows_a_second, PAIRS)
        print(pairs.told("rows of a logged table", "a second", aim="aim: 0.65 of a bare numeric load"))


if __name__ == "__main__":
    captures()
    tables()
