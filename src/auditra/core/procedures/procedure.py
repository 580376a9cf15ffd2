"""What a procedure reports: how things are connected, what it is compared with, what may be typed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.model.device import Port
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Gear
from auditra.core.model.setup import SetUp
from auditra.core.quantities.units import Dimension
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand

OnDevice = Callable[[Stand, Port, Choice | None, float], SetUp | None]
"""The set-up that tries the gear through a port of the device, up to a target; None where the rig lacks a part."""
Direct = Callable[[Stand, Gear], SetUp | None]
"""The set-up that tries the same gear without the device; None where it fits nothing on the host."""
RATE = (Dimension.BIT_RATE, Dimension.BYTE_RATE)
POWER = (Dimension.POWER,)
DATA = "data"
"""Procedures that are compared as data read the same of the same gear."""


class Door(StrEnum):
    """What of a bench a procedure measures through; a bench without it has the values typed."""

    NONE = "none"
    TARGETS = "targets"
    PEERS = "peers"
    COMPANIONS = "companions"
    DISPLAYS = "displays"
    INSTRUMENTS = "instruments"


@dataclass(frozen=True)
class Wanted:
    """A value that is typed where nothing measures it: its quantity, the units that are allowed, and an example."""

    quantity: Quantity
    dimensions: tuple[Dimension, ...]
    example: str


@dataclass(frozen=True)
class Procedure:
    """One way to try a promise. `id` is what journals hold; `name` is in the keys of its trials, and names its loop."""

    id: str
    name: str
    title: str
    """What it does, as the run sheet says it."""
    on_device: OnDevice
    direct: Direct | None = None
    door: Door = Door.NONE
    loop: str = ""
    """The module of workflows/measure with its loop, where that is not its name; by hand where there is none."""
    typed: tuple[Wanted, ...] = ()
    compared_as: str = ""
    """A trial is compared with direct ones of its own procedure, and of others that are compared as the same."""
    baseline: str = ""
    """The procedure that measures the same gear direct, where that is not this one."""
    by_eye: bool = False
    """A person looks: no gear is measured with, and the promise itself is what is done."""
    all_at_once: bool = False
    """It measures with all gear in the set-up, each port in turn."""
    at_inlet: bool = False
    """Its gear goes into the device's inlet, whichever port is meant."""
    soaks: bool = False
    """Its own loop puts the device under full load first; for any other procedure the reviewer does that."""
    takes_s: float = 60.0
    """About how long it takes once everything is connected, for the estimate on the run sheet."""
    host_sees_it: bool = False
    """The host must see its gear connected, or it counts as missing."""

    def compares_with(self, direct: Procedure) -> bool:
        """Whether a direct trial by that procedure is a baseline for this one."""
        return self.id == direct.id or bool(self.compared_as and self.compared_as == direct.compared_as)


def connected(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    """The device on the host, and the gear in the port where there is any."""
    return stand.with_device(port, choice)
