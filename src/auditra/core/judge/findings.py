"""Reasoned sentences with the readings behind them: what the seller does not say, and why a promise falls."""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal

from auditra.core.decide.estimates import estimate
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.fold import Audit, TrialRecord
from auditra.core.judge.circumstance_text import setup_text
from auditra.core.judge.claim_verdict import ClaimVerdict, SetUpVerdict
from auditra.core.model.circumstance import Circumstance, Running
from auditra.core.model.device import Role
from auditra.core.model.reading import Quantity, Reading, Trace
from auditra.core.model.setup import MINUTE_S
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import power

OWN_USE_WORTH_TELLING_W = 5.0
"""Below this a device's own use is lost in what a charger of the next size gives."""
_FALLEN = 0.9
"""A rate that ends below this part of where it began has fallen."""
_ENDS = 20
"""The first and the last twentieth of a trace are what it began and ended with."""


@dataclass(frozen=True)
class Finding:
    """A sentence, the sum behind it, and the points it costs: none, where a claim has lost them already."""

    kind: str
    """What it is about: own use, shared way, heat, shared power."""
    sentence: str
    arithmetic: str
    points: Decimal
    trials: tuple[str, ...]
    ports: tuple[str, ...] = ()


def find_unstated(audit: Audit) -> tuple[Finding, ...]:
    """Behaviour that matters, that the readings show, and that no claim speaks of."""
    return tuple(_own_use(audit))


def find_reasons(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> tuple[Finding, ...]:
    """Why promises fall, as far as the readings show it."""
    return (*_shared_power(verdicts), *_shared_ways(audit, verdicts), *_heat(audit, verdicts))


def _own_use(audit: Audit) -> Iterable[Finding]:
    """What the device keeps of the watts that are fed to it; the largest seen, once."""
    upstream = audit.device.first(Role.UPSTREAM)
    kept = [
        (*_difference(fed, passed), record)
        for record in audit.trials
        if record.trial.procedure in (ProcedureId.POWER_IN, ProcedureId.CHARGE) and not record.trial.setup.running
        if upstream is not None and not record.trial.setup.direct
        for fed, passed in [_fed_and_passed(record, upstream.id)]
        if fed is not None and passed is not None
    ]
    if not kept:
        return
    watts, uncertainty, sum_, record = max(kept, key=lambda each: each[0])
    if watts - uncertainty > OWN_USE_WORTH_TELLING_W:
        sentence = f"keeps {power(watts)} for itself"
        inlet = _inlet(record)
        yield Finding("own use", sentence, sum_, Decimal("1.0"), (record.trial.id,), (inlet,) if inlet else ())


def _fed_and_passed(record: TrialRecord, upstream: str) -> tuple[Reading | None, Reading | None]:
    evidence, inlet = Evidence(record.readings), _inlet(record)
    return evidence.last(Quantity.POWER, at=inlet) if inlet else None, evidence.last(Quantity.POWER, at=upstream)


def _inlet(record: TrialRecord) -> str | None:
    """The port that the metered lead goes into."""
    return next((each.socket for each in record.trial.setup.plugged if each.through), None)


def _difference(fed: Reading, passed: Reading) -> tuple[float, float, str]:
    """Watts kept, with the uncertainty of the difference. Source: JCGM 100:2008, 5.1.2."""
    into, out = estimate(fed), estimate(passed)
    uncertainty = math.hypot(into.expanded, out.expanded)
    kept = into.value - out.value
    return kept, uncertainty, f"{power(into.value)} in - {power(out.value)} out = {power(kept)} ± {power(uncertainty)}"


def _failing(verdict: ClaimVerdict) -> list[SetUpVerdict]:
    return [each for each in verdict.set_ups if each.verdict.accuses]


def _shared_power(verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """The host's watts, less when other ports give theirs."""
    for verdict in verdicts:
        if verdict.claim.promise.procedure == ProcedureId.CHARGE and verdict.unless:
            worst = min(_failing(verdict), key=lambda each: each.credit or Decimal(0))
            sentence = f"{verdict.claim.port} gives the host less {setup_text(worst.beside)}"
            sum_ = "; ".join(part.arithmetic for part in worst.parts)
            yield Finding("shared power", sentence, sum_, Decimal(0), worst.trials, (verdict.claim.port,))


def _shared_ways(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """Two ports that both fall while the other is at work: one way to the host, for both."""
    records = {record.trial.id: record for record in audit.trials}
    fallen = [each for each in verdicts if _blamed(each)]
    for index, one in enumerate(fallen):
        for other in fallen[index + 1 :]:
            blames = Running(f"{other.claim}") in _blamed(one) and Running(f"{one.claim}") in _blamed(other)
            shared = [
                trial
                for each in _failing(one)
                for trial in each.trials
                if trial in {name for bad in _failing(other) for name in bad.trials}
            ]
            if blames and shared:
                told = " and ".join(
                    _at_once(records[shared[-1]], each.claim.port, records.values()) for each in (one, other)
                )
                ports = one.claim.port, other.claim.port
                sentence = f"{ports[0]} and {ports[1]} share one way inside"
                yield Finding("shared way", sentence, told, Decimal(0), tuple(dict.fromkeys(shared)), ports)


def _blamed(verdict: ClaimVerdict) -> frozenset[Circumstance]:
    """What else ran in every bad set-up."""
    sets = [set(each.beside) for each in _failing(verdict)]
    return frozenset(set.intersection(*sets)) if sets else frozenset()


def _at_once(record: TrialRecord, port: str, every: Iterable[TrialRecord]) -> str:
    """``A1 read rate 298.1 MB/s, alone 457.0 MB/s``."""
    here = [r for r in record.readings if r.at == port and r.trace is not None and r.values]
    if not here:
        return port
    reading = min(here, key=lambda each: estimate(each).value)
    alone = [
        r
        for each in every
        if each.trial.port == port and not each.trial.setup.circumstances()
        for r in each.readings
        if r.at == port and r.quantity == reading.quantity and r.values
    ]
    value = estimate(reading).value
    beside = f", alone {format_of(alone[-1], value).show(estimate(alone[-1]).value)}" if alone else ""
    return f"{port} {reading.quantity} {format_of(reading, value).show(value)}{beside}"


def _heat(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """When, in a long time at full load, a rate fell, and how warm the case was then."""
    soaked = {record.trial.id: record for record in audit.trials if record.trial.setup.soaked_s}
    for verdict in verdicts:
        hot = {name for each in _failing(verdict) for name in each.trials} if soaked else set[str]()
        for record in (record for name, record in soaked.items() if name in hot):
            soak = Evidence(record.readings).last(Quantity.SOAK_RATE, at=verdict.claim.port)
            fallen = _fall(soak.trace) if soak is not None and soak.trace is not None else None
            if fallen is not None:
                at_s, share = fallen
                case = _case_at(record, at_s)
                sentence = f"{verdict.claim.port} falls to {share:.0%} after {at_s / MINUTE_S:.0f} min of full load"
                yield Finding(
                    "heat", sentence, f"the case at {case:.1f} C then" if case is not None else "", Decimal(0),
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
    for reading in record.readings:
        if reading.quantity is Quantity.CASE_TEMPERATURE and reading.trace is not None and reading.trace.time_s:
            pairs = zip(reading.trace.time_s, reading.trace.values, strict=True)
            return min(pairs, key=lambda pair: abs(pair[0] - time_s))[1]
    return None
