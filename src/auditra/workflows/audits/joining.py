"""Trials that were run on another host come into this audit: its facts, joined to our claims, rig and numbering."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import (
    Entry,
    EventNoted,
    EvidenceKept,
    Fact,
    LinkSeen,
    PathTraced,
    ReadingTaken,
    TrialBegun,
    TrialEnded,
)
from auditra.core.journal.fold import fold_audit
from auditra.core.model.device import DEVICE
from auditra.core.model.trial import Trial
from auditra.core.sanitize import sanitize


@dataclass(frozen=True)
class Joined:
    """Facts of one trial to be recorded as one action, under its new name."""

    trial: str
    facts: tuple[Fact, ...]


def trials_to_join(audit: Audit, entries: Sequence[Entry]) -> tuple[Joined, ...]:
    """The trials of another journal that are not here yet, each under the next free name.

    Raises: InputError where they are of another device, or name hosts or gear that our rig does not have.
    """
    other = fold_audit("other", entries)
    if not audit.device.same_thing_as(other.device):
        why = f"its trials are of {sanitize(other.device.name, 60)}, of another variant, revision or firmware perhaps"
        raise InputError("the facts", why=why, do="Results are not carried from one device to another")
    known = {_fingerprint(record) for record in audit.trials}
    new = [record for record in other.trials if record.outcome is not None and _fingerprint(record) not in known]
    for record in new:
        _require_parts(audit, record.trial)
    names = [f"T{audit.begun_trials + turn}" for turn in range(1, len(new) + 1)]
    return tuple(
        Joined(name, tuple(_renamed(record, name, audit, other, entries)))
        for name, record in zip(names, new, strict=True)
    )


def _renamed(record: TrialRecord, name: str, audit: Audit, other: Audit, entries: Iterable[Entry]) -> Iterator[Fact]:
    """The facts of a trial under another name, for our claims of the same sentences."""
    old = record.trial.id
    sentences = {claim.id: str(claim) for claim in other.claims}
    ours = {str(claim): claim.id for claim in audit.claims}
    claims = tuple(ours[sentences[each]] for each in record.trial.claims if sentences.get(each) in ours)
    yield TrialBegun(replace(record.trial, id=name, claims=claims))
    for evidence in other.evidence:
        if evidence.about == f"trial {old}":
            yield replace(evidence, about=f"trial {name}")
    for fact in (entry.fact for entry in entries):
        if isinstance(fact, ReadingTaken) and fact.reading.trial == old:
            yield ReadingTaken(replace(fact.reading, trial=name))
        elif isinstance(fact, PathTraced | LinkSeen | TrialEnded | EventNoted) and fact.trial == old:
            yield replace(fact, trial=name)


def evidence_of(joined: Iterable[Joined]) -> tuple[EvidenceKept, ...]:
    """The pieces of evidence that these facts name."""
    return tuple(fact for each in joined for fact in each.facts if isinstance(fact, EvidenceKept))


def _fingerprint(record: TrialRecord) -> tuple[object, ...]:
    """What tells one trial from another, whatever it is called."""
    trial = record.trial
    readings = tuple(replace(reading, trial="") for reading in record.readings)
    return trial.procedure, trial.port, trial.gear, trial.setup, readings


def _require_parts(audit: Audit, trial: Trial) -> None:
    """Raises: InputError for a host, gear or lead that our rig does not have under the same name."""
    rig, setup = audit.rig, trial.setup
    plugged = {part for each in setup.plugged for part in (each.gear, each.lead, *each.through)}
    named = {setup.host, trial.gear, *plugged} - {DEVICE, None, *(device.id for device in audit.devices)}
    missing = sorted(str(part) for part in named if part is not None and rig.part(part) is None)
    if missing:
        do = "Add them in stage 3 under the same short names, then attach the file again"
        raise InputError(f"trial {sanitize(trial.id, 20)}", why=f"the rig has no {', '.join(missing[:4])}", do=do)
