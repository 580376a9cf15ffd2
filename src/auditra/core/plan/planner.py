"""Plans the run sheet: direct trials, then each claim alone, then what each factor adds."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from functools import partial
from itertools import chain

from auditra.core.claims.claim import Claim, ConditionKind
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import TrialPlanned
from auditra.core.model.depth import Depth
from auditra.core.model.device import Device, Role
from auditra.core.model.rig import Card, Drive, Rig
from auditra.core.model.trial import ProcedureId, TrialIdentity
from auditra.core.plan.alone import promised_at_once, tried_alone
from auditra.core.plan.baselines import direct_for, host_sockets_for, leads_for
from auditra.core.plan.coverage import varied
from auditra.core.plan.planning import Planning
from auditra.core.plan.poor_gear import without_poor_gear
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet
from auditra.core.plan.unstated.plugged_meanwhile import plugged_meanwhile
from auditra.core.plan.unstated.voltage_left import voltage_left
from auditra.core.plan.unstated.wrong_plugs import wrong_plugs
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.gear import host_for
from auditra.core.wiring.setups import Stand


def run_sheet_of(audit: Audit) -> RunSheet:
    """The run sheet of each device of a kit, one after the other; what two of them need direct is done once."""
    devices = audit.devices or (audit.device,)
    rig = without_poor_gear(audit.rig, audit.trials).in_use
    sheets = [
        plan_run_sheet(device, rig, [claim for claim in audit.claims if claim.device == device.id], audit.depth)
        for device in devices
    ]
    if len(sheets) == 1:
        return _with_own(sheets[0], audit)
    trials = _merged(trial for sheet in sheets for trial in sheet.trials)
    known = {trial.identity for trial in trials}
    spare = _merged(trial for sheet in sheets for trial in sheet.reserve if trial.identity not in known)
    beyond = {claim: why for sheet in sheets for claim, why in sheet.beyond_rig.items()}
    return _with_own(RunSheet(trials, beyond, spare), audit)


def _with_own(sheet: RunSheet, audit: Audit) -> RunSheet:
    """The sheet with the trials that the reviewer added."""
    return replace(sheet, own=tuple(map(planned_as, audit.own_trials)))


def planned_as(wanted: TrialPlanned) -> PlannedTrial:
    """A trial that the reviewer wants, as one of the run sheet."""
    trial = wanted.trial
    return PlannedTrial(
        wanted.title or f"{trial.place} {procedure_of(trial.procedure).title}", wanted.why or "added by the reviewer",
        trial.procedure, trial.claims, trial.setup, trial.gear, trial.port, trial.target,
    )  # fmt: skip


def plan_run_sheet(device: Device, rig: Rig, claims: Iterable[Claim], depth: Depth = Depth.FULL) -> RunSheet:
    """The run sheet of a device's claims on a rig, down to a full one at least."""
    claims = tuple(claims)
    upstream = device.first(Role.UPSTREAM)
    first = next(((host, socket) for host in rig.hosts for socket in host.sockets), None)
    found = host_for(rig, upstream) if upstream is not None else first
    if found is None:
        lacking = "no host socket of this rig fits the device's upstream plug"
        return RunSheet((), {claim.id: lacking for claim in claims})
    planning = Planning(device, rig, claims, Stand(device, rig, *found))
    tried = [each for claim in claims for each in tried_alone(claim, planning)]
    anywhere = [each for each in tried if each.goes_anywhere]
    planning.pictures = [each for each in anywhere if each.claim.promise.procedure == ProcedureId.DISPLAY]
    promised, alone = tuple(promised_at_once(planning)), [each.trial for each in tried]
    added = varied(anywhere, planning, depth, frozenset(trial.identity for trial in alone))
    claimed = _merged(chain(direct_for([*alone, *promised], planning), alone, promised, added.trials))
    wrong = wrong_plugs(planning, (gear for trial in claimed for gear in trial.tested))
    known = {trial.identity for trial in claimed}
    unladen = (trial for trial in _without_load(claims, planning) if trial.identity not in known)
    deep = depth is Depth.FORENSIC
    besides = (*wrong, *voltage_left(planning), *plugged_meanwhile(planning), *unladen)
    trials = _merged((*claimed, *(each for each in besides if deep or each.depth is not Depth.FORENSIC)))
    every = [*alone, *added.trials, *added.in_reserve]
    bare = chain.from_iterable(by_itself(every, planning) for by_itself in (direct_for, host_sockets_for, leads_for))
    spare = _merged(chain(bare, added.in_reserve))
    known = {trial.identity for trial in trials}
    known_again = partial(_known_again, rig=rig)
    left = (trial for trial in spare if trial.identity not in known)
    return RunSheet(tuple(map(known_again, trials)), planning.beyond, tuple(map(known_again, left)))


def _without_load(claims: Iterable[Claim], planning: Planning) -> Iterator[PlannedTrial]:
    """What is promised while something else is at work, with nothing else at work: does it fail then too?"""
    apart = replace(planning, beyond={})
    for claim in claims:
        kept = tuple(each for each in claim.conditions if each.kind is not ConditionKind.WHILE)
        for each in tried_alone(replace(claim, conditions=kept), apart) if kept != claim.conditions else ():
            yield replace(
                each.trial, title=f"{each.trial.title}, with nothing else at work",
                why=f"does it fail without that too? {claim}", depth=Depth.FORENSIC,
            )  # fmt: skip


def _known_again(trial: PlannedTrial, rig: Rig) -> PlannedTrial:
    """A drive with ids of its own, or a card, is known again where it is; what the host need not see come may stay."""
    if trial.port is None or trial.procedure in (ProcedureId.APPEARANCE, ProcedureId.WRONG_PLUG):
        return trial
    sees = procedure_of(trial.procedure).host_sees_it or procedure_of(trial.procedure).all_at_once
    gear = (rig.find(each) for each in trial.tested)
    known = (
        each for each in gear
        if each is not None and (not sees or isinstance(each, Card)
                                 or (isinstance(each, Drive) and isinstance(each.usb_id, str)))
    )  # fmt: skip
    return replace(trial, may_stay=frozenset(each.id for each in known))


def _merged(trials: Iterable[PlannedTrial]) -> tuple[PlannedTrial, ...]:
    """Trials of one identity made one, for the claims of all and the largest target."""
    merged: dict[TrialIdentity, PlannedTrial] = {}
    for trial in trials:
        identity, known = trial.identity, merged.get(trial.identity)
        if known is not None:
            claims = tuple(dict.fromkeys((*known.claims, *trial.claims)))
            trial = replace(
                known,
                claims=claims,
                target=max(known.target, trial.target),
                depth=min(known.depth, trial.depth, key=list(Depth).index),
            )
        merged[identity] = trial
    return tuple(merged.values())
