"""``A1 data 5 Gb/s``: the socket links at this rate and carries payload to match, both ways or the one that is named.

A generation is a promise of its own: ``A1 data Gen 2x1``. Any name of it is read; an unclear one is asked.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Self

from auditra.core.claims.promise import BITS_A_BYTE, Hedge, Promise, Scale, Sense, rounded_to_keep, take_hedge
from auditra.core.claims.terms import OneOf, Term, said
from auditra.core.claims.tokens import CONDITION_WORDS, Words
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.payload import payload_parts, usb_link_proven_bps
from auditra.core.decide.rules import link_at_least
from auditra.core.errors import AmbiguousName, QuantityError
from auditra.core.links.usb import LINKS, UsbLink, find_link, payload_ceiling_bps
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Drive, Gear
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import MEGABYTES_A_SECOND, Format, amount, bit_rate
from auditra.core.quantities.units import Dimension

PRACTICAL_SHARE = 0.85
"""The part of the payload ceiling that a good drive is expected to reach over a good link."""
UP, DOWN = "up", "down"
"""Towards the host, and away from it."""
_GENERATIONS = ("Gen 1x1", "Gen 2x1", "Gen 1x2", "Gen 2x2", "USB4 20 Gb/s", "USB4 40 Gb/s", "USB4 80 Gb/s")
_NAMES_A_LINK = re.compile(r"(?i)usb|gen|superspeed|hi-speed|high|full|low")


@dataclass(frozen=True)
class Rate:
    """A signalling rate in bits per second; `name` is the generation, where that was promised."""

    bps: float
    name: str = ""


class RateTerm(Term[Rate]):
    """A rate, or a generation by any of its names."""

    examples = ("5 Gb/s", "10 Gb/s", "20 Gb/s", "480 Mb/s", *_GENERATIONS)

    def read(self, words: Words) -> Rate:
        words.look_for(*self.examples)
        if not _NAMES_A_LINK.match(words.peek()):
            return Rate(words.take_quantity(Dimension.BIT_RATE).value)
        return self._generation(words)

    def _generation(self, words: Words) -> Rate:
        """The longest run of words that names a link. Raises: ClaimError, with the candidates of an unclear name."""
        start, asked = words.place, ""
        found: tuple[int, Rate] | None = None
        text: list[str] = []
        while len(text) < 5 and not words.at_end and words.peek() not in (",", *CONDITION_WORDS):
            text.append(words.take(""))
            try:
                link = find_link(" ".join(text))
            except AmbiguousName as error:
                asked = error.why
                found = None
            except QuantityError:
                continue
            else:
                found = words.place, Rate(link.rate_bps, link.name.removeprefix("USB 3.2 "))
        words.back(found[0] if found else start)
        if found is None:
            expected = f"one generation: {asked}" if asked else "a rate such as 5 Gb/s, or a generation"
            raise words.refuse(expected, guesses=not asked)
        return found[1]

    def show(self, value: Rate) -> str:
        return value.name or amount(value.bps, Dimension.BIT_RATE)


@dataclass(frozen=True)
class Data(Promise):
    """A data rate in bits per second, as signalled on the link; `way` is up, down, or both where it is empty."""

    rate_bps: float
    generation: str = ""
    way: str = said(OneOf(UP, DOWN), default="")

    words = "data"
    example = "data 5 Gb/s"
    procedure = ProcedureId.STORAGE
    capability = Capability.DATA
    cannot_be_without = "data"
    beside_display = True

    @classmethod
    def parse(cls, words: Words) -> Self:
        hedge = take_hedge(words)
        rate = RateTerm().read(words)
        values: dict[str, Any] = {"way": _WAY.read(words)} if _WAY.begins(words) else {}
        return cls(rate.bps, rate.name, hedge=hedge, **values)

    def _said(self) -> Iterable[str]:
        shown = (self.hedge.value, RateTerm().show(Rate(self.rate_bps, self.generation)), self.way)
        return (each for each in shown if each)

    @property
    def brief(self) -> str:
        return " ".join(filter(None, (bit_rate(self.rate_bps, digits=3), self.way)))[:11]

    @property
    def payload_floor_bps(self) -> float:
        return PRACTICAL_SHARE * self.ceiling_bps

    @property
    def ceiling_bps(self) -> float:
        """Of the generation that was promised: two of them share 10 Gb/s, and code it differently."""
        link = _link_of(self.generation)
        return link.ceiling_bps if link else payload_ceiling_bps(self.rate_bps)

    @property
    def format(self) -> Format:
        return MEGABYTES_A_SECOND

    @property
    def upstream_bps(self) -> float:
        return self.payload_floor_bps

    def scale(self) -> Scale:
        words = f"{bit_rate(self.rate_bps)} link"
        return Scale(self._quantities, self.payload_floor_bps, self.ceiling_bps, words, stated=False)

    @property
    def _quantities(self) -> tuple[Quantity, ...]:
        return {UP: (Quantity.READ,), DOWN: (Quantity.WRITE,)}.get(self.way, (Quantity.WRITE, Quantity.READ))

    def margin(self, gear: Gear) -> float | None:
        if not isinstance(gear, Drive):
            return None
        rates = {Quantity.READ: gear.read_bps, Quantity.WRITE: gear.write_bps}
        return min(rates[each] for each in self._quantities) / self.payload_floor_bps

    def floors(self) -> Mapping[Quantity, float]:
        payload = dict.fromkeys(self._quantities, self.owed(self.payload_floor_bps))
        return {Quantity.LINK: self.owed(self.rate_bps), **payload}

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        promised = self.owed(self.rate_bps)
        link = link_at_least("link", evidence, promised, bit_rate, usb_link_proven_bps)
        floor_bps = self.owed(self.payload_floor_bps)
        return link, *payload_parts(evidence, floor_bps, self._quantities, each_is_promised=False)

    def at_shown(self, shown: Mapping[Quantity | str, float]) -> str:
        """A slower link, where that is all; else what is written and read."""
        link, payload = shown.get(Quantity.LINK), {each: shown[each] for each in self._quantities if each in shown}
        if link is not None and link < self.rate_bps:
            slower = replace(self, rate_bps=link, generation="", hedge=Hedge.PLAIN)
            if all(rate >= slower.payload_floor_bps for rate in payload.values()):
                return slower.sentence(several=False)
        verbs = {Quantity.WRITE: "writes", Quantity.READ: "reads"}
        kept = {verbs[each]: rounded_to_keep(rate, Sense.AT_LEAST, BITS_A_BYTE) for each, rate in payload.items()}
        return ", ".join(f"{verb} {amount(rate, Dimension.BYTE_RATE)}" for verb, rate in kept.items() if rate)

    @property
    def denied(self) -> str:
        return "no data"

    @property
    def lacking(self) -> str:
        return f"a drive of {self.format.show(self.payload_floor_bps)} or more both ways, on a socket it fits"


_WAY = OneOf(UP, DOWN)


def _link_of(generation: str) -> UsbLink | None:
    return next((link for link in LINKS if link.name.removeprefix("USB 3.2 ") == generation), None)
