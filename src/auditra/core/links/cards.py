"""Bus classes of memory cards."""

from __future__ import annotations

_PCIE_3_LANE_BPS, _PCIE_4_LANE_BPS = 8e9 * 128 / 130, 16e9 * 128 / 130
"""A lane after its coding. Source: PCI Express Base 4.0, 4.2.2 (128b/130b)."""
BUS_BPS: dict[str, float] = {
    "default": 12.5e6 * 8,
    "high speed": 25e6 * 8,
    "UHS-I": 104e6 * 8,
    "UHS-II": 312e6 * 8,
    "UHS-III": 624e6 * 8,
    "Express": _PCIE_3_LANE_BPS,
    "Express x2": 2 * _PCIE_3_LANE_BPS,
    "Express 4": _PCIE_4_LANE_BPS,
    "Express 4 x2": 2 * _PCIE_4_LANE_BPS,
}
"""The fastest rate of each bus class, in bits per second.

Source: SD Physical Layer Simplified Spec. 9.10, 3.9 "Bus Speed Modes"; 8.1 "SD Express" (1 or 2 lanes).
"""


def bus_of_rate(rate_bps: float) -> str | None:
    """The bus class whose name stands behind a figure, such as UHS-I behind 104 MB/s; None for any other figure."""
    return next((name for name, bps in BUS_BPS.items() if bps == rate_bps), None)


def slowest_bus_for(rate_bps: float) -> str | None:
    """The slowest bus class that could carry a payload rate; None when none can."""
    return min((name for name, bps in BUS_BPS.items() if bps >= rate_bps), key=lambda name: BUS_BPS[name], default=None)
