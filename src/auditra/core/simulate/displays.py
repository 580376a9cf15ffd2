"""The pictures of the simulated bench."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.links.display import Mode, parse_mode
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Display
from auditra.core.simulate.connections import Connections

PICTURE_COMES_UP_IN_S = 2.6


@dataclass(frozen=True)
class DisplayNode:
    """A display connector of the simulated host."""

    name: str
    display: Display | None
    mode: Mode | None


class Displays:
    """What each display shows."""

    def __init__(self, connections: Connections) -> None:
        self._connections = connections
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
        """Some display has a picture."""
        return any(node.mode is not None for node in self.nodes())

    def mode_of(self, display_id: str) -> Mode | None:
        """The mode that a display shows; None for no picture."""
        connections = self._connections
        standing, gear = connections.find(display_id), connections.rig.find(display_id)
        if standing is None or not isinstance(gear, Display):
            return None
        if display_id in self.switched_off or not connections.is_up(display_id, PICTURE_COMES_UP_IN_S):
            return None
        modes = [parse_mode(text) for text in gear.modes]
        if standing.plugged.owner != DEVICE:
            return modes[0]
        socket, largest = connections.host_socket, connections.model.display_modes.get(standing.plugged.socket)
        if socket is None or not socket.display or largest is None:
            return None
        most = parse_mode(largest).pixels_a_second
        return next((mode for mode in modes if mode.pixels_a_second <= most), None)
