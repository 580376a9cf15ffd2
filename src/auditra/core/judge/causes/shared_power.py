"""The host's share of the power, reduced while other ports are in use."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from auditra.core.decide.circumstance_text import setup_text
from auditra.core.judge.claim_verdict import SetUpVerdict
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Running
from auditra.core.model.trial import ProcedureId


@dataclass(frozen=True, kw_only=True)
class SharedPower(Finding):
    kind = "shared power"
    role = Role.CONTENTION
    settles = True

    set_up: SetUpVerdict

    @property
    def sentence(self) -> str:
        return f"{self.ports[0]} gives the host less {setup_text(self.set_up.beside)}"

    @property
    def arithmetic(self) -> str:
        return "; ".join(part.arithmetic for part in self.set_up.parts)


def _find(inquiry: Inquiry) -> Iterator[SharedPower]:
    """The host's watts, less when other ports give theirs."""
    for verdict in inquiry.verdicts:
        charges = verdict.claim.promise.procedure == ProcedureId.CHARGE
        if charges and any(isinstance(each, Running) for each in verdict.unless):
            worst = min(verdict.failing, key=lambda each: each.credit or Decimal(0))
            yield SharedPower(
                ports=(verdict.claim.port,), trials=worst.trials, claims=(verdict.claim.id,), set_up=worst
            )


SHARED_POWER = Cause(
    "shared power", "the smallest circumstances that separate failing from passing set-ups",
    "watts to the host with other ports giving power, and without", _find, Role.CONTENTION,
)  # fmt: skip
