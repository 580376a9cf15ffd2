"""The audit: a fold over the facts of its journal."""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable, Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any, Generic, TypeVar

from auditra.core.claims.claim import Claim
from auditra.core.claims.language import parse_claim
from auditra.core.errors import ClaimError, InputError
from auditra.core.journal.audit import Audit, Doubt, TrialRecord, UnreadableClaim
from auditra.core.journal.facts import (
    Archived,
    BenchNoted,
    ClaimDropped,
    ClaimEdited,
    ClaimMade,
    DeviceNoted,
    DoubtEnded,
    DoubtRaised,
    Entry,
    EventNoted,
    EvidenceKept,
    Fact,
    FollowUpNoted,
    LinkSeen,
    NoteWritten,
    PathTraced,
    ProfileChosen,
    ReadingTaken,
    RemarkAnswered,
    ReplicationKept,
    ReportPublished,
    RigNoted,
    SheetChosen,
    SignedOff,
    TrialBegun,
    TrialEnded,
    TrialPlanned,
    TrialRuled,
    TrialSkipped,
    Undone,
)
from auditra.core.journal.older_trials import with_what_was_arranged
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.profile import Profile
from auditra.core.model.rig import Rig
from auditra.core.model.trial import Trial, TrialIdentity
from auditra.core.procedures.identity import identity_of

_UNDOABLE = (
    TrialBegun, TrialRuled, NoteWritten, EvidenceKept, RemarkAnswered, ClaimMade, ClaimEdited, ClaimDropped,
    DeviceNoted, RigNoted, DoubtRaised, DoubtEnded, EventNoted, ReadingTaken, TrialPlanned, TrialSkipped, SheetChosen,
    ProfileChosen, Archived, ReplicationKept,
)  # fmt: skip
"""What the reviewer did can be undone; the action that began the audit, with its first rig, cannot."""
_OF_TRIALS = TrialBegun | PathTraced | LinkSeen | ReadingTaken | TrialEnded | TrialRuled
_CHANGES_NOTHING = (ReportPublished, Archived, SignedOff)
"""What is no part of a report."""
Folded = TypeVar("Folded")
Kind = TypeVar("Kind")


