"""Hosts against functions: what each host of the rig has shown of each claim, with the gaps left visible."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.judge.claim_verdict import LEAST_TO_WORST, ClaimVerdict
from auditra.core.model.rig import Host
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Verdict

_NO_HOST = (ProcedureId.RULE,)
"""Procedures that no host has to do with."""


@dataclass(frozen=True)
class HostRow:
    """One claim, with the verdict that each host gives by itself; None where it was not tried on it."""

    claim: Claim
    verdicts: tuple[Verdict | None, ...]

    @property
    def differs(self) -> bool:
        """Two hosts say different things."""
        return len({each for each in self.verdicts if each is not None}) > 1


def host_grid(hosts: Sequence[Host], claims: Sequence[ClaimVerdict]) -> tuple[HostRow, ...]:
    """A row for every claim that a host takes part in, in their order."""
    rows = (verdict for verdict in claims if verdict.claim.promise.procedure not in _NO_HOST)
    return tuple(HostRow(verdict.claim, tuple(_on(host, verdict) for host in hosts)) for verdict in rows)


def _on(host: Host, verdict: ClaimVerdict) -> Verdict | None:
    """The worst of what was shown with this host; where that is a condition of the claim, it holds under it."""
    shown = [each.verdict for each in verdict.set_ups if host.id in each.hosts and each.trials]
    worst = max(shown, key=LEAST_TO_WORST.index, default=None)
    is_conditional = verdict.verdict is Verdict.HOLDS_IF and Verdict.HOLDS in shown and worst is not Verdict.HOLDS
    return Verdict.HOLDS_IF if is_conditional else worst
