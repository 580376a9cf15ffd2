"""The trials of an audit by what a judgement asks of them: looked up, never searched for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from operator import is_

from auditra.core.audit.audit import TrialRecord
from auditra.core.audit.setup import SetUp
from auditra.core.judge.comparison import Comparison, compare

Group = tuple[TrialRecord, ...]


@dataclass
class _Bearing:
    """The trials that were made for a claim, and what else their verdict can depend on."""

    trials: list[TrialRecord] = field(default_factory=list)
    gear: dict[str, None] = field(default_factory=dict)
    keys: dict[str, None] = field(default_factory=dict)


class Records:
    """Trials that count, indexed as they come."""

    def __init__(self, records: Sequence[TrialRecord] = ()) -> None:
        self._all: list[TrialRecord] = []
        self._bearing: dict[str, _Bearing] = {}
        self._by_key: dict[str, list[TrialRecord]] = {}
        self._direct: dict[str, list[TrialRecord]] = {}
        self._set_ups: dict[SetUp, int] = {}
        self._compared: dict[tuple[object, ...], Comparison] = {}
        self._number_of_set_up: dict[int, tuple[SetUp, int]] = {}
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
        self._by_key.setdefault(trial.key, []).append(record)
        if trial.port is None:
            self._direct.setdefault(trial.gear, []).append(record)
            return
        for claim in trial.claims:
            bearing = self._bearing.setdefault(claim, _Bearing())
            bearing.trials.append(record)
            bearing.keys[trial.key] = bearing.gear[trial.gear] = None
            for each in trial.setup.plugged:
                bearing.gear[each.gear] = None

    def bearing_on(self, claim: str) -> Group:
        """The trials through the device that were made for a claim."""
        bearing = self._bearing.get(claim)
        return tuple(bearing.trials) if bearing is not None else ()

    def of_key(self, key: str) -> Group:
        """Every repeat of a planned trial."""
        return tuple(self._by_key.get(key, ()))

    def direct_with(self, gear: str) -> Group:
        """The trials of a piece of gear without the device."""
        return tuple(self._direct.get(gear, ()))

    def behind(self, claim: str) -> Group:
        """Every trial that a claim's verdict can depend on."""
        bearing = self._bearing.get(claim)
        if bearing is None:
            return ()
        found = list(bearing.trials)
        for each in bearing.gear:
            found += self._direct.get(each, ())
        for each in bearing.keys:
            found += self._by_key.get(each, ())
        return tuple(found)

    def compare(self, claim: str, port: str, record: TrialRecord, direct: TrialRecord) -> Comparison:
        """A trial beside a direct one; repeats of the same two set-ups are compared once."""
        one, other = record.trial, direct.trial
        paths = tuple(each.path and each.path.drive_identity for each in (record, direct))
        key = (
            self._number_of(one.setup), self._number_of(other.setup), port, one.procedure, other.procedure, other.gear,
            paths,
        )  # fmt: skip
        kept = self._compared.get(key)
        if kept is None:
            kept = self._compared[key] = compare(claim, port, record, direct)
        return Comparison(claim, one.id, other.id, kept.differences, kept.refused)

    def _number_of(self, setup: SetUp) -> int:
        """The same number for set-ups that are equal: they are compared far more often than they differ."""
        kept = self._number_of_set_up.get(id(setup))
        if kept is None or kept[0] is not setup:
            kept = setup, self._set_ups.setdefault(setup, len(self._set_ups))
            self._number_of_set_up[id(setup)] = kept
        return kept[1]