class AuditFold:
    """Folds a journal's entries as they come: a new entry costs what it adds, not what is there already.

    Facts are kept by what they are about; after an undoing only what the undone action touched is folded again.
    """

    def __init__(self, name: str) -> None:
        self._name = name
        self._count, self._last_at, self._last_change = 0, datetime.min, 0
        self._undoes: dict[str, list[str]] = {}
        self._undone_by: dict[str, list[str]] = {}
        self._undone: set[str] = set()
        self._undoable: dict[str, Fact] = {}
        """The first fact of each action that can be undone."""
        self._beginnings: set[str] = set()
        self.signed_off: SignedOff | None = None
        """Who closed it; no undoing opens it."""
        self._things, self._claims = _Domain(_fold_things), _Domain(_fold_claims)
        self._notes, self._events = _Domain(_only(NoteWritten)), _Domain(_only(EventNoted))
        self._evidence, self._asides = _Domain(_only(EvidenceKept)), _Domain(_fold_asides)
        self._wishes, self._place = _Domain(_fold_wishes), _Domain(_fold_place)
        self._published = _Domain(_only(ReportPublished))
        self._replications = _Domain(_only(ReplicationKept))
        self._trials: list[_TrialFold] = []
        self._trial_by_id: dict[str, _TrialFold] = {}
        self._touched: dict[str, set[_Domain[Any] | _TrialFold]] = {}
        """What each action is about."""

    @property
    def count(self) -> int:
        """How many entries were folded."""
        return self._count

    @property
    def things(self) -> tuple[tuple[Device, ...], Rig | None, str | None]:
        """Devices, rig and bench as they are known now."""
        return self._things.value(self._undone)

    def add(self, entries: Iterable[Entry]) -> None:
        """Fold the entries that come next."""
        for entry in entries:
            self._count, self._last_at = entry.number, entry.at
            if not isinstance(entry.fact, _CHANGES_NOTHING):
                self._last_change = entry.number
            if isinstance(entry.fact, Undone):
                self._undo(entry.action, entry.fact.action)
                continue
            if isinstance(entry.fact, SignedOff):
                self.signed_off = None if entry.fact.is_open else entry.fact
                continue
            self._note_undoable(entry)
            about = (
                self._trial_of(entry, entry.fact) if isinstance(entry.fact, _OF_TRIALS) else self._domain_of(entry.fact)
            )
            for each in (about, self._trial_of_event(entry.fact)):
                if each is not None:
                    each.add(entry)
                    self._touched.setdefault(entry.action, set()).add(each)

    def audit(self) -> Audit:
        """The audit as it stands. Raises: InputError when no device or no rig was noted."""
        devices, rig, bench = self.things
        if not devices or rig is None:
            why = f"its journal names no {'rig' if devices else 'device'}"
            raise InputError(f'audit "{self._name}"', why=why, do="Start it again from its sheets")
        claims, unreadable = self._claims.value(self._undone)
        doubts, answers = self._asides.value(self._undone)
        wishes = self._wishes.value(self._undone)
        follows, archived = self._place.value(self._undone)
        return Audit(
            name=self._name,
            device=next((device for device in devices if device.id == DEVICE), devices[0]),
            devices=devices,
            bench=bench,
            rig=rig,
            claims=claims,
            unreadable=unreadable,
            trials=tuple(record for trial in self._trials if (record := trial.record(self._undone)) is not None),
            notes=self._notes.value(self._undone),
            events=self._events.value(self._undone),
            evidence=self._evidence.value(self._undone),
            doubts=doubts,
            answers=answers,
            follows=follows,
            archived=archived,
            signed_off=self.signed_off,
            replications=self._replications.value(self._undone),
            published=self._published.value(self._undone),
            last_change=self._last_change,
            own_trials=wishes.wanted,
            skipped=wishes.skipped,
            depth=wishes.depth,
            profile=wishes.profile,
            begun_trials=len(self._trials),
            last_setup=self._trials[-1].begun.setup if self._trials else None,
            last_at=self._last_at,
            entries=self._count,
            undoable=tuple(each for each in self._undoable if each not in self._undone),
            undoable_facts=tuple(fact for each, fact in self._undoable.items() if each not in self._undone),
        )

    def _note_undoable(self, entry: Entry) -> None:
        if isinstance(entry.fact, RigNoted) and not self._beginnings:
            self._beginnings.add(entry.action)
            self._undoable.pop(entry.action, None)
        elif isinstance(entry.fact, _UNDOABLE) and entry.action not in self._beginnings:
            self._undoable.setdefault(entry.action, entry.fact)

    def _domain_of(self, fact: Fact) -> _Domain[Any]:
        match fact:
            case DeviceNoted() | RigNoted() | BenchNoted():
                return self._things
            case ClaimMade() | ClaimEdited() | ClaimDropped():
                return self._claims
            case NoteWritten():
                return self._notes
            case EventNoted():
                return self._events
            case EvidenceKept():
                return self._evidence
            case TrialPlanned() | TrialSkipped() | SheetChosen() | ProfileChosen():
                return self._wishes
            case ReplicationKept():
                return self._replications
            case ReportPublished():
                return self._published
            case FollowUpNoted() | Archived():
                return self._place
            case _:
                return self._asides

    def _trial_of(self, entry: Entry, fact: _OF_TRIALS) -> _TrialFold | None:
        """None for a part of a trial that was never begun. Two trials of one id, as an early Auditra could write
        them, are two: what follows belongs to the later one."""
        if isinstance(fact, TrialBegun):
            self._trials.append(_TrialFold(entry, with_what_was_arranged(fact.trial)))
            self._trial_by_id[fact.trial.id] = self._trials[-1]
            return self._trials[-1]
        return self._trial_by_id.get(fact.reading.trial if isinstance(fact, ReadingTaken) else fact.trial)

    def _trial_of_event(self, fact: Fact) -> _TrialFold | None:
        return self._trial_by_id.get(str(fact.trial)) if isinstance(fact, EventNoted) else None

    def _undo(self, action: str, target: str) -> None:
        """An undoing that is itself undone has no effect, so that each change may bring others about."""
        self._undoes.setdefault(action, []).append(target)
        self._undone_by.setdefault(target, []).append(action)
        changed = [target]
        while changed:
            each = changed.pop()
            undone = any(by not in self._undone for by in self._undone_by[each])
            if undone != (each in self._undone):
                self._undone.symmetric_difference_update({each})
                for about in self._touched.get(each, ()):
                    about.forget()
                changed += self._undoes.get(each, ())


class _Domain(Generic[Folded]):
    """The entries about one thing, and what they fold to while nothing is added or undone."""

    def __init__(self, fold: Callable[[Iterator[Fact]], Folded]) -> None:
        self._fold, self._entries = fold, list[Entry]()
        self._folded: Folded | None = None

    def add(self, entry: Entry) -> None:
        self._entries.append(entry)
        self._folded = None

    def forget(self) -> None:
        self._folded = None

    def value(self, undone: Container[str]) -> Folded:
        if self._folded is None:
            self._folded = self._fold(entry.fact for entry in self._entries if entry.action not in undone)
        return self._folded


class _TrialFold:
    """One trial's entries, and its record while nothing is added or undone."""

    def __init__(self, entry: Entry, begun: Trial) -> None:
        self.begun = begun
        self._begun_in, self._parts = entry, list[Entry]()
        self._record: TrialRecord | None = None

    def add(self, entry: Entry) -> None:
        if entry is not self._begun_in:
            self._parts.append(entry)
        self._record = None

    def forget(self) -> None:
        self._record = None

    def record(self, undone: Container[str]) -> TrialRecord | None:
        """None while the trial itself is undone; parts that are undone by themselves are left out."""
        if self._begun_in.action in undone:
            return None
        if self._record is None:
            self._record = self._fold([entry for entry in self._parts if entry.action not in undone])
        return self._record

    def _fold(self, entries: list[Entry]) -> TrialRecord:
        parts = [entry.fact for entry in entries]
        paths = [part.trace for part in parts if isinstance(part, PathTraced)]
        ends = [part for part in parts if isinstance(part, TrialEnded)]
        return TrialRecord(
            self.begun,
            readings=tuple(part.reading for part in parts if isinstance(part, ReadingTaken)),
            outcome=ends[-1].outcome if ends else None,
            why=ends[-1].why if ends else "",
            action=self._begun_in.action,
            begun_at=self._begun_in.at,
            ended_at=next((entry.at for entry in reversed(entries) if isinstance(entry.fact, TrialEnded)), None),
            path=paths[-1] if paths else None,
            links=tuple(part for part in parts if isinstance(part, LinkSeen)),
            ruling=next((part for part in reversed(parts) if isinstance(part, TrialRuled)), None),
            events=tuple(part for part in parts if isinstance(part, EventNoted)),
        )


