"""Trials without the device: what the gear, the host's socket and the leads of other trials carry by themselves."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from auditra.core.model.circumstance import Aspect
from auditra.core.model.rig import Drive, Rig
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.planning import Planning
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.procedure import Procedure
from auditra.core.procedures.registry import procedure_of


def direct_for(trials: Iterable[PlannedTrial], planning: Planning) -> Iterator[PlannedTrial]:
    """The same gear without the device, for each piece of gear that these trials measure with."""
    for trial in trials:
        for gear_id, procedure in _measured_with(trial, planning.rig):
            gear = planning.rig.find(gear_id)
            stand = planning.stand_of(trial.setup)
            setup = procedure.direct(stand, gear) if gear and procedure.direct else None
            if gear is None or setup is None:
                continue
            direct = replace(
                trial,
                title=f"{gear.name}, direct",
                why="the same gear without the device: what the rig itself can do",
                procedure=procedure.id,
                setup=setup,
                gear=gear.id,
                port=None,
            )
            yield direct.soaked(trial.setup.soaked_s) if trial.setup.soaked_s else direct


def host_sockets_for(trials: Iterable[PlannedTrial], planning: Planning) -> Iterator[PlannedTrial]:
    """The fastest drive in the host's socket without the device, for trials of a network: a peer that is tried direct
    is in another socket, and says nothing of this one."""
    storage = procedure_of(ProcedureId.STORAGE)
    drives = sorted(planning.rig.drives, key=lambda drive: -min(drive.read_bps, drive.write_bps))
    for trial in trials:
        stand = planning.stand_of(trial.setup)
        wanted = drives if trial.procedure == ProcedureId.NETWORK and trial.port is not None else ()
        for drive in wanted:
            setup = storage.direct(stand, drive) if storage.direct else None
            if setup is not None and setup.host_socket == stand.socket.id:
                yield replace(
                    trial, title=f"{drive.name}, direct", why="what the host's socket carries without the device",
                    procedure=storage.id, setup=setup, gear=drive.id, port=None,
                )  # fmt: skip
                break


def leads_for(trials: Iterable[PlannedTrial], planning: Planning) -> Iterator[PlannedTrial]:
    """A drive direct over each lead of its trials that it was not tried with: the lead may be what falls short."""
    storage = procedure_of(ProcedureId.STORAGE)
    for trial in trials:
        drive, stand = planning.rig.find(trial.gear), planning.stand_of(trial.setup)
        setup = storage.direct(stand, drive) if storage.direct and isinstance(drive, Drive) else None
        if drive is None or setup is None or trial.procedure != ProcedureId.STORAGE or trial.port is None:
            continue
        joined = setup.plugged[0]
        ends = {drive.connector, stand.socket.connector}
        used = {each.lead for each in trial.setup.plugged} - {joined.lead}
        for lead in (lead for lead in planning.rig.leads if lead.id in used and set(lead.ends) == ends):
            over = replace(setup, plugged=(replace(joined, lead=lead.id),), departs=(Aspect.LEAD,))
            yield replace(
                trial, title=f"{drive.name}, direct over {lead.id}", why=f"what lead {lead.id} carries by itself",
                setup=over, gear=drive.id, port=None,
            )  # fmt: skip


def _measured_with(trial: PlannedTrial, rig: Rig) -> list[tuple[str, Procedure]]:
    """The gear that a trial measures with, and the procedure that measures it direct."""
    procedure = procedure_of(trial.procedure)
    if procedure.all_at_once:
        ids = [plugged.gear for plugged in trial.setup.members if rig.find(plugged.gear) is not None]
        peers = {peer.id for peer in rig.peers}
        return [(gear, procedure_of(ProcedureId.NETWORK if gear in peers else ProcedureId.STORAGE)) for gear in ids]
    if procedure.by_eye:
        return []
    return [(trial.gear, procedure_of(procedure.baseline or procedure.id))]
