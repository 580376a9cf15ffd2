"""What a simulated device really does: the truth that an audit has to find from readings alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class DeviceModel:
    """A hub, dock or adapter by port id. Rates are bits per second, powers watts, times seconds."""

    data_bps: Mapping[str, float] = field(default_factory=dict)
    """The USB link that each socket makes at most; a socket that is not named does no data."""
    card_bps: Mapping[str, float] = field(default_factory=dict)
    network_bps: Mapping[str, float] = field(default_factory=dict)
    display_modes: Mapping[str, str] = field(default_factory=dict)
    """The largest mode of each display output; what it can do with as many pixels a second, it can do too."""
    gives_w: Mapping[str, float] = field(default_factory=dict)
    takes_w: Mapping[str, float] = field(default_factory=dict)
    """What each inlet asks of a charger at most."""
    own_use_w: float = 0.0
    payload_share: Mapping[str, float] = field(default_factory=dict)
    """The part of what the link could carry that a socket lets through; 1 unless named."""
    beside_display_share: Mapping[str, float] = field(default_factory=dict)
    """The same again while a display runs; 1 unless named."""
    misses: Mapping[str, float] = field(default_factory=dict)
    """How often what is plugged into a socket does not come up, 0 to 1."""
    corrupts: frozenset[str] = frozenset()
    """Sockets that now and then hand back a wrong byte."""
    lengths_m: Mapping[str, float] = field(default_factory=dict)
    rise_idle_k: float = 4.0
    rise_busy_k: float = 9.0
    warms_in_s: float = 900.0


MODELS: dict[str, DeviceModel] = {
    "Osierpell OP-6": DeviceModel(
        data_bps={"A1": 5e9, "A2": 5e9},
        card_bps={"S1": 104e6 * 8},
        network_bps={"N1": 1e9},
        display_modes={"H1": "3840x2160@30"},
        gives_w={"A1": 4.6, "A2": 4.6},
        takes_w={"P1": 96.0},
        own_use_w=11.0,
        payload_share={"A1": 0.985, "A2": 0.982, "S1": 0.987, "N1": 0.99},
        beside_display_share={"A1": 0.996, "A2": 0.995, "S1": 0.999, "N1": 0.999},
        lengths_m={"UP": 0.151},
    ),
}
"""By the device's whole name."""
