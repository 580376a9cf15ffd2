"""A simulated bench: what is plugged where, what flows, how warm it is. Time passes only when it is reported to."""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Callable, Container, Sequence

from auditra.core.model.device import Device
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Display, Rig
from auditra.core.simulate.connections import Connections
from auditra.core.simulate.displays import Displays
from auditra.core.simulate.heat import Heat
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.power import Power
from auditra.core.simulate.rig_fault import RigFault
from auditra.core.simulate.traffic import Traffic
from auditra.core.simulate.trait import Asked
from auditra.core.simulate.usb import Usb

_LEFT_V = 0.02
"""What a meter picks up where there is nothing."""


class World:
    """The truth behind the doors of the simulated bench: a domain each, over what is connected."""

    def __init__(
        self, device: Device, rig: Rig, model: DeviceModel, seed: int, faults: Sequence[RigFault] = ()
    ) -> None:
        self.model, self.faults = model, faults
        for fault in faults:
            rig = fault.truth_of(rig)
        self.connections: Connections = Connections(self, device, rig, model, random.Random(seed))
        self.heat: Heat = Heat(self.connections)
        self.displays: Displays = Displays(self)
        self.usb = Usb(self)
        self.traffic: Traffic = Traffic(self, self.usb)
        self.power = Power(self)
        self.driver_runs = True
        """What a host has installed for the device is at work there."""
        self._kept_up_since_s: float | None = None
        self._tried: Counter[Asked] = Counter()
        self._later: list[tuple[float, Callable[[], None]]] = []

    @property
    def now_s(self) -> float:
        return self.connections.now_s

    def keep_up(self, is_kept_up: bool) -> None:
        """A person keeps something at work from now on, or no longer."""
        self._kept_up_since_s = self.now_s if is_kept_up else None

    @property
    def kept_up_s(self) -> float:
        return self.now_s - self._kept_up_since_s if self._kept_up_since_s is not None else 0.0

    @property
    def busy(self) -> Container[str]:
        return self.traffic.busy

    def advance(self, seconds: float, *, busy: bool = False) -> None:
        """Let time pass; a busy device warms up more."""
        self.connections.now_s += seconds
        self.heat.pass_time(seconds, busy=busy or self._kept_up_since_s is not None)
        if self._later:
            self._do(lambda at_s: at_s <= self.now_s)

    def later(self, in_s: float, action: Callable[[], None]) -> None:
        """Somebody does something while a trial runs."""
        self._later.append((self.now_s + in_s, action))

    def finish_what_was_begun(self) -> None:
        """Before hands do anything else, they end what they were at."""
        self._do(lambda at_s: True)

    def _do(self, is_due: Callable[[float], bool]) -> None:
        due = [each for each in self._later if is_due(each[0])]
        self._later = [each for each in self._later if each not in due]
        for _, action in due:
            action()

    # What a person sees

    def figure(self, spot: str, quantity: str) -> float | None:
        """What a person reads of a spot; None for what cannot be seen."""
        said = (trait.figure(self, spot, quantity) for trait in self.model.traits)
        found = next((value for value in said if value is not None), None)
        if found is None and quantity == Quantity.LINK_WITHOUT:
            return max((lead.data_bps for lead in self.connections.rig.leads_between("usb-c", "usb-c")
                        if isinstance(lead.data_bps, float | int)), default=None)  # fmt: skip
        if found is None and quantity == Quantity.VOLTAGE_LEFT:
            return _LEFT_V
        return found if found is not None else self.model.figures.get((spot, quantity))

    def is_so(self, asked: Asked) -> bool:
        """Whether a spot is as it is said to be, for one who looks."""
        if asked.spot in self.model.lacks or self._display_lacks(asked) or asked.about == Quantity.RESPONDS:
            return False  # what nobody promises does not work either
        return all(trait.is_so(self, asked) for trait in self.model.traits)

    def _display_lacks(self, asked: Asked) -> bool:
        """What the display at a spot cannot do, no device can make it do."""
        gear = self.connections.rig.find(self.connections.gear_at(asked.spot) or "")
        return asked.about == "vrr" and isinstance(gear, Display) and gear.vrr is False

    def works_in(self, asked: Asked, tries: int) -> int:
        """In how many tries something at a spot works."""
        chance = min((trait.works(self, asked) for trait in self.model.traits), default=1.0)
        return sum(self._works_once(asked, chance) for _ in range(tries))

    def _works_once(self, asked: Asked, chance: float) -> bool:
        self._tried[asked] += 1
        missed = any(trait.misses(asked, self._tried[asked]) for trait in self.model.traits)
        return self.connections.random.random() < chance and not missed

    def happens_anyway(self, asked: Asked) -> bool:
        """Without a press, or whatever is to make it happen."""
        return any(trait.happens_anyway(asked) for trait in self.model.traits)

    def length_m(self, port: str) -> float:
        return self.model.lengths_m.get(port, 0.0)
