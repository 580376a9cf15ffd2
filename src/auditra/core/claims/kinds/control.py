"""Switching between hosts, buttons, and what the device guards against."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar

from auditra.core.claims.observed import Figure, Stated, Working
from auditra.core.claims.promise import Look, Sense
from auditra.core.claims.terms import Amount, OneOf, Whole, said
from auditra.core.decide.counts import needs_its_control
from auditra.core.decide.evidence import Evidence
from auditra.core.model.reading import Quantity
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import amount
from auditra.core.quantities.units import Dimension

_WHAT = OneOf("wakes", "boots", "turns off", "locks", "sleeps")
_LIDS = OneOf("lid open", "lid closed")
_STATES = OneOf("asleep", "off", "awake")
_DANGERS = OneOf(
    "over-current", "over-voltage", "over-heating", "short circuit", "reverse current", "surge", "static",
    spellings={"overcurrent": "over-current", "overvoltage": "over-voltage", "overheating": "over-heating"},
)  # fmt: skip


@dataclass(frozen=True)
class Switches(Working):
    """``body switches 2 hosts``: one press takes everything from one host to the other."""

    hosts: int = said(Whole("hosts", least=2, most=16))

    words, of_many = "switches", "switch"
    example = "switches 2 hosts"
    on_body = True
    asks = "Switch from host to host: does everything work on the other?"

    @property
    def brief(self) -> str:
        return f"{self.hosts} hosts"


@dataclass(frozen=True)
class SwitchesIn(Figure):
    """``body switches in 2 s``: from the press to the picture."""

    seconds: float = said(Amount(Dimension.TIME, example="2 s"), hedged=True)

    words, of_many = "switches in", "switch in"
    example = "switches in 2 s"
    on_body = True
    sense = Sense.AT_MOST
    asks = "From the press to the picture, how long?"
    reads = Quantity.TIME_TO_SWITCH
    dimensions = (Dimension.TIME,)

    @property
    def limit(self) -> float:
        return self.seconds

    @property
    def brief(self) -> str:
        return f"in {amount(self.seconds, Dimension.TIME)}"[:11]


@dataclass(frozen=True)
class Button(Working):
    """``B1 button wakes lid closed asleep``: what a press does, and in which state of lid and host."""

    what: str = said(_WHAT)
    lid: str = said(_LIDS, default="")
    state: str = said(_STATES, default="")

    words, of_many = "button", "button"
    example = "button wakes lid closed asleep"

    def look(self, spot: str) -> Look:
        return replace(super().look(spot), control="And without the press, does it happen by itself?")

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return (needs_its_control(self.words, evidence),)

    def question(self, spot: str) -> str:
        when = " and ".join(part for part in (self.lid, f"the host {self.state}" if self.state else "") if part)
        return f"Press {spot}{f' with {when}' if when else ''}: does it do what is claimed ({self.what})?"

    @property
    def brief(self) -> str:
        return self.what


@dataclass(frozen=True)
class WakesWithHost(Working):
    """``body wakes with host``: what hangs on it works again when the host wakes."""

    words, of_many = "wakes with host", "wake with host"
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {
        "": (r"wakes?(?: up)?(?: together)? with (?:the|your|its) (?:hosts?|computer|laptop|notebook|PC)",),
    }
    example = "wakes with host"
    on_body = True
    asks = "Let the host sleep and wake: does everything on {spot} work again by itself?"

    @property
    def brief(self) -> str:
        return "wakes"


@dataclass(frozen=True)
class Guards(Stated):
    """``A1 guards against over-current``: shown safely, and the gear is whole afterwards."""

    danger: str = said(_DANGERS)

    words, of_many = "guards against", "guard against"
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {
        "over-current": ("over(?:load)?[- ]?current", "overload(?:s|ing)?", "OCP"),
        "over-voltage": ("over[- ]?voltage", "OVP"),
        "over-heating": ("over[- ]?heat(?:ing)?", "over[- ]?temperature", "too (?:much heat|hot|warm)", "OTP"),
        "short circuit": ("short[- ]?circuits?", "SCP"),
        "surge": ("surges?", "lightning"),
        "static": ("static(?: charge| discharge)?", "ESD", "electrostatic"),
        "reverse current": ("reverse current", r"back-?feed\w*"),
    }
    sold_near = (
        r"protect\w*", "guard(?:s|ed)?", r"(?:cuts?|stops?|breaks?) (?:the |its |all )?(?:power|current"
        r"|outputs?) (?:on|at|when|in)",
        "(?:switches|shuts|turns)(?: itself)? (?:off|down) (?:on|at|when)", "against",
        "before a", r"\w+[- ]proof", "safety",
    )  # fmt: skip
    example = "guards against over-current"
    asks = "Was {it.danger} at {spot} tried safely, and did it cut off, with all whole afterwards?"

    @property
    def brief(self) -> str:
        return "guard"
