"""The audit: a fold over the facts of its journal."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from datetime import datetime

from auditra.core.audit.claim import Claim
from auditra.core.audit.device import Device
from auditra.core.audit.facts import (
    ClaimMade,
    DeviceNoted,
    Entry,
    NoteWritten,
    ReadingTaken,
    RigNoted,
    TrialBegun,
    TrialEnded,
    Undone,
)
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


@dataclass(frozen=True)
class Audit:
    """One device examined on one rig, as far as its journal goes."""

    name: str
    device: Device
    rig: Rig
    claims: tuple[Claim, ...] = ()
    trials: tuple[TrialRecord, ...] = ()
    notes: tuple[NoteWritten, ...] = ()
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

    device: Device | None = None
    rig: Rig | None = None
    claims: dict[str, Claim] = field(default_factory=dict)
    trials: dict[str, TrialRecord] = field(default_factory=dict)
    notes: list[NoteWritten] = field(default_factory=list)

    def take(self, entry: Entry) -> None:
        match entry.fact:
            case DeviceNoted(device):
                self.device = device
            case RigNoted(rig):
                self.rig = rig
            case ClaimMade(claim_id, sentence, source):
                self.claims[claim_id] = parse_claim(sentence, claim_id=claim_id, source=source)
            case TrialBegun(trial):
                self.trials[trial.id] = TrialRecord(trial, action=entry.action, begun_at=entry.at)
            case ReadingTaken(reading):
                self._extend(reading)
            case TrialEnded(trial_id, outcome, why):
                if (record := self.trials.get(trial_id)) is not None:
                    self.trials[trial_id] = replace(record, outcome=outcome, why=why)
            case NoteWritten() as note:
                self.notes.append(note)
            case Undone():
                pass

    def _extend(self, reading: Reading) -> None:
        record = self.trials.get(reading.trial)
        if record is not None:
            self.trials[reading.trial] = replace(record, readings=(*record.readings, reading))


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
    if folding.device is None or folding.rig is None:
        missing = "device" if folding.device is None else "rig"
        raise InputError(f'audit "{name}"', why=f"its journal names no {missing}", do="Make it anew from its sheets")
    begun = [entry.fact.trial for entry in entries if isinstance(entry.fact, TrialBegun)]
    return Audit(
        name=name,
        device=folding.device,
        rig=folding.rig,
        claims=tuple(folding.claims.values()),
        trials=tuple(folding.trials.values()),
        notes=tuple(folding.notes),
        begun_trials=len(begun),
        last_setup=begun[-1].setup if begun else None,
        last_at=entries[-1].at,
        entries=len(entries),
        undoable=_undoable(entries, in_force),
    )


def _undoable(entries: tuple[Entry, ...], in_force: dict[str, bool]) -> tuple[str, ...]:
    """Trials and notes can be taken back; the sheet and the rig that an audit was made from cannot."""
    actions = dict.fromkeys(
        entry.action for entry in entries if isinstance(entry.fact, TrialBegun | NoteWritten) and in_force[entry.action]
    )
    return tuple(actions)
