"""The audit as a value: what the facts of a journal come to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property

from auditra.core.claims.claim import Claim
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.journal.facts import (
    DoubtEnded,
    DoubtRaised,
    EventNoted,
    EvidenceKept,
    Fact,
    FollowUpNoted,
    LinkSeen,
    NoteWritten,
    ReplicationKept,
    ReportPublished,
    SignedOff,
    TrialPlanned,
    TrialRuled,
    TrialSkipped,
)
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.profile import Profile
from auditra.core.model.reading import Reading
from auditra.core.model.rig import Rig
from auditra.core.model.setup import SetUp
from auditra.core.model.source import Source
from auditra.core.model.storage_path import PathTrace
from auditra.core.model.trial import Outcome, Trial, TrialIdentity
from auditra.core.procedures.identity import identity_of


@dataclass(frozen=True)
class TrialRecord:
    """A trial with what it yielded. `outcome` is None while it runs, or when it was cut off."""

    trial: Trial
    readings: tuple[Reading, ...] = ()
    outcome: Outcome | None = None
    why: str = ""
    action: str = ""
    begun_at: datetime | None = None
    ended_at: datetime | None = None
    path: PathTrace | None = None
    """Where a drive was written to; None where no folder was."""
    links: tuple[LinkSeen, ...] = ()
    """What the host reported about the links that took part."""
    ruling: TrialRuled | None = None
    """Whether the reviewer counts it; None where nothing was decided about it."""
    events: tuple[EventNoted, ...] = ()
    """What happened, or was done, while it ran."""

    @cached_property
    def taken(self) -> ReadingSet:
        """Its readings, to be asked for what they are of."""
        return ReadingSet(self.readings)

    @property
    def took_s(self) -> float | None:
        """How long it took from when all was connected, in seconds; None where that is not known."""
        if self.begun_at is None or self.ended_at is None:
            return None
        return (self.ended_at - self.begun_at).total_seconds()

    @cached_property
    def identity(self) -> TrialIdentity:
        """What a repeat of it is known by."""
        return identity_of(self.trial)


@dataclass(frozen=True)
class Doubt:
    """A question, and what became of it; `ended` is None while it is open."""

    raised: DoubtRaised
    ended: DoubtEnded | None = None


@dataclass(frozen=True)
class UnreadableClaim:
    """A claim whose sentence the language does not read (any more): kept until the reviewer edits or drops it."""

    id: str
    sentence: str
    why: str
    source: Source = Source()
    device: str = DEVICE


@dataclass(frozen=True)
class Audit:
    """One device examined on one rig, as far as its journal goes.

    Further devices of a kit stand in `devices`; `bench` is None where the journal names none.
    """

    name: str
    device: Device
    rig: Rig
    claims: tuple[Claim, ...] = ()
    trials: tuple[TrialRecord, ...] = ()
    notes: tuple[NoteWritten, ...] = ()
    events: tuple[EventNoted, ...] = ()
    evidence: tuple[EvidenceKept, ...] = ()
    doubts: tuple[Doubt, ...] = ()
    answers: Mapping[str, str] = field(default_factory=dict)
    """What was found out about remarks of the paper check, by their keys."""
    follows: FollowUpNoted | None = None
    """The earlier audit that it follows."""
    archived: bool = False
    signed_off: SignedOff | None = None
    """Who signed it off and closed it to others; None while it is open."""
    published: tuple[ReportPublished, ...] = ()
    """The versions of its report that went out, in order."""
    replications: tuple[ReplicationKept, ...] = ()
    """Audits of other reviewers that stand beside it."""
    last_change: int = 0
    """The number of the last entry that a report would show."""
    own_trials: tuple[TrialPlanned, ...] = ()
    """Trials that the reviewer added to the run sheet."""
    skipped: tuple[TrialSkipped, ...] = ()
    depth: Depth = Depth.FULL
    """The run sheet that the reviewer follows."""
    profile: Profile | None = None
    """What its score weighs and charges; None where none was chosen, for the usual one."""
    devices: tuple[Device, ...] = ()
    bench: str | None = None
    begun_trials: int = 0
    """How many trials were ever begun, undone ones too: the next one's number."""
    last_setup: SetUp | None = None
    """What stands plugged in now: the set-up of the last trial, undone or not."""
    last_at: datetime | None = None
    entries: int = 0
    undoable: tuple[str, ...] = ()
    """Actions in force that can be undone, oldest first."""
    undoable_facts: tuple[Fact, ...] = ()
    """The first fact of each of these, by which it is known."""
    unreadable: tuple[UnreadableClaim, ...] = ()
    """Claims that cannot be read; they are not judged."""

    @property
    def last_trial_at(self) -> datetime | None:
        """When the last trial ended, or began where it was cut off; None before any."""
        moments = [record.ended_at or record.begun_at for record in self.trials]
        return max((each for each in moments if each is not None), default=None)

    @property
    def changed_since_published(self) -> bool:
        """Whether a report made now could differ from the one that went out last."""
        return not self.published or self.last_change > self.published[-1].entries

    def device_of(self, device_id: str) -> Device:
        """A device of the kit; the first one where none has that id."""
        return next((device for device in self.devices if device.id == device_id), self.device)
