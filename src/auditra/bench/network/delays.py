"""Round trips and losses, asked of a reflector of RFC 8762; any such reflector serves."""

from __future__ import annotations

import select
import socket
import statistics
import time
from contextlib import suppress
from dataclasses import dataclass

from auditra.core.decode.network.stamp import MAX_PACKET_BYTES, decode_reflected, encode_sent

PACKETS, APART_S, LATE_S = 100, 0.01, 1.0
"""A packet that is not back a second after the last was sent is lost."""


@dataclass(frozen=True)
class Delays:
    """Of `sent` packets: the round trips of those that came back, in seconds, without the time the reflector took."""

    sent: int
    round_trips_s: tuple[float, ...]

    @property
    def loss_percent(self) -> float:
        return 100 * (1 - len(self.round_trips_s) / self.sent)

    @property
    def median_s(self) -> float | None:
        return statistics.median(self.round_trips_s) if self.round_trips_s else None


def ask_delays(reflector: socket.socket, packets: int = PACKETS, apart_s: float = APART_S) -> Delays:
    """Over a connected UDP socket. What is answered twice counts once, and what was never asked counts nothing."""
    reflector.setblocking(False)
    left_at: dict[int, float] = {}
    trips: dict[int, float] = {}
    for number in range(packets):
        left_at[number] = time.perf_counter()
        with suppress(OSError):  # a full queue, or a refusal for the packet before: this one is lost
            reflector.send(encode_sent(number, time.time()))
        _hear(reflector, left_at, trips, until_s=left_at[number] + apart_s)
    until_s = time.perf_counter() + LATE_S
    while len(trips) < packets and time.perf_counter() < until_s:
        _hear(reflector, left_at, trips, until_s=min(until_s, time.perf_counter() + apart_s))
    return Delays(packets, tuple(trips.values()))


def _hear(reflector: socket.socket, left_at: dict[int, float], trips: dict[int, float], *, until_s: float) -> None:
    while (wait := until_s - time.perf_counter()) > 0:
        if not select.select([reflector], [], [], wait)[0]:
            return
        try:
            packet = reflector.recv(MAX_PACKET_BYTES)
        except OSError:
            time.sleep(max(0.0, until_s - time.perf_counter()))
            return
        back = decode_reflected(packet)
        if back is not None and back.number in left_at and back.number not in trips:
            took = time.perf_counter() - left_at[back.number]
            held = back.returned_s - back.received_s
            trips[back.number] = took - held if 0 <= held <= took else took
