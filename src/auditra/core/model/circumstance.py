"""What is special about a set-up, as values that planning, judging and reporting share."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Running:
    """Another function of the device is at work: its claim, as a sentence of the claim language."""

    claim: str


@dataclass(frozen=True)
class Soaked:
    """The device had been at full load for so long before."""

    seconds: float


@dataclass(frozen=True)
class AtPort:
    """Of a group of ports, this one was tried by itself."""

    port: str


@dataclass(frozen=True)
class OnHost:
    """It was tried on this host of the rig."""

    host: str


@dataclass(frozen=True)
class Arranged:
    """A person arranged it as a claim says, such as ``without driver``: nothing else in the set-up shows it."""

    words: str


@dataclass(frozen=True)
class Flipped:
    """The plug was turned over."""


@dataclass(frozen=True)
class Replugged:
    """It was unplugged and plugged in again after a change."""


Circumstance = Running | Soaked | AtPort | OnHost | Arranged | Flipped | Replugged
Circumstances = tuple[Circumstance, ...]
"""Everything special about a set-up for a claim; empty for one that is tried alone."""
