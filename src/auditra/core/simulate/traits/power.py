"""What becomes of power: watts that are shared, ports that cut off, copper that is thin, voltage that stays."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity
from auditra.core.simulate.trait import Asked, Scene, Trait


@dataclass(frozen=True)
class SharesPower(Trait):
    """The host is left with less while all of some sockets give power."""

    sockets: frozenset[str]
    host_left_w: float

    def host_w(self, scene: Scene, giving: Mapping[str, float], watts: float) -> float:
        return min(watts, self.host_left_w) if self.sockets <= giving.keys() else watts


@dataclass(frozen=True)
class LeavesVoltage(Trait):
    """A socket still has a voltage long after what drew power was pulled. Source: USB Type-C R2.3, 4.4.2."""

    socket: str
    volts: float

    def figure(self, scene: Scene, spot: str, quantity: str) -> float | None:
        return self.volts if (spot, quantity) == (self.socket, Quantity.VOLTAGE_LEFT) else None


@dataclass(frozen=True)
class LatchesOff(Trait):
    """After an overload a socket stays dead until the device is unplugged: for one who tries it, it guards nothing."""

    socket: str

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        return asked != Asked(self.socket, "guards against")


@dataclass(frozen=True)
class ThinCopper(Trait):
    """A cable has so many ohms, there and back; a person reads its drop while `at_a` flow."""

    ohm: float
    at_a: float

    def figure(self, scene: Scene, spot: str, quantity: str) -> float | None:
        if spot != BODY:
            return None
        return {Quantity.DROP: self.ohm * self.at_a, Quantity.CURRENT: self.at_a}.get(Quantity(quantity))
