"""Power that other ports give while the host is charged."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.depth import Depth
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.procedure in (ProcedureId.CHARGE, ProcedureId.POWER_IN)


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    """All of them at once; each by itself where that fails, or where the drains do not suffice for it."""
    if tried.claim.promise.procedure == ProcedureId.POWER_IN:
        if tried.trial.setup.running and not tried.claim.conditions:
            why = "is it that other ports give power?"
            yield Level("with nothing else drawing", why, partial(_undrawn, planning), depth=None)
        return
    taken = ids_of(tried.trial.setup)
    ports = tuple(plugged.socket for _, plugged in planning.drains(taken))
    others = (plugged.socket for _, plugged in planning.drains(taken, one_by_one=True) if plugged.socket not in ports)
    sets = [(ports, Depth.FULL), *(((port,), None) for port in ports if len(ports) > 1)]
    sets += [((port,), Depth.FULL) for port in others]
    for some, depth in sets if ports else ():
        yield Level(
            f"while {' and '.join(some)} give{'s' if len(some) == 1 else ''} power",
            "does power for other ports reduce the host's share?", partial(_drawn, planning, some), depth,
        )  # fmt: skip


def _undrawn(planning: Planning, trial: PlannedTrial) -> PlannedTrial:
    """An inlet is tried while everything behind it draws; here it is left to the host alone."""
    drains = {drain.id for drain in planning.rig.drains}
    plugged = tuple(each for each in trial.setup.plugged if each.gear not in drains)
    return replace(trial, setup=replace(trial.setup, plugged=plugged, running=()))


def _drawn(planning: Planning, ports: tuple[str, ...], trial: PlannedTrial) -> PlannedTrial | None:
    drains = planning.drains(ids_of(trial.setup), one_by_one=len(ports) == 1)
    found = [each for each in drains if each[1].socket in ports]
    if len(found) < len(ports):
        return None
    setup = planning.stand.beside(trial.setup, [each for _, each in found], tuple(words for words, _ in found))
    return replace(trial, setup=setup)


OTHERS_DRAW = Factor("others draw", 2, _levels, _matters)
