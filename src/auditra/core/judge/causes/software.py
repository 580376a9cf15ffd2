"""What runs on the host: its driver, a protocol, the tool that measures, a recorder."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause
from auditra.core.judge.reasoning.explained import OnlyThen, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect, Circumstances

_SOFTWARE = frozenset(
    {Aspect.DRIVER, Aspect.PROTOCOL, Aspect.WORKLOAD, Aspect.RECORDER, Aspect.FILE, Aspect.FILE_SIZE, Aspect.STREAMS,
     Aspect.FRAME, Aspect.HOPS, Aspect.WIRELESS}
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Software(OnlyThen):
    kind = "software or route"


def _belongs(things: Circumstances) -> bool:
    return all(thing.aspect in _SOFTWARE for thing in things)


def _find(inquiry: Inquiry) -> Iterator[Software]:
    """The software, protocol or route that failing tries share and no good one has."""
    yield from explained(inquiry, Software, _belongs)


SOFTWARE = Cause("software or route", "elimination; one thing at a time", "tries with another one, or without", _find)
