"""What is special about a set-up, as values that planning, judging and reporting share."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass
from enum import StrEnum


class Aspect(StrEnum):
    """In what two trials can differ: everything about a set-up that could matter. The words are for people."""

    PROCEDURE = "procedure"
    HOST = "host"
    HOST_SOCKET = "host socket"
    DRIVER = "driver"
    HOST_LEAD = "lead to the host"
    PORT = "port"
    GEAR = "gear"
    DRIVE = "drive"
    LEAD = "lead"
    ADAPTERS = "adapters in line"
    SUPPLY = "supply"
    BATTERY = "battery"
    RUNNING = "also in use"
    IDLE = "connected and idle"
    ORDER = "order of connecting"
    REPLUGGED = "reconnected"
    SIDE = "plug side"
    HOST_SIDE = "side of the host plug"
    SOAK = "time at full load"
    RECORDER = "recorder"
    WORKLOAD = "tool"
    PROTOCOL = "protocol"
    FILE = "file"
    FILE_SIZE = "file size"
    STREAMS = "streams"
    FRAME = "frame size"
    HOPS = "network hops"
    WIRELESS = "wireless"
    ARRANGED = "arranged"
    EVENTS = "events"


@dataclass(frozen=True)
class Running:
    """Another function of the device is at work: its claim, as a sentence of the claim language."""

    claim: str
    aspect = Aspect.RUNNING


@dataclass(frozen=True)
class Soaked:
    """The device had been at full load for so long before."""

    seconds: float
    aspect = Aspect.SOAK


@dataclass(frozen=True)
class AtPort:
    """Of a group of ports, this one was tried by itself."""

    port: str
    aspect = Aspect.PORT


@dataclass(frozen=True)
class Through:
    """It went through this device of the kit; without it, it was direct."""

    device: str
    aspect = Aspect.PORT


@dataclass(frozen=True)
class OnHost:
    """It was tried on this host of the rig."""

    host: str
    aspect = Aspect.HOST


@dataclass(frozen=True)
class Arranged:
    """A person arranged it as a claim says, such as ``without driver``: nothing else in the set-up shows it."""

    words: str
    aspect = Aspect.ARRANGED


@dataclass(frozen=True)
class Flipped:
    """The plug was turned over."""

    aspect = Aspect.SIDE


@dataclass(frozen=True)
class Replugged:
    """It was unplugged and plugged in again after a change."""

    aspect = Aspect.REPLUGGED


@dataclass(frozen=True)
class Connected:
    """Something is in another port, whether it is in use or not."""

    port: str
    aspect = Aspect.IDLE


@dataclass(frozen=True)
class Either:
    """Any of these by itself."""

    things: tuple[Circumstance, ...]
    aspect = Aspect.RUNNING


@dataclass(frozen=True)
class Under:
    """Anything else that was noted: its aspect and its value, None where there was known to be none."""

    aspect: Aspect
    value: Hashable


Circumstance = (
    Running | Soaked | AtPort | Through | OnHost | Arranged | Flipped | Replugged | Connected | Either | Under
)
Circumstances = tuple[Circumstance, ...]
"""Everything special about a set-up for a claim; empty for one that is tried alone."""
