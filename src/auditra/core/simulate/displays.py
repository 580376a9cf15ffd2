"""The pictures of the simulated bench."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.timings import cta_timing, reduced_blanking_2_timing
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Display, HostSocket
from auditra.core.simulate.connections import Standing
from auditra.core.simulate.trait import Scene

PICTURE_COMES_UP_IN_S = 2.6


@dataclass(frozen=True)
class DisplayNode:
    """A display connector of the simulated host."""

    name: str
    display: Display | None
    mode: Mode | None


class Displays:
    """What each display shows."""

    def __init__(self, scene: Scene) -> None:
        self._scene, self._connections = scene, scene.connections
        self.switched_off: set[str] = set()

    def switch(self, display_id: str, *, on: bool) -> None:
        """A display switched off stays connected, and has no picture."""
        self.switched_off.discard(display_id) if on else self.switched_off.add(display_id)
        self._connections.note_change()

    def nodes(self) -> Iterator[DisplayNode]:
        """The host's connectors with a display on them."""
        for standing in self._connections.standing:
            gear = self._connections.rig.find(standing.plugged.gear)
            if isinstance(gear, Display):
                yield DisplayNode(f"card0-DP-{self._connections.place(standing)}", gear, self.mode_of(gear.id))

    @property
    def are_running(self) -> bool:
        """Some display has a picture through the device."""
        return self.most_pixels_a_second > 0

    @property
    def most_pixels_a_second(self) -> float:
        """Of the largest mode that runs through the device; 0 for none."""
        modes = (self.mode_of(each.plugged.gear) for each in self._connections.pictures)
        return max((mode.pixels_a_second for mode in modes if mode is not None), default=0.0)

    def runs_at(self, socket: str) -> bool:
        """Whether a display at this socket of the device has a picture."""
        gear = self._connections.gear_at(socket)
        return gear is not None and self.mode_of(gear) is not None

    def mode_of(self, display_id: str) -> Mode | None:
        """The mode that a display shows; None for no picture."""
        connections = self._connections
        standing, gear = connections.find(display_id), connections.rig.find(display_id)
        if standing is None or not isinstance(gear, Display):
            return None
        if display_id in self.switched_off or not connections.is_up(display_id, PICTURE_COMES_UP_IN_S):
            return None
        modes = [parse_mode(text) for text in gear.modes]
        lead_bps = connections.lead_bps(standing.plugged)
        modes = [mode for mode in modes if lead_bps is None or needs_bps(mode) <= lead_bps]
        direct = standing.plugged.owner != DEVICE
        socket = connections.socket_of(standing.plugged) if direct else connections.host_socket
        if socket is None or not socket.display:
            return None
        most = _most_sent(socket)
        sent = (mode for mode in modes if mode.pixels_a_second <= most)
        return next((mode for mode in sent if direct or self._passes(standing, mode)), None)

    def _passes(self, standing: Standing, mode: Mode) -> bool:
        """Whether the device hands a display this mode."""
        model = self._connections.model
        largest = model.display_modes.get(standing.plugged.socket)
        if largest is None or mode.pixels_a_second > parse_mode(largest).pixels_a_second:
            return False
        return all(trait.shows(self._scene, standing, mode) for trait in model.traits)


def _most_sent(socket: HostSocket) -> float:
    """Pixels a second of the largest mode that a host's socket sends."""
    modes = socket.modes if isinstance(socket.modes, tuple) else ()
    return max((parse_mode(mode).pixels_a_second for mode in modes), default=math.inf)


def needs_bps(mode: Mode) -> float:
    """What a mode takes of a lead as it is sent plainly, with 8 bits a sample, ten on the wire for eight.

    Source: HDMI 1.4b, 5.4.2; timings as in core/links/timings.py.
    """
    timing = cta_timing(mode) or reduced_blanking_2_timing(mode)
    return timing.bit_rate_bps(24) * 10 / 8
