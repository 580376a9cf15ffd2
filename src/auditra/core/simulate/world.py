"""A simulated bench: what is plugged where, what flows, how warm it is. Time passes only when it is reported to."""

from __future__ import annotations

import random

from auditra.core.model.device import Device
from auditra.core.model.rig import Rig
from auditra.core.simulate.connections import Connections
from auditra.core.simulate.displays import Displays
from auditra.core.simulate.heat import Heat
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.power import Power
from auditra.core.simulate.traffic import Traffic
from auditra.core.simulate.usb import Usb


class World:
    """The truth behind the doors of the simulated bench: a domain each, over what is connected."""

    def __init__(self, device: Device, rig: Rig, model: DeviceModel, seed: int) -> None:
        self.model = model
        self.connections = Connections(device, rig, model, random.Random(seed))
        self.heat = Heat(self.connections)
        self.displays = Displays(self.connections)
        self.usb = Usb(self.connections)
        self.traffic = Traffic(self.connections, self.usb, self.displays, self.heat)
        self.power = Power(self.connections, self.displays)

    @property
    def now_s(self) -> float:
        return self.connections.now_s

    def advance(self, seconds: float, *, busy: bool = False) -> None:
        """Let time pass; a busy device warms up more."""
        self.connections.now_s += seconds
        self.heat.pass_time(seconds, busy=busy)

    # What a person sees

    def figure(self, spot: str, quantity: str) -> float | None:
        """What a person reads of a spot; None for what cannot be seen."""
        return self.model.figures.get((spot, quantity))

    def is_so(self, spot: str) -> bool:
        """Whether a spot is as it is said to be, for one who looks."""
        return spot not in self.model.lacks

    def works_in(self, spot: str, tries: int) -> int:
        """In how many tries something at a spot works."""
        missed = self.model.misses.get(spot, 0.0)
        return sum(self.connections.random.random() >= missed for _ in range(tries))

    def length_m(self, port: str) -> float:
        return self.model.lengths_m.get(port, 0.0)
