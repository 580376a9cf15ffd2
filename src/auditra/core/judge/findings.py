"""What matters and the seller does not say: reasoned sentences with the readings behind them."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from auditra.core.audit.audit import Audit, TrialRecord
from auditra.core.audit.device import Role
from auditra.core.audit.reading import Quantity, Reading
from auditra.core.audit.trial import Procedure
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.statistics import estimate
from auditra.core.quantities import power

OWN_USE_WORTH_TELLING_W = 5.0
"""Below this a device's own use is lost in what a charger of the next size gives."""


@dataclass(frozen=True)
class Finding:
    """A sentence, the sum behind it, and the points it costs."""

    sentence: str
    arithmetic: str
    points: Decimal
    trials: tuple[str, ...]
    port: str | None = None


def find_unstated(audit: Audit) -> tuple[Finding, ...]:
    """Behaviour that matters, that the readings show, and that no claim speaks of."""
    return tuple(_own_use(audit))


def _own_use(audit: Audit) -> Iterable[Finding]:
    """What the device keeps of the watts that are fed to it; the largest seen, once."""
    upstream = audit.device.first(Role.UPSTREAM)
    kept = [
        (*_difference(fed, passed), record)
        for record in audit.trials
        if record.trial.procedure is Procedure.POWER_IN and upstream is not None and not record.trial.setup.direct
        for fed, passed in [_fed_and_passed(record, upstream.id)]
        if fed is not None and passed is not None
    ]
    if not kept:
        return
    watts, uncertainty, sum_, record = max(kept, key=lambda each: each[0])
    if watts - uncertainty > OWN_USE_WORTH_TELLING_W:
        sentence = f"keeps {power(watts)} for itself"
        yield Finding(sentence, sum_, Decimal("1.0"), (record.trial.id,), _inlet(record))


def _fed_and_passed(record: TrialRecord, upstream: str) -> tuple[Reading | None, Reading | None]:
    evidence = Evidence(record.readings)
    return evidence.last(Quantity.POWER, at=_inlet(record)), evidence.last(Quantity.POWER, at=upstream)


def _inlet(record: TrialRecord) -> str | None:
    """The port that the metered lead goes into."""
    return next((each.socket for each in record.trial.setup.plugged if each.through), None)


def _difference(fed: Reading, passed: Reading) -> tuple[float, float, str]:
    """Watts kept, with the uncertainty of the difference. Source: JCGM 100:2008, 5.1.2."""
    into, out = estimate(fed), estimate(passed)
    uncertainty = math.hypot(into.expanded, out.expanded)
    kept = into.value - out.value
    return kept, uncertainty, f"{power(into.value)} in - {power(out.value)} out = {power(kept)} ± {power(uncertainty)}"
