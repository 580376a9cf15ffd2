"""A part of the rig that every failing try has and no good one: a lead, an adapter, a host, its socket, a drive."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause
from auditra.core.judge.reasoning.explained import Explained, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect, Circumstances

_PARTS = frozenset({Aspect.LEAD, Aspect.ADAPTERS, Aspect.HOST, Aspect.HOST_SOCKET, Aspect.GEAR})


@dataclass(frozen=True, kw_only=True)
class RigPart(Explained):
    kind = "rig part"

    @property
    def sentence(self) -> str:
        place = "on" if self.things[0].aspect is Aspect.HOST else "with"
        return f"{self.claim} fails {place} {self.named}, and only there"


def _belongs(things: Circumstances) -> bool:
    return len(things) == 1 and things[0].aspect in _PARTS


def _find(inquiry: Inquiry) -> Iterator[RigPart]:
    """The part by which failing tries differ from those that worked."""
    yield from explained(inquiry, RigPart, _belongs)


RIG_PART = Cause(
    "rig part", "elimination; one thing at a time", "the same function tried with the part and without it", _find
)
