"""A device that is being made: its sockets, what its box promises, and what it can do at best."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from functools import wraps
from typing import TypeVar

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Promise
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.practice.on_the_bench import OnTheBench
from auditra.core.simulate.trait import Trait

P = TypeVar("P", bound=Promise)
_MAKERS = (
    "Aldermoss", "Birchwake", "Copperlea", "Dunmarrow", "Elverton", "Fallowgate", "Gorsebrook", "Hazelwick",
    "Inglemere", "Jessamy", "Kestrelby", "Larkhollow", "Marlowend", "Nettlebank", "Oakhanger", "Penhallow",
    "Quarrydene", "Rushmere", "Sedgefold", "Thornaby",
)  # fmt: skip
"""Invented, as all of it is."""


@dataclass
class Draft:
    """Sockets and promises come first, then what is hidden."""

    kind: str
    dice: random.Random
    ports: list[Port] = field(default_factory=list)
    claims: list[Claim] = field(default_factory=list)
    data_bps: dict[str, float] = field(default_factory=dict)
    card_bps: dict[str, float] = field(default_factory=dict)
    network_bps: dict[str, float] = field(default_factory=dict)
    display_modes: dict[str, str] = field(default_factory=dict)
    gives_w: dict[str, float] = field(default_factory=dict)
    gives_v: dict[str, float] = field(default_factory=dict)
    takes_w: dict[str, float] = field(default_factory=dict)
    payload_share: dict[str, float] = field(default_factory=dict)
    lengths_m: dict[str, float] = field(default_factory=dict)
    figures: dict[tuple[str, str], float] = field(default_factory=dict)
    upstream_bps: float = 10e9
    is_hub: bool = True
    host_w: float = 1e3
    own_use_w: float = 0.0
    rise_k: float = 12.0
    traits: list[Trait] = field(default_factory=list)
    hidden: list[Hidden] = field(default_factory=list)
    lacks: set[str] = field(default_factory=set)

    # making

    def socket(self, port_id: str, connector: str, *, role: Role = Role.DOWNSTREAM, printed: str = "") -> Port:
        port = Port(port_id, connector, role, printed) if printed else Port(port_id, connector, role)
        self.ports.append(port)
        return port

    def promise(self, sentence: str) -> None:
        self.claims.append(parse_claim(sentence, claim_id=f"claim{len(self.claims) + 1}"))

    # asking

    def port(self, port_id: str) -> Port:
        return next(port for port in self.ports if port.id == port_id)

    def of_kind(self, kind: type[Promise], *, free_only: bool = True) -> list[Claim]:
        """The claims of a kind; those that nothing hidden bears on yet, unless all are wanted."""
        touched = {sentence for hidden in self.hidden for sentence in hidden.touched}
        found = [claim for claim in self.claims if isinstance(claim.promise, kind)]
        return [claim for claim in found if not free_only or str(claim) not in touched]

    @property
    def upstream(self) -> Port:
        return next((port for port in self.ports if port.role is Role.UPSTREAM), self.ports[0])

    @property
    def inlet(self) -> Port | None:
        return next((port for port in self.ports if port.role is Role.INLET), None)

    def twins_of(self, claim: Claim) -> list[Claim]:
        """Other sockets with the same promise."""
        return [each for each in self.of_kind(Data) if each.promise == claim.promise and each is not claim]

    # hiding

    def hide(self, hidden: Hidden, *traits: Trait) -> None:
        self.hidden.append(hidden)
        self.traits += traits

    # made

    def device(self, seed: int) -> Device:
        maker = _MAKERS[seed % len(_MAKERS)]
        return Device(maker, f"P{seed}", self.kind, (Face("front", tuple(self.ports)),))

    def model(self) -> DeviceModel:
        return DeviceModel(
            is_hub=self.is_hub, upstream_bps=self.upstream_bps, data_bps=self.data_bps, card_bps=self.card_bps,
            network_bps=self.network_bps, display_modes=self.display_modes, gives_w=self.gives_w, gives_v=self.gives_v,
            takes_w=self.takes_w, host_w=self.host_w, own_use_w=self.own_use_w, payload_share=self.payload_share,
            lengths_m=self.lengths_m, figures=self.figures, lacks=frozenset(self.lacks), rise_busy_k=self.rise_k,
            traits=tuple(self.traits),
        )  # fmt: skip


@dataclass(frozen=True)
class Planting:
    """What a trait is planted with: the device so far, the rig as it really is, and dice."""

    draft: Draft
    bench: OnTheBench
    dice: random.Random

    def one_of(self, claims: Iterable[Claim]) -> Claim | None:
        found = list(claims)
        return self.dice.choice(found) if found else None

    def left(self, least: float = 0.35, most: float = 0.7) -> float:
        """The share that a trait leaves: clearly less than what any sound socket lets through."""
        return self.dice.uniform(least, most)


def about(
    kind: type[P], wanted: Callable[[P], bool] = lambda promise: True
) -> Callable[[Callable[[Planting, Claim, P], None]], Callable[[Planting], None]]:
    """For what is planted into any one promise of a kind that nothing hidden bears on yet: without one, nothing is."""

    def of_kind(plant: Callable[[Planting, Claim, P], None]) -> Callable[[Planting], None]:
        @wraps(plant)
        def planted(planting: Planting) -> None:
            free = planting.draft.of_kind(kind)
            claim = planting.one_of(each for each in free if isinstance(each.promise, kind) and wanted(each.promise))
            if claim is not None and isinstance(claim.promise, kind):
                plant(planting, claim, claim.promise)

        return planted

    return of_kind
