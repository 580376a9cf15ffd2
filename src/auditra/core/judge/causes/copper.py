"""The ohms of a way, from volts at several currents: the drop at the promised current, and the wire it would be."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.claims.kinds.cable import Drops
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.reasoning.loops import Loop, loops_of
from auditra.core.links.copper import Drop, thinnest_gauge
from auditra.core.model.trial import DIRECT


@dataclass(frozen=True, kw_only=True)
class Copper(Finding):
    """Loop resistance of a way, there and back, with what follows from it."""

    kind = "copper"
    role = Role.CAUSE

    way: str
    """What it is of: a lead, or the way to a port."""
    ohm: float
    ohm_expanded: float
    pairs: int
    length_m: float | None
    amperes: float | None
    """The current that was promised."""
    limit_v: float | None

    @property
    def subject(self) -> str:
        return self.way

    @property
    def sentence(self) -> str:
        words = f"{self.way} has {1e3 * self.ohm:.0f} ± {1e3 * self.ohm_expanded:.0f} mohm there and back"
        if self.amperes is None:
            return words
        drop = Drop(self.amperes, self.ohm)
        return f"{words}: {1e3 * drop.volts:.0f} mV and {drop.watts:.2f} W are lost at {self.amperes:g} A"

    @property
    def arithmetic(self) -> str:
        parts = [f"least squares over {self.pairs} loads"]
        if self.length_m:
            parts.append(f"{1e3 * self.ohm / self.length_m:.0f} mohm/m")
            parts.append(f"as {self.gauge} AWG copper" if self.gauge is not None else "thinner than 40 AWG")
        if self.limit_v is not None and self.amperes is not None:
            parts.append(f"{1e3 * self.amperes * self.ohm:.0f} of {1e3 * self.limit_v:.0f} mV")
        return "; ".join(parts)

    @property
    def gauge(self) -> int | None:
        """The thinnest gauge that has no more ohms at this length; contacts make it look thinner."""
        if not self.length_m:
            return None
        return thinnest_gauge(self.length_m, 1.0, self.ohm)  # at one ampere, the volts are the ohms


def _find(inquiry: Inquiry) -> Iterator[Copper]:
    """For each way whose volts were read at several currents, its ohms."""
    return (_copper(inquiry, loop) for loop in loops_of(inquiry.records))


def _copper(inquiry: Inquiry, loop: Loop) -> Copper:
    drops = [verdict.claim for verdict in inquiry.verdicts
             if isinstance(verdict.claim.promise, Drops) and loop.place in verdict.claim.ports]  # fmt: skip
    promise = drops[0].promise if drops else None
    lead = inquiry.records.lead(loop.leads[-1]) if loop.leads else None
    is_lead = lead is not None and loop.place == DIRECT
    amperes = promise.amperes if isinstance(promise, Drops) else getattr(lead, "amperes", None)
    length_m = getattr(lead, "length_m", None)
    return Copper(
        ports=(loop.place,), trials=loop.trials, claims=tuple(claim.id for claim in drops),
        way=f"lead {loop.leads[-1]}" if is_lead else f"the way to {loop.place}", ohm=loop.ohm,
        ohm_expanded=loop.ohm_expanded, pairs=len(loop.pairs),
        length_m=float(length_m) if isinstance(length_m, float | int) and is_lead else None,
        amperes=float(amperes) if isinstance(amperes, float | int) else None,
        limit_v=promise.volts if isinstance(promise, Drops) else None,
    )  # fmt: skip


COPPER = Cause(
    "copper", "Ohm's law by least squares; IEC 60028 for the gauge", "volts at three currents or more", _find
)
