"""What feeds the device, or that nothing does, whenever a claim fails."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause
from auditra.core.judge.reasoning.explained import OnlyThen, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect, Circumstances


@dataclass(frozen=True, kw_only=True)
class SupplyCause(OnlyThen):
    kind = "supply"


def _belongs(things: Circumstances) -> bool:
    return len(things) == 1 and things[0].aspect is Aspect.SUPPLY


def _find(inquiry: Inquiry) -> Iterator[SupplyCause]:
    """The supply that failing tries have in common, where another one, or none, works."""
    yield from explained(inquiry, SupplyCause, _belongs)


SUPPLY = Cause("supply", "elimination; one thing at a time", "tries with another supply, or with none", _find)
