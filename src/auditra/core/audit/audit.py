"""The audit: a fold over the facts of its journal."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime

from auditra.core.audit.claim import Claim
from auditra.core.audit.device import DEVICE, Device
from auditra.core.audit.facts import (
    BenchNoted,
    ClaimDropped,
    ClaimMade,
    ClaimMended,
    DeviceNoted,
    DoubtEnded,
    DoubtRaised,
    Entry,
    EventNoted,
    EvidenceKept,
    Fact,
    LinkSeen,
    NoteWritten,
    PathTraced,
    ReadingTaken,
    RemarkAnswered,
    RigNoted,
    TrialBegun,
    TrialEnded,
    Undone,
)
from auditra.core.audit.path import PathTrace
from auditra.core.audit.reading import Reading
from auditra.core.audit.rig import Rig
from auditra.core.audit.setup import SetUp
from auditra.core.audit.trial import Outcome, Trial
from auditra.core.claims.language import parse_claim
from auditra.core.errors import InputError


@dataclass(frozen=True)
class TrialRecord:
    """A trial with what it yielded. `outcome` is None while it runs, or when it was cut off."""

    trial: Trial
    readings: tuple[Reading, ...] = ()
    outcome: Outcome | None = None
    why: str = ""
    action: str = ""
    begun_at: datetime | None = None
    path: PathTrace | None = None
    """Where a drive was written to; None where no folder was."""
    links: tuple[LinkSeen, ...] = ()
    """What the host told of the links that took part."""


@dataclass(frozen=True)
class Doubt:
    """A question, and what became of it; `ended` is None while nobody has said."""

    raised: DoubtRaised
    ended: DoubtEnded | None = None


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


def actions_in_force(entries: Iterable[Entry]) -> dict[str, bool]:
    """For each action whether it counts. An undoing that is itself undone has no effect."""
    by_action: dict[str, list[Entry]] = {}
    for entry in entries:
        by_action.setdefault(entry.action, []).append(entry)
    in_force = dict.fromkeys(by_action, True)
    for action in sorted(by_action, key=lambda each: by_action[each][0].number, reverse=True):
        if in_force[action]:
            for entry in by_action[action]:
                if isinstance(entry.fact, Undone):
                    in_force[entry.fact.action] = False
    return in_force


@dataclass
class _Folding:
    """What has been gathered so far; only fold_audit touches it."""

    devices: dict[str, Device] = field(default_factory=dict)
    rig: Rig | None = None
    bench: str | None = None
    claims: dict[str, Claim] = field(default_factory=dict)
    trials: dict[str, TrialRecord] = field(default_factory=dict)
    notes: list[NoteWritten] = field(default_factory=list)
    events: list[EventNoted] = field(default_factory=list)
    evidence: list[EvidenceKept] = field(default_factory=list)
    doubts: dict[str, Doubt] = field(default_factory=dict)
    answers: dict[str, str] = field(default_factory=dict)

    def take(self, entry: Entry) -> None:
        match entry.fact:
            case DeviceNoted(device):
                self.devices[device.id] = device
            case RigNoted(rig):
                self.rig = rig
            case BenchNoted(bench):
                self.bench = bench
            case ClaimMade(claim_id, sentence, source, device_id):
                self.claims[claim_id] = parse_claim(sentence, claim_id=claim_id, source=source, device=device_id)
            case ClaimMended(claim_id, sentence, source, device_id) if claim_id in self.claims:
                self.claims[claim_id] = parse_claim(sentence, claim_id=claim_id, source=source, device=device_id)
            case ClaimDropped(claim_id):
                self.claims.pop(claim_id, None)
            case TrialBegun(trial):
                self.trials[trial.id] = TrialRecord(trial, action=entry.action, begun_at=entry.at)
            case PathTraced() | LinkSeen() | ReadingTaken() | TrialEnded() as part:
                self._extend(part)
            case aside:
                self._note(aside)

    def _note(self, fact: Fact) -> None:
        """What stands beside the trials."""
        match fact:
            case NoteWritten() as note:
                self.notes.append(note)
            case EventNoted() as event:
                self.events.append(event)
            case EvidenceKept() as evidence:
                self.evidence.append(evidence)
            case RemarkAnswered(remark, note):
                self.answers[remark] = note
            case DoubtRaised(doubt) as raised:
                self.doubts[doubt] = Doubt(raised)
            case DoubtEnded(doubt) as ended if doubt in self.doubts:
                self.doubts[doubt] = replace(self.doubts[doubt], ended=ended)
            case _:
                pass

    def _extend(self, fact: PathTraced | LinkSeen | ReadingTaken | TrialEnded) -> None:
        """What a trial yielded; a trial that was taken back yields nothing."""
        name = fact.reading.trial if isinstance(fact, ReadingTaken) else fact.trial
        record = self.trials.get(name)
        if record is None:
            return
        match fact:
            case PathTraced(_, trace):
                self.trials[name] = replace(record, path=trace)
            case LinkSeen():
                self.trials[name] = replace(record, links=(*record.links, fact))
            case ReadingTaken(reading):
                self.trials[name] = replace(record, readings=(*record.readings, reading))
            case TrialEnded(_, outcome, why):
                self.trials[name] = replace(record, outcome=outcome, why=why)


def fold_audit(name: str, entries: Iterable[Entry]) -> Audit:
    """The audit that these facts make.

    Raises: InputError when no device or no rig was noted, ClaimError for a sentence that cannot be read.
    """
    entries = tuple(entries)
    in_force = actions_in_force(entries)
    folding = _Folding()
    for entry in entries:
        if in_force[entry.action]:
            folding.take(entry)
    if not folding.devices or folding.rig is None:
        missing = "rig" if folding.devices else "device"
        raise InputError(f'audit "{name}"', why=f"its journal names no {missing}", do="Make it anew from its sheets")
    begun = [entry.fact.trial for entry in entries if isinstance(entry.fact, TrialBegun)]
    return Audit(
        name=name,
        device=folding.devices.get(DEVICE) or next(iter(folding.devices.values())),
        devices=tuple(folding.devices.values()),
        bench=folding.bench,
        rig=folding.rig,
        claims=tuple(folding.claims.values()),
        trials=tuple(folding.trials.values()),
        notes=tuple(folding.notes),
        events=tuple(folding.events),
        evidence=tuple(folding.evidence),
        doubts=tuple(folding.doubts.values()),
        answers=folding.answers,
        begun_trials=len(begun),
        last_setup=begun[-1].setup if begun else None,
        last_at=entries[-1].at,
        entries=len(entries),
        undoable=_undoable(entries, in_force),
    )


def _undoable(entries: tuple[Entry, ...], in_force: dict[str, bool]) -> tuple[str, ...]:
    """Trials, notes and what was done to claims and ports can be taken back; the sheets that began it cannot."""
    began = {entry.action for entry in entries if isinstance(entry.fact, RigNoted)}
    can_be = (
        TrialBegun | NoteWritten | EvidenceKept | RemarkAnswered | ClaimMade | ClaimMended | ClaimDropped | DeviceNoted
    )
    actions = dict.fromkeys(
        entry.action
        for entry in entries
        if isinstance(entry.fact, can_be) and in_force[entry.action] and entry.action not in began
    )
    return tuple(actions)
