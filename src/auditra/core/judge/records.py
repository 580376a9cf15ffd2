"""The trials of an audit by what a judgement asks of them: looked up, never searched for."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from operator import is_

from auditra.core.decide.reading_set import ReadingSet
from auditra.core.journal.fold import TrialRecord
from auditra.core.judge.comparison import Comparison, compare
from auditra.core.model.trial import TrialIdentity

Group = tuple[TrialRecord, ...]


@dataclass
class _Bearing:
    """The trials that were made for a claim, and what else their verdict can depend on."""

    trials: list[TrialRecord] = field(default_factory=list)
    gear: dict[str, None] = field(default_factory=dict)
    identities: dict[TrialIdentity, None] = field(default_factory=dict)


class Records:
    """Trials that count, indexed as they come."""

    def __init__(self, records: Sequence[TrialRecord] = ()) -> None:
        self._all: list[TrialRecord] = []
        self._bearing: dict[str, _Bearing] = {}
        self._repeats: dict[TrialIdentity, list[TrialRecord]] = {}
        self._direct: dict[str, list[tuple[TrialRecord, int]]] = {}
        self._numbers: dict[tuple[object, ...], int] = {}
        self._number_of_trial: dict[int, int] = {}
        self._compared: dict[tuple[int, int, str], Comparison] = {}
        self._joined: dict[tuple[int, ...], ReadingSet] = {}
        for record in records:
            self._add(record)

    def grown_to(self, records: Sequence[TrialRecord]) -> Records:
        """These trials indexed: only the new ones, where the rest are the very same as before."""
        count = len(self._all)
        if count > len(records) or not all(map(is_, self._all, records)):
            return Records(records)
        for record in records[count:]:
            self._add(record)
        return self

    def _add(self, record: TrialRecord) -> None:
        self._all.append(record)
        trial = record.trial
        self._repeats.setdefault(record.identity, []).append(record)
        if trial.port is None:
            self._direct.setdefault(trial.gear, []).append((record, self._number_of(record)))
            return
        for claim in trial.claims:
            bearing = self._bearing.setdefault(claim, _Bearing())
            bearing.trials.append(record)
            bearing.identities[record.identity] = bearing.gear[trial.gear] = None
            for each in trial.setup.plugged:
                bearing.gear[each.gear] = None

    def bearing_on(self, claim: str) -> Group:
        """The trials through the device that were made for a claim."""
        bearing = self._bearing.get(claim)
        return tuple(bearing.trials) if bearing is not None else ()

    def repeats_of(self, record: TrialRecord) -> Group:
        """Every trial of the same identity, itself included."""
        return tuple(self._repeats.get(record.identity, ()))

    def behind(self, claim: str) -> Group:
        """Every trial that a claim's verdict can depend on."""
        bearing = self._bearing.get(claim)
        if bearing is None:
            return ()
        found = list(bearing.trials)
        for each in bearing.gear:
            found += (record for record, _ in self._direct.get(each, ()))
        for identity in bearing.identities:
            found += self._repeats.get(identity, ())
        return tuple(found)

    def compared(
        self, claim: str, port: str, record: TrialRecord, gear: str
    ) -> Iterator[tuple[TrialRecord, Comparison]]:
        """A trial beside each one of a piece of gear without the device; repeats of the same two are compared once."""
        ours = self._number_of(record)
        for direct, theirs in self._direct.get(gear, ()):
            kept = self._compared.get((ours, theirs, port))
            if kept is None:
                kept = self._compared[ours, theirs, port] = compare(claim, port, record, direct)
            yield direct, Comparison(claim, record.trial.id, direct.trial.id, kept.differences, kept.refusing)

    def readings_of(self, records: Group) -> ReadingSet:
        """The readings of several trials; those of the same trials are joined once."""
        key = tuple(map(id, records))
        if key not in self._joined:
            self._joined[key] = ReadingSet.joined(record.taken for record in records)
        return self._joined[key]

    def _number_of(self, record: TrialRecord) -> int:
        """The same number for trials that are equal in all that a comparison looks at.

        By the record's place in memory, which it keeps: this index holds it.
        """
        number = self._number_of_trial.get(id(record))
        if number is None:
            trial = record.trial
            alike = trial.setup, trial.procedure, trial.gear, record.path and record.path.drive_identity
            number = self._number_of_trial[id(record)] = self._numbers.setdefault(alike, len(self._numbers))
        return number
