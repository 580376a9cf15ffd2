"""A connection at either end: a full buffer, what the kernel counts, how long is waited, and cutting it off."""

from __future__ import annotations

import mmap
import os
import socket
import struct
import time
from contextlib import suppress
from typing import Any

from auditra.bench.network.handshake import MAC_BYTES, MAX_MESSAGE_BYTES, Sealed
from auditra.core.decode.network.tcp_info import SIZE, TcpInfo, decode_tcp_info

BUFFER_BYTES = 1 << 19
"""Source of the size: measured. With less, one stream is slower; with more, several fall out of the cache."""
IDLE_S = 60.0
ANSWER_WITHIN_S = 2.0
CONGESTION_CONTROL = b"cubic"
"""Asked for at both ends, so that rates compare, and named as what is really used. Source: RFC 9438."""


def filled_buffer(size: int = BUFFER_BYTES) -> mmap.mmap:
    """Random bytes: an untouched buffer reads one shared page of zeros, which flatters whoever sends it."""
    buffer = mmap.mmap(-1, size)
    buffer.write(os.urandom(size))
    return buffer


def make_ready(connection: socket.socket, idle_s: float = IDLE_S) -> None:
    """Calls move all they can and give up after so long without a byte: the kernel waits, which is the fastest."""
    connection.setblocking(True)
    wait = struct.pack("ll", int(idle_s), int(idle_s % 1 * 1e6))
    for option in (socket.SO_RCVTIMEO, socket.SO_SNDTIMEO):
        connection.setsockopt(socket.SOL_SOCKET, option, wait)
    with suppress(OSError):
        connection.setsockopt(socket.IPPROTO_TCP, socket.TCP_CONGESTION, CONGESTION_CONTROL)


def congestion_control_of(connection: socket.socket) -> str:
    try:
        name = connection.getsockopt(socket.IPPROTO_TCP, socket.TCP_CONGESTION, 16)
    except OSError:
        return ""
    return name.rstrip(b"\0").decode("ascii", "replace")


def info_of(connection: socket.socket) -> TcpInfo:
    """All None where the connection is gone."""
    try:
        return decode_tcp_info(connection.getsockopt(socket.IPPROTO_TCP, socket.TCP_INFO, SIZE))
    except OSError:
        return TcpInfo()


def cut(connection: socket.socket) -> None:
    """End it, even while another thread waits on it: closing alone would leave that thread waiting."""
    with suppress(OSError):
        connection.shutdown(socket.SHUT_RDWR)
    connection.close()


def receive_exactly(connection: socket.socket, count: int, *, within_s: float) -> bytes:
    """So many bytes, or those before the end; a drop at a time does not prolong it. Raises: OSError."""
    deadline, data = time.monotonic() + within_s, b""
    while len(data) < count:
        left = deadline - time.monotonic()
        if left <= 0:
            raise TimeoutError
        connection.settimeout(left)
        piece = connection.recv(count - len(data))
        if not piece:
            break
        data += piece
    return data


def receive_message(connection: socket.socket, heard: Sealed, *, within_s: float = IDLE_S) -> dict[str, Any] | None:
    """The next message of a control session; None at its end, or for one that is not proved. Raises: OSError."""
    length = int.from_bytes(receive_exactly(connection, 4, within_s=within_s), "big")
    if not 0 < length <= MAX_MESSAGE_BYTES:
        return None
    body = receive_exactly(connection, length, within_s=ANSWER_WITHIN_S)
    told = receive_exactly(connection, MAC_BYTES, within_s=ANSWER_WITHIN_S)
    return heard.unpack(body, told)
