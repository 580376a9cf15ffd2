"""The doors of the simulated bench that need no transport of their own."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

from auditra.bench.kernel.tree import KernelTree
from auditra.bench.simulated.clock import VirtualClock
from auditra.core.claims.promise import Look
from auditra.core.errors import TargetError
from auditra.core.host.snapshot import RunningMode, Snapshot
from auditra.core.links.display import Mode
from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import CASE, ROOM, Supply
from auditra.core.model.setup import Plugged
from auditra.core.model.storage_path import PathTrace
from auditra.core.plan.factors.supply import PULLED
from auditra.core.quantities.display import amount
from auditra.core.quantities.units import Dimension
from auditra.core.simulate.heat import AMBIENT_C
from auditra.core.simulate.kernel_tree import Link, Tree, kernel_tree
from auditra.core.simulate.rig_fault import Hands
from auditra.core.simulate.trait import Asked
from auditra.core.simulate.world import World
from auditra.core.wiring.moves import DRIVER_OFF, DRIVER_ON, Action, PlugMove
from auditra.workflows.trials.doors import Celsius, DataTarget, Links, Person

_HAND_MOVES_IN_S, _RESTS_S = 1.5, 10.0
_UNDER_WAY_S, _AWAY_S = 8.0, 30.0
FLUSH_S = 0.004
_RULE_DIVISION_M = 0.001


class SimulatedPerson:
    """Hands on the simulated bench. Where a real person looks on, their keys confirm every move first."""

    def __init__(self, world: World, clock: VirtualClock, keys: Person | None, hands: Hands) -> None:
        self._world, self._clock, self._keys, self._hands = world, clock, keys, hands
        self._meant: dict[Plugged, Plugged] = {}
        """What was to go where, and where it went."""
        self._slipped: set[tuple[str, str]] = set()

    def make(self, moves: Sequence[PlugMove], seen: Callable[[], bool] | None = None) -> None:
        """Nothing can be seen before the simulated hands have moved, and they wait for the keys."""
        if self._keys is not None:
            self._keys.make(moves)
        self._clock.begin_anew()
        self._world.keep_up(False)
        if moves:
            self._world.finish_what_was_begun()
        for move in moves:
            self._clock.sleep(_HAND_MOVES_IN_S)
            self._move(move)

    def _move(self, move: PlugMove) -> None:
        connections, displays = self._world.connections, self._world.displays
        match move.action:
            case Action.PLUG:
                connections.plug(self._goes_into(move.what), turned=move.turned is True)
            case Action.PULL:
                connections.pull(self._meant.pop(move.what, move.what))
            case Action.SWITCH_OFF:
                displays.switch(move.what.gear, on=False)
            case Action.SWITCH_ON:
                displays.switch(move.what.gear, on=True)
            case Action.ARRANGE:
                if move.aspect is Aspect.REPLUGGED:
                    self._clock.sleep(_RESTS_S)
                elif move.words == PULLED:
                    self._pull_supply_meanwhile()
                elif move.words in (DRIVER_OFF, DRIVER_ON):
                    self._world.driver_runs = move.words == DRIVER_ON

    def _pull_supply_meanwhile(self) -> None:
        """Once the trial is well under way; half a minute later it is put back."""
        world, connections = self._world, self._world.connections
        behind = (each.plugged for each in connections.standing if each.plugged.owner == DEVICE)
        fed = next((each for each in behind if isinstance(connections.rig.find(each.gear), Supply)), None)
        if fed is not None:
            world.later(_UNDER_WAY_S, lambda: connections.pull(fed))
            world.later(_UNDER_WAY_S + _AWAY_S, lambda: connections.plug(fed))

    def _goes_into(self, meant: Plugged) -> Plugged:
        """Where a plug really goes: now and then into the socket beside. Whoever finds a socket taken sees the slip."""
        self._put_right(meant)
        if meant.owner != DEVICE or not self._hands.picks_wrong_socket():
            return meant
        device, taken = self._world.connections.device, self._world.connections.gear_at
        port = device.port(meant.socket)
        like = [each.id for each in device.ports() if port is not None and each.connector == port.connector
                and each.role is port.role and each.id != port.id and taken(each.id) is None]  # fmt: skip
        if not like:
            return meant
        went = replace(meant, socket=self._hands.chance.choice(like))
        self._meant[meant] = went
        return went

    def _put_right(self, meant: Plugged) -> None:
        """No socket takes two plugs: what a slip left in this one goes where it belongs."""
        taken = (
            (was, went) for was, went in self._meant.items() if (went.owner, went.socket) == (meant.owner, meant.socket)
        )
        for was, went in [each for each in taken if each[0] != meant]:
            self._world.connections.pull(went)
            self._world.connections.plug(was)
            del self._meant[was]

    def read_rule(self, port: str, words: str) -> float:
        self._clock.sleep(_HAND_MOVES_IN_S)
        return round(self._world.length_m(port) / _RULE_DIVISION_M) * _RULE_DIVISION_M

    def wait(self, words: str, about_s: float) -> None:
        """What a person is asked to begin goes on until hands do something else."""
        self._clock.sleep(about_s)
        self._world.keep_up(True)

    def ask(self, question: str, hint: str) -> str:
        """Nothing is typed on the simulated bench: it has every door."""
        return ""

    def look(self, spot: str, look: Look, question: str) -> str:
        """What a person would see in the simulated world, as they would type it."""
        self._clock.sleep(_HAND_MOVES_IN_S)
        if look.dimensions:
            value = self._world.figure(spot, str(look.quantity))
            if value is not None and (spot, look.question) not in self._slipped and self._hands.slips():
                self._slipped.add((spot, look.question))
                value *= 10
            return "" if value is None else _as_read(value, look.dimensions[0])
        if look.tries:
            if question != look.question:  # without the device, or without what is to make it happen
                happens = not look.control or self._world.happens_anyway(Asked(spot, look.about))
                return f"{look.tries if happens else 0} of {look.tries}"
            return f"{self._world.works_in(Asked(spot, look.about), look.tries)} of {look.tries}"
        about = look.about if look.quantity is Quantity.SEEN_TO_BE else str(look.quantity)
        return "yes" if self._world.is_so(Asked(spot, about)) else "no"


def _as_read(value: float, dimension: Dimension) -> str:
    """A figure as a person reads it off: a stopwatch to a tenth of a second, anything else to five digits."""
    return amount(round(value, 1) if dimension is Dimension.TIME else float(f"{value:.5g}"), dimension)


class SimulatedKernel:
    """Keeps a tree of attributes on disk as the world changes, and reads it as any other tree is read."""

    def __init__(self, world: World, root: Path) -> None:
        self._world, self._root = world, root
        self._written: Tree = {}
        self._folders: set[str] = set()
        self._reader = KernelTree(root, self._running)
        self._links: Links | None = None
        self._snapshot: Snapshot | None = None
        self._ran: dict[int, RunningMode] = {}

    def links(self) -> Links:
        self._keep_up()
        self._links = self._links or self._reader.links()
        return self._links

    def snapshot(self) -> Snapshot:
        self._keep_up()
        self._snapshot = self._snapshot or self._reader.snapshot()
        return self._snapshot

    def _running(self) -> dict[int, RunningMode]:
        """What each connector sends, by its number, as a mode-setting interface reports it."""
        found = {}
        for number, node in enumerate(self._world.displays.nodes(), 1):
            if node.mode is not None:
                rate = round(node.mode.refresh_hz * 1000)
                found[number] = RunningMode(node.mode.width, node.mode.height, rate, 0)
        return found

    def _keep_up(self) -> None:
        """Write what differs; while nothing does, what was read last still holds. Most looks find nothing new."""
        tree, running = kernel_tree(self._world), self._running()
        if tree == self._written and running == self._ran:
            return
        self._links = self._snapshot = None
        folders = _folders_of(tree)
        for name in [name for name, value in self._written.items() if tree.get(name) != value]:
            (self._root / name).unlink()
        for name in sorted(self._folders - folders, reverse=True):
            (self._root / name).rmdir()
        for name in sorted(folders - self._folders):
            (self._root / name).mkdir(parents=True, exist_ok=True)
        for name, value in tree.items():
            if self._written.get(name) != value:
                _write(self._root / name, value)
        self._written, self._folders, self._ran = tree, folders, running


def _folders_of(tree: Tree) -> set[str]:
    """All folders that its files are in, below its root."""
    found: set[str] = set()
    for name in tree:
        while (name := name.rpartition("/")[0]) and name not in found:
            found.add(name)
    return found


def _write(path: Path, value: bytes | Link) -> None:
    if isinstance(value, Link):
        path.symlink_to(value.to)
    else:
        path.write_bytes(value)


class SimulatedDisplays:
    """The mode that a simulated display runs."""

    def __init__(self, world: World) -> None:
        self._world = world

    def mode_of(self, display: str) -> Mode | None:
        return self._world.displays.mode_of(display)

    def still_shows(self, display: str) -> bool:
        return self.mode_of(display) is not None


class StampDrive:
    """A drive that keeps what each block is stamped with; whole only the blocks that are written as bytes."""

    note = ""

    def __init__(self, world: World, clock: VirtualClock, gear: str) -> None:
        self._world, self._clock, self._gear = world, clock, gear
        self._stamps: dict[int, int] = {}
        self._whole: dict[int, bytes] = {}

    def write_stamp(self, offset: int, size: int, turn: int) -> None:
        self._spend(size, writing=True)
        self._world.traffic.note_written(self._gear, size)
        self._stamps[offset] = turn
        self._whole.pop(offset, None)

    def read_stamp(self, offset: int, size: int) -> tuple[int, int, int]:
        self._spend(size, writing=False)
        if offset not in self._stamps:
            raise self._never_written(offset)
        return offset, self._stamps[offset], self._world.traffic.wrong_bytes(self._gear, size)

    def write(self, offset: int, block: memoryview) -> None:
        self._spend(len(block), writing=True)
        self._world.traffic.note_written(self._gear, len(block))
        self._whole[offset] = bytes(block)
        self._stamps.pop(offset, None)

    def read_into(self, offset: int, block: memoryview) -> None:
        self._spend(len(block), writing=False)
        if offset not in self._whole:
            raise self._never_written(offset)
        block[:] = self._whole[offset]
        if self._world.traffic.wrong_bytes(self._gear, len(block)):
            block[len(block) // 2] ^= 0x01

    def flush(self) -> None:
        self._clock.spend(FLUSH_S, busy=True)

    def close(self) -> None:
        self._stamps.clear()
        self._whole.clear()

    def _never_written(self, offset: int) -> TargetError:
        return TargetError(self._gear, why=f"nothing was written at byte {offset}", do="Repeat the trial")

    def _spend(self, count: int, *, writing: bool) -> None:
        rate = self._world.traffic.payload_bps(self._gear, writing=writing)
        if rate <= 0:
            raise TargetError(self._gear, why="it is gone", do="Plug it again and repeat the trial")
        self._clock.spend(count * 8 / rate, busy=True)


class SimulatedTargets:
    """Opens simulated drives and cards."""

    def __init__(self, world: World, clock: VirtualClock) -> None:
        self._world, self._clock = world, clock

    def trace(self, gear: str, usb: str | None) -> PathTrace | None:
        """There are no folders here: what is plugged where is known by the moves alone."""
        return None

    def ask(self, gear: str) -> PathTrace | None:
        return None

    def open(self, gear: str, room_bytes: int) -> DataTarget:
        self._clock.sleep(2.0)
        if not self._world.traffic.has_room(gear):
            raise TargetError(gear, why="it is not there", do="Plug it again and repeat the trial")
        return StampDrive(self._world, self._clock, gear)


class SimulatedCompanions:
    """Gear at work beside a trial is only noted: the world shares out its links."""

    def __init__(self, world: World) -> None:
        self._world = world

    @contextmanager
    def busy(self, gear: str) -> Iterator[None]:
        self._world.traffic.busy.add(gear)
        try:
            yield
        finally:
            self._world.traffic.busy.discard(gear)


class SimulatedThermometers:
    """The case's and the room's temperature, by the first thermometer of the rig."""

    def __init__(self, world: World) -> None:
        self._world = world

    def spots(self) -> tuple[str, ...]:
        return (CASE, ROOM)

    def read(self, spot: str) -> Celsius:
        gear = self._world.connections.rig.thermometers[0]
        celsius = AMBIENT_C if spot == ROOM else round(self._world.heat.case_c, 1)
        return Celsius(celsius, gear.name, gear.error_k)
