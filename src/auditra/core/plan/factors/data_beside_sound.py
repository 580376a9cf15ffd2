"""Data that moves on another socket while somebody listens: what switches currents may be heard."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.setups import plugged_in


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.can_be_disturbed


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    """The first socket that promises data and has gear for it."""
    for claim in planning.claims:
        if claim.promise.procedure != ProcedureId.STORAGE or tried.port.id in claim.ports:
            continue
        for port_id in claim.ports:
            words = claim.sentence_of(port_id)
            level = partial(_busy, planning, port_id, claim.id, words)
            if level(tried.trial) is not None:
                yield Level(f"while {port_id} copies", f"is {tried.port.id} as clean while {port_id} copies?", level)
                return


def _busy(planning: Planning, port_id: str, claim_id: str, words: str, trial: PlannedTrial) -> PlannedTrial | None:
    claim = next(each for each in planning.claims if each.id == claim_id)
    port = planning.device.port(port_id)
    choice = planning.choose(claim, port, ids_of(trial.setup)) if port is not None else None
    if port is None or choice is None or trial.setup.gear_at(port_id) is not None:
        return None
    return replace(trial, setup=planning.stand.beside(trial.setup, [plugged_in(port, choice)], (words,)))


DATA_BESIDE_SOUND = Factor("data beside sound", 4, _levels, _matters, Which.EACH)
