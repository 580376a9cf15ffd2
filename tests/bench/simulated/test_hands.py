"""The hands of the simulated bench: they slip as a person does, and see a socket that is taken."""

from __future__ import annotations

from datetime import UTC, datetime
from random import Random

from auditra.bench.simulated.clock import VirtualClock
from auditra.bench.simulated.doors import SimulatedPerson
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged
from auditra.core.simulate.rig_fault import Hands
from auditra.core.simulate.world import World
from auditra.core.wiring.moves import Action, PlugMove
from tests.support.audits import HUB, galley
from tests.support.benches import HONEST


class FirstSlips(Hands):
    """The first plug goes into the socket beside."""

    slipped = False

    def picks_wrong_socket(self) -> bool:
        slips, self.slipped = not self.slipped, True
        return slips


def made(*gear: tuple[str, str]) -> World:
    world = World(HUB, galley(), HONEST, seed=1)
    person = SimulatedPerson(world, VirtualClock(world, datetime(2026, 3, 2, tzinfo=UTC)), None, FirstSlips(Random(1)))
    person.make([PlugMove(Action.PLUG, Plugged(DEVICE, socket, each), DEVICE) for socket, each in gear])
    return world


def where(world: World) -> dict[str, str]:
    return {each.plugged.socket: each.plugged.gear for each in world.connections.standing}


def test_a_plug_goes_into_the_socket_beside() -> None:
    assert where(made(("A1", "fast-ssd"))) == {"A2": "fast-ssd"}


def test_whoever_finds_a_socket_taken_puts_the_slip_right() -> None:
    assert where(made(("A1", "fast-ssd"), ("A2", "old-ssd"))) == {"A1": "fast-ssd", "A2": "old-ssd"}
