"""A claim: one checkable promise about a port, with the words it was made in."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.audit.device import DEVICE
from auditra.core.audit.noted import NOT_NOTED, Noted
from auditra.core.claims.promise import Promise


@dataclass(frozen=True)
class Source:
    """Where a promise was seen: its kind (box, product page, manual, label), when, and the seller's own words."""

    kind: Noted[str] = NOT_NOTED
    seen: Noted[str] = NOT_NOTED
    quoted: Noted[str] = NOT_NOTED


@dataclass(frozen=True)
class Claim:
    """One promise, about `port`."""

    id: str
    port: str
    promise: Promise
    source: Source = Source()
    device: str = DEVICE

    def __str__(self) -> str:
        return f"{self.port} {self.promise}"
