"""The plainest trial of each claim, just as it is promised."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.claims.claim import Claim, ConditionKind
from auditra.core.links.connectors import TURNABLE
from auditra.core.model.device import DEVICE, Port
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.port_groups import Member
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.procedure import Procedure
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.setups import Stand


def tried_alone(claim: Claim, planning: Planning) -> list[Tried]:
    """The trial of a claim by itself, one for each port of a group that is tried port by port."""
    refused = planning.cannot_be_tried(claim)
    if refused:
        planning.beyond[claim.id] = refused
        return []
    stand, host = planning.stand_for(claim), claim.wants(ConditionKind.ON)
    if host:
        at_host = planning.stand_at(host[0])
        if at_host is None:
            planning.beyond[claim.id] = f"needs the host {host[0]}, with a socket that the device's plug fits"
            return []
        stand = at_host
    if _is_promised_at_once(claim):
        return []
    if claim.promise.hosts_named:
        return list(_on_each_host(claim, planning))
    ports = claim.ports[:1] if claim.promise.of_group else claim.ports
    found = [_one(claim, planning.port(port), stand, planning) for port in ports]
    return [tried for tried in found if tried is not None]


def _on_each_host(claim: Claim, planning: Planning) -> Iterator[Tried]:
    """One trial for each host that the claim names, as far as the rig has it."""
    lacking = []
    for name in claim.promise.hosts_named:
        stand = planning.stand_at(name)
        tried = _one(claim, planning.port(claim.port), stand, planning) if stand is not None else None
        if stand is None or tried is None:
            lacking.append(name)
            continue
        yield replace(tried, trial=replace(tried.trial, title=f"{tried.trial.title}, on {name}"))
    if len(lacking) == len(claim.promise.hosts_named):
        planning.beyond[claim.id] = f"needs the host {' or '.join(lacking)}, with a socket that the device's plug fits"


def promised_at_once(planning: Planning) -> Iterator[PlannedTrial]:
    """Ports that a claim promises data of, all at the same time."""
    for claim in planning.claims:
        if not _is_promised_at_once(claim) or planning.cannot_be_tried(claim):
            continue
        members = tuple(Member(claim, planning.port(port), claim.promise.upstream_bps) for port in claim.ports)
        trial = planning.group(members)
        if trial is None:
            planning.beyond[claim.id] = f"needs more gear: {claim.promise.lacking}, for each of {len(members)} ports"
        else:
            yield trial


def _is_promised_at_once(claim: Claim) -> bool:
    """It is measured with all its ports at work, as it is promised."""
    return bool(claim.is_joined_together and claim.promise.upstream_bps and not claim.conditions)


def _one(claim: Claim, port: Port, stand: Stand, planning: Planning) -> Tried | None:
    """A claim tried at one port; None, with the reason in `beyond`, where the rig lacks something."""
    procedure, promise = procedure_of(claim.promise.procedure), claim.promise
    bare = procedure.by_eye and not promise.needs_gear
    choice = None if bare else planning.choose(claim, port)
    if choice is None and not bare:
        return None
    gear = choice.gear.id if choice and not procedure.by_eye else DEVICE
    setup = procedure.on_device(stand, port, choice, promise.target)
    if setup is None:
        planning.beyond[claim.id] = f"needs {promise.lacking}"
        return None
    under = planning.under_conditions(claim, port, setup, stand)
    if under is not None and procedure.at_inlet:
        under = planning.with_all_drawing(claim, under, stand)
    if under is None:
        return None
    spot = "+".join(claim.ports) if promise.of_group else port.id
    words = " ".join(map(str, claim.conditions))
    trial = PlannedTrial(
        title=" ".join(filter(None, (spot, str(promise) if procedure.by_eye else procedure.title, words))),
        why=f"claimed: {claim}",
        procedure=procedure.id,
        claims=(claim.id,),
        setup=_with_sides(under, port, stand, procedure),
        gear=gear,
        port=port.id,
        target=promise.target,
    )
    return Tried(claim, port, trial)


def _with_sides(setup: SetUp, port: Port, stand: Stand, procedure: Procedure) -> SetUp:
    """Plugs that fit both ways go in with the marked side up, so that the other way round is another trial."""
    if procedure.id not in (ProcedureId.STORAGE, ProcedureId.DISPLAY):
        return setup
    there = setup.gear_at(port.id) is not None and port.connector == TURNABLE
    on_host = any(each.gear == DEVICE for each in setup.plugged) and stand.socket.connector == TURNABLE
    return replace(
        setup, flipped=False if there else setup.flipped, host_flipped=False if on_host else setup.host_flipped
    )
