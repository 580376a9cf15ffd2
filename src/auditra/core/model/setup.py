"""A set-up: what is plugged into what during a trial, and what else is running."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass

from auditra.core.model.circumstance import Aspect, Circumstances, Running, Soaked
from auditra.core.model.device import DEVICE
from auditra.core.model.noted import NOT_NOTED, Noted

MINUTE_S = 60.0


@dataclass(frozen=True)
class Plugged:
    """One thing in one socket.

    `owner` has the socket: a host's id, or DEVICE. `gear` is what is plugged in: a gear's id, or DEVICE for the
    device's own upstream plug. `through` names what sits in line, from the socket outwards: meters, adapters, hubs.
    """

    owner: str
    socket: str
    gear: str
    lead: str | None = None
    through: tuple[str, ...] = ()


@dataclass(frozen=True)
class Picture:
    """A display that takes part: on which port, in which mode, and whether it is on or only plugged in."""

    port: str
    gear: str
    mode: Noted[str] = NOT_NOTED
    on: Noted[bool] = NOT_NOTED


@dataclass(frozen=True)
class NetworkPath:
    """How the network was used: what lies on the way, streams at once, frame size, and whether wireless was on."""

    hops: Noted[tuple[str, ...]] = NOT_NOTED
    streams: Noted[int] = NOT_NOTED
    frame_bytes: Noted[int] = NOT_NOTED
    wireless: Noted[bool] = NOT_NOTED


@dataclass(frozen=True)
class SetUp:
    """What is plugged into what. `running` says what else is at work: functions of the device, as claims."""

    host: str
    host_socket: str
    plugged: tuple[Plugged, ...]
    running: tuple[str, ...] = ()
    soaked_s: float = 0.0
    """How long it had been at full load before the readings, in seconds."""
    arranged: tuple[str, ...] = ()
    """Conditions of a claim that a person arranges, such as ``without driver``."""
    device: str = DEVICE
    protocol: Noted[str] = NOT_NOTED
    pictures: Noted[tuple[Picture, ...]] = NOT_NOTED
    charger: Noted[str] = NOT_NOTED
    fed_at: Noted[str] = NOT_NOTED
    """The port, or the end of a lead, that is fed."""
    network: Noted[NetworkPath] = NOT_NOTED
    order: Noted[tuple[str, ...]] = NOT_NOTED
    """What was plugged in, in the order of plugging."""
    replugged: Noted[bool] = NOT_NOTED
    flipped: Noted[bool] = NOT_NOTED
    """The plug of the gear under trial was turned over."""
    host_flipped: Noted[bool] = NOT_NOTED
    """The plug at the host was turned over."""
    driver: Noted[str] = NOT_NOTED
    recorder: Noted[str] = NOT_NOTED
    """What recorded the screen or the sound meanwhile; it costs speed too."""
    file: Noted[str] = NOT_NOTED
    file_bytes: Noted[int] = NOT_NOTED
    workload: Noted[str] = NOT_NOTED
    battery_percent: Noted[float] = NOT_NOTED
    departs: tuple[Aspect, ...] = ()
    """In what it was set up otherwise than the seller intends, on purpose."""
    unpromised: bool = False
    """It departs from what the seller intends so far that what fails here breaks no promise."""
    turned: tuple[str, ...] = ()
    """Whose plugs go in turned over, by gear; DEVICE stands for the plug at the host."""

    def __hash__(self) -> int:
        """Of what mostly differs: an audit has thousands of set-ups, and each is looked up."""
        return hash((self.host, self.host_socket, self.plugged, self.running, self.soaked_s))

    @property
    def direct(self) -> bool:
        """The gear is on the host itself, without the device."""
        return all(DEVICE not in (each.owner, each.gear) for each in self.plugged)

    def circumstances(self, own: Container[str] = ()) -> Circumstances:
        """What makes this set-up special: what runs that is not a claim's own, and how long it had been at work."""
        soaked = (Soaked(self.soaked_s),) if self.soaked_s else ()
        return (*(Running(claim) for claim in self.running if claim not in own), *soaked)

    @property
    def switched_off(self) -> tuple[str, ...]:
        """The displays that are connected and switched off."""
        pictures = self.pictures if isinstance(self.pictures, tuple) else ()
        return tuple(picture.gear for picture in pictures if picture.on is False)

    @property
    def members(self) -> tuple[Plugged, ...]:
        """What is in the device's ports and takes part in measuring: neither what feeds it nor a display beside it."""
        pictures = self.pictures if isinstance(self.pictures, tuple) else ()
        others = {self.charger, *(picture.gear for picture in pictures)}
        return tuple(each for each in self.plugged if each.owner == DEVICE and each.gear not in others)

    def gear_at(self, port: str) -> str | None:
        """What is plugged into a port of the device."""
        return next((each.gear for each in self.plugged if (each.owner, each.socket) == (DEVICE, port)), None)