def _only(kind: type[Kind]) -> Callable[[Iterator[Fact]], tuple[Kind, ...]]:
    return lambda facts: tuple(fact for fact in facts if isinstance(fact, kind))


@dataclass(frozen=True)
class _Wishes:
    """What the reviewer chose: trials that they want, those that they will not run, how deep they go, the profile."""

    wanted: tuple[TrialPlanned, ...]
    skipped: tuple[TrialSkipped, ...]
    depth: Depth
    profile: Profile | None


def _fold_wishes(facts: Iterator[Fact]) -> _Wishes:
    """The later word counts."""
    wanted: dict[TrialIdentity, TrialPlanned] = {}
    skipped: dict[TrialIdentity, TrialSkipped] = {}
    depth, profile = Depth.FULL, None
    for fact in facts:
        if isinstance(fact, TrialPlanned):
            identity = identity_of(fact.trial)
            skipped.pop(identity, None)
            wanted[identity] = fact
        elif isinstance(fact, TrialSkipped):
            skipped.pop(identity_of(fact.trial), None)
            if fact.skips:
                skipped[identity_of(fact.trial)] = fact
        elif isinstance(fact, SheetChosen):
            depth = fact.depth
        elif isinstance(fact, ProfileChosen):
            profile = fact.profile
    return _Wishes(tuple(wanted.values()), tuple(skipped.values()), depth, profile)


def _fold_place(facts: Iterator[Fact]) -> tuple[FollowUpNoted | None, bool]:
    """Where the audit stands among others: what it follows, and whether it is put away."""
    follows, archived = None, False
    for fact in facts:
        if isinstance(fact, FollowUpNoted):
            follows = fact
        elif isinstance(fact, Archived):
            archived = fact.put_away
    return follows, archived


def _fold_things(facts: Iterator[Fact]) -> tuple[tuple[Device, ...], Rig | None, str | None]:
    devices: dict[str, Device] = {}
    rig, bench = None, None
    for fact in facts:
        match fact:
            case DeviceNoted(device):
                devices[device.id] = device
            case RigNoted(noted):
                rig = noted
            case BenchNoted(words):
                bench = words
            case _:
                pass
    return tuple(devices.values()), rig, bench


def _fold_claims(facts: Iterator[Fact]) -> tuple[tuple[Claim, ...], tuple[UnreadableClaim, ...]]:
    """The claims that read, and those that do not; an edit of either keeps its place."""
    claims: dict[str, Claim | UnreadableClaim] = {}
    for fact in facts:
        match fact:
            case ClaimMade(claim_id):
                claims[claim_id] = _read_claim(claim_id, fact)
            case ClaimEdited(claim_id) if claim_id in claims:
                claims[claim_id] = _read_claim(claim_id, fact)
            case ClaimDropped(claim_id):
                claims.pop(claim_id, None)
            case _:
                pass
    readable = tuple(claim for claim in claims.values() if isinstance(claim, Claim))
    return readable, tuple(each for each in claims.values() if isinstance(each, UnreadableClaim))


def _read_claim(claim_id: str, fact: ClaimMade | ClaimEdited) -> Claim | UnreadableClaim:
    try:
        return parse_claim(fact.sentence, claim_id=claim_id, source=fact.source, device=fact.device)
    except ClaimError as error:
        return UnreadableClaim(claim_id, fact.sentence, error.why, fact.source, fact.device)


def _fold_asides(facts: Iterator[Fact]) -> tuple[tuple[Doubt, ...], dict[str, str]]:
    """Doubts, and answers to remarks."""
    doubts: dict[str, Doubt] = {}
    answers: dict[str, str] = {}
    for fact in facts:
        match fact:
            case RemarkAnswered(remark, note):
                answers[remark] = note
            case DoubtRaised(doubt) as raised:
                doubts[doubt] = Doubt(raised)
            case DoubtEnded(doubt) as ended if doubt in doubts:
                doubts[doubt] = replace(doubts[doubt], ended=ended)
            case _:
                pass
    return tuple(doubts.values()), answers


def fold_audit(name: str, entries: Iterable[Entry]) -> Audit:
    """The audit that these facts make. Raises: InputError when no device or no rig was noted."""
    folding = AuditFold(name)
    folding.add(entries)
    return folding.audit()
