"""A remark: what does not add up, with the sum, and what a buyer should ask."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from enum import StrEnum

from auditra.core.claims.claim import Claim
from auditra.core.paper_check.paper import Paper


class Weight(StrEnum):
    """How grave a remark is; the value is the word that stands before it."""

    CANNOT_BE = "cannot be"
    DOUBTFUL = "doubtful"
    UNSAID = "not stated"


@dataclass(frozen=True)
class Remark:
    """One remark. `key` is the same as long as what it is about is, so that an answer stays with it."""

    rule: str
    weight: Weight
    sentence: str
    sums: tuple[str, ...]
    """The arithmetic, a step each."""
    ask: str
    source: str
    claims: tuple[str, ...] = ()
    """The sentences that it is about."""
    ports: tuple[str, ...] = ()

    @property
    def sum(self) -> str:
        """Its steps on one line."""
        return "; ".join(self.sums)

    @property
    def key(self) -> str:
        return " / ".join((self.rule, *(self.claims or self.ports)))


@dataclass(frozen=True)
class Rule:
    """One rule: its id, how grave it is, where it is written, and the function that finds what goes against it."""

    id: str
    weight: Weight
    says: str
    source: str
    find: Callable[[Paper], Iterable[Found]] = field(compare=False)

    def remarks(self, paper: Paper) -> Iterable[Remark]:
        """What a sheet says against this rule."""
        for found in self.find(paper):
            yield Remark(
                self.id, found.weight or self.weight, found.sentence, found.steps, found.ask, self.source,
                tuple(map(str, found.claims)),
                found.ports or tuple(dict.fromkeys(port for claim in found.claims for port in claim.ports)),
            )  # fmt: skip


@dataclass(frozen=True)
class Found:
    """What a rule found: in words, with the arithmetic, and the question that it leaves."""

    sentence: str
    sum: str | tuple[str, ...]
    """One step, or several."""
    ask: str
    claims: tuple[Claim, ...] = ()
    ports: tuple[str, ...] = ()
    weight: Weight | None = None
    """Where it is graver, or less grave, than its rule."""

    @property
    def steps(self) -> tuple[str, ...]:
        return (self.sum,) if isinstance(self.sum, str) else self.sum
