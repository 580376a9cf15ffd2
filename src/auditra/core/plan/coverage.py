"""Which levels of which factors share a set-up, so that as few trials as possible cover what is owed.

A full sheet covers each level of each factor beside each claim that it matters to; a forensic one covers each level
by itself, and each two levels together. Levels that share a set-up are told apart by trials in reserve, done only
where that set-up fails. Source: Kuhn, Kacker and Lei, NIST SP 800-142 (combinatorial testing under constraints).
"""

from __future__ import annotations

from collections.abc import Container, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

from auditra.core.model.depth import Depth
from auditra.core.model.trial import TrialIdentity
from auditra.core.plan.factor import Added, Factor, Level, Which, all_factors
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial

_MOST_IN_A_FORENSIC_ROW = 4
"""With more departures at once, a failure would say little."""


@dataclass(frozen=True)
class Choice:
    """A level of a factor."""

    factor: Factor
    level: Level


@dataclass
class Row:
    """Levels that share a set-up."""

    base: PlannedTrial
    trial: PlannedTrial
    choices: tuple[Choice, ...] = ()

    def with_level(self, choice: Choice) -> Row | None:
        """The row with one more level; None where they exclude each other or the rig lacks something.

        What was never promised shares no set-up with what was: its failure says nothing of the rest.
        """
        if not all(choice.factor.goes_with(each.factor) for each in self.choices):
            return None
        alone, changed = choice.level.change(self.base), choice.level.change(self.trial)
        if alone is None or changed is None:
            return None
        if self.choices and alone.setup.unpromised != self.trial.setup.unpromised:
            return None
        return Row(self.base, changed, (*self.choices, choice))

    def planned(self, depth: Depth) -> PlannedTrial:
        words = ", ".join(each.level.words for each in self.choices)
        why = self.choices[0].level.why if len(self.choices) == 1 else "does any of this matter?"
        takes_s = sum(each.factor.takes_s for each in self.choices if not self.trial.setup.soaked_s)
        return replace(self.trial, title=f"{self.base.title}, {words}", why=why, depth=depth, extra_s=takes_s)


def varied(tried: Sequence[Tried], planning: Planning, depth: Depth, known: Container[TrialIdentity] = ()) -> Added:
    """What every factor adds to what was planned alone. A level that another claim is tried under anyway (`known`)
    shares that trial."""
    trials: list[PlannedTrial] = []
    reserve: list[PlannedTrial] = []
    covered: set[tuple[str, str, str]] = set()
    for factor in all_factors():
        groups = factor.groups(list(tried), planning)
        covered |= groups.covers
        trials += (replace(trial, depth=Depth.FULL) for trial in groups.trials)
        reserve += groups.in_reserve
    chosen = _chosen_for(tried, planning)
    of_kind = {id(each) for each in _one_of_each_kind(tried)}
    for each in tried:
        levels = tuple(levels_of(each, planning))
        usual = chosen_here = [choice for choice in levels if id(each) in chosen.get(choice.factor.name, ())]
        shared = [choice for choice in usual if (each.claim.id, each.port.id, choice.factor.name) in covered]
        usual = [choice for choice in usual if choice not in shared]
        alike = [single for single in _singles(each.trial, usual) if single.identity in known]
        trials += alike
        done = {single.title for single in alike}
        owed = [
            choice for choice in usual
            if choice.level.depth is Depth.FULL and f"{each.trial.title}, {choice.level.words}" not in done
        ]  # fmt: skip
        rows = _rows(each.trial, owed)
        trials += (row.planned(Depth.FULL) for row in rows)
        apart = [choice for row in rows if len(row.choices) > 1 for choice in row.choices]
        apart += [*shared, *(choice for choice in usual if choice.level.depth is None)]
        apart += [choice for choice in levels if choice.factor.ready_for_others and choice not in chosen_here]
        reserve += _singles(each.trial, apart)
        if depth is Depth.FORENSIC:
            trials += _singles(each.trial, levels)
            if id(each) in of_kind:
                trials += _pairs(each.trial, levels)
    return Added(tuple(trials), tuple(reserve))


def levels_of(tried: Tried, planning: Planning) -> Iterator[Choice]:
    """Every level that matters to a claim and that this rig can set up by itself."""
    for factor in all_factors():
        if factor.matters(tried, planning):
            for level in factor.levels(tried, planning):
                if level.change(tried.trial) is not None:
                    yield Choice(factor, level)


def _chosen_for(tried: Sequence[Tried], planning: Planning) -> dict[str, set[int]]:
    """By factor, the claims that a full sheet tries it for."""
    found: dict[str, set[int]] = {}
    for factor in all_factors():
        having = [each for each in tried if factor.matters(each, planning) and any(factor.levels(each, planning))]
        match factor.which:
            case Which.EACH:
                some: Iterable[Tried] = having
            case Which.KIND:
                some = _one_of_each_kind(having)
            case Which.ONE:
                some = list(_one_of_each_kind(having))[:1]
        found[factor.name] = {id(each) for each in some}
    return found


def _one_of_each_kind(tried: Iterable[Tried]) -> Iterator[Tried]:
    """Of what is measured in one way the claim that asks most; the first of those that ask as much."""
    by_kind: dict[str, list[Tried]] = {}
    for each in tried:
        by_kind.setdefault(each.claim.promise.procedure, []).append(each)
    for alike in by_kind.values():
        yield max(alike, key=_asked)


def _asked(tried: Tried) -> float:
    promise = tried.claim.promise
    scale = promise.scale()
    return promise.upstream_bps or promise.target or (scale.limit if scale is not None else 0.0)


def _rows(base: PlannedTrial, choices: Iterable[Choice]) -> list[Row]:
    """Each level in the first row that takes it."""
    rows: list[Row] = []
    for choice in choices:
        for index, row in enumerate(rows):
            if (more := row.with_level(choice)) is not None:
                rows[index] = more
                break
        else:
            if (alone := Row(base, base).with_level(choice)) is not None:
                rows.append(alone)
    return rows


def _singles(base: PlannedTrial, choices: Iterable[Choice]) -> Iterator[PlannedTrial]:
    for choice in choices:
        if (row := Row(base, base).with_level(choice)) is not None:
            yield row.planned(Depth.FORENSIC)


def _pairs(base: PlannedTrial, choices: Sequence[Choice]) -> Iterator[PlannedTrial]:
    """Rows that bring every two levels together that can be: greedily, each row with as many new pairs as it takes."""
    owed = {pair for pair in combinations(range(len(choices)), 2) if _pair(base, *(choices[n] for n in pair))}
    while owed:
        first = min(owed)
        row = _pair(base, *(choices[n] for n in first))
        assert row is not None
        inside = set(first)
        for number, choice in enumerate(choices):
            new = [pair for pair in owed if number in pair and set(pair) - {number} <= inside]
            if number in inside or not new or len(inside) >= _MOST_IN_A_FORENSIC_ROW:
                continue
            if (more := row.with_level(choice)) is not None:
                row, inside = more, inside | {number}
        owed -= set(combinations(sorted(inside), 2))
        yield row.planned(Depth.FORENSIC)


def _pair(base: PlannedTrial, one: Choice, other: Choice) -> Row | None:
    first = Row(base, base).with_level(one)
    return first.with_level(other) if first is not None else None
