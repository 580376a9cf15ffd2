"""What feeds the device: its own supply, none, a weaker one, or one that is pulled while it works."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Supply
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial

PULLED = "pull the supply while it works, and put it back after half a minute"
_IN_USE = (ProcedureId.STORAGE, ProcedureId.NETWORK)
_FED = (ProcedureId.STORAGE, ProcedureId.NETWORK, ProcedureId.DISPLAY)


def _matters(tried: Tried, planning: Planning) -> bool:
    inlet = planning.stand.inlet
    in_use = tried.trial.setup.gear_at(inlet.id) if inlet is not None else None
    own = planning.stand.own_supply
    free = in_use is None or (own is not None and in_use == own.id)
    return inlet is not None and free and tried.claim.promise.procedure in _FED


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    own, inlet = planning.stand.own_supply, planning.stand.inlet
    if own is None or inlet is None:
        yield from _fed_by_another(tried, planning)
        return
    at, name = inlet.id, tried.port.id
    yield Level(f"with nothing in {at}", f"does {name} need the device's own supply?", partial(_unfed, at))
    weaker = [each for each in planning.stand.supplies if each.watts < own.watts]
    if weaker:
        yield Level(
            f"fed by the {weaker[0].name}", f"is a weaker supply enough for {name}?",
            partial(_fed, planning, weaker[0], unpromised=True), Depth.FORENSIC,
        )  # fmt: skip


def _fed_by_another(tried: Tried, planning: Planning) -> Iterator[Level]:
    """The device is sold without one: it has to work either way."""
    supplies = planning.stand.supplies
    inlet = planning.stand.inlet
    if supplies and inlet is not None:
        words, why = f"with {inlet.id} fed", f"does power at {inlet.id} change what {tried.port.id} does?"
        yield Level(words, why, partial(_fed, planning, supplies[0], unpromised=False))


def _unfed(inlet: str, trial: PlannedTrial) -> PlannedTrial | None:
    kept = tuple(each for each in trial.setup.plugged if (each.owner, each.socket) != (DEVICE, inlet))
    setup = replace(trial.setup, plugged=kept, charger=None, unpromised=True)
    return replace(trial, setup=replace(setup, departs=(*setup.departs, Aspect.SUPPLY)))


def _fed(planning: Planning, supply: Supply, trial: PlannedTrial, *, unpromised: bool) -> PlannedTrial | None:
    inlet = planning.stand.inlet
    assert inlet is not None
    kept = tuple(each for each in trial.setup.plugged if (each.owner, each.socket) != (DEVICE, inlet.id))
    fed = planning.stand.fed_by(supply, ids_of(replace(trial.setup, plugged=kept)))
    if fed is None:
        return None
    setup = replace(
        trial.setup, plugged=(*kept, fed), charger=supply.id, unpromised=trial.setup.unpromised or unpromised,
        departs=(*trial.setup.departs, Aspect.SUPPLY),
    )  # fmt: skip
    return replace(trial, setup=setup)


SUPPLY = Factor("supply", 4, _levels, _matters, Which.KIND, ready_for_others=True)


def _moves_data(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.procedure in _IN_USE and _matters(tried, planning)


def _pulled_levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    if planning.stand.supplies:
        yield Level(
            "with the supply pulled meanwhile", f"does {tried.port.id} survive it when the supply is pulled?",
            partial(_pulled, planning),
        )  # fmt: skip


def _pulled(planning: Planning, trial: PlannedTrial) -> PlannedTrial | None:
    """With a supply in the inlet at first, whichever it is."""
    inlet = planning.stand.inlet
    assert inlet is not None
    there = trial.setup.gear_at(inlet.id)
    plugged = trial.setup.plugged
    if there is None:
        fed = planning.stand.fed_by(planning.stand.supplies[0], ids_of(trial.setup))
        if fed is None:
            return None
        there, plugged = fed.gear, (*plugged, fed)
    setup = replace(
        trial.setup, plugged=plugged, charger=there, arranged=(*trial.setup.arranged, PULLED), unpromised=True,
        departs=(*trial.setup.departs, Aspect.ARRANGED),
    )  # fmt: skip
    return replace(trial, setup=setup)


SUPPLY_PULLED = Factor("supply pulled", 6, _pulled_levels, _moves_data, Which.KIND, by_itself=True, takes_s=30.0)
