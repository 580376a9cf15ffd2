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


Circumstance = Running | Soaked | AtPort
Circumstances = tuple[Circumstance, ...]
"""Everything special about a set-up for a claim; empty for one that is tried alone."""
