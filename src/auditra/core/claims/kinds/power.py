"""Power on its way through: what is passed, shared, fed, charged fast, and what the device keeps for itself."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal

from auditra.core.claims.kinds._power import Watts
from auditra.core.claims.kinds.gives import USB_VOLTS
from auditra.core.claims.observed import SIZE_TOLERANCE, Figure, TriedWith, Working, read_with
from auditra.core.claims.promise import CANNOT_PROVE, ReadOff, Sense
from auditra.core.claims.terms import Amount, OneOf, said
from auditra.core.decide.estimates import estimate, limit_behind
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Grade, Number, Quantity
from auditra.core.model.rig import Drain, Drive, Gear, Load
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import amount, plain_number
from auditra.core.quantities.units import Dimension

_FAST = ("PD", "PD PPS", "PD AVS", "PD EPR", "BC 1.2", "Type-C 3 A", "Type-C 1.5 A")


@dataclass(frozen=True)
class Passes(Watts):
    """``UP passes 80 W``: this much of a charger at the inlet arrives at the host plug."""

    words, of_many = "passes", "pass"
    example = "passes 80 W"
    procedure = ProcedureId.CHARGE
    capability = Capability.POWER_OUT
    lacking_gear = "a supply and a load"

    @property
    def brief(self) -> str:
        return f"pass {self.watts:g} W"

    def margin(self, gear: Gear) -> float | None:
        return gear.watts / self.watts if isinstance(gear, Load) and gear.watts > self.watts else None


@dataclass(frozen=True)
class Shares(Figure):
    """``C1+C2 share 60 W``: what some ports have between them."""

    watts: float = said(Amount(Dimension.POWER, example="60 W"), hedged=True)

    words, of_many = "shares", "share"
    example = "shares 60 W"
    of_group = True
    asks = "Draw from {spot} at the same time, as much as it gives: how many watts in total?"
    reads = Quantity.POWER
    dimensions = (Dimension.POWER,)
    lowest = Grade.MEASURED

    @property
    def limit(self) -> float:
        return self.watts

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """Watts that were read at each of the ports at the same time add up."""
        by_port = {reading.at: reading for reading in evidence.taken.of(self.reads) if reading.values}
        if len(by_port) < 2:
            return super().decide(evidence)
        estimates = [estimate(reading) for reading in by_port.values()]
        error = limit_behind(*(each.expanded for each in estimates))
        total = Number((sum(each.value for each in estimates),))
        grade = min(reading.grade for reading in by_port.values())
        summed = replace(next(iter(by_port.values())), value=total, error=error, resolution=0.0, grade=grade)
        return super().decide(replace(evidence, taken=ReadingSet((summed,))))

    @property
    def brief(self) -> str:
        return f"of {self.watts:g} W"


@dataclass(frozen=True)
class FastCharges(Working):
    """``C1 fast charges by PD PPS``: gear that asks for it by this standard is granted it."""

    by: str = said(OneOf(*_FAST), after="by")

    words, of_many = "fast charges", "fast charge"
    capability = Capability.POWER_OUT
    example = "fast charges by PD PPS"
    asks = "Plug gear that asks for {it.by} into {spot}: does its contract, or its own screen, say so?"

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """A contract of the kind, as host or log has it, decides; one of another kind only was not asked for."""
        kinds = {reading.text for reading in evidence.pool.of(Quantity.CONTRACT_KIND) if reading.grade >= Grade.TYPED}
        agreed = evidence.witness(Quantity.AGREED)
        by_pd = bool(kinds) or (agreed is not None and agreed.grade >= Grade.TYPED)
        wanted = _CONTRACT_KINDS.get(self.by)
        if (self.by == "PD" and by_pd) or (wanted is not None and wanted & kinds):
            named = " and ".join(sorted(filter(None, kinds))) or "PD"
            return (Part(self.words, Verdict.HOLDS, f"contract: {named}", "agreed, as the log has it", Decimal(1)),)
        return super().decide(evidence)

    @property
    def brief(self) -> str:
        return self.by[:11]


_CONTRACT_KINDS = {"PD PPS": {"PPS"}, "PD AVS": {"AVS", "EPR AVS"}, "PD EPR": {"EPR AVS"}}
"""The kinds of power data object that a contract of each sort is made by. Source: USB PD R3.2, 6.4.1."""


@dataclass(frozen=True)
class Offers(Figure):
    """``C1 offers 60 W``: what it offers a device that asks, whatever arrives."""

    watts: float = said(Amount(Dimension.POWER, example="60 W"), hedged=True)

    words, of_many = "offers", "offer"
    capability = Capability.POWER_OUT
    example = "offers 60 W"
    asks = "How many watts does {spot} offer at most, by a log or the host's own screen?"
    reads = Quantity.OFFERED
    dimensions = (Dimension.POWER,)

    @property
    def limit(self) -> float:
        return self.watts

    @property
    def brief(self) -> str:
        return f"offers {self.watts:g} W"[:11]


@dataclass(frozen=True)
class Feeds(Working):
    """``A1 feeds 0.9 A``: gear that draws this much runs from the socket alone, from its start on."""

    amperes: float = said(Amount(Dimension.CURRENT, example="0.9 A"), hedged=True)

    words, of_many = "feeds", "feed"
    capability = Capability.POWER_OUT
    example = "feeds 0.9 A"
    needs_gear = True

    def margin(self, gear: Gear) -> float | None:
        """Gear that draws just this much, else more, which proves it only if it runs. A drive of which nothing is noted
        may draw as much, and proves nothing."""
        if isinstance(gear, Drive) and not isinstance(gear.current_a, float | int):
            return CANNOT_PROVE
        amperes = _draws_a(gear)
        share = amperes / self.amperes if amperes is not None else None
        return None if share is None else share if share < 1 - SIZE_TOLERANCE else 1.0 if share > _MORE else _JUST_RIGHT

    @property
    def lacking(self) -> str:
        return f"gear that draws {plain_number(self.amperes)} A"

    def tried_with(self, evidence: Evidence) -> TriedWith | None:
        """The current that was read, else what the gear is noted to draw at most."""
        amperes = read_with(evidence, Quantity.CURRENT)
        amperes = _draws_a(evidence.gear) if amperes is None else amperes
        return TriedWith(amperes, self.amperes, Dimension.CURRENT) if amperes is not None else None

    def question(self, spot: str) -> str:
        return f"Plug gear that draws {plain_number(self.amperes)} A into {spot}: does it start, and keep running?"

    @property
    def brief(self) -> str:
        return f"feeds {self.amperes:g} A"


_MORE, _JUST_RIGHT = 1 + SIZE_TOLERANCE, 2.0


def _draws_a(gear: Gear | None) -> float | None:
    """What gear is noted to draw at most from a socket, in amperes."""
    if isinstance(gear, Drive) and isinstance(gear.current_a, float | int):
        return float(gear.current_a)
    return gear.draws_w / USB_VOLTS if isinstance(gear, Drain) else None


@dataclass(frozen=True)
class Uses(Figure):
    """``body uses 11 W``: what the device keeps for itself, at most."""

    watts: float = said(Amount(Dimension.POWER, example="11 W"), hedged=True)

    words, of_many = "uses", "use"
    example = "uses 11 W"
    on_body = True
    sense = Sense.AT_MOST
    asks = "Watts fed, less watts given, with nothing else plugged into {spot}?"
    reads = Quantity.OWN_USE
    read_off = ReadOff.OWN_USE
    dimensions = (Dimension.POWER,)
    lowest = Grade.MEASURED

    @property
    def limit(self) -> float:
        return self.watts

    @property
    def brief(self) -> str:
        return f"uses {amount(self.watts, Dimension.POWER)}"
