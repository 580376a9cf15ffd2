"""Plans the run sheet: direct trials, then each claim alone, then what each factor adds."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from itertools import chain

from auditra.core.claims.claim import Claim
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import TrialPlanned
from auditra.core.model.device import Device, Role
from auditra.core.model.rig import Rig
from auditra.core.model.trial import TrialIdentity
from auditra.core.plan.alone import direct_for, promised_at_once, tried_alone
from auditra.core.plan.factor import all_factors
from auditra.core.plan.planning import Planning
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.gear import host_for
from auditra.core.wiring.setups import Stand


def run_sheet_of(audit: Audit) -> RunSheet:
    """The run sheet of each device of a kit, one after the other; what two of them need direct is done once."""
    devices = audit.devices or (audit.device,)
    sheets = [
        plan_run_sheet(device, audit.rig.in_use, [claim for claim in audit.claims if claim.device == device.id])
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


def plan_run_sheet(device: Device, rig: Rig, claims: Iterable[Claim]) -> RunSheet:
    """The run sheet of a device's claims on a rig."""
    claims = tuple(claims)
    upstream = device.first(Role.UPSTREAM)
    first = next(((host, socket) for host in rig.hosts for socket in host.sockets), None)
    found = host_for(rig, upstream) if upstream is not None else first
    if found is None:
        lacking = "no host socket of this rig fits the device's upstream plug"
        return RunSheet((), {claim.id: lacking for claim in claims})
    planning = Planning(device, rig, claims, Stand(device, rig, *found))
    tried = [each for claim in claims for each in tried_alone(claim, planning)]
    added = [factor.add([each for each in tried if each.goes_anywhere], planning) for factor in all_factors()]
    promised, alone = tuple(promised_at_once(planning)), [each.trial for each in tried]
    more = [trial for each in added for trial in each.trials]
    reserve = [trial for each in added for trial in each.in_reserve]
    trials = _merged(chain(direct_for([*alone, *promised], planning), alone, promised, more))
    spare = _merged(chain(direct_for([*more, *reserve], planning), reserve))
    known = {trial.identity for trial in trials}
    return RunSheet(trials, planning.beyond, tuple(trial for trial in spare if trial.identity not in known))


def _merged(trials: Iterable[PlannedTrial]) -> tuple[PlannedTrial, ...]:
    """Trials of one identity made one, for the claims of all and the largest target."""
    merged: dict[TrialIdentity, PlannedTrial] = {}
    for trial in trials:
        identity, known = trial.identity, merged.get(trial.identity)
        if known is not None:
            claims = tuple(dict.fromkeys((*known.claims, *trial.claims)))
            trial = replace(known, claims=claims, target=max(known.target, trial.target))
        merged[identity] = trial
    return tuple(merged.values())
