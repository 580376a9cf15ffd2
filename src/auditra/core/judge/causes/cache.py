"""The knee of a write: a burst into a cache, then what the medium itself keeps up; or a file too small to show it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import BITS_A_BYTE
from auditra.core.decide.knee import Knee, find_knee
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.reasoning.tries import falls_below
from auditra.core.judge.records import Counted
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Drive
from auditra.core.model.trial import DIRECT
from auditra.core.quantities.display import MEGABYTES_A_SECOND, amount
from auditra.core.quantities.units import Dimension

_ALIKE = 0.25
"""Two knees after amounts that differ by less than this share are one cache."""


@dataclass(frozen=True, kw_only=True)
class CacheFull(Finding):
    """The rate falls once a cache is full; of the drive where it does so direct too, or has such a cache."""

    kind = "cache"
    role = Role.CAUSE
    settles = True

    gear: str
    knee: Knee

    @property
    def subject(self) -> str:
        return f"cache of the {self.gear}"

    @property
    def sentence(self) -> str:
        burst, steady = (MEGABYTES_A_SECOND.show(rate) for rate in (self.knee.burst, self.knee.steady))
        moved = amount(float(f"{self.knee.moved / BITS_A_BYTE:.3g}"), Dimension.SIZE)
        return f"the {self.gear} falls from {burst} to {steady} after {moved}: its cache is full, not {self.ports[0]}"

    @property
    def arithmetic(self) -> str:
        return f"one split of the trace at {self.knee.at_s:.0f} s leaves the least scatter"


@dataclass(frozen=True, kw_only=True)
class FileTooSmall(Finding):
    """All of the file went into the drive's cache, so the trial says nothing of the steady rate."""

    kind = "file too small"
    role = Role.RIG_LIMIT

    gear: str
    file_bytes: float
    cache_bytes: float

    @property
    def subject(self) -> str:
        return f"cache of the {self.gear}"

    @property
    def sentence(self) -> str:
        sizes = (amount(size, Dimension.SIZE) for size in (self.file_bytes, self.cache_bytes))
        file, cache = sizes
        return f"{file} fit into the {self.gear}'s cache of {cache}: that shows the burst, not the steady rate"


def _find_full(inquiry: Inquiry) -> Iterator[CacheFull]:
    """Knees of claims that seem to fail, where the drive does the same direct or is known to have such a cache. They
    explain the claim where nothing else falls below it."""
    for verdict in inquiry.investigated:
        below = [set_up for set_up in verdict.set_ups if set_up.trials and falls_below(set_up)]
        found = [next(_knees(inquiry, verdict.claim, set_up.trials), None) for set_up in below]
        knees = [each for each in found if each is not None]
        if knees:
            yield knees[0] if len(knees) == len(below) else replace(knees[0], claims=())


def _knees(inquiry: Inquiry, claim: Claim, trials: Iterable[str]) -> Iterator[CacheFull]:
    needed_bps = claim.promise.owes().get(Quantity.WRITE, 0.0)
    for name in trials:
        trial = inquiry.counted(name)
        knee = _knee(trial, claim.port) if trial is not None else None
        if trial is None or knee is None or knee.burst < needed_bps:  # what is slow from the start is slow by itself
            continue
        gear = trial.gear_at(claim.port)
        alike = [each.id for each in inquiry.records.directs(gear) if _is_alike(_knee(each, DIRECT), knee)]
        drive = inquiry.audit.rig.find(gear)
        cache = drive.cache_bytes if isinstance(drive, Drive) else None
        known = isinstance(cache, int | float) and abs(knee.moved / BITS_A_BYTE - cache) <= _ALIKE * cache
        if alike or known:
            yield CacheFull(
                ports=(claim.port,), trials=(name, *alike), claims=(claim.id,),
                sure=Sureness.SURE if alike else Sureness.LIKELY, gear=inquiry.audit.rig.name_of(gear), knee=knee,
            )  # fmt: skip


def _is_alike(other: Knee | None, knee: Knee) -> bool:
    return other is not None and abs(other.moved - knee.moved) <= _ALIKE * knee.moved


def _knee(trial: Counted, place: str) -> Knee | None:
    traces = (reading.trace for reading in trial.at(place).of(Quantity.WRITE).traced())
    return next((knee for trace in traces if trace is not None and (knee := find_knee(trace)) is not None), None)


def _find_small(inquiry: Inquiry) -> Iterator[FileTooSmall]:
    """Trials of writing whose whole file went into the cache of the drive; once for each drive."""
    seen: set[str] = set()
    for trial in inquiry.records.counted:
        drive, size = inquiry.audit.rig.find(trial.record.trial.gear), trial.setup.file_bytes
        if not isinstance(drive, Drive) or not isinstance(size, int) or not isinstance(drive.cache_bytes, int | float):
            continue
        if trial.taken.of(Quantity.WRITE) and size < drive.cache_bytes and drive.id not in seen:
            seen.add(drive.id)
            yield FileTooSmall(
                ports=(trial.record.trial.place,), trials=(trial.id,), claims=trial.record.trial.claims,
                gear=drive.name, file_bytes=float(size), cache_bytes=float(drive.cache_bytes),
            )  # fmt: skip


CACHE = Cause("cache", "burst, knee, steady", "the trace of a write, and the same direct", _find_full)
FILE_TOO_SMALL = Cause(
    "file too small", "burst, knee, steady", "the size of the file and of the drive's cache", _find_small,
    Role.RIG_LIMIT,
)  # fmt: skip
