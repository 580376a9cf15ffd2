"""Assembles the simulated bench for an audit."""

from __future__ import annotations

import os
import random
import tempfile
import zlib
from collections.abc import Callable, Iterator, Sequence
from contextlib import ExitStack, contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.line import Line, open_line
from auditra.bench.instruments.load import LiveLoad
from auditra.bench.simulated.clock import VirtualClock
from auditra.bench.simulated.doors import (
    SimulatedCompanions,
    SimulatedDisplays,
    SimulatedKernel,
    SimulatedPerson,
    SimulatedTargets,
    SimulatedThermometers,
)
from auditra.bench.simulated.network import SimulatedPeers
from auditra.bench.simulated.practice import practice_of
from auditra.bench.simulated.scpi_server import LOOPBACK, InProcessSession, serve
from auditra.core.errors import BenchError
from auditra.core.journal.audit import Audit
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.rig import Instrument, Load, Meter
from auditra.core.simulate.demo_devices import MODELS
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.power import Flow
from auditra.core.simulate.rig_fault import Hands, RigFault
from auditra.core.simulate.scpi import SimulatedInstrument
from auditra.core.simulate.world import World
from auditra.workflows.trials.doors import Bench, Person

_BETWEEN_SESSIONS = timedelta(minutes=1)
_MEMORY = "/dev/shm"
"""Files in memory, as a kernel's attributes are: a tree is written at each move. Source: Linux, tmpfs(5)."""
_FIRST_DAY = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)


@contextmanager
def open_simulated_bench(
    audit: Audit,
    person: Person | None = None,
    *,
    seed: int = 1,
    pace: float | None = None,
    model: DeviceModel | None = None,
    faults: Sequence[RigFault] = (),
    hands: Hands | None = None,
    over_sockets: bool = True,
) -> Iterator[Bench]:
    """The simulated bench with the audit's device on it, as it was left.

    The same audit and seed give the same readings. `faults` are of the rig, `hands` may slip. Instruments answer on
    loopback sockets, or without them in this process, where thousands of trials must be quick.
    Raises: BenchError for a device that has no model.
    """
    practice = practice_of(audit.device) if model is None else None
    if practice is not None:
        model, faults = practice.model, practice.faults
        hands = hands or Hands(random.Random(practice.seed), practice.wrong_socket_one_in, practice.slip_one_in)
    model = model or MODELS.get(audit.device.name)
    if model is None:
        known = ", ".join(MODELS)
        raise BenchError(SIMULATED_BENCH, why=f"it has no model of the {audit.device.name}", do=f"It knows: {known}")
    number = zlib.crc32(f"{seed}/{audit.name}/{audit.entries}".encode())
    world = World(audit.device, audit.rig, model, number, faults)
    if audit.last_setup is not None:
        world.connections.stand(audit.last_setup.plugged, audit.last_setup.turned)
        world.displays.switched_off |= set(audit.last_setup.switched_off)
    start = audit.last_at + _BETWEEN_SESSIONS if audit.last_at else _FIRST_DAY
    clock = VirtualClock(world, start, pace)
    with ExitStack() as stack:
        in_memory = _MEMORY if os.access(_MEMORY, os.W_OK) else None
        root = Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="auditra-bench-", dir=in_memory)))
        yield Bench(
            name=SIMULATED_BENCH,
            clock=clock,
            person=SimulatedPerson(world, clock, person, hands or Hands(random.Random(number))),
            kernel=SimulatedKernel(world, root),
            displays=SimulatedDisplays(world),
            targets=SimulatedTargets(world, clock),
            peers=SimulatedPeers(world, clock),
            companions=SimulatedCompanions(world),
            meters={meter.id: _open_meter(stack, world, meter, over_sockets) for meter in audit.rig.meters},
            loads={load.id: _open_load(stack, world, load, over_sockets) for load in audit.rig.loads},
            thermometers=SimulatedThermometers(world) if audit.rig.thermometers else None,
        )


def _open_meter(stack: ExitStack, world: World, meter: Meter, over_sockets: bool) -> LiveInstrument:
    def measure() -> tuple[float, float]:
        return _pair(world.power.as_told_by(meter, world.power.meter_flow(meter.id)))

    simulated = SimulatedInstrument(_identity(meter), measure)
    return stack.enter_context(LiveInstrument(meter.name, *_session(stack, meter.name, simulated, over_sockets)))


def _open_load(stack: ExitStack, world: World, load: Load, over_sockets: bool) -> LiveLoad:
    def measure() -> tuple[float, float]:
        return _pair(world.power.as_told_by(load, world.power.load_flow(load.id)))

    def set_current(amperes: float) -> None:
        world.power.load_a[load.id] = amperes

    def switch(on: bool) -> None:
        world.power.loads_on.add(load.id) if on else world.power.loads_on.discard(load.id)

    simulated = SimulatedInstrument(_identity(load), measure, set_current, switch)
    return stack.enter_context(LiveLoad(load.name, *_session(stack, load.name, simulated, over_sockets)))


def _session(
    stack: ExitStack, name: str, simulated: SimulatedInstrument, over_sockets: bool
) -> tuple[str, Callable[[], Line]]:
    """The address of a simulated instrument, and what opens a line to it."""
    if not over_sockets:
        return "in this process", lambda: InProcessSession(simulated)
    port = stack.enter_context(serve(simulated))
    return f"{LOOPBACK}:{port}", lambda: open_line(name, f"{LOOPBACK}:{port}")


def _identity(instrument: Instrument) -> str:
    """Maker, model, serial and firmware. IEEE 488.2-1992, 10.14."""
    return f"Lantern Works,{instrument.id.upper()},0,1.0"


def _pair(flow: Flow) -> tuple[float, float]:
    return flow.volts, flow.amperes
