"""Two witnesses of one value that cannot both be right: the better one settles it, or it stays open."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.counted import listed
from auditra.core.decide.estimates import estimate
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.payload import usb_link_proven_bps
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.records import Counted
from auditra.core.model.reading import PAYLOAD_RATES, Quantity, Reading
from auditra.core.quantities.display import bit_rate

_STAY_THE_SAME = frozenset(
    {*PAYLOAD_RATES, Quantity.POWER, Quantity.VOLTAGE, Quantity.CURRENT, Quantity.DROP, Quantity.RESISTANCE,
     Quantity.LENGTH, Quantity.MASS, Quantity.CAPACITY, Quantity.OFFERED, Quantity.AGREED, Quantity.SLOT_WIDTH}
)  # fmt: skip
"""What does not change by itself during a trial: two looks at a temperature may both be right."""


@dataclass(frozen=True, kw_only=True)
class Witnesses(Finding):
    kind = "witnesses"
    role = Role.CONTRADICTION

    better: Reading
    other: Reading
    settled: bool

    @property
    def subject(self) -> str:
        return f"{self.better.quantity} at {self.ports[0]}"

    @property
    def sentence(self) -> str:
        one, other = (f"{each.instrument} {reading_in_words(each)}" for each in (self.better, self.other))
        end = f"{self.better.instrument} counts" if self.settled else "neither is better, so it stays open"
        return f"{self.subject}: {one}, but {other}; {end}"

    @property
    def arithmetic(self) -> str:
        return f"grade {self.better.grade.value} against grade {self.other.grade.value}"


@dataclass(frozen=True, kw_only=True)
class StaleLink(Finding):
    """The links that one host gave as too slow, all in one: it is the same witness."""

    kind = "stale link"
    role = Role.CONTRADICTION

    host: str
    link_bps: float
    proven_bps: float
    """The least that any of them must have been."""

    @property
    def subject(self) -> str:
        return f"negotiated link at {listed(self.ports)}"

    @property
    def sentence(self) -> str:
        read, needed = bit_rate(self.link_bps), bit_rate(self.proven_bps)
        if len(self.ports) == 1:
            return (
                f"{self.ports[0]} was read as {read}, but moved more than that carries: the link was {needed} at least"
            )
        return (
            f"{listed(self.ports)} were read as {read}, but moved more than that carries: "
            f"the links were {needed} at least, and what {self.host} says of links is not to be relied on"
        )

    @property
    def arithmetic(self) -> str:
        return "every byte was read back as it was written"


def _find(inquiry: Inquiry) -> Iterator[Witnesses]:
    """Values of one quantity in one trial at one place whose intervals lie apart."""
    for trial in inquiry.records.counted:
        for place in trial.places:
            taken = trial.at(place)
            for quantity in dict.fromkeys(reading.quantity for reading in taken if reading.values):
                found = _against(inquiry, trial, place, quantity)
                if found is not None:
                    yield found


def _against(inquiry: Inquiry, trial: Counted, place: str, quantity: Quantity | str) -> Witnesses | None:
    of_quantity = trial.at(place).of(quantity).numbers()
    if len(of_quantity.readings) < 2 or quantity not in _STAY_THE_SAME:
        return None
    evidence = Evidence(of_quantity)
    witness = evidence.witness(quantity)
    if witness is None:
        return None
    apart = [each for each in of_quantity if each is not witness.reading and _is_comparable(each, witness.reading)]
    for other in apart:
        one, two = estimate(witness.reading), estimate(other)
        if one.founded and two.founded and (one.high < two.low or two.high < one.low):
            settled = other.grade < witness.reading.grade
            return Witnesses(
                ports=(place,), trials=(trial.id,), claims=trial.record.trial.claims, better=witness.reading,
                other=other, settled=settled,
            )  # fmt: skip
    return None


def _is_comparable(one: Reading, other: Reading) -> bool:
    """Two looks at the same thing: the same end, hop, direction, current and moment, by different instruments."""
    ours, theirs = (
        (each.end, each.hop, each.direction, each.behind_a, each.moment) for each in (one, other)
    )  # fmt: skip
    return ours == theirs and one.instrument != other.instrument


def _find_stale(inquiry: Inquiry) -> Iterator[StaleLink]:
    """Links that are slower than what was moved over them, every byte of which was checked."""
    by_host: dict[tuple[str, float], list[tuple[Counted, str, float]]] = {}
    for trial in inquiry.records.counted:
        for place in trial.places:
            taken = trial.at(place)
            link = taken.of(Quantity.LINK).numbers().last()
            proven = usb_link_proven_bps(Evidence(taken)) if link is not None else 0.0
            if link is not None and proven > min(link.values):
                by_host.setdefault((trial.setup.host, min(link.values)), []).append((trial, place, proven))
    for (host, link_bps), seen in by_host.items():
        claims = dict.fromkeys(claim for trial, _, _ in seen for claim in trial.record.trial.claims)
        yield StaleLink(
            ports=tuple(dict.fromkeys(place for _, place, _ in seen)), claims=tuple(claims),
            trials=tuple(dict.fromkeys(trial.id for trial, _, _ in seen)), host=inquiry.audit.rig.name_of(host),
            link_bps=link_bps, proven_bps=min(proven for _, _, proven in seen),
        )  # fmt: skip


WITNESSES = Cause(
    "witnesses", "intervals that lie apart; the higher grade counts", "two instruments at one value", _find,
    Role.CONTRADICTION,
)  # fmt: skip
STALE_LINK = Cause(
    "stale link", "USB 3.2, 6.3.1: the line coding bounds the payload", "a link reading and verified payload",
    _find_stale, Role.CONTRADICTION,
)  # fmt: skip
