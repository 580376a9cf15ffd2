"""Plans the run sheet: direct trials, then each claim alone, beside a display, with others at once, and soaked."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from itertools import chain

from auditra.core.claims.claim import Claim, Condition, ConditionKind, Joined
from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Hedge
from auditra.core.journal.fold import Audit
from auditra.core.model.device import BODY, DEVICE, Device, Port, Role
from auditra.core.model.rig import Rig
from auditra.core.model.setup import MINUTE_S, Plugged, SetUp
from auditra.core.model.trial import DIRECT, ProcedureId
from auditra.core.plan.port_groups import Member, groups, pairs
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet
from auditra.core.procedures.procedure import Procedure
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.gear import NOTHING_TAKEN, Choice, Taken, best_proof, first_reach, host_for, inlet_of
from auditra.core.wiring.setups import Stand, plugged_in

SOAK_S = 45 * MINUTE_S
"""Long enough at full load for a case to come near the temperature that it keeps."""
_DRAINS_ENOUGH = 0.9
"""The part of a promised power that a drain must draw to stand for it."""


def plan_run_sheet(device: Device, rig: Rig, claims: Iterable[Claim]) -> RunSheet:
    """The run sheet of a device's claims on a rig."""
    return _Planner(device, rig, tuple(claims)).plan()


def run_sheet_of(audit: Audit) -> RunSheet:
    """The run sheet of an audit as it stands."""
    return plan_run_sheet(audit.device, audit.rig, audit.claims)


