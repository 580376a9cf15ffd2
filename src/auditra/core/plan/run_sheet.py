"""The run sheet: the trials that claims need on this rig.

Direct ones come first, then each claim alone, beside a display, with others at once, and after a long time at work.
It is derived anew from claims and rig whenever it is asked for; it is never stored.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from itertools import chain

from auditra.core.audit.audit import Audit, TrialRecord
from auditra.core.audit.claim import Claim
from auditra.core.audit.device import DEVICE, Device, Port, Role
from auditra.core.audit.rig import Rig
from auditra.core.audit.setup import MINUTE_S, Plugged, SetUp
from auditra.core.audit.trial import Outcome, Procedure
from auditra.core.judge.rules import FEWEST_TRIES_THAT_ACCUSE
from auditra.core.plan.at_once import Member, groups, pairs
from auditra.core.plan.gear import NOTHING_TAKEN, Choice, Taken, best_proof, host_for, inlet_of, reach
from auditra.core.plan.set_ups import Stand, plugged_in

SOAK_S = 45 * MINUTE_S
"""Long enough at full load for a case to come near the temperature that it keeps."""
_DRAINS_ENOUGH = 0.9
"""The part of a promised power that a drain must draw to stand for it."""
_WHAT = {
    Procedure.STORAGE: "write and read back",
    Procedure.NETWORK: "send and receive",
    Procedure.POWER_OUT: "power drawn",
    Procedure.POWER_IN: "power fed",
    Procedure.CHARGE: "power for the host",
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

    @property
    def tested(self) -> frozenset[str]:
        """The gear whose coming is looked for."""
        if self.procedure is not Procedure.TOGETHER:
            return frozenset({self.gear})
        return frozenset(each.gear for each in self.setup.plugged if each.owner == DEVICE)


@dataclass(frozen=True)
class RunSheet:
    """The trials in order; and for claims that no trial on this rig can show, what is lacking.

    Those in reserve are done only where an answer needs them: to part two explanations, or as a direct one.
    """

    trials: tuple[PlannedTrial, ...]
    beyond_rig: dict[str, str]
    reserve: tuple[PlannedTrial, ...] = ()

    def conditions_of(self, claim: Claim, *, in_reserve: bool = False) -> tuple[tuple[str, ...], ...]:
        """What is special about each set-up that a claim is, or could be, tried under, direct ones left out."""
        return tuple(
            trial.setup.conditions(str(claim))
            for trial in (self.reserve if in_reserve else self.trials)
            if claim.id in trial.claims and trial.port is not None
        )

    def trial(self, key: str) -> PlannedTrial | None:
        return next((trial for trial in (*self.trials, *self.reserve) if trial.key == key), None)


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


@dataclass(frozen=True)
class _Tried:
    """A claim with its port and the trial that tries it alone."""

    claim: Claim
    port: Port
    trial: PlannedTrial


@dataclass
class _Planner:
    """What every trial of one device on one rig shares; a claim that cannot be tried is put down with the reason."""

    device: Device
    rig: Rig
    claims: tuple[Claim, ...]
    beyond: dict[str, str] = field(default_factory=dict)

    def plan(self) -> RunSheet:
        found = host_for(self.rig, self.device.first(Role.UPSTREAM))
        if found is None:
            lacking = "no host socket of this rig fits the device's upstream plug"
            return RunSheet((), {claim.id: lacking for claim in self.claims})
        stand = Stand(self.device, self.rig, *found)
        tried = [each for claim in self.claims if (each := self._alone(claim, stand)) is not None]
        beside = [*self._beside_display(tried, stand), *self._while_others_draw(tried, stand, whole=True)]
        at_once, in_parts = self._at_once(tried, stand)
        soaks = [_soaked(each.trial) for each in tried if each.claim.promise.soaks]
        in_reserve = [*in_parts, *self._while_others_draw(tried, stand, whole=False)]
        alone = [each.trial for each in tried]
        direct = _merged(self._direct(alone, stand))
        trials = _merged(chain(direct, alone, beside, at_once, soaks))
        spare = _merged(chain(self._direct([*at_once, *in_parts], stand), self._direct(soaks, stand), in_reserve))
        known = {trial.key for trial in trials}
        return RunSheet(trials, self.beyond, tuple(trial for trial in spare if trial.key not in known))

    def _alone(self, claim: Claim, stand: Stand) -> _Tried | None:
        port = self.device.port(claim.port)
        if port is None or claim.device != self.device.id:
            named = f"the device has no port {claim.port}"
            self.beyond[claim.id] = named if claim.device == self.device.id else "trials are of the first device alone"
            return None
        choice = self._choose(claim, port)
        if choice is None:
            return None
        procedure, gear = claim.promise.procedure, choice.gear.id
        setup = stand.on_device(procedure, port, choice, claim.promise.target)
        if setup is None:
            self.beyond[claim.id] = f"needs {claim.promise.lacking}"
            return None
        trial = PlannedTrial(
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
        return _Tried(claim, port, trial)

    def _choose(self, claim: Claim, port: Port, taken: Taken = NOTHING_TAKEN) -> Choice | None:
        """The gear for a claim; None, with the reason put down, where the rig has none that proves it."""
        procedure = claim.promise.procedure
        if procedure is Procedure.RULE and self.rig.rules:
            return Choice(self.rig.rules[0])
        at = inlet_of(self.device, port) if procedure is Procedure.POWER_IN else port
        proof = best_proof(self.rig, claim.promise, at.connector, taken) if at else None
        if proof is not None and proof.margin >= 1:
            return proof.choice
        if not taken:
            most = f"; this rig reaches {proof.margin:.0%} of it" if proof else ""
            self.beyond[claim.id] = f"needs {claim.promise.lacking}{most}"
        return None

    def _direct(self, trials: Iterable[PlannedTrial], stand: Stand) -> Iterable[PlannedTrial]:
        """The same gear without the device, for each piece of gear that these trials measure with."""
        for trial in trials:
            for gear_id, procedure in _measured_with(trial, self.rig):
                gear = self.rig.find(gear_id)
                setup = stand.direct(procedure, gear) if gear else None
                if gear is None or setup is None:
                    continue
                direct = replace(
                    trial,
                    key=f"direct/{procedure.name.lower()}/{gear.id}",
                    title=f"{gear.name}, direct",
                    why="the same gear without the device: what the rig itself can do",
                    procedure=procedure,
                    setup=setup,
                    gear=gear.id,
                    port=None,
                )
                yield _soaked(direct) if trial.setup.soaked_s else direct

    def _beside_display(self, tried: list[_Tried], stand: Stand) -> Iterable[PlannedTrial]:
        """What is promised whatever else runs, tried with a picture running."""
        displays = [each for each in tried if each.claim.promise.procedure is Procedure.DISPLAY]
        for each in tried if displays else ():
            found = self._display(displays, _ids(each.trial.setup)) if each.claim.promise.beside_display else None
            if found is not None and found[1].socket != each.port.id:
                words, display = found
                yield replace(
                    each.trial,
                    key=f"{each.trial.key}/beside {display.socket}",
                    title=f"{each.trial.title}, with {display.socket}",
                    why=f"does a picture on {display.socket} take something from {each.port.id}?",
                    setup=stand.beside(each.trial.setup, (display,), (words,)),
                )

    def _display(self, tried: list[_Tried], taken: Taken) -> tuple[str, Plugged] | None:
        """The display that runs beside other trials: in words, and how it is plugged."""
        for each in tried:
            if each.claim.promise.procedure is Procedure.DISPLAY:
                choice = self._choose(each.claim, each.port, taken)
                if choice is not None:
                    return str(each.claim), plugged_in(each.port, choice)
        return None

    def _at_once(self, tried: list[_Tried], stand: Stand) -> tuple[list[PlannedTrial], list[PlannedTrial]]:
        """Data on several ports at once: the fewest trials that bring every two of them together, and each two."""
        members = {
            each.port.id: Member(each.claim, each.port, asked)
            for each in tried
            if (asked := each.claim.promise.upstream_bps)
        }
        room = stand.socket.data_bps
        whole = groups(tuple(members.values()), room)
        parts = [pair for group in whole if len(group) > 2 for pair in pairs(group)]
        return self._side_by_side(whole, stand), self._side_by_side(parts, stand)

    def _side_by_side(self, sets: Iterable[tuple[Member, ...]], stand: Stand) -> list[PlannedTrial]:
        return [trial for members in sets if (trial := self._group(members, stand)) is not None]

    def _group(self, members: tuple[Member, ...], stand: Stand) -> PlannedTrial | None:
        """The members measured in turn while the others are kept busy; None where the gear does not go round."""
        taken: Taken = NOTHING_TAKEN
        chosen: list[tuple[Port, Choice]] = []
        for member in members:
            choice = self._choose(member.claim, member.port, taken)
            if choice is None:
                return None
            taken |= choice.ids
            chosen.append((member.port, choice))
        ports = [port.id for port, _ in chosen]
        return PlannedTrial(
            key=f"{'+'.join(ports)}/together",
            title=f"{', '.join(ports[:-1])} and {ports[-1]} at once",
            why="do they take something from one another?",
            procedure=Procedure.TOGETHER,
            claims=tuple(member.claim.id for member in members),
            setup=stand.together(chosen, tuple(str(member.claim) for member in members)),
            gear=chosen[0][1].gear.id,
            port=ports[0],
        )

    def _while_others_draw(self, tried: list[_Tried], stand: Stand, *, whole: bool) -> Iterable[PlannedTrial]:
        """The host's watts while other ports give theirs: all of them, or in reserve each by itself."""
        for each in tried:
            if each.claim.promise.procedure is not Procedure.CHARGE:
                continue
            drains = self._drains(_ids(each.trial.setup))
            for others in [drains] if whole else [[drain] for drain in drains if len(drains) > 1]:
                ports = [plugged.socket for _, plugged in others]
                if ports:
                    yield replace(
                        each.trial,
                        key=f"{each.trial.key}/while {'+'.join(ports)}",
                        title=f"{each.trial.title}, while {' and '.join(ports)} give{'s' if len(ports) == 1 else ''}",
                        why="does what other ports give come out of the host's share?",
                        setup=stand.beside(
                            each.trial.setup,
                            [plugged for _, plugged in others],
                            tuple(str(claim) for claim, _ in others),
                        ),
                    )

    def _drains(self, taken: Taken) -> list[tuple[Claim, Plugged]]:
        """A drain on every port that is said to give power, as far as the drains go round."""
        found: list[tuple[Claim, Plugged]] = []
        for claim in self.claims:
            port = self.device.port(claim.port)
            if claim.promise.procedure is not Procedure.POWER_OUT or port is None:
                continue
            for drain in self.rig.drains:
                choice = reach(self.rig, drain, port.connector, taken)
                if choice is not None and drain.draws_w >= _DRAINS_ENOUGH * claim.promise.target:
                    taken |= choice.ids
                    found.append((claim, plugged_in(port, choice)))
                    break
        return found


def _soaked(trial: PlannedTrial) -> PlannedTrial:
    """The same after a long time at full load."""
    words = f"after {SOAK_S / MINUTE_S:.0f} min"
    return replace(
        trial,
        key=f"{trial.key}/{words}",
        title=f"{trial.title}, {words}",
        why="does heat take something from it?",
        setup=replace(trial.setup, soaked_s=SOAK_S),
    )


def _measured_with(trial: PlannedTrial, rig: Rig) -> list[tuple[str, Procedure]]:
    """The gear that a trial measures with, and how that is measured direct."""
    if trial.procedure is Procedure.TOGETHER:
        ids = [each.gear for each in trial.setup.plugged if rig.find(each.gear) is not None]
        peers = {peer.id for peer in rig.peers}
        return [(each, Procedure.NETWORK if each in peers else Procedure.STORAGE) for each in ids]
    return [(trial.gear, Procedure.STORAGE if trial.procedure is Procedure.APPEARANCE else trial.procedure)]


def _ids(setup: SetUp) -> Taken:
    """All gear and leads of a set-up."""
    return frozenset(
        each_id for each in setup.plugged for each_id in (each.gear, each.lead, *each.through) if each_id is not None
    )


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
