"""The supply voltage where something fails: inside its limits it clears "too little power", below them it is why."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.links.vbus import SOUND_V, TOO_LOW_V
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity


@dataclass(frozen=True, kw_only=True)
class TooLittlePower(Finding):
    kind = "too little power"
    role = Role.CAUSE
    settles = True

    claim: str
    volts: Estimate

    @property
    def sentence(self) -> str:
        return f"{self.claim} fails for want of power: {self.ports[0]} has only {self.volts.value:.2f} V"

    @property
    def arithmetic(self) -> str:
        return f"{self.volts.value:.2f} + {self.volts.expanded:.2f} V < {TOO_LOW_V:.2f} V, the least of any USB port"


@dataclass(frozen=True, kw_only=True)
class Signal(Finding):
    kind = "signal"
    role = Role.CAUSE
    settles = True

    claim: str
    volts: Estimate

    @property
    def subject(self) -> str:
        return f"signal at {self.ports[0]}"

    @property
    def sentence(self) -> str:
        return f"{self.claim} misses though {self.ports[0]} has enough power: it is the signal, not the supply"

    @property
    def arithmetic(self) -> str:
        return f"{self.volts.value:.2f} - {self.volts.expanded:.2f} V >= {SOUND_V:.2f} V while it failed"


@dataclass(frozen=True)
class _Read:
    """The lowest voltage at the port of a claim while it failed."""

    verdict: ClaimVerdict
    port: str
    trials: tuple[str, ...]
    volts: Estimate


def _lowest(inquiry: Inquiry) -> Iterator[_Read]:
    for verdict in inquiry.investigated:
        if verdict.claim.promise.capability is not Capability.DATA:
            continue
        found: list[tuple[str, str, Estimate]] = []
        for trial in (name for tried in inquiry.tries_of(verdict) if tried.failed for name in tried.trials):
            counted = inquiry.counted(trial)
            for port in verdict.claim.ports if counted is not None else ():
                volts = counted.at(port).of(Quantity.VOLTAGE).numbers() if counted is not None else ()
                found += [(trial, port, estimate(reading)) for reading in volts]
        if found and all(volts.founded for _, _, volts in found):
            _, port, lowest = min(found, key=lambda each: each[2].low)
            yield _Read(verdict, port, tuple(dict.fromkeys(trial for trial, _, _ in found)), lowest)


def _find_low(inquiry: Inquiry) -> Iterator[TooLittlePower]:
    """Claims of data that fail while the voltage at their port is below what any port may give."""
    for read in _lowest(inquiry):
        if read.volts.high < TOO_LOW_V:
            claim = read.verdict.claim
            yield TooLittlePower(
                ports=(read.port,), trials=read.trials, claims=(claim.id,), claim=str(claim), volts=read.volts
            )


def _find_signal(inquiry: Inquiry) -> Iterator[Signal]:
    """Claims of data that now and then fail while the voltage at their port is sound."""
    for read in _lowest(inquiry):
        claim = read.verdict.claim
        if read.volts.low >= SOUND_V and _misses(read.verdict):
            yield Signal(
                ports=(read.port,), trials=read.trials, claims=(claim.id,), sure=Sureness.LIKELY, claim=str(claim),
                volts=read.volts,
            )  # fmt: skip


def _misses(verdict: ClaimVerdict) -> bool:
    """Whether it now and then does not appear, or does not work, rather than being slow."""
    parts = (part for set_up in verdict.set_ups for part in set_up.parts if part.verdict.accuses or part.low)
    return any(part.name in ("appears", "works") for part in parts)


TOO_LITTLE_POWER = Cause(
    "too little power", "USB 2.0, 7.2.2", "the voltage at the port, read while it failed", _find_low
)
SIGNAL = Cause(
    "signal", "power cleared by USB 2.0, 7.2.2", "misses, and the voltage at the port meanwhile", _find_signal
)
