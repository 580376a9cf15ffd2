"""What the kernel knows of a TCP connection. Source: Linux, include/uapi/linux/tcp.h, struct tcp_info.

The structure only ever grew: an older kernel gives less, and what it does not give is None.
"""

from __future__ import annotations

import struct
from dataclasses import dataclass

_PMTU_AT, _RTT_AT, _TOTAL_RETRANS_AT, _BYTES_ACKED_AT = 60, 68, 100, 120
_US = 1e-6
SIZE = 280
"""Enough for every kernel so far."""


@dataclass(frozen=True)
class TcpInfo:
    """Of one connection, as its sender sees it. Times are seconds, sizes bytes."""

    rtt_s: float | None = None
    retransmitted_segments: int | None = None
    acknowledged_bytes: int | None = None
    path_mtu_bytes: int | None = None


def decode_tcp_info(data: bytes) -> TcpInfo:
    """Whatever is there. Never raises."""
    rtt = _u32(data, _RTT_AT)
    return TcpInfo(
        rtt_s=rtt * _US if rtt else None,
        retransmitted_segments=_u32(data, _TOTAL_RETRANS_AT),
        acknowledged_bytes=_u64(data, _BYTES_ACKED_AT),
        path_mtu_bytes=_u32(data, _PMTU_AT),
    )


def _u32(data: bytes, at: int) -> int | None:
    return int(struct.unpack_from("=I", data, at)[0]) if len(data) >= at + 4 else None


def _u64(data: bytes, at: int) -> int | None:
    return int(struct.unpack_from("=Q", data, at)[0]) if len(data) >= at + 8 else None
