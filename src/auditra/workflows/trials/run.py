"""Run a trial: plug moves, measuring, every reading on disk before anyone is told."""

from __future__ import annotations

import importlib
import importlib.util
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from functools import cache
from itertools import takewhile

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import Look
from auditra.core.errors import BenchError, FactRefused, TrialStopped
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact, ReadingTaken, TrialBegun, TrialEnded
from auditra.core.model.device import BODY, DEVICE
from auditra.core.model.reading import Count, Grade, Quantity, Reading
from auditra.core.model.rig import Display, Rig
from auditra.core.model.trial import Outcome, Trial
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.procedure import Door, Procedure
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.moves import Action as Move
from auditra.core.wiring.moves import PlugMove
from auditra.workflows.audits.recording import Action, record_action
from auditra.workflows.hosts.host_evidence import facts_of_host
from auditra.workflows.hosts.plug_watch import watch_moves
from auditra.workflows.trials import measure
from auditra.workflows.trials.doors import Bench, Journal, Watcher
from auditra.workflows.trials.measure.at_work import instruments_answer
from auditra.workflows.trials.measure.battery import require_room_in_battery
from auditra.workflows.trials.measure.by_hand import measure_by_hand
from auditra.workflows.trials.measure.display import PICTURE_WITHIN_S
from auditra.workflows.trials.measure.look import THE_EYE, ask_besides
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.waiting import earlier_soak, soak_by_hand
from auditra.workflows.trials.measure.warmth import COOLS_UNSEEN_S, let_cool
from auditra.workflows.trials.picture_watch import PictureWatch, watch_pictures


def trial_of(planned: PlannedTrial, audit: Audit, bench: str) -> Trial:
    """The next trial of an audit, carrying out a planned one on a bench."""
    return Trial(
        id=f"T{audit.begun_trials + 1}",
        procedure=planned.procedure,
        claims=planned.claims,
        setup=planned.setup,
        gear=planned.gear,
        port=planned.port,
        target=planned.target,
        bench=bench,
    )


def run_trial(planned: PlannedTrial, audit: Audit, bench: Bench, journal: Journal, watcher: Watcher) -> Outcome:
    """Do one trial. What was taken stays taken, however it ends.

    Raises: StoreError when no more trials can be taken; a BenchError ends the trial as failed and is raised on, with
    the trial as repeatable as before.
    """

    def begin(newest: Audit) -> Action:
        begun = trial_of(planned, newest, bench.name)
        return begun.id, (TrialBegun(begun),)

    def record(facts: Iterable[Fact]) -> None:
        facts = tuple(facts)
        journal.append(facts, action=trial, at=bench.clock.moment())
        for fact in facts:
            watcher.taken(fact)

    loop = _loop_for(planned, audit.rig, bench)
    moves = planned.moves_in(audit)
    watcher.begun(planned, moves)
    if _is_warm(audit, planned, bench.clock.moment()):
        let_cool(bench, watcher.progress)
    pulls = tuple(takewhile(lambda move: move.action is Move.PULL, moves))
    pictures = watch_pictures(planned, moves, audit, bench)
    _have_made(pulls, audit, bench, pictures)
    before, snapshot = bench.kernel.links(), bench.kernel.snapshot()
    _have_made(moves[len(pulls) :], audit, bench, pictures)
    pictures.look_on()
    trial, begun = record_action(begin, journal, bench.clock)
    watcher.taken(begun[0])
    record(pictures.events(trial))
    claims = [claim for claim in audit.claims if claim.id in planned.claims]
    session = TrialSession(
        trial, planned, audit.rig, bench, before, audit.device_of(planned.setup.device),
        take=lambda *readings: record(map(ReadingTaken, readings)),
        put=lambda fact: record([fact]),
        watch=watcher.progress,
        device_came=any(move.action is Move.PLUG and move.what.gear == DEVICE for move in moves),
        scales=tuple(scale for claim in claims if (scale := claim.promise.scale()) is not None),
        stayed=planned.tested - {move.what.gear for move in moves},
        earlier_soak=earlier_soak(planned, audit),
        looks=tuple(_about(claim, look) for claim in claims
                    if (look := claim.promise.look(_spot(planned, claim))) is not None),
        looks_besides=tuple(
            _about(claim, look) for claim in claims for look in claim.promise.looks_besides(_spot(planned, claim))
        ),
        tried_at={each.path.drive.name: each.trial.port for each in audit.trials
                  if each.path is not None and each.path.drive is not None and each.trial.port is not None},
    )  # fmt: skip
    try:
        _require_running(session)
        require_room_in_battery(session)
        if planned.setup.soaked_s and loop is not measure_by_hand and not procedure_of(planned.procedure).soaks:
            soak_by_hand(session)
        outcome = loop(session)
        if outcome is Outcome.COMPLETE:
            ask_besides(session)
    except (BenchError, FactRefused) as error:
        stopped = isinstance(error, TrialStopped)
        ended = TrialEnded(trial, Outcome.STOPPED if stopped else Outcome.FAILED, str(error))
        record((*facts_of_host(session, snapshot, bench.kernel.snapshot(), journal), ended))
        raise
    record((*facts_of_host(session, snapshot, bench.kernel.snapshot(), journal), TrialEnded(trial, outcome)))
    return outcome


