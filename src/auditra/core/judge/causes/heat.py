"""A rate that falls during a long time at full load, with the temperature of the case at that moment."""

from __future__ import annotations

import statistics
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.first_order import FirstOrder, fit_first_order
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.explained import OnlyThen, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect, Circumstances
from auditra.core.model.reading import Quantity, Trace
from auditra.core.model.setup import MINUTE_S

_FALLEN = 0.9
"""A rate that ends below this part of where it began has fallen."""
LEAST_SHOWN_K = 0.1
"""No sensor of a case is better than this, however smooth its trace."""
_ENDS = 20
"""The first and the last twentieth of a trace are what it began and ended with."""


@dataclass(frozen=True, kw_only=True)
class HeatFall(Finding):
    """A rate was seen to fall while the case grew warm."""

    kind = "heat"
    role = Role.CAUSE
    settles = True

    at_s: float
    share: float
    case_c: float | None
    warming: FirstOrder | None
    """The fit of the case's temperature."""

    @property
    def sentence(self) -> str:
        return f"{self.ports[0]} falls to {self.share:.0%} after {self.at_s / MINUTE_S:.0f} min of full load"

    @property
    def arithmetic(self) -> str:
        case = f"the case at {self.case_c:.1f} C then" if self.case_c is not None else ""
        if self.warming is None:
            return case
        shown = max(self.warming.plateau_expanded, LEAST_SHOWN_K)
        plateau = f"plateau {self.warming.plateau:.1f} ± {shown:.1f} C"
        return f"{case}; {plateau}, time constant {self.warming.tau_s / MINUTE_S:.0f} min"


@dataclass(frozen=True, kw_only=True)
class HeatSeparates(OnlyThen):
    """Only tries after a long time at full load fail."""

    kind = "heat"


def _find(inquiry: Inquiry) -> Iterator[Finding]:
    """When, in a long time at full load, a rate fell, and how warm the case was; else that only such trials fail."""
    fallen = [found for verdict in inquiry.investigated if (found := _fall_of(inquiry, verdict)) is not None]
    yield from fallen
    told = {claim for found in fallen for claim in found.claims}
    for separates in explained(inquiry, HeatSeparates, _is_soak):
        if not told & set(separates.claims):
            yield separates


def _is_soak(things: Circumstances) -> bool:
    return all(thing.aspect is Aspect.SOAK for thing in things)


def _fall_of(inquiry: Inquiry, verdict: ClaimVerdict) -> HeatFall | None:
    for name in (name for set_up in verdict.failing for name in set_up.trials):
        record = inquiry.record(name)
        if record is None or not record.trial.setup.soaked_s:
            continue
        soak = record.taken.of(Quantity.SOAK_RATE).at(verdict.claim.port).last()
        fell = _fall(soak.trace) if soak is not None and soak.trace is not None else None
        if fell is not None:
            at_s, share = fell
            case = _case_trace(record)
            return HeatFall(
                ports=(verdict.claim.port,), trials=(name,), claims=(verdict.claim.id,), at_s=at_s, share=share,
                case_c=_nearest(case, at_s) if case is not None else None,
                warming=fit_first_order(case) if case is not None else None,
            )  # fmt: skip
    return None


def _fall(trace: Trace) -> tuple[float, float] | None:
    """When a trace fell for good, in seconds, and to which part of where it began; None where it did not."""
    size = max(1, len(trace.values) // _ENDS)
    began, ended = (statistics.median(part) for part in (trace.values[:size], trace.values[-size:]))
    if not began or ended >= _FALLEN * began:
        return None
    middle = (began + ended) / 2
    last_high = max((index for index, value in enumerate(trace.values) if value > middle), default=0)
    return trace.time_s[last_high], ended / began


def _case_trace(record: TrialRecord) -> Trace | None:
    traces = (reading.trace for reading in record.taken.of(Quantity.CASE_TEMPERATURE).traced())
    return next((trace for trace in traces if trace is not None and trace.time_s), None)


def _nearest(trace: Trace, time_s: float) -> float:
    """The value nearest to a time."""
    pairs = zip(trace.time_s, trace.values, strict=True)
    return min(pairs, key=lambda pair: abs(pair[0] - time_s))[1]


HEAT = Cause(
    "heat", "the trace of a soak: its first and last twentieth; a first-order fit of the case's temperature",
    "a soak with its rate traced, or tries with and without one", _find,
)  # fmt: skip
