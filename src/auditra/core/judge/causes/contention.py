"""What else is in use, or only connected, whenever a claim fails."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause, Role
from auditra.core.judge.reasoning.explained import OnlyThen, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect, Circumstances

_OTHERS = frozenset({Aspect.RUNNING, Aspect.IDLE})


@dataclass(frozen=True, kw_only=True)
class Contention(OnlyThen):
    kind = "contention"
    role = Role.CONTENTION


def _belongs(things: Circumstances) -> bool:
    return any(thing.aspect in _OTHERS for thing in things)


def _find(inquiry: Inquiry) -> Iterator[Contention]:
    """The smallest set of what else was in use, or connected and idle, that failing tries have and good ones lack."""
    yield from explained(inquiry, Contention, _belongs)


CONTENTION = Cause(
    "contention", "the smallest circumstances that separate failing from passing set-ups",
    "tries with the other function at work and without it", _find, Role.CONTENTION,
)  # fmt: skip
