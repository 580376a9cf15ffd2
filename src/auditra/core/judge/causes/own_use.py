"""Power that the device consumes itself, which a charger must have beyond what reaches the host."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from auditra.core.decide.estimates import estimate
from auditra.core.journal.fold import Audit, TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding
from auditra.core.model.device import Role
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import power

MIN_OWN_USE_W = 5.0
"""Below this a device's own use is lost in what a charger of the next size gives."""


def _find(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> Iterator[Finding]:
    """What the device keeps of the watts that are fed to it; the largest seen, once."""
    upstream = audit.device.first(Role.UPSTREAM)
    kept = [
        (*_difference(fed, passed), record)
        for record in audit.trials
        if record.trial.procedure in (ProcedureId.POWER_IN, ProcedureId.CHARGE) and not record.trial.setup.running
        if upstream is not None and not record.trial.setup.direct
        for fed, passed in [_fed_and_passed(record, upstream.id)]
        if fed is not None and passed is not None
    ]
    if not kept:
        return
    watts, uncertainty, sum_, record = max(kept, key=lambda each: each[0])
    if watts - uncertainty > MIN_OWN_USE_W:
        sentence = f"consumes {power(watts)} itself"
        inlet = _inlet(record)
        yield Finding("own use", sentence, sum_, (record.trial.id,), (inlet,) if inlet else ())


def _fed_and_passed(record: TrialRecord, upstream: str) -> tuple[Reading | None, Reading | None]:
    watts, inlet = record.taken.of(Quantity.POWER).numbers(), _inlet(record)
    return watts.at(inlet).last() if inlet else None, watts.at(upstream).last()


def _inlet(record: TrialRecord) -> str | None:
    """The port that the metered lead goes into."""
    return next((each.socket for each in record.trial.setup.plugged if each.through), None)


def _difference(fed: Reading, passed: Reading) -> tuple[float, float, str]:
    """Watts kept, with the uncertainty of the difference. Source: JCGM 100:2008, 5.1.2."""
    into, out = estimate(fed), estimate(passed)
    uncertainty = math.hypot(into.expanded, out.expanded)
    kept = into.value - out.value
    return kept, uncertainty, f"{power(into.value)} in - {power(out.value)} out = {power(kept)} ± {power(uncertainty)}"


OWN_USE = Cause("own use", "conservation of energy; JCGM 100:2008, 5.1.2", _find, unstated=True)
