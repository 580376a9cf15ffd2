"""What an Ethernet link carries as TCP payload."""

from __future__ import annotations

_HEADER_AND_CHECK_BYTES = 14 + 4
_PREAMBLE_BYTES = 8
_GAP_BYTES = 12
_IPV4_BYTES, _TCP_BYTES, _TIME_STAMP_BYTES = 20, 20, 12


def tcp_ceiling_bps(rate_bps: float, mtu_bytes: int = 1500, *, time_stamps: bool = True) -> float:
    """TCP payload a second over full frames, in bits per second.

    Source: IEEE 802.3-2018, 3.1.1 and 4.4.2 (frame, preamble, gap); RFC 791; RFC 9293; RFC 7323, 3.2 (time stamps).
    """
    payload = mtu_bytes - _IPV4_BYTES - _TCP_BYTES - (_TIME_STAMP_BYTES if time_stamps else 0)
    return rate_bps * payload / (mtu_bytes + _HEADER_AND_CHECK_BYTES + _PREAMBLE_BYTES + _GAP_BYTES)
