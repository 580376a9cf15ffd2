"""A chain of parts between host and gear: the most it carries, and the part that sets it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Stage:
    """One part of the way with the most that it carries, in bits per second, and why it is no more."""

    name: str
    ceiling_bps: float
    why: str = ""


@dataclass(frozen=True)
class Chain:
    """The parts in order from the host."""

    stages: tuple[Stage, ...]

    @property
    def ceiling_bps(self) -> float:
        """The most that passes all of them."""
        return self.limiting[0].ceiling_bps

    @property
    def limiting(self) -> tuple[Stage, ...]:
        """The parts that set it: several where they are alike."""
        least = min(stage.ceiling_bps for stage in self.stages)
        return tuple(stage for stage in self.stages if stage.ceiling_bps == least)


def chain_of(stages: Sequence[Stage]) -> Chain:
    """The chain of some parts. Raises: ValueError for none."""
    if not stages:
        raise ValueError("a chain has one part at least")
    return Chain(tuple(stages))
