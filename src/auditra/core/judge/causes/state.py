"""The state of a device, or how it got there: order, reconnecting, plug side, events, battery."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause
from auditra.core.judge.reasoning.explained import OnlyThen, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect, AtPort, Circumstances, Replugged

_STATES = frozenset(
    {Aspect.ORDER, Aspect.REPLUGGED, Aspect.SIDE, Aspect.HOST_SIDE, Aspect.EVENTS, Aspect.ARRANGED, Aspect.BATTERY}
)


@dataclass(frozen=True, kw_only=True)
class State(OnlyThen):
    kind = "state or order"

    @property
    def sentence(self) -> str:
        if all(isinstance(thing, Replugged) for thing in self.things):
            return f"{self.claim} fails after plugging it in again, and works before"
        return super().sentence


def _belongs(things: Circumstances) -> bool:
    """States, be it only at this port."""
    states = [thing for thing in things if thing.aspect in _STATES]
    return bool(states) and all(thing in states or isinstance(thing, AtPort) for thing in things)


def _find(inquiry: Inquiry) -> Iterator[State]:
    """The state that failing tries share and no good one has."""
    yield from explained(inquiry, State, _belongs)


STATE = Cause("state or order", "both orders tried, one thing at a time", "tries in either state", _find)