@dataclass(frozen=True)
class _Tried:
    """A claim with its port and the trial that tries it alone."""

    claim: Claim
    port: Port
    trial: PlannedTrial

    @property
    def goes_anywhere(self) -> bool:
        """It is promised whatever else runs: with no condition, for each port by itself, and not just "up to"."""
        return not self.claim.conditions and self.claim.joined is None and self.claim.promise.hedge is not Hedge.UP_TO


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
        every = [each for claim in self.claims for each in self._alone(claim, stand)]
        tried = [each for each in every if each.goes_anywhere]
        beside = [*self._beside_display(tried, stand), *self._while_others_draw(tried, stand, whole=True)]
        at_once, in_parts = self._at_once(tried, stand)
        promised = list(self._promised_at_once(stand))
        at_once += promised
        soaks = [_soaked(each.trial) for each in tried if each.claim.promise.soaks]
        in_reserve = [*in_parts, *self._while_others_draw(tried, stand, whole=False)]
        alone = [each.trial for each in every]
        direct = _merged(self._direct([*alone, *promised], stand))
        trials = _merged(chain(direct, alone, beside, at_once, soaks))
        spare = _merged(chain(self._direct([*at_once, *in_parts], stand), self._direct(soaks, stand), in_reserve))
        known = {trial.key for trial in trials}
        return RunSheet(trials, self.beyond, tuple(trial for trial in spare if trial.key not in known))

    def _alone(self, claim: Claim, stand: Stand) -> list[_Tried]:
        """The trial of a claim by itself, one for each port of a group that is tried port by port."""
        refused = self._cannot_be_tried(claim)
        if refused:
            self.beyond[claim.id] = refused
            return []
        host = claim.wants(ConditionKind.ON)
        if host and (stand_there := self._stand_at(host[0])) is None:
            self.beyond[claim.id] = f"needs the host {host[0]}, with a socket that the device's plug fits"
            return []
        stand = stand_there if host and stand_there else stand
        if claim.joined is Joined.TOGETHER and claim.promise.upstream_bps and not claim.conditions:
            return []  # measured all at once, as it is promised
        ports = claim.ports[:1] if claim.promise.of_group else claim.ports
        found = [self._one(claim, self._port(port), stand) for port in ports]
        return [each for each in found if each is not None]

    def _cannot_be_tried(self, claim: Claim) -> str:
        """Why no trial of it can be planned, whatever the rig; empty where one can."""
        if claim.device != self.device.id:
            return "trials are of the first device alone"
        missing = [port for port in claim.ports if not self.device.has(port)]
        if missing:
            return f"the device has no port {missing[0]}"
        upstream = self.device.first(Role.UPSTREAM)
        if claim.promise.procedure == ProcedureId.CHARGE and upstream is not None and claim.port != upstream.id:
            return f"what reaches the host is measured at its plug: say it of {upstream.id}"
        return ""

    def _port(self, port_id: str) -> Port:
        """The port, or what stands for the whole device."""
        return self.device.port(port_id) or Port(BODY, "")

    def _stand_at(self, name: str) -> Stand | None:
        """The device beside the host that a condition names, by its id or its name."""
        named = [host for host in self.rig.hosts if name.lower() in (host.id.lower(), host.name.lower())]
        found = host_for(replace(self.rig, hosts=tuple(named)), self.device.first(Role.UPSTREAM)) if named else None
        return Stand(self.device, self.rig, *found) if found else None

    def _one(self, claim: Claim, port: Port, stand: Stand) -> _Tried | None:
        """A claim tried at one port; None, with the reason put down, where the rig lacks something."""
        procedure, promise = procedure_of(claim.promise.procedure), claim.promise
        bare = procedure.by_eye and not promise.needs_gear
        choice = None if bare else self._choose(claim, port)
        if choice is None and not bare:
            return None
        gear = choice.gear.id if choice and not procedure.by_eye else DEVICE
        setup = procedure.on_device(stand, port, choice, promise.target)
        if setup is None:
            self.beyond[claim.id] = f"needs {promise.lacking}"
            return None
        under = self._under(claim, port, setup, stand)
        if under is None:
            return None
        spot = "+".join(claim.ports) if promise.of_group else port.id
        words = " ".join(map(str, claim.conditions))
        says = f"/{promise}" if procedure.by_eye else ""
        trial = PlannedTrial(
            key=f"{spot}/{procedure.name}{says or f'/{gear}'}{f'/{words}' if words else ''}",
            title=" ".join(filter(None, (spot, str(promise) if says else procedure.title, words))),
            why=f"promised: {claim}",
            procedure=procedure.id,
            claims=(claim.id,),
            setup=under,
            gear=gear,
            port=port.id,
            target=promise.target,
        )
        return _Tried(claim, port, trial)

    def _under(self, claim: Claim, port: Port, setup: SetUp, stand: Stand) -> SetUp | None:
        """The set-up with what conditions, and the other ports of a group, bring to it; None if the rig cannot."""
        at_work = [each for each in claim.conditions if each.kind is ConditionKind.WHILE]
        if claim.joined is Joined.TOGETHER and not claim.promise.of_group:
            others = (claim.sentence_of(other) for other in claim.ports if other != port.id)
            at_work += [Condition(ConditionKind.WHILE, words, (words.split()[0],)) for words in others]
        taken = _ids(setup)
        for each in at_work:
            found = self._at_work(each, taken)
            if found is None:
                self.beyond[claim.id] = f"needs more gear, for this meanwhile: {each.words}"
                return None
            taken |= {one.gear for one in found} | {one.lead for one in found if one.lead}
            setup = stand.beside(setup, found, (each.words,))
        return setup

    def _at_work(self, condition: Condition, taken: Taken) -> list[Plugged] | None:
        """What is plugged in where while another claim is at work; None where the gear does not go round."""
        claim = parse_claim(condition.words, claim_id="")
        plugged: list[Plugged] = []
        for port_id in claim.ports:
            port = self.device.port(port_id)
            choice = self._companion(claim, port, taken) if port else None
            if port is None or choice is None:
                return None
            taken |= choice.ids
            plugged.append(plugged_in(port, choice))
        return plugged

    def _companion(self, claim: Claim, port: Port, taken: Taken) -> Choice | None:
        """Gear that keeps a port at work: what draws the power, or what would prove the promise."""
        if claim.promise.procedure == ProcedureId.POWER_OUT:
            return self._drain(claim, port, taken)
        proof = best_proof(self.rig, claim.promise, port.connector, taken)
        return proof.choice if proof is not None and proof.margin >= 1 else None

    def _promised_at_once(self, stand: Stand) -> Iterable[PlannedTrial]:
        """Ports that a claim promises data of, all at once."""
        for claim in self.claims:
            data_of_all = claim.joined is Joined.TOGETHER and claim.promise.upstream_bps and not claim.conditions
            if not data_of_all or self._cannot_be_tried(claim):
                continue
            members = tuple(Member(claim, self._port(port), claim.promise.upstream_bps) for port in claim.ports)
            trial = self._group(members, stand)
            if trial is None:
                self.beyond[claim.id] = f"needs more gear: {claim.promise.lacking}, for each of {len(members)} ports"
            else:
                yield trial

    def _choose(self, claim: Claim, port: Port, taken: Taken = NOTHING_TAKEN) -> Choice | None:
        """The gear for a claim; None, with the reason put down, where the rig has none that proves it."""
        procedure = procedure_of(claim.promise.procedure)
        if procedure.id == ProcedureId.RULE and self.rig.rules:
            return Choice(self.rig.rules[0])
        at = inlet_of(self.device, port) if procedure.at_inlet else port
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
                setup = procedure.direct(stand, gear) if gear and procedure.direct else None
                if gear is None or setup is None:
                    continue
                direct = replace(
                    trial,
                    key=f"{DIRECT}/{procedure.name}/{gear.id}",
                    title=f"{gear.name}, direct",
                    why="the same gear without the device: what the rig itself can do",
                    procedure=procedure.id,
                    setup=setup,
                    gear=gear.id,
                    port=None,
                )
                yield _soaked(direct) if trial.setup.soaked_s else direct

    def _beside_display(self, tried: list[_Tried], stand: Stand) -> Iterable[PlannedTrial]:
        """What is promised whatever else runs, tried with a picture running."""
        displays = [each for each in tried if each.claim.promise.procedure == ProcedureId.DISPLAY]
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
            if each.claim.promise.procedure == ProcedureId.DISPLAY:
                choice = self._choose(each.claim, each.port, taken)
                if choice is not None:
                    return each.claim.sentence_of(each.port.id), plugged_in(each.port, choice)
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
            procedure=ProcedureId.TOGETHER,
            claims=tuple(member.claim.id for member in members),
            setup=stand.together(chosen, tuple(member.claim.sentence_of(member.port.id) for member in members)),
            gear=chosen[0][1].gear.id,
            port=ports[0],
        )

    def _while_others_draw(self, tried: list[_Tried], stand: Stand, *, whole: bool) -> Iterable[PlannedTrial]:
        """The host's watts while other ports give theirs: all of them, or in reserve each by itself."""
        for each in tried:
            if each.claim.promise.procedure != ProcedureId.CHARGE:
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
                            each.trial.setup, [plugged for _, plugged in others], tuple(words for words, _ in others)
                        ),
                    )

    def _drains(self, taken: Taken) -> list[tuple[str, Plugged]]:
        """A drain on every port that is said to give power, as far as the drains go round; and what is said."""
        found: dict[str, tuple[str, Plugged]] = {}
        for claim in self.claims:
            for port in (self.device.port(each) for each in claim.ports):
                if claim.promise.procedure != ProcedureId.POWER_OUT or port is None or port.id in found:
                    continue
                choice = self._drain(claim, port, taken)
                if choice is not None:
                    taken |= choice.ids
                    found[port.id] = claim.sentence_of(port.id), plugged_in(port, choice)
        return list(found.values())

    def _drain(self, claim: Claim, port: Port, taken: Taken) -> Choice | None:
        """Something on a port that draws what it is said to give, nearly."""
        enough = (drain for drain in self.rig.drains if drain.draws_w >= _DRAINS_ENOUGH * claim.promise.target)
        return first_reach(self.rig, enough, port.connector, taken)


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
    """The gear that a trial measures with, and the procedure that measures it direct."""
    procedure = procedure_of(trial.procedure)
    if procedure.all_at_once:
        ids = [plugged.gear for plugged in trial.setup.plugged if rig.find(plugged.gear) is not None]
        peers = {peer.id for peer in rig.peers}
        return [(gear, procedure_of(ProcedureId.NETWORK if gear in peers else ProcedureId.STORAGE)) for gear in ids]
    if procedure.by_eye:
        return []
    return [(trial.gear, procedure_of(procedure.baseline or procedure.id))]


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
