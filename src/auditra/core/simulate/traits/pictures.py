"""What becomes of pictures: descriptions that lose something, options that are lost beside another output, one that
wins."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from auditra.core.links.display import Mode
from auditra.core.links.timings import cta_timing, reduced_blanking_2_timing
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Quantity
from auditra.core.simulate.connections import Standing
from auditra.core.simulate.trait import Asked, Scene, Trait


@dataclass(frozen=True)
class ThinsDescription(Trait):
    """The host is handed a display description without some options, and without more than 8 bits a sample."""

    socket: str
    without: frozenset[str] = frozenset()
    depth_bits: float = 8.0

    def figure(self, scene: Scene, spot: str, quantity: str) -> float | None:
        return self.depth_bits if (spot, quantity) == (self.socket, Quantity.DEPTH) else None

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        return asked.spot != self.socket or asked.about not in self.without


@dataclass(frozen=True)
class LosesOptionBeside(Trait):
    """An option of an output is lost while there is a display at another one, on or off."""

    socket: str
    option: str
    other: str

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        return asked != Asked(self.socket, self.option) or scene.connections.gear_at(self.other) is None


@dataclass(frozen=True)
class LimitsModeBeside(Trait):
    """An output shows less while a picture runs at another one: they share the lanes."""

    socket: str
    other: str
    most_pixels_a_second: float

    def shows(self, scene: Scene, at: Standing, mode: Mode) -> bool:
        small_enough = mode.pixels_a_second <= self.most_pixels_a_second
        return at.plugged.socket != self.socket or small_enough or scene.connections.gear_at(self.other) is None


@dataclass(frozen=True)
class OfOlderVersion(Trait):
    """An HDMI output sends no more pixels a second than a version of its standard does, in full colour of 8 bits.

    Source: HDMI 1.4b, 4.2.1 (340 million characters a second on each channel).
    """

    socket: str
    most_characters_a_second: float = 340e6

    def sends(self, mode: Mode) -> bool:
        """Whether the version carries a mode."""
        timing = cta_timing(mode) or reduced_blanking_2_timing(mode)
        return timing.pixel_clock_hz <= self.most_characters_a_second

    def shows(self, scene: Scene, at: Standing, mode: Mode) -> bool:
        return at.plugged.socket != self.socket or self.sends(mode)


@dataclass(frozen=True)
class BlanksWhenPlugged(Trait):
    """An output is dark for a moment whenever something is plugged into another socket or pulled from it."""

    socket: str
    lasts_s: float

    def shows(self, scene: Scene, at: Standing, mode: Mode) -> bool:
        connections = scene.connections
        moved = (moment for (owner, socket), moment in connections.moved_s.items()
                 if owner == DEVICE and socket != at.plugged.socket and moment > at.since_s)  # fmt: skip
        return at.plugged.socket != self.socket or all(connections.now_s - moment >= self.lasts_s for moment in moved)


@dataclass(frozen=True)
class ForgetsArrangement(Trait):
    """Connected again, a host does not know the displays behind it again."""

    hosts: frozenset[str]

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        here = scene.connections.find(DEVICE)
        forgets = here is not None and here.plugged.owner in self.hosts
        return not forgets or asked.about != Quantity.ARRANGEMENT


class Winner(Enum):
    """Which of several displays has the picture."""

    FIRST = "first"
    LAST = "last"


@dataclass(frozen=True)
class OneWins(Trait):
    """Of the displays at some outputs, one has a picture: the first that was connected, or the last."""

    sockets: frozenset[str]
    winner: Winner

    def shows(self, scene: Scene, at: Standing, mode: Mode) -> bool:
        if at.plugged.socket not in self.sockets:
            return True
        rivals = [each for each in scene.connections.pictures if each.plugged.socket in self.sockets]
        since = [each.since_s for each in rivals]
        return at.since_s == (min(since) if self.winner is Winner.FIRST else max(since))

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        return asked.about != "at once"
