"""The largest packet that goes to a reflector and comes back whole: asked by packets that may not be split."""

from __future__ import annotations

import errno
import select
import socket
import time
from collections.abc import Iterator

from auditra.core.decode.network.stamp import MAX_PACKET_BYTES, PACKET_BYTES, decode_reflected, encode_sent

HEADER_BYTES = 28
"""Source: RFC 791, 3.1 (20 without options), and RFC 768 (8)."""
LEAST_BYTES = 576
"""Every host takes as much. Source: RFC 791, 3.1."""
MOST_BYTES = MAX_PACKET_BYTES + HEADER_BYTES
TRIES, ANSWERS_WITHIN_S = 3, 0.25
"""A packet is asked for again before it counts as too large: a lost one says nothing of its size."""
_IP_MTU_DISCOVER, _IP_PMTUDISC_PROBE = 10, 3
"""Never split, whatever the kernel believes of the path. Source: Linux, ip(7)."""


def never_split(made: socket.socket) -> None:
    """Raises: OSError where the system has no such option."""
    made.setsockopt(socket.IPPROTO_IP, _IP_MTU_DISCOVER, _IP_PMTUDISC_PROBE)


def largest_packet(reflector: socket.socket, most_bytes: int = MOST_BYTES) -> int | None:
    """In bytes with the IP header, by halves, over a connected UDP socket; None where not even the smallest comes back.

    Source: RFC 8899, 5.3.2 (probing by packets that are answered).
    """
    never_split(reflector)
    reflector.setblocking(False)
    numbers = iter(range(1 << 31))
    low, high = LEAST_BYTES, min(most_bytes, MOST_BYTES)
    if not _passes(reflector, low, numbers):
        return None
    if _passes(reflector, high, numbers):
        return high
    while high - low > 1:
        middle = (low + high) // 2
        if _passes(reflector, middle, numbers):
            low = middle
        else:
            high = middle
    return low


def _passes(reflector: socket.socket, packet_bytes: int, numbers: Iterator[int]) -> bool:
    for _ in range(TRIES):
        number = next(numbers)
        try:
            reflector.send(encode_sent(number, time.time(), packet_bytes - HEADER_BYTES))
        except OSError as error:
            if error.errno == errno.EMSGSIZE:
                return False
            continue
        if _comes_back(reflector, number, packet_bytes - HEADER_BYTES):
            return True
    return False


def _comes_back(reflector: socket.socket, number: int, size: int) -> bool:
    until_s = time.perf_counter() + ANSWERS_WITHIN_S
    while (wait := until_s - time.perf_counter()) > 0:
        if not select.select([reflector], [], [], wait)[0]:
            return False
        try:
            packet = reflector.recv(MAX_PACKET_BYTES)
        except OSError:
            return False
        back = decode_reflected(packet)
        if back is not None and back.number == number and len(packet) == max(size, PACKET_BYTES):
            return True
    return False