def _have_made(moves: Sequence[PlugMove], audit: Audit, bench: Bench, pictures: PictureWatch) -> None:
    """Have the person make these moves; where the host sees them done, that is enough."""
    device = audit.device_of(moves[0].device) if moves else audit.device
    bench.person.make(moves, pictures.meanwhile(watch_moves(moves, audit.rig, device, bench.kernel)))


def _loop_for(planned: PlannedTrial, rig: Rig, bench: Bench) -> Callable[[TrialSession], Outcome]:
    """How a trial is measured on a bench; where a door is missing, a person reads elsewhere and types.

    Raises: InstrumentError where the instrument that it needs does not answer: better known before the hands move.
    """
    procedure = procedure_of(planned.procedure)
    loop = _loop_of(procedure)
    return loop if loop is not None and _has_door(procedure.door, planned, rig, bench) else measure_by_hand


def _has_door(door: Door, planned: PlannedTrial, rig: Rig, bench: Bench) -> bool:
    """Raises: InstrumentError where an instrument does not answer."""
    match door:
        case Door.NONE:
            return True
        case Door.INSTRUMENTS:
            return instruments_answer(planned.setup, rig, bench)
        case Door.PEERS:
            return bench.peers is not None and bench.peers.serves(planned.gear)
        case _:
            return getattr(bench, door.value) is not None


@cache
def _loop_of(procedure: Procedure) -> Callable[[TrialSession], Outcome] | None:
    """`measure` of the module that is named as the procedure, or as it says; None where there is no such module."""
    name = f"{measure.__name__}.{procedure.loop or procedure.name}"
    if importlib.util.find_spec(name) is None:
        return None
    loop: Callable[[TrialSession], Outcome] = importlib.import_module(name).measure
    return loop


def _about(claim: Claim, look: Look) -> Look:
    return replace(look, about=claim.promise.words)


def _spot(planned: PlannedTrial, claim: Claim) -> str:
    """How questions name the place: the port or ports, the device, or the gear without it."""
    if planned.port is None:
        return "the host itself"
    ports = claim.ports if claim.promise.of_group else planned.identity.at
    return "the device" if planned.port == BODY else " and ".join(ports)


def _is_warm(audit: Audit, planned: PlannedTrial, now: datetime) -> bool:
    """The device was at full load for long, not long enough ago, and this trial does not go on with that."""
    cools = timedelta(seconds=COOLS_UNSEEN_S)
    soaked = (each for each in audit.trials if each.trial.setup.soaked_s and each.trial.port is not None)
    lately = any(each.ended_at is None or now - each.ended_at < cools for each in soaked)
    return lately and planned.port is not None and earlier_soak(planned, audit) is None


def _require_running(session: TrialSession) -> None:
    """A display that is to run beside the trial has a picture. Raises: BenchError where it has none."""
    for plugged in session.planned.setup.plugged:
        gear = session.rig.find(plugged.gear)
        is_off = plugged.gear in session.planned.setup.switched_off
        if isinstance(gear, Display) and gear.id != session.planned.gear and plugged.owner == DEVICE and not is_off:
            displays = session.bench.displays
            if displays is None:
                _ask_for_picture(session, plugged.socket)
                continue
            look = f"waiting for the picture on {plugged.socket}"
            if session.wait_for(lambda: displays.mode_of(gear.id), look, PICTURE_WITHIN_S) is None:  # noqa: B023
                raise _no_picture(session, plugged.socket)


def _ask_for_picture(session: TrialSession, socket: str) -> None:
    """Where no display can be read back, the person looks. Raises: BenchError where there is no picture."""
    if not session.ask_yes_or_no(f"Is there a picture on {socket}?"):
        raise _no_picture(session, socket)


def _no_picture(session: TrialSession, socket: str) -> BenchError:
    why = f"this trial needs a picture on {socket} at the same time, and there is none"
    return BenchError(f"trial {session.trial}", why=why, do="Check the display, then start the trial again")


def facts_of_absence(planned: PlannedTrial, audit: Audit, bench: str) -> Action:
    """The gear did not appear, as seen by eye: the name of the action, and its facts."""
    trial = trial_of(planned, audit, bench)
    reading = Reading(trial.id, Quantity.APPEARED, planned.place, THE_EYE, Grade.SEEN, Count(0, 1))
    return trial.id, (TrialBegun(trial), ReadingTaken(reading), TrialEnded(trial.id, Outcome.DID_NOT_APPEAR))
