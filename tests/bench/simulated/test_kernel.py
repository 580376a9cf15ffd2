"""The simulated host's tree on disk follows the desk: what comes is there, what goes leaves nothing behind."""

from __future__ import annotations

from pathlib import Path

from auditra.bench.kernel.tree import KernelTree
from auditra.bench.simulated.doors import SimulatedKernel
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged
from auditra.core.simulate.demo_devices import MODELS
from auditra.core.simulate.world import World
from tests.support.audits import HUB, galley

HUB_ON_LAPTOP = Plugged("laptop", "C1", DEVICE)
SSD_IN_A1 = Plugged(DEVICE, "A1", "fast-ssd", "AC-1")
SCREEN_IN_H1 = Plugged(DEVICE, "H1", "projector", "HD-1")


def everything_below(root: Path) -> set[str]:
    return {str(each.relative_to(root)) for each in root.rglob("*")}


def test_the_tree_is_as_it_was_once_all_that_came_has_gone(tmp_path: Path) -> None:
    world = World(HUB, galley(), MODELS["Osierpell OP-6"], seed=7)
    kernel = SimulatedKernel(world, tmp_path)
    bare, before = kernel.links(), everything_below(tmp_path)
    moves = (HUB_ON_LAPTOP, SSD_IN_A1, SCREEN_IN_H1)
    for plugged in moves:
        world.connections.plug(plugged)
        world.advance(5)
        assert kernel.links() == KernelTree(tmp_path).links(), "what is kept is what stands there"
    assert len(kernel.links().usb) > len(bare.usb)
    running = {each.name: each.running for each in kernel.snapshot().displays}
    assert any(running.values()), "the picture's mode comes with the snapshot"
    for plugged in reversed(moves):
        world.connections.pull(plugged)
        world.advance(5)
    assert kernel.links() == bare
    assert everything_below(tmp_path) == before


def test_a_drive_that_comes_up_later_is_seen_by_the_next_look(tmp_path: Path) -> None:
    world = World(HUB, galley(), MODELS["Osierpell OP-6"], seed=7)
    kernel = SimulatedKernel(world, tmp_path)
    world.connections.plug(HUB_ON_LAPTOP)
    world.advance(5)
    world.connections.plug(SSD_IN_A1)
    early = kernel.links()
    assert kernel.links() is early, "nothing changed"
    world.advance(5)
    assert len(kernel.links().usb) == len(early.usb) + 1
