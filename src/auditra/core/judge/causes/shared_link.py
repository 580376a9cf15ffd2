"""Two ports that both slow down while the other is in use: one internal link carries both."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from auditra.core.decide.estimates import estimate
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.fold import Audit, TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding
from auditra.core.model.circumstance import Circumstance, Running


def _find(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """Two ports that both fall while the other is at work: one way to the host, for both."""
    records = {record.trial.id: record for record in audit.trials}
    fallen = [verdict for verdict in verdicts if _blamed(verdict)]
    for index, one in enumerate(fallen):
        for other in fallen[index + 1 :]:
            blames = Running(f"{other.claim}") in _blamed(one) and Running(f"{one.claim}") in _blamed(other)
            shared = [
                trial
                for each in one.failing
                for trial in each.trials
                if trial in {name for bad in other.failing for name in bad.trials}
            ]
            if blames and shared:
                told = " and ".join(
                    _at_once(records[shared[-1]], each.claim.port, records.values()) for each in (one, other)
                )
                ports = one.claim.port, other.claim.port
                sentence = f"{ports[0]} and {ports[1]} share an internal link"
                yield Finding("shared link", sentence, told, tuple(dict.fromkeys(shared)), ports)


def _blamed(verdict: ClaimVerdict) -> frozenset[Circumstance]:
    """What else ran in every bad set-up."""
    sets = [set(each.beside) for each in verdict.failing]
    return frozenset(set.intersection(*sets)) if sets else frozenset()


def _at_once(record: TrialRecord, port: str, every: Iterable[TrialRecord]) -> str:
    """``A1 read rate 298.1 MB/s, alone 457.0 MB/s``."""
    here = record.taken.at(port).traced().numbers()
    if not here:
        return port
    reading = min(here, key=lambda each: estimate(each).value)
    by_itself = (each for each in every if each.trial.port == port and not each.trial.setup.circumstances())
    alone = ReadingSet.joined(each.taken for each in by_itself).of(reading.quantity).at(port).numbers().last()
    value = estimate(reading).value
    beside = f", alone {format_of(alone, value).show(estimate(alone).value)}" if alone is not None else ""
    return f"{port} {reading.quantity} {format_of(reading, value).show(value)}{beside}"


SHARED_LINK = Cause("shared link", "contention seen from both sides in one trial", _find)
