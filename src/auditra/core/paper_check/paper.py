"""A claim sheet as the paper check looks at it: claims by kind and port, and device details."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Generic, TypeVar

from auditra.core.claims.claim import Claim, Joined
from auditra.core.claims.promise import Promise
from auditra.core.model.device import Device, OwnSupply, Port, Role

P = TypeVar("P", bound=Promise)


@dataclass(frozen=True)
class Said(Generic[P]):
    """A claim with its promise, known by kind."""

    claim: Claim
    promise: P

    @property
    def ports(self) -> tuple[str, ...]:
        return self.claim.ports


@dataclass(frozen=True)
class Paper:
    """One device and what is claimed of it."""

    device: Device
    claims: tuple[Claim, ...]

    def said(self, kind: type[P], port: str | None = None) -> tuple[Said[P], ...]:
        """Claims of a kind, of one port where one is named."""
        return tuple(
            Said(claim, claim.promise)
            for claim in self.claims
            if isinstance(claim.promise, kind) and port in (None, *claim.ports)
        )

    def plainly(self, kind: type[P]) -> tuple[Said[P], ...]:
        """The same without those that are made under a condition."""
        return tuple(each for each in self.said(kind) if not each.claim.conditions)

    @property
    def one_at_a_time(self) -> tuple[frozenset[str], ...]:
        """Ports of which just one works at a time, group by group."""
        return tuple(
            frozenset(claim.ports)
            for claim in self.claims
            if claim.joined is Joined.ONE_AT_A_TIME and not claim.conditions
        )

    def port(self, port_id: str) -> Port | None:
        return self.device.port(port_id)

    @property
    def upstream(self) -> Port | None:
        return self.device.first(Role.UPSTREAM)

    @property
    def inlets(self) -> Iterator[Port]:
        return (port for port in self.device.ports() if port.role is Role.INLET)

    @property
    def supply_w(self) -> float | None:
        """What the seller's own supply gives by its label, in watts; None where none is noted."""
        supply = self.device.supply
        return supply.volts * supply.amperes if isinstance(supply, OwnSupply) else None

    def is_of(self, *kinds: str) -> bool:
        """Whether the device is such a thing, by its own words."""
        return any(kind in self.device.kind.lower() for kind in kinds)


def watts(each: Iterable[float]) -> str:
    """``65 + 27 + 27 = 119 W``."""
    values = list(each)
    added = " + ".join(f"{value:g}" for value in values)
    return f"{added} = {sum(values):g} W" if len(values) > 1 else f"{added} W"
