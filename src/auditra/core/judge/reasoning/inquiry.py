"""What a cause may look at: the audit, its records and verdicts, and what was worked out of them once."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from auditra.core.claims.claim import Claim
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.reasoning.elimination import Elimination, eliminate
from auditra.core.judge.reasoning.tries import (
    Function,
    Tried,
    Try,
    function_of,
    is_investigated,
    tries_of_claim,
    tries_of_function,
)
from auditra.core.judge.records import Counted, Records


@dataclass
class Inquiry:
    """One audit as it stands, asked for its causes."""

    audit: Audit
    verdicts: Sequence[ClaimVerdict]
    questioned: frozenset[str] = frozenset()
    hub_ids: frozenset[str] = frozenset()
    _tries: dict[str, tuple[Try, ...]] = field(default_factory=dict)
    _by_function: dict[tuple[object, ...], tuple[Tried, ...]] = field(default_factory=dict)
    _eliminations: dict[str, Elimination | None] = field(default_factory=dict)

    shared: Records | None = None
    """The judge's own records, for what is asked while it judges."""

    @cached_property
    def records(self) -> Records:
        """The trials of this audit, indexed; its own, so that it can be asked while the judge goes on."""
        if self.shared is not None:
            return self.shared
        records = Records(self.audit.rig, self.questioned, self.hub_ids)
        return records.grown_to(self.audit.trials, self.audit.rig, self.questioned)

    @property
    def investigated(self) -> Iterator[ClaimVerdict]:
        """The claims of which something tried falls below what was promised."""
        return (verdict for verdict in self.verdicts if is_investigated(verdict))

    def tries_of(self, verdict: ClaimVerdict) -> tuple[Try, ...]:
        """Where a claim's function was tried, and whether it worked there."""
        claim = verdict.claim
        kept = self._tries.get(claim.id)
        if kept is None:
            alike = frozenset(
                port for other in self.verdicts if _is_alike(other.claim, claim) for port in other.claim.ports
            )
            tried = self._tried(function_of(verdict))
            kept = self._tries[claim.id] = tries_of_claim(claim, tried, alike, self.records)
        return kept

    def _tried(self, function: Function) -> tuple[Tried, ...]:
        """The tries of a function, looked through once for all claims that promise it."""
        kept = self._by_function.get(function.key)
        if kept is None:
            device = self.audit.device_of(function.claim.device)
            kept = self._by_function[function.key] = tries_of_function(function, self.records, device)
        return kept

    def elimination_of(self, verdict: ClaimVerdict) -> Elimination | None:
        """Who is left of those that could explain why a claim fails; None where nothing can be said."""
        name = verdict.claim.id
        if name not in self._eliminations:
            self._eliminations[name] = eliminate(verdict, self.tries_of(verdict), self.records)
        return self._eliminations[name]

    def counted(self, trial: str) -> Counted | None:
        """A trial that counts, by its id."""
        return self._counted.get(trial)

    @cached_property
    def _counted(self) -> dict[str, Counted]:
        return {trial.id: trial for trial in self.records.counted}

    def record(self, trial: str) -> TrialRecord | None:
        """A trial, whether it counts or not."""
        return self._all.get(trial)

    @cached_property
    def _all(self) -> dict[str, TrialRecord]:
        return {record.trial.id: record for record in self.audit.trials}


def _is_alike(other: Claim, claim: Claim) -> bool:
    return other.device == claim.device and str(other.promise) == str(claim.promise)
