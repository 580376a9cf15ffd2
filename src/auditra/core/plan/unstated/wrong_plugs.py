"""What no seller says and a buyer will do: a drive in a socket for power, a display in one for data, the lead of the
host in the wrong socket. Each is two plug moves with gear that other trials need anyway, so it is tried."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from auditra.core.model.capability import Capability
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Port, Role
from auditra.core.model.rig import Gear
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.planning import Planning
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.gear import first_reach

_TAKES_A_DRIVE = ("usb-c", "usb-a")
_TAKES_A_DISPLAY = ("usb-c",)
"""Sockets that look as if they took one, whatever is behind them; any other connector says itself what it is for."""
_POWER = {Capability.POWER_IN, Capability.POWER_OUT}


def wrong_plugs(planning: Planning, used: Iterable[str]) -> Iterator[PlannedTrial]:
    """Trials for no claim. A full sheet tries each mistake once for each kind of connector, a forensic one in every
    socket. `used` is the gear that the sheet needs anyway: with any other it would not be cheap."""
    used = frozenset(used)
    told = {port.id: _told(planning, port) for port in planning.device.ports()}
    for_power = [port for port in planning.device.ports() if told[port.id] and told[port.id] <= _POWER]
    for_data = [port for port in planning.device.ports()
                if Capability.PICTURE not in told[port.id] and _promises_data(planning, port)]  # fmt: skip
    drives = [drive for drive in planning.rig.drives if drive.id in used]
    displays = [display for display in planning.rig.displays if display.id in used]
    yield from _first_of_each(_plugged(planning, drives, for_power, _TAKES_A_DRIVE))
    yield from _first_of_each(_plugged(planning, displays, for_data, _TAKES_A_DISPLAY))
    yield from _first_of_each(_host_lead_elsewhere(planning))


def _told(planning: Planning, port: Port) -> set[Capability | None]:
    """What a port is said to do, or not to do."""
    return {claim.promise.capability for claim in planning.claims if port.id in claim.ports}


def _promises_data(planning: Planning, port: Port) -> bool:
    of_data = (claim.promise for claim in planning.claims if port.id in claim.ports)
    return any(promise.capability is Capability.DATA and not promise.forbids for promise in of_data)


def _plugged(
    planning: Planning, gear: Sequence[Gear], ports: Iterable[Port], connectors: tuple[str, ...]
) -> Iterator[tuple[Port, PlannedTrial]]:
    """Gear in each of these ports that takes its plug."""
    for port in ports:
        looks_so = port.connector in connectors and port.role is not Role.UPSTREAM
        choice = first_reach(planning.rig, gear, port.connector, planning.stand.taken) if looks_so else None
        if choice is not None:
            setup = planning.stand.with_device(port, choice)
            yield port, _trial(port, choice.gear.name, choice.gear.id, setup)


def _trial(port: Port, name: str, gear: str, setup: SetUp) -> PlannedTrial:
    return PlannedTrial(
        title=f"{name} in {port.id}",
        why="nothing is stated for it, and it is easily done",
        procedure=ProcedureId.WRONG_PLUG,
        claims=(),
        setup=setup,
        gear=gear,
        port=port.id,
        depth=Depth.FULL,
    )


def _host_lead_elsewhere(planning: Planning) -> Iterator[tuple[Port, PlannedTrial]]:
    """The lead of the host in each other socket that its plug fits, where the device has a socket for it."""
    upstream = planning.device.first(Role.UPSTREAM)
    setup = planning.stand.with_device(upstream, None) if upstream is not None else None
    if upstream is None or setup is None or not planning.stand.lead_taken:
        return
    for port in planning.device.ports():
        if port.connector == upstream.connector and port.role is not Role.UPSTREAM:
            words = f"the host's lead in {port.id} and nothing in {upstream.id}"
            wrong = replace(setup, arranged=(words,))
            yield port, _trial(port, "host lead", DEVICE, wrong)


def _first_of_each(found: Iterable[tuple[Port, PlannedTrial]]) -> Iterator[PlannedTrial]:
    """The first of each connector for a full sheet, the others for a forensic one."""
    seen: set[str] = set()
    for port, trial in found:
        yield trial if port.connector not in seen else replace(trial, depth=Depth.FORENSIC)
        seen.add(port.connector)
