"""Between which voltages a USB supply must be, and when it counts as gone."""

from __future__ import annotations

from dataclasses import dataclass

SOUND_V = 4.75
"""The least at a port that gives a whole unit of high power. Source: USB 2.0, 7.2.2 (4.75 to 5.25 V)."""
TOO_LOW_V = 4.40
"""Below this no port may give, whatever feeds it. Source: USB 2.0, 7.2.2 (bus-powered hubs, 4.40 V)."""
DEFAULT_V, DEFAULT_HIGHEST_V = 5.0, 5.5
"""Without a contract. Source: USB Power Delivery R3.1, table 7-16 (vSafe5V, 4.75 to 5.5 V)."""
CONTRACT_TOLERANCE = 0.05
"""Of an agreed fixed voltage. Source: USB Power Delivery R3.1, table 7-11 (vSrcNew, 95 to 105 %)."""
GONE_V, GONE_WITHIN_S = 0.8, 0.65
"""After removal. Source: USB Power Delivery R3.1, tables 7-11 and 7-12 (vSafe0V, tSafe0V)."""


def highest_v(agreed_v: float) -> float:
    """The most that may stand at a port with this contract, in volts."""
    return DEFAULT_HIGHEST_V if agreed_v <= DEFAULT_V else agreed_v * (1 + CONTRACT_TOLERANCE)


@dataclass(frozen=True)
class PortVolts:
    """Between which volts a port must feed, and where that is written."""

    least_v: float
    most_v: float
    source: str

    def holds(self, volts: float) -> bool:
        return self.least_v <= volts <= self.most_v


def port_volts(*, bus_powered: bool = False) -> PortVolts:
    """What a port feeds without a contract: one that gives 500 mA or more, or one of a hub that its host feeds.

    Source: USB 2.0, 7.2.2; the highest since the change of 2014 (USB 2.0 VBUS Max Limit), 5.25 V before it.
    """
    least = TOO_LOW_V if bus_powered else SOUND_V
    return PortVolts(least, DEFAULT_HIGHEST_V, "USB 2.0, 7.2.2")
