"""Plugging something in must not disturb a running picture, although sellers do not mention it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.model.depth import Depth
from auditra.core.model.device import Port
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.planning import Planning, ids_of
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.gear import first_reach
from auditra.core.wiring.setups import plugged_in


def plugged_meanwhile(planning: Planning) -> Iterator[PlannedTrial]:
    """One for each output that promises a picture, with a drive in the first socket that promises data; a forensic
    sheet tries each of these sockets."""
    for claim in planning.claims:
        outputs = claim.ports if claim.promise.procedure == ProcedureId.DISPLAY else ()
        for port in (planning.device.port(each) for each in outputs):
            yield from _beside(planning, port) if port is not None else ()


def _beside(planning: Planning, output: Port) -> Iterator[PlannedTrial]:
    display = first_reach(planning.rig, planning.rig.displays, output.connector, planning.stand.taken)
    if display is None:
        return
    setup, depth = planning.stand.with_device(output, display), Depth.FULL
    for port in _sockets_for_drives(planning, output):
        drive = first_reach(planning.rig, planning.rig.drives, port.connector, ids_of(setup))
        if drive is not None:
            yield PlannedTrial(
                title=f"{output.id} while {port.id} is plugged", why="does the picture stay?",
                procedure=ProcedureId.PLUGGED_MEANWHILE, claims=(),
                setup=replace(setup, plugged=(*setup.plugged, plugged_in(port, drive))),
                gear=display.gear.id, port=output.id, depth=depth,
            )  # fmt: skip
            depth = Depth.FORENSIC


def _sockets_for_drives(planning: Planning, output: Port) -> Iterator[Port]:
    promised = {port for claim in planning.claims for port in claim.ports
                if claim.promise.procedure == ProcedureId.STORAGE}  # fmt: skip
    return (port for port in planning.device.ports() if port.id in promised and port.id != output.id)
