"""The host's share of the power, reduced while other ports are in use."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from decimal import Decimal

from auditra.core.decide.circumstance_text import setup_text
from auditra.core.journal.fold import Audit
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding
from auditra.core.model.trial import ProcedureId


def _find(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """The host's watts, less when other ports give theirs."""
    for verdict in verdicts:
        if verdict.claim.promise.procedure == ProcedureId.CHARGE and verdict.unless:
            worst = min(verdict.failing, key=lambda each: each.credit or Decimal(0))
            sentence = f"{verdict.claim.port} gives the host less {setup_text(worst.beside)}"
            sum_ = "; ".join(part.arithmetic for part in worst.parts)
            yield Finding("shared power", sentence, sum_, worst.trials, (verdict.claim.port,))


SHARED_POWER = Cause("shared power", "the smallest circumstances that separate failing from passing set-ups", _find)
