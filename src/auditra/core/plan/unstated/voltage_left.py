"""A USB-C socket that gives power must be at 0 V when nothing is plugged in. Testing this takes no extra plug move."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.model.capability import Capability
from auditra.core.model.depth import Depth
from auditra.core.model.device import Port, Role
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.planning import Planning
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.gear import first_reach

_COLD_SOCKETS = ("usb-c",)
"""An A socket has 5 V all the time, by right. Source: USB Type-C R2.3, 4.4.2 (VBUS is off until something is there)."""


def voltage_left(planning: Planning) -> Iterator[PlannedTrial]:
    """One for each such socket, where the rig has a load to pull and a meter to read."""
    has_meter = any(meter.is_in_line for meter in planning.rig.meters)
    for port in planning.device.ports():
        if port.connector not in _COLD_SOCKETS or port.role is not Role.DOWNSTREAM or not _gives(planning, port):
            continue
        choice = first_reach(planning.rig, planning.rig.loads, port.connector, planning.stand.taken)
        setup = planning.stand.charged(port, choice) if choice is not None and has_meter else None
        if choice is not None and setup is not None:
            yield PlannedTrial(
                title=f"{port.id} after removal", why="does it leave a voltage behind?",
                procedure=ProcedureId.AFTER_REMOVAL, claims=(), setup=setup, gear=choice.gear.id, port=port.id,
                depth=Depth.FULL,
            )  # fmt: skip


def _gives(planning: Planning, port: Port) -> bool:
    promises = (claim.promise for claim in planning.claims if port.id in claim.ports)
    return any(each.capability is Capability.POWER_OUT and not each.forbids for each in promises)
