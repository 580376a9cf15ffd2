"""The run sheet: the trials that claims need on this rig, direct ones first, then each alone, then beside a display.

It is derived anew from claims and rig whenever it is asked for; it is never stored.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from auditra.core.audit.audit import Audit, TrialRecord
from auditra.core.audit.claim import Claim
from auditra.core.audit.device import DEVICE, Device, Port, Role
from auditra.core.audit.rig import Rig
from auditra.core.audit.setup import Plugged, SetUp
from auditra.core.audit.trial import Outcome, Procedure
from auditra.core.judge.rules import FEWEST_TRIES_THAT_ACCUSE
from auditra.core.plan.gear import Choice, best_proof, host_for, inlet_of
from auditra.core.plan.set_ups import Stand

_WHAT = {
    Procedure.STORAGE: "write and read back",
    Procedure.NETWORK: "send and receive",
    Procedure.POWER_OUT: "power drawn",
    Procedure.POWER_IN: "power fed",
    Procedure.DISPLAY: "picture",
    Procedure.APPEARANCE: "shut to a drive",
    Procedure.RULE: "length",
}


@dataclass(frozen=True)
class PlannedTrial:
    """One trial to be done: what stands plugged, with what it is measured, and for which claims."""

    key: str
    title: str
    why: str
    procedure: Procedure
    claims: tuple[str, ...]
    setup: SetUp
    gear: str
    port: str | None
    target: float = 0.0


@dataclass(frozen=True)
class RunSheet:
    """The trials in order; and for claims that no trial on this rig can show, what is lacking."""

    trials: tuple[PlannedTrial, ...]
    beyond_rig: dict[str, str]

    def conditions_of(self, claim_id: str) -> tuple[tuple[str, ...], ...]:
        """What else runs in each set-up that a claim is tried under, direct ones left out."""
        return tuple(
            trial.setup.running for trial in self.trials if claim_id in trial.claims and trial.port is not None
        )

    def trial(self, key: str) -> PlannedTrial | None:
        return next((trial for trial in self.trials if trial.key == key), None)


def plan_run_sheet(device: Device, rig: Rig, claims: Iterable[Claim]) -> RunSheet:
    """The run sheet of a device's claims on a rig."""
    return _Planner(device, rig, tuple(claims)).plan()


def still_to_do(sheet: RunSheet, trials: Iterable[TrialRecord]) -> tuple[PlannedTrial, ...]:
    """The planned trials that are not done. One whose gear did not appear is owed until enough tries accuse."""
    outcomes: dict[str, list[Outcome | None]] = {}
    for record in trials:
        outcomes.setdefault(record.trial.key, []).append(record.outcome)
    return tuple(planned for planned in sheet.trials if not _is_done(outcomes.get(planned.key, [])))


def run_sheet_of(audit: Audit) -> RunSheet:
    """The run sheet of an audit as it stands."""
    return plan_run_sheet(audit.device, audit.rig, audit.claims)


def _is_done(outcomes: list[Outcome | None]) -> bool:
    return Outcome.COMPLETE in outcomes or outcomes.count(Outcome.DID_NOT_APPEAR) >= FEWEST_TRIES_THAT_ACCUSE


