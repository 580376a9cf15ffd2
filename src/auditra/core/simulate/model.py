"""What a simulated device really does: the truth that an audit has to find from readings alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from auditra.core.simulate.trait import Trait


@dataclass(frozen=True)
class DeviceModel:
    """A hub, dock, adapter or lead by port id: what it can do at best, and its traits, which say where it does less.

    Rates are bits per second, powers watts, times seconds.
    """

    is_hub: bool = True
    """The host sees a hub in it; else what is behind it hangs on the host itself."""
    upstream_bps: float = 10e9
    """The link that its plug for the host makes at most."""
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
    own_use_w: float = 0.0
    payload_share: Mapping[str, float] = field(default_factory=dict)
    """The part of what the link could carry that a socket lets through; 1 unless named."""
    lengths_m: Mapping[str, float] = field(default_factory=dict)
    figures: Mapping[tuple[str, str], float] = field(default_factory=dict)
    """What can be read of a spot besides, by spot and quantity, in SI."""
    lacks: frozenset[str] = frozenset()
    """Spots that are not as they are said to be, for one who looks."""
    rise_idle_k: float = 4.0
    rise_busy_k: float = 9.0
    warms_in_s: float = 900.0
    traits: tuple[Trait, ...] = ()
