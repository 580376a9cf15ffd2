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
    gives_v: Mapping[str, float] = field(default_factory=dict)
    """The voltage that each socket agrees to give; 5 V unless named."""
    takes_w: Mapping[str, float] = field(default_factory=dict)
    """What each inlet asks of a charger at most."""
    host_w: float = 1e3
    """The most that it passes on to the host."""
    host_w_while: Mapping[frozenset[str], float] = field(default_factory=dict)
    """The same while all of these ports give power."""
    own_use_w: float = 0.0
    payload_share: Mapping[str, float] = field(default_factory=dict)
    """The part of what the link could carry that a socket lets through; 1 unless named."""
    beside_display_share: Mapping[str, float] = field(default_factory=dict)
    """The same again while a display runs; 1 unless named."""
    shared_bps: Mapping[frozenset[str], float] = field(default_factory=dict)
    """Payload that some ports have between them, on an inner link of their own."""
    hot_share: Mapping[str, float] = field(default_factory=dict)
    """The part of its rate that a network port keeps once the case is `hot_above_k` above the room."""
    hot_above_k: float = 1e3
    misses: Mapping[str, float] = field(default_factory=dict)
    """How often what is plugged into a socket does not come up, 0 to 1."""
    corrupts: frozenset[str] = frozenset()
    """Sockets that now and then hand back a wrong byte."""
    lengths_m: Mapping[str, float] = field(default_factory=dict)
    figures: Mapping[tuple[str, str], float] = field(default_factory=dict)
    """What can be read of a spot besides, by spot and quantity, in SI."""
    lacks: frozenset[str] = frozenset()
    """Spots that are not as they are said to be, for one who looks."""
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
    "Heronshaw H6": DeviceModel(
        data_bps={"A1": 10e9, "A2": 10e9, "A3": 10e9},
        network_bps={"N1": 1e9},
        display_modes={"D1": "3840x2160@60"},
        gives_w={"A1": 4.6, "A2": 4.6, "A3": 4.6},
        takes_w={"P1": 100.0},
        host_w=76.5,
        own_use_w=7.5,
        payload_share={"A1": 0.993, "A2": 0.992, "A3": 0.71, "N1": 0.99},
        beside_display_share={"A1": 0.045, "A2": 0.045, "A3": 0.06, "N1": 0.4},
    ),
    "Brackwater BW-11": DeviceModel(
        data_bps={"C1": 10e9, "C2": 10e9, "A1": 5e9, "A2": 5e9},
        card_bps={"S1": 312e6 * 8},
        network_bps={"N1": 2.5e9},
        display_modes={"H1": "3840x2160@60"},
        gives_w={"C1": 29.0, "C2": 29.0, "A1": 4.6, "A2": 4.6},
        gives_v={"C1": 9.0, "C2": 9.0},
        takes_w={"P1": 150.0},
        host_w=68.6,
        host_w_while={frozenset({"C1", "C2"}): 45.4},
        own_use_w=9.0,
        payload_share={"C1": 0.992, "C2": 0.99, "A1": 0.986, "A2": 0.983, "S1": 0.99, "N1": 0.992},
        beside_display_share={"A1": 0.997, "A2": 0.996, "S1": 0.999, "N1": 0.999},
        shared_bps={frozenset({"S1", "A1"}): 0.93 * 4e9},
        hot_share={"N1": 0.51},
        hot_above_k=26.2,
        rise_idle_k=8.0,
        rise_busy_k=28.4,
        warms_in_s=950.0,
    ),
}
"""By the device's whole name."""
