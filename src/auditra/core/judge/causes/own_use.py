"""Power that the device consumes itself, which a charger must have beyond what reaches the host."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.device import Role as PortRole
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import power

MIN_OWN_USE_W = 5.0
"""Below this a device's own use is lost in what a charger of the next size gives."""


@dataclass(frozen=True, kw_only=True)
class OwnUse(Finding):
    kind = "own use"
    role = Role.UNSTATED

    into: Estimate
    out: Estimate

    @property
    def kept_w(self) -> float:
        return self.into.value - self.out.value

    @property
    def expanded_w(self) -> float:
        """The uncertainty of the difference. Source: JCGM 100:2008, 5.1.2."""
        return math.hypot(self.into.expanded, self.out.expanded)

    @property
    def sentence(self) -> str:
        return f"consumes {power(self.kept_w)} itself"

    @property
    def arithmetic(self) -> str:
        passed = f"{power(self.into.value)} in - {power(self.out.value)} out"
        return f"{passed} = {power(self.kept_w)} ± {power(self.expanded_w)}"


def _find(inquiry: Inquiry) -> Iterator[OwnUse]:
    """What the device keeps of the watts that are fed to it; the largest seen, once."""
    upstream = inquiry.audit.device.first(PortRole.UPSTREAM)
    if upstream is None:
        return
    trials = inquiry.records.with_quantity(Quantity.POWER)
    seen = [found for trial in trials if (found := _kept(trial.record, upstream.id)) is not None]
    most = max(seen, key=lambda each: each.kept_w, default=None)
    if most is not None and most.kept_w - most.expanded_w > MIN_OWN_USE_W:
        yield most


def _kept(record: TrialRecord, upstream: str) -> OwnUse | None:
    trial = record.trial
    if trial.procedure not in (ProcedureId.POWER_IN, ProcedureId.CHARGE) or trial.setup.running or trial.setup.direct:
        return None
    fed, passed = _fed_and_passed(record, upstream)
    if fed is None or passed is None:
        return None
    inlet = _inlet(record)
    ports = (inlet,) if inlet else ()
    return OwnUse(ports=ports, trials=(trial.id,), into=estimate(fed), out=estimate(passed))


def _fed_and_passed(record: TrialRecord, upstream: str) -> tuple[Reading | None, Reading | None]:
    watts, inlet = record.taken.of(Quantity.POWER).numbers(), _inlet(record)
    return watts.at(inlet).last() if inlet else None, watts.at(upstream).last()


def _inlet(record: TrialRecord) -> str | None:
    """The port that the metered lead goes into."""
    return next((each.socket for each in record.trial.setup.plugged if each.through), None)


OWN_USE = Cause(
    "own use", "conservation of energy; JCGM 100:2008, 5.1.2", "watts in and watts out in one trial", _find,
    Role.UNSTATED,
)  # fmt: skip
