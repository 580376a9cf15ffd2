"""What an Ethernet link carries as TCP payload, how long its frames are, and which cable it takes."""

from __future__ import annotations

from dataclasses import dataclass

RATES_BPS = (10e6, 100e6, 1e9, 2.5e9, 5e9, 10e9)
HEADER_AND_CHECK_BYTES = 14 + 4
VLAN_TAG_BYTES = 4
_PREAMBLE_BYTES = 8
_GAP_BYTES = 12
_IPV4_BYTES, _IPV6_BYTES, _TCP_BYTES, _TIME_STAMP_BYTES = 20, 40, 20, 12


def tcp_ceiling_bps(
    rate_bps: float, mtu_bytes: int = 1500, *, time_stamps: bool = True, ipv6: bool = False, vlan: bool = False
) -> float:
    """TCP payload a second over full frames, in bits per second.

    Source: IEEE 802.3-2018, 3.1.1 and 4.4.2 (frame, preamble, gap); IEEE 802.1Q-2018, 9.3 (tag); RFC 791; RFC 8200, 3;
    RFC 9293; RFC 7323, 3.2 (time stamps). Raises: ValueError for frames that hold no payload.
    """
    packet = (_IPV6_BYTES if ipv6 else _IPV4_BYTES) + _TCP_BYTES + (_TIME_STAMP_BYTES if time_stamps else 0)
    if mtu_bytes <= packet:
        raise ValueError(f"frames of {mtu_bytes} B hold no payload")
    on_the_wire = frame_bytes(mtu_bytes, vlan=vlan) + _PREAMBLE_BYTES + _GAP_BYTES
    return rate_bps * (mtu_bytes - packet) / on_the_wire


def slowest_rate_bps(payload_bps: float) -> float | None:
    """The slowest Ethernet that such a TCP payload can have come over; None where none over copper is fast enough."""
    return next((rate for rate in RATES_BPS if tcp_ceiling_bps(rate) >= payload_bps), None)


def frame_bytes(mtu_bytes: int, *, vlan: bool = False) -> int:
    """The frame around a packet of that size, header and check included: 1,518 B around 1,500 B.

    Source: IEEE 802.3-2018, 3.1.1; IEEE 802.1Q-2018, 9.3.
    """
    return mtu_bytes + HEADER_AND_CHECK_BYTES + (VLAN_TAG_BYTES if vlan else 0)


_REACH_M: dict[str, dict[float, float]] = {
    "3": {10e6: 100.0},
    "5": {10e6: 100.0, 100e6: 100.0, 1e9: 100.0},
    "5e": {10e6: 100.0, 100e6: 100.0, 1e9: 100.0, 2.5e9: 100.0, 5e9: 100.0},
    "6": {10e6: 100.0, 100e6: 100.0, 1e9: 100.0, 2.5e9: 100.0, 5e9: 100.0, 10e9: 55.0},
    "6A": dict.fromkeys(RATES_BPS, 100.0),
    "7": dict.fromkeys(RATES_BPS, 100.0),
    "7A": dict.fromkeys(RATES_BPS, 100.0),
    "8": dict.fromkeys(RATES_BPS, 100.0) | {25e9: 30.0, 40e9: 30.0},
}
"""How far each rate goes over each category of cable, in metres.

Source: IEEE 802.3-2018, 14 (10BASE-T), 25 (100BASE-TX), 40.7 (1000BASE-T), 55.7 (10GBASE-T: 55 m over category 6),
113 (25G, 40GBASE-T); IEEE 802.3bz-2016, 126.7 (2.5G and 5GBASE-T: 100 m over category 5e).
"""
CATEGORIES = tuple(_REACH_M)


@dataclass(frozen=True)
class CableAnswer:
    """Whether a cable will do by the standard, and why."""

    will_do: bool
    why: str


def cable_for(category: str, length_m: float, rate_bps: float) -> CableAnswer:
    """Whether the standard lets a rate run over so much cable. Raises: KeyError for an unknown category."""
    reach_m = _REACH_M[category].get(rate_bps)
    rate = f"{rate_bps / 1e9:g} Gb/s" if rate_bps >= 1e9 else f"{rate_bps / 1e6:g} Mb/s"
    if reach_m is None:
        return CableAnswer(False, f"no standard runs {rate} over category {category}")
    verb = "is within" if length_m <= reach_m else "is beyond"
    why = f"{length_m:g} m {verb} the {reach_m:g} m that {rate} may go over category {category}"
    return CableAnswer(length_m <= reach_m, why)


def fastest_over(category: str, length_m: float) -> float:
    """The fastest rate that may run so far over a category, in bits per second; 0 where none may.

    Raises: KeyError for an unknown category.
    """
    return max((rate for rate, reach_m in _REACH_M[category].items() if length_m <= reach_m), default=0.0)


TWO_PAIRS_BPS = 100e6
"""The most over two pairs of wires. Source: IEEE 802.3-2018, 25 (100BASE-TX); 40 (1000BASE-T) takes four."""


def least_category(length_m: float, rate_bps: float) -> str | None:
    """The lowest category over which a rate may run so far; None where none does."""
    return next((name for name in CATEGORIES if _REACH_M[name].get(rate_bps, 0.0) >= length_m), None)
