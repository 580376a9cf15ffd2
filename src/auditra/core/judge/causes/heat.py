"""A rate that falls during a long time at full load, with the temperature of the case at that moment."""

from __future__ import annotations

import statistics
from collections.abc import Iterator, Sequence

from auditra.core.journal.fold import Audit, TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding
from auditra.core.model.reading import Quantity, Trace
from auditra.core.model.setup import MINUTE_S

_FALLEN = 0.9
"""A rate that ends below this part of where it began has fallen."""
_ENDS = 20
"""The first and the last twentieth of a trace are what it began and ended with."""


def _find(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """When, in a long time at full load, a rate fell, and how warm the case was then."""
    soaked = {record.trial.id: record for record in audit.trials if record.trial.setup.soaked_s}
    for verdict in verdicts:
        hot = {name for each in verdict.failing for name in each.trials} if soaked else set[str]()
        for record in (record for name, record in soaked.items() if name in hot):
            soak = record.taken.of(Quantity.SOAK_RATE).at(verdict.claim.port).last()
            fallen = _fall(soak.trace) if soak is not None and soak.trace is not None else None
            if fallen is not None:
                at_s, share = fallen
                case = _case_at(record, at_s)
                sentence = f"{verdict.claim.port} falls to {share:.0%} after {at_s / MINUTE_S:.0f} min of full load"
                yield Finding(
                    "heat", sentence, f"the case at {case:.1f} C then" if case is not None else "",
                    (record.trial.id,), (verdict.claim.port,),
                )  # fmt: skip
                break


def _fall(trace: Trace) -> tuple[float, float] | None:
    """When a trace fell for good, in seconds, and to which part of where it began; None where it did not."""
    size = max(1, len(trace.values) // _ENDS)
    began, ended = (statistics.median(part) for part in (trace.values[:size], trace.values[-size:]))
    if not began or ended >= _FALLEN * began:
        return None
    middle = (began + ended) / 2
    last_high = max((index for index, value in enumerate(trace.values) if value > middle), default=0)
    return trace.time_s[last_high], ended / began


def _case_at(record: TrialRecord, time_s: float) -> float | None:
    """The case's temperature nearest to a time of the soak."""
    for reading in record.taken.of(Quantity.CASE_TEMPERATURE).traced():
        if reading.trace is not None and reading.trace.time_s:
            pairs = zip(reading.trace.time_s, reading.trace.values, strict=True)
            return min(pairs, key=lambda pair: abs(pair[0] - time_s))[1]
    return None


HEAT = Cause("heat", "the trace of a soak: its first and last twentieth", _find)
