"""Two ports that both slow down while the other is in use: one internal link carries both."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Circumstance, Running
from auditra.core.model.reading import Quantity, Reading


@dataclass(frozen=True)
class Share:
    """What one port gives while the other is in use, and alone where that was measured."""

    port: str
    reading: Reading
    alone: Estimate | None

    def __str__(self) -> str:
        """``A1 read rate 298.1 MB/s, alone 457.0 MB/s``."""
        value = estimate(self.reading).value
        fmt = format_of(self.reading, value)
        beside = f", alone {fmt.show(self.alone.value)}" if self.alone is not None else ""
        return f"{self.port} {self.reading.quantity} {fmt.show(value)}{beside}"


@dataclass(frozen=True, kw_only=True)
class SharedLink(Finding):
    kind = "shared link"
    role = Role.CONTENTION
    settles = True

    shares: tuple[Share, ...]

    @property
    def sentence(self) -> str:
        return f"{self.ports[0]} and {self.ports[1]} share an internal link"

    @property
    def arithmetic(self) -> str:
        return " and ".join(map(str, self.shares))


def _find(inquiry: Inquiry) -> Iterator[SharedLink]:
    """Two ports that both fall while the other is at work: one way to the host, for both."""
    records = {record.trial.id: record for record in inquiry.audit.trials}
    fallen = [verdict for verdict in inquiry.verdicts if _blamed(verdict)]
    for index, one in enumerate(fallen):
        for other in fallen[index + 1 :]:
            shared = _shared_trials(one, other)
            if shared and _blame_each_other(one, other):
                both = (_at_once(records[shared[-1]], each.claim.port, records.values()) for each in (one, other))
                yield SharedLink(
                    ports=(one.claim.port, other.claim.port),
                    trials=shared,
                    claims=(one.claim.id, other.claim.id),
                    shares=tuple(share for share in both if share is not None),
                )


def _blame_each_other(one: ClaimVerdict, other: ClaimVerdict) -> bool:
    return Running(f"{other.claim}") in _blamed(one) and Running(f"{one.claim}") in _blamed(other)


def _shared_trials(one: ClaimVerdict, other: ClaimVerdict) -> tuple[str, ...]:
    """The trials in which both failed."""
    theirs = {trial for set_up in other.failing for trial in set_up.trials}
    ours = (trial for set_up in one.failing for trial in set_up.trials)
    return tuple(dict.fromkeys(trial for trial in ours if trial in theirs))


def _blamed(verdict: ClaimVerdict) -> frozenset[Circumstance]:
    """What else ran in every bad set-up; and what alone made one bad, where nothing fails by itself."""
    if not verdict.failing:
        return frozenset()
    in_all = set.intersection(*(set(set_up.beside) for set_up in verdict.failing))
    if any(not set_up.varied for set_up in verdict.failing):
        return frozenset(in_all)
    good = {each for set_up in verdict.set_ups if set_up not in verdict.failing for each in set_up.beside}
    alone = {set_up.varied[0] for set_up in verdict.failing if len(set_up.varied) == 1}
    return frozenset(in_all | (alone - good))


def _at_once(record: TrialRecord, port: str, every: Iterable[TrialRecord]) -> Share | None:
    here = record.taken.at(port).traced().numbers()
    if not here:
        return None
    reading = min(here, key=lambda each: estimate(each).value)
    by_itself = (each for each in every if each.trial.port == port and not each.trial.setup.circumstances())
    quantity: Quantity | str = reading.quantity
    alone = ReadingSet.joined(each.taken for each in by_itself).of(quantity).at(port).numbers().last()
    return Share(port, reading, estimate(alone) if alone is not None else None)


SHARED_LINK = Cause(
    "shared link", "contention seen from both sides in one trial", "both ports measured at once, and each alone", _find,
    Role.CONTENTION,
)  # fmt: skip
