"""What every trial of one device on one rig shares: the choice of gear, and why a claim cannot be tried."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace

from auditra.core.claims.claim import ARRANGED_KINDS, Claim, Condition, ConditionKind
from auditra.core.claims.kinds.shows import Shows
from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Hedge
from auditra.core.links.charging import usual_socket_w
from auditra.core.links.display import parse_mode
from auditra.core.model.device import BODY, Device, Port, Role
from auditra.core.model.rig import Display, Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.port_groups import Member
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.procedure import Door
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.gear import (
    NOTHING_TAKEN,
    Choice,
    Taken,
    best_proof,
    first_reach,
    host_for,
    inlet_of,
    share_carried,
    sockets_for,
)  # fmt: skip
from auditra.core.wiring.setups import Stand, plugged_in

_MIN_SHARE_TRIED = 0.1
"""What this rig can show of a promise is worth a trial from here on, though it proves nothing of the rest."""
_DRAINS_ENOUGH = 0.9
"""The part of a promised power that a drain must draw to stand for it."""


@dataclass(frozen=True)
class Tried:
    """A claim with its port and the trial that tries it alone."""

    claim: Claim
    port: Port
    trial: PlannedTrial

    @property
    def goes_anywhere(self) -> bool:
        """It is promised whatever else runs: with no condition, for each port by itself, and not just "up to"."""
        return not self.claim.conditions and self.claim.joined is None and self.claim.promise.hedge is not Hedge.UP_TO


@dataclass
class Planning:
    """One device beside one host. `beyond` says of each claim that cannot be tried what is lacking."""

    device: Device
    rig: Rig
    claims: tuple[Claim, ...]
    stand: Stand
    beyond: dict[str, str] = field(default_factory=dict)
    pictures: list[Tried] = field(default_factory=list)
    """The claims of pictures that are promised whatever else runs, which others are tried beside."""

    def cannot_be_tried(self, claim: Claim) -> str:
        """Why no trial of it can be planned, whatever the rig; empty where one can."""
        missing = [port for port in claim.ports if not self.device.has(port)]
        if missing:
            return f"the device has no port {missing[0]}"
        upstream = self.device.first(Role.UPSTREAM)
        if claim.promise.procedure == ProcedureId.CHARGE and upstream is not None and claim.port != upstream.id:
            return f"power for the host is measured at the host plug: claim it for {upstream.id}"
        return ""

    def port(self, port_id: str) -> Port:
        """The port, or what stands for the whole device."""
        return self.device.port(port_id) or Port(BODY, "")

    def stand_at(self, name: str) -> Stand | None:
        """The device beside the host that a condition names, by its id or its name."""
        named = [host for host in self.rig.hosts if name.lower() in (host.id.lower(), host.name.lower())]
        found = host_for(replace(self.rig, hosts=tuple(named)), self.device.first(Role.UPSTREAM)) if named else None
        return Stand(self.device, self.rig, *found) if found else None

    def stand_of(self, setup: SetUp) -> Stand:
        """The device on the host and socket of a set-up."""
        host = self.rig.host(setup.host)
        socket = host.socket(setup.host_socket) if host is not None else None
        return Stand(self.device, self.rig, host, socket) if host is not None and socket is not None else self.stand

    def stand_for(self, claim: Claim) -> Stand:
        """The host socket that the claim is tried on: the one that everything is tried on where that carries it, else
        the one that carries most of it."""
        usual = share_carried(claim.promise, self.stand.socket)
        if usual >= 1:
            return self.stand
        every = sockets_for(self.rig, self.device.first(Role.UPSTREAM))
        best = max(every, key=lambda pair: share_carried(claim.promise, pair[1]), default=None)
        if best is None or share_carried(claim.promise, best[1]) <= usual:
            return self.stand
        return Stand(self.device, self.rig, *best)

    def other_stands(self, tried: Tried) -> Iterator[Stand]:
        """The device on each other host of the rig that carries as much of the claim as the one it is tried on, in
        the socket of it that carries most. What a lesser one shows says nothing of the device."""
        upstream, promise = self.device.first(Role.UPSTREAM), tried.claim.promise
        enough = share_carried(promise, self.stand_of(tried.trial.setup).socket)
        for host in self.rig.hosts:
            sockets = sockets_for(replace(self.rig, hosts=(host,)), upstream)
            if sockets and host.id != tried.trial.setup.host:
                best = max(sockets, key=lambda pair: (share_carried(promise, pair[1]), pair[1].data_bps))
                if share_carried(promise, best[1]) >= enough:
                    yield Stand(self.device, self.rig, *best)

    def choose(self, claim: Claim, port: Port, taken: Taken = NOTHING_TAKEN) -> Choice | None:
        """The gear for a claim; None, with the reason in `beyond`, where the rig has none that proves it."""
        procedure = procedure_of(claim.promise.procedure)
        if procedure.id == ProcedureId.RULE and self.rig.rules:
            return Choice(self.rig.rules[0])
        at = inlet_of(self.device, port) if procedure.at_inlet else port
        in_use = self.stand.lead_taken if procedure.door is Door.INSTRUMENTS else self.stand.taken
        proof = best_proof(self.rig, claim.promise, at.connector, taken | in_use) if at else None
        if proof is not None and proof.margin >= 1:
            return proof.choice
        if not taken:
            most = f"; this rig reaches {proof.margin:.0%} of it" if proof else ""
            self.beyond[claim.id] = f"needs {claim.promise.lacking}{most}"
            if proof is not None and proof.margin >= _MIN_SHARE_TRIED and not claim.promise.forbids:
                return proof.choice
        return None

    def under_conditions(self, claim: Claim, port: Port, setup: SetUp, stand: Stand) -> SetUp | None:
        """The set-up with what conditions, and the other ports of a group, bring to it; None if the rig cannot."""
        at_work = [condition for condition in claim.conditions if condition.kind is ConditionKind.WHILE]
        if claim.is_of_all_ports:
            others = (claim.sentence_of(other) for other in claim.ports if other != port.id)
            at_work += [Condition(ConditionKind.WHILE, words, (words.split()[0],)) for words in others]
        taken = ids_of(setup)
        for condition in at_work:
            found = self._at_work(condition, taken)
            if found is None:
                self.beyond[claim.id] = f'needs more gear to run "{condition.words}" at the same time'
                return None
            taken |= {one.gear for one in found} | {one.lead for one in found if one.lead}
            setup = stand.beside(setup, found, (condition.words,))
        arranged = tuple(str(each) for each in claim.conditions if each.kind in ARRANGED_KINDS)
        return replace(setup, arranged=arranged)

    def _at_work(self, condition: Condition, taken: Taken) -> list[Plugged] | None:
        """What is plugged in where while another claim is at work; None where the gear does not suffice."""
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

    def display(self, tried: list[Tried], taken: Taken) -> tuple[str, Plugged] | None:
        """A display that can run beside other trials: the claim it is run for, and how it is connected."""
        pictures = [each for each in tried if each.claim.promise.procedure == ProcedureId.DISPLAY]
        for each in pictures:
            choice = self.choose(each.claim, each.port, taken)
            if choice is not None:
                return each.claim.sentence_of(each.port.id), plugged_in(each.port, choice)
        return next((found for each in pictures if (found := self._lesser_picture(each, taken)) is not None), None)

    def _lesser_picture(self, tried: Tried, taken: Taken) -> tuple[str, Plugged] | None:
        """What the best display of the rig can show at an output that is promised more pixels; None for nothing."""
        promise = tried.claim.promise
        in_use = taken | self.stand.taken
        proof = best_proof(self.rig, promise, tried.port.connector, in_use) if isinstance(promise, Shows) else None
        display = proof.choice.gear if proof is not None else None
        if proof is None or not isinstance(display, Display) or not isinstance(promise, Shows):
            return None
        most = promise.mode.pixels_a_second
        modes = [mode for mode in map(parse_mode, display.modes) if mode.pixels_a_second <= most]
        best = max(modes, key=lambda mode: mode.pixels_a_second, default=None)
        return (f"{tried.port.id} {promise.at_mode(best)}", plugged_in(tried.port, proof.choice)) if best else None

    def picture_beside(self, trial: PlannedTrial) -> tuple[str, Plugged] | None:
        """A picture that can run beside a trial: its claim and how it is connected; None where nothing is free."""
        found = self.display(self.pictures, ids_of(trial.setup))
        in_use = found is not None and trial.setup.gear_at(found[1].socket) is not None
        return None if found is None or in_use or found[1].socket == trial.port else found

    def drains(self, taken: Taken, *, one_by_one: bool = False) -> list[tuple[str, Plugged]]:
        """A drain on every port that promises power, as far as the drains suffice; each with its claim.

        Or for each of these ports by itself, where the same drain may do for several.
        """
        found: dict[str, tuple[str, Plugged]] = {}
        for claim, port in self._giving_ports():
            choice = self._drain(claim, port, taken) if port.id not in found else None
            if choice is not None:
                taken = taken if one_by_one else taken | choice.ids
                found[port.id] = claim.sentence_of(port.id), plugged_in(port, choice)
        return list(found.values())

    def with_all_drawing(self, claim: Claim, setup: SetUp, stand: Stand) -> SetUp | None:
        """What an inlet takes shows only while everything behind it draws; None where the rig lacks what does.

        Sockets that give no more than any of their kind may stay idle: that much is allowed for.
        """
        giving = {
            port.id for given, port in self._giving_ports() if given.promise.target > usual_socket_w(port.connector)
        }
        drawing = self.drains(ids_of(setup))
        lacking = sorted(giving - {plugged.socket for _, plugged in drawing})
        if lacking and not claim.conditions:
            self.beyond[claim.id] = f"needs something that draws its power from {' and '.join(lacking)} meanwhile"
            return None
        others = self._drains_besides([plugged for _, plugged in drawing], setup)
        return stand.beside(
            setup, [*(plugged for _, plugged in drawing), *others], tuple(words for words, _ in drawing)
        )  # fmt: skip

    def _drains_besides(self, drawing: Iterable[Plugged], setup: SetUp) -> list[Plugged]:
        """What is left of the drains, on sockets that promise no power and may still be kept some: the hungriest."""
        plugged = list(drawing)
        idle = [port for port in self.device.ports() if port.role is Role.DOWNSTREAM and usual_socket_w(port.connector)
                and port.id not in {each.socket for each in plugged}]  # fmt: skip
        found: list[Plugged] = []
        for port in sorted(idle, key=lambda port: -usual_socket_w(port.connector)):
            taken = ids_of(setup) | {part for each in (*plugged, *found) for part in (each.gear, each.lead) if part}
            choice = first_reach(self.rig, self.rig.drains, port.connector, taken)
            found += [plugged_in(port, choice)] if choice is not None else []
        return found

    def _giving_ports(self) -> Iterator[tuple[Claim, Port]]:
        for claim in self.claims:
            for port_id in claim.ports if claim.promise.procedure == ProcedureId.POWER_OUT else ():
                if (port := self.device.port(port_id)) is not None:
                    yield claim, port

    def _drain(self, claim: Claim, port: Port, taken: Taken) -> Choice | None:
        """Something on a port that draws what it promises, nearly."""
        enough = (drain for drain in self.rig.drains if drain.draws_w >= _DRAINS_ENOUGH * claim.promise.target)
        return first_reach(self.rig, enough, port.connector, taken)

    def group(self, members: tuple[Member, ...]) -> PlannedTrial | None:
        """The members measured in turn while the others are kept busy; None where the gear does not suffice."""
        taken: Taken = NOTHING_TAKEN
        chosen: list[tuple[Port, Choice]] = []
        for member in members:
            choice = self.choose(member.claim, member.port, taken)
            if choice is None:
                return None
            taken |= choice.ids
            chosen.append((member.port, choice))
        ports = [port.id for port, _ in chosen]
        return PlannedTrial(
            title=f"{', '.join(ports[:-1])} and {ports[-1]} at once",
            why="do these ports slow each other down?",
            procedure=ProcedureId.TOGETHER,
            claims=tuple(member.claim.id for member in members),
            setup=self.stand.together(chosen, tuple(member.claim.sentence_of(member.port.id) for member in members)),
            gear=chosen[0][1].gear.id,
            port=ports[0],
        )


def ids_of(setup: SetUp) -> Taken:
    """All gear and leads of a set-up."""
    return frozenset(
        part for plugged in setup.plugged for part in (plugged.gear, plugged.lead, *plugged.through) if part is not None
    )