class _Planner:
    """What every trial of one device on one rig shares; a claim that cannot be tried is put down with the reason."""

    def __init__(self, device: Device, rig: Rig, claims: tuple[Claim, ...]) -> None:
        self.device, self.rig, self.claims = device, rig, claims
        self.beyond: dict[str, str] = {}
        found = host_for(rig, device.first(Role.UPSTREAM))
        self.stand = Stand(device, rig, *found) if found else None

    def plan(self) -> RunSheet:
        if self.stand is None:
            lacking = "no host socket of this rig fits the device's upstream plug"
            return RunSheet((), {claim.id: lacking for claim in self.claims})
        alone = [(claim, trial) for claim in self.claims if (trial := self._alone(claim, self.stand)) is not None]
        direct = (trial for _, each in alone if (trial := self._direct(each, self.stand)) is not None)
        beside = (trial for claim, each in alone for trial in self._beside_display(claim, each, self.stand))
        trials = (*_merged(direct), *_merged(each for _, each in alone), *_merged(beside))
        return RunSheet(trials, self.beyond)

    def _alone(self, claim: Claim, stand: Stand) -> PlannedTrial | None:
        port = self.device.port(claim.port)
        if port is None:
            self.beyond[claim.id] = f"the device has no port {claim.port}"
            return None
        choice = self._choose(claim, port)
        if choice is None:
            return None
        procedure, gear = claim.promise.procedure, choice.gear.id
        setup = stand.on_device(procedure, port, choice)
        if setup is None:
            self.beyond[claim.id] = f"needs {claim.promise.lacking}"
            return None
        return PlannedTrial(
            key=f"{port.id}/{procedure.name.lower()}/{gear}",
            title=f"{port.id} {_WHAT[procedure]}",
            why=f"promised: {claim}",
            procedure=procedure,
            claims=(claim.id,),
            setup=setup,
            gear=gear,
            port=port.id,
            target=claim.promise.target,
        )

    def _choose(self, claim: Claim, port: Port) -> Choice | None:
        """The gear for a claim; None, with the reason put down, where the rig has none that proves it."""
        procedure = claim.promise.procedure
        if procedure is Procedure.RULE and self.rig.rules:
            return Choice(self.rig.rules[0])
        at = inlet_of(self.device, port) if procedure is Procedure.POWER_IN else port
        proof = best_proof(self.rig, claim.promise, at.connector) if at else None
        if proof is not None and proof.margin >= 1:
            return proof.choice
        most = f"; this rig reaches {proof.margin:.0%} of it" if proof else ""
        self.beyond[claim.id] = f"needs {claim.promise.lacking}{most}"
        return None

    def _direct(self, trial: PlannedTrial, stand: Stand) -> PlannedTrial | None:
        gear = self.rig.find(trial.gear)
        setup = stand.direct(trial.procedure, gear) if gear else None
        if gear is None or setup is None:
            return None
        procedure = Procedure.STORAGE if trial.procedure is Procedure.APPEARANCE else trial.procedure
        return replace(
            trial,
            key=f"direct/{procedure.name.lower()}/{gear.id}",
            title=f"{gear.name}, direct",
            why="the same gear without the device: what the rig itself can do",
            procedure=procedure,
            setup=setup,
            port=None,
        )

    def _beside_display(self, claim: Claim, trial: PlannedTrial, stand: Stand) -> Iterator[PlannedTrial]:
        running = self._display() if claim.promise.beside_display else None
        if running is not None and running[1].socket != trial.port:
            words, display = running
            yield replace(
                trial,
                key=f"{trial.key}/beside {display.socket}",
                title=f"{trial.title}, with {display.socket}",
                why=f"does a picture on {display.socket} take something from {trial.port}?",
                setup=stand.beside(trial.setup, display, words),
            )

    def _display(self) -> tuple[str, Plugged] | None:
        """The display that runs beside other trials: in words, and how it is plugged."""
        for claim in self.claims:
            port = self.device.port(claim.port)
            if claim.promise.procedure is Procedure.DISPLAY and port is not None and claim.id not in self.beyond:
                choice = self._choose(claim, port)
                if choice is not None:
                    return str(claim), Plugged(DEVICE, port.id, choice.gear.id, choice.lead_id)
        return None


def _merged(trials: Iterable[PlannedTrial]) -> tuple[PlannedTrial, ...]:
    """Trials of one key made one, for the claims of all and the largest target."""
    by_key: dict[str, PlannedTrial] = {}
    for trial in trials:
        known = by_key.get(trial.key)
        if known is not None:
            claims = tuple(dict.fromkeys((*known.claims, *trial.claims)))
            trial = replace(known, claims=claims, target=max(known.target, trial.target))
        by_key[trial.key] = trial
    return tuple(by_key.values())
