"""A miss that says nothing: one in many tries, or no more than elsewhere."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import wilson
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.reading import Count, Quantity
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True, kw_only=True)
class Chance(Finding):
    kind = "chance"
    role = Role.CHANCE

    count: Count

    @property
    def sentence(self) -> str:
        missed = self.count.tries - self.count.seen
        misses = "1 miss" if missed == 1 else f"{missed} misses"
        return f"{misses} in {self.count.tries} tries at {self.ports[0]}: no more than chance"

    @property
    def arithmetic(self) -> str:
        bounds = wilson(self.count)
        return f"{self.count.seen} of {self.count.tries}: {bounds.low:.2f} to {bounds.high:.2f}"


def _find(inquiry: Inquiry) -> Iterator[Chance]:
    """Claims that hold although something missed once."""
    for verdict in inquiry.verdicts:
        if verdict.verdict is not Verdict.HOLDS:
            continue
        names = dict.fromkeys(name for set_up in verdict.set_ups for name in set_up.trials)
        trials = [trial for trial in map(inquiry.counted, names) if trial is not None]
        for quantity in (Quantity.APPEARED, Quantity.WORKS):
            count = ReadingSet.joined(trial.at(verdict.claim.port) for trial in trials).of(quantity).count()
            if 0 < count.seen < count.tries and count.seen * 2 > count.tries:
                yield Chance(ports=(verdict.claim.port,), trials=tuple(names), claims=(verdict.claim.id,), count=count)


CHANCE = Cause(
    "chance",
    "Wilson's interval; a single miss in 19 tries or more is no fault",
    "a count with a miss",
    _find,
    Role.CHANCE,
)
