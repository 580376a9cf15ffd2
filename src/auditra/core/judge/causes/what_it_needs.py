"""What a buyer finds out at home: a lead too short to reach the desk, and what must be bought besides."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.claims.kinds.length import Length
from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.device import Extra, Price
from auditra.core.model.device import Role as PortRole
from auditra.core.model.reading import Quantity
from auditra.core.quantities.display import length

SHORT_M = 0.25
"""A captive lead below this leaves the device hanging from a raised laptop."""


@dataclass(frozen=True, kw_only=True)
class ShortLead(Finding):
    kind = "short lead"
    role = Role.UNSTATED

    metres: Estimate

    @property
    def sentence(self) -> str:
        return f"its lead is only {length(self.metres.value)}"

    @property
    def arithmetic(self) -> str:
        return f"{length(self.metres.value)} + {length(self.metres.expanded)} < {length(SHORT_M)}; no claim states it"


@dataclass(frozen=True, kw_only=True)
class NeededExtra(Finding):
    kind = "needed extra"
    role = Role.UNSTATED

    extra: Extra

    @property
    def subject(self) -> str:
        return self.extra.name

    @property
    def sentence(self) -> str:
        price = self.extra.price
        cost = f" ({price.amount:g} {price.money})" if isinstance(price, Price) else ""
        return f"needs {self.extra.name}{cost}, sold separately"


def _find_short(inquiry: Inquiry) -> Iterator[ShortLead]:
    """The captive lead to the host, where no claim states its length."""
    upstream = inquiry.audit.device.first(PortRole.UPSTREAM)
    stated = any(isinstance(claim.promise, Length) for claim in inquiry.audit.claims)
    if upstream is None or stated or not upstream.connector.endswith("plug"):
        return
    for record in (trial.record for trial in inquiry.records.with_quantity(Quantity.LENGTH)):
        reading = record.taken.of(Quantity.LENGTH).at(upstream.id).numbers().last()
        if reading is not None and estimate(reading).founded and estimate(reading).high < SHORT_M:
            yield ShortLead(ports=(upstream.id,), trials=(record.trial.id,), metres=estimate(reading))
            return


def _find_extras(inquiry: Inquiry) -> Iterator[NeededExtra]:
    extras = inquiry.audit.device.extras
    yield from (NeededExtra(extra=extra) for extra in (extras if isinstance(extras, tuple) else ()))


SHORT_LEAD = Cause("short lead", "a rule", "the length of a captive lead that no claim states", _find_short,
                   Role.UNSTATED)  # fmt: skip
NEEDED_EXTRA = Cause("needed extra", "the claim sheet", "extras that are sold separately", _find_extras, Role.UNSTATED)
