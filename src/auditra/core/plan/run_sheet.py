"""The run sheet: the trials that claims need on this rig, in order, and what is lacking for the rest.

It is derived from claims and rig whenever it is asked for; it is never stored.
"""

from __future__ import annotations

from collections.abc import Container, Iterable
from dataclasses import dataclass, replace
from functools import cached_property

from auditra.core.claims.claim import Claim
from auditra.core.decide.counts import MIN_TRIES_THAT_ACCUSE
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.model.circumstance import Circumstances
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.rig import Display
from auditra.core.model.setup import MINUTE_S, SetUp
from auditra.core.model.trial import DIRECT, Outcome, Trial, TrialIdentity
from auditra.core.plan.plugs import LEAST_PLUGS, times_plugged
from auditra.core.procedures.identity import identity_of, identity_text
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.moves import PlugMove, moves_between
from auditra.core.wiring.trial_profile import departures_of


@dataclass(frozen=True)
class PlannedTrial:
    """One trial to be done: what stands plugged, with what it is measured, and for which claims."""

    title: str
    why: str
    procedure: str
    claims: tuple[str, ...]
    setup: SetUp
    gear: str
    port: str | None
    target: float = 0.0
    depth: Depth = Depth.QUICK
    """The sheet that has it first."""
    may_stay: frozenset[str] = frozenset()
    """The gear under trial that the host recognises where it is, so that it need not be plugged in again."""
    extra_s: float = 0.0
    """What it takes beside plug moves and the trial itself, in seconds."""

    @cached_property
    def identity(self) -> TrialIdentity:
        """What a repeat of it is known by."""
        return identity_of(self)

    @cached_property
    def key(self) -> str:
        """Its identity in words."""
        return identity_text(self.identity)

    def moves_from(self, standing: SetUp | None) -> tuple[PlugMove, ...]:
        """What the hands do before it, from what is connected."""
        return moves_between(standing, self.setup, self.tested, self.may_stay)

    def moves_in(self, audit: Audit) -> tuple[PlugMove, ...]:
        """The same from where an audit stands. Gear is plugged in again after a trial that did not end well, where its
        port has been plugged into fewer than three times, and for a repeat where only the hands know its place."""
        last = audit.trials[-1] if audit.trials else None
        is_well = last is not None and last.trial.setup == audit.last_setup and last.outcome is Outcome.COMPLETE
        stays = self.may_stay - self._plugged_seldom(audit) if is_well else frozenset()
        unseen = self._known_to_hands_alone(audit) | self._screens_once_more(audit)
        return moves_between(audit.last_setup, self.setup, self.tested, stays, unseen)

    def _known_to_hands_alone(self, audit: Audit) -> frozenset[str]:
        """What no host sees, for a repeat: a load that a slip put into another socket would stay there."""
        procedure = procedure_of(self.procedure)
        is_seen = procedure.host_sees_it or procedure.all_at_once or procedure.by_eye
        if is_seen or all(each.identity != self.identity for each in audit.trials):
            return frozenset()
        return frozenset(each.gear for each in self.setup.plugged if each.owner == DEVICE)

    def _screens_once_more(self, audit: Audit) -> frozenset[str]:
        """Several displays in alike sockets, for one more trial of a promise with the same ones: the host sees each of
        them, and not in which socket it is."""
        shown = {
            each for each in self.setup.plugged
            if each.owner == DEVICE and isinstance(audit.rig.find(each.gear), Display)
            and _has_alike(audit.device_of(self.setup.device), each.socket)
        }  # fmt: skip
        earlier = (each.trial for each in audit.trials if each.trial.port == self.port)
        again = any(shown <= set(each.setup.plugged) and set(self.claims) & set(each.claims) for each in earlier)
        return frozenset(each.gear for each in shown) if again and len(shown) > 1 else frozenset()

    def _plugged_seldom(self, audit: Audit) -> frozenset[str]:
        procedure = procedure_of(self.procedure)
        if not (procedure.host_sees_it or procedure.all_at_once):
            return frozenset()
        trials = [each for each in audit.trials if each.trial.setup.device == self.setup.device]
        return frozenset(
            each.gear
            for each in self.setup.plugged
            if each.owner == DEVICE and each.gear in self.may_stay
            and 0 < times_plugged(trials, each.socket) < LEAST_PLUGS
        )  # fmt: skip

    @property
    def place(self) -> str:
        """The port that it is of, or DIRECT."""
        return self.port or DIRECT

    @property
    def tested(self) -> frozenset[str]:
        """The gear whose appearance the trial waits for."""
        procedure = procedure_of(self.procedure)
        if procedure.by_eye:
            return frozenset()
        if not procedure.all_at_once:
            return frozenset({self.gear})
        return frozenset(each.gear for each in self.setup.members)

    def soaked(self, seconds: float, why: str = "does heat slow it down?") -> PlannedTrial:
        """The same after so long at full load."""
        words = f"after {seconds / MINUTE_S:.0f} min"
        return replace(
            self,
            title=f"{self.title}, {words}",
            why=why,
            setup=replace(self.setup, soaked_s=seconds),
        )


def _has_alike(device: Device, socket: str) -> bool:
    """Whether a plug for one socket fits another one of the same role."""
    own = device.port(socket)
    return own is not None and any(
        (each.connector, each.role) == (own.connector, own.role) and each is not own for each in device.ports()
    )


@dataclass(frozen=True)
class RunSheet:
    """The trials in order; and for claims that no trial on this rig can show, what is lacking.

    Those in reserve are done only where an answer needs them: to part two explanations, or as a direct one.
    """

    trials: tuple[PlannedTrial, ...]
    """Down to a full sheet, and to a forensic one where that is wanted."""
    beyond_rig: dict[str, str]
    reserve: tuple[PlannedTrial, ...] = ()
    own: tuple[PlannedTrial, ...] = ()
    """What the reviewer added. Each is done once just its set-up was tried; no claim waits for it."""

    @property
    def all_trials(self) -> tuple[PlannedTrial, ...]:
        """Those that claims need, then those that the reviewer added."""
        return (*self.trials, *self.own)

    def circumstances_of(self, claim: Claim, *, in_reserve: bool = False) -> tuple[Circumstances, ...]:
        """What is special about each set-up that a claim is promised and is, or could be, tried under; none direct."""
        by_claim = self._reserve_by_claim if in_reserve else self._trials_by_claim
        trials = (trial for trial in by_claim.get(claim.id, ()) if not trial.setup.unpromised)
        return tuple(circumstances_for(claim, trial) for trial in trials)

    def unpromised_for(self, claim: Claim) -> tuple[Circumstances, ...]:
        """The same for set-ups in which nobody promises it: what fails there costs nothing, and is worth knowing."""
        trials = (trial for trial in self._trials_by_claim.get(claim.id, ()) if trial.setup.unpromised)
        return tuple(circumstances_for(claim, trial) for trial in trials)

    def down_to(self, depth: Depth) -> tuple[PlannedTrial, ...]:
        """Those of its trials that a sheet of this depth has."""
        return tuple(trial for trial in self.trials if trial.depth in depth.includes)

    @cached_property
    def _trials_by_claim(self) -> dict[str, list[PlannedTrial]]:
        """What is asked of a verdict is what a full sheet has, however deep the reviewer goes."""
        return _by_claim(self.down_to(Depth.FULL))

    @cached_property
    def _reserve_by_claim(self) -> dict[str, list[PlannedTrial]]:
        return _by_claim(self.reserve)

    def trial(self, identity: TrialIdentity) -> PlannedTrial | None:
        """The planned trial that has this identity; None where none has."""
        return self._by_identity.get(identity)

    @cached_property
    def _by_identity(self) -> dict[TrialIdentity, PlannedTrial]:
        return {trial.identity: trial for trial in (*self.own, *self.reserve, *self.trials)}


def _by_claim(trials: Iterable[PlannedTrial]) -> dict[str, list[PlannedTrial]]:
    """The trials through the device, by the claims that they are for."""
    found: dict[str, list[PlannedTrial]] = {}
    for trial in trials:
        for claim in trial.claims if trial.port is not None else ():
            found.setdefault(claim, []).append(trial)
    return found


def circumstances_for(claim: Claim, trial: PlannedTrial | Trial) -> Circumstances:
    """What is special about a trial's set-up for a claim; of a group, also which of its ports is tried by itself."""
    whole = procedure_of(trial.procedure).all_at_once or claim.promise.of_group
    departures = departures_of(trial.setup) if trial.setup.departs else ()
    return (*claim.circumstances_in(trial.setup, trial.port, whole_group=whole), *departures)


def still_to_do(
    sheet: RunSheet,
    trials: Iterable[TrialRecord],
    skipped: Container[TrialIdentity] = (),
    depth: Depth = Depth.FORENSIC,
) -> tuple[PlannedTrial, ...]:
    """The planned trials that are neither done nor skipped. One whose gear did not appear is owed until enough tries
    accuse."""
    outcomes: dict[TrialIdentity, list[Outcome | None]] = {}
    tried: dict[tuple[object, ...], list[Outcome | None]] = {}
    for record in trials:
        outcomes.setdefault(record.identity, []).append(record.outcome)
        if sheet.own:
            tried.setdefault(_wiring(record.trial), []).append(record.outcome)
    owed = (planned for planned in sheet.down_to(depth) if not _is_done(outcomes.get(planned.identity, [])))
    own = (planned for planned in sheet.own if not _is_done(tried.get(_wiring(planned), [])))
    return tuple(planned for planned in (*owed, *own) if planned.identity not in skipped)


def _wiring(trial: PlannedTrial | Trial) -> tuple[object, ...]:
    """All that an own trial says: another lead makes another one, which no repeat of a planned trial stands for."""
    return trial.procedure, trial.port, trial.gear, trial.setup


def _is_done(outcomes: list[Outcome | None]) -> bool:
    return Outcome.COMPLETE in outcomes or outcomes.count(Outcome.DID_NOT_APPEAR) >= MIN_TRIES_THAT_ACCUSE
