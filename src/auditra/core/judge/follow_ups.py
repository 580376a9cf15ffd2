"""The next trials that answers need: a baseline that is missing, two explanations to be parted, a failure seen once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Container, Iterable, Iterator, Sequence
from itertools import chain

from auditra.core.claims.observed import Figure, Working
from auditra.core.decide.counts import APPEARS, MIN_TRIES_THAT_ACCUSE
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict, SetUpVerdict
from auditra.core.judge.separation import separating
from auditra.core.judge.verdicts import times_that_separate
from auditra.core.model.circumstance import Aspect, Circumstances
from auditra.core.model.trial import Outcome, ProcedureId, TrialIdentity
from auditra.core.model.verdict import Verdict
from auditra.core.plan.plugs import LEAST_PLUGS, times_plugged
from auditra.core.plan.poor_gear import poor_leads
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet, circumstances_for
from auditra.core.procedures.procedure import Door
from auditra.core.procedures.registry import procedure_of

MOST_REPEATS = 6
"""Trials of one set-up that still say different things by then will go on to: that is what there is to be told."""
MOST_PLUGS = 10
"""What comes up in one of so many tries works less than half the time for sure (Wilson), with one to spare. Nothing is
asked for more often."""
_LEADS = frozenset({Aspect.LEAD, Aspect.HOST_LEAD})


def follow_ups(
    verdicts: Iterable[ClaimVerdict], sheet: RunSheet, records: Iterable[TrialRecord]
) -> tuple[PlannedTrial, ...]:
    """Trials to be done besides the run sheet, each once; nothing where no answer waits for one."""
    records = tuple(records)
    unseen = Counter(record.identity for record in records if record.outcome is Outcome.DID_NOT_APPEAR)
    done = {record.identity for record in records if record.outcome is Outcome.COMPLETE}
    done |= {identity for identity, times in unseen.items() if times >= MIN_TRIES_THAT_ACCUSE}
    poor, tried = poor_leads(records), Counter(record.identity for record in records)
    wanted: dict[TrialIdentity, PlannedTrial] = {}
    for verdict in verdicts:
        asked = (
            _baselines(verdict, sheet, done), _that_separate(verdict, sheet, done, tried),
            _repeats(verdict, sheet, tried), _directs_again(verdict, sheet, records), _with_less(verdict, sheet, done),
            _other_leads(verdict, sheet, done, poor), _second_look(verdict, sheet), _fed_too(verdict, sheet, done),
            _plugged_seldom(verdict, sheet, records),
        )  # fmt: skip
        for trial in chain.from_iterable(asked):
            if tried[trial.identity] < MOST_PLUGS:
                wanted.setdefault(trial.identity, trial)
    return tuple(wanted.values())


def _baselines(verdict: ClaimVerdict, sheet: RunSheet, done: set[TrialIdentity]) -> Iterator[PlannedTrial]:
    """The direct trials in reserve, for set-ups that cannot be decided without one."""
    for set_up in verdict.set_ups:
        if set_up.verdict is Verdict.UNPROVEN and set_up.trials and (planned := _planned(verdict, set_up, sheet)):
            gear = planned.setup.gear_at(verdict.claim.port) or planned.gear
            for trial in sheet.reserve:
                same = trial.gear == gear and trial.setup.soaked_s == planned.setup.soaked_s
                of_socket = _is_of_its_socket(trial, planned)
                if trial.port is None and (same or of_socket) and trial.identity not in done:
                    yield trial


def _is_of_its_socket(trial: PlannedTrial, planned: PlannedTrial) -> bool:
    """A drive direct that shows what the host's socket of a network trial carries."""
    there = [(each.setup.host, each.setup.host_socket) for each in (trial, planned)]
    return (trial.procedure, planned.procedure) == (ProcedureId.STORAGE, ProcedureId.NETWORK) and there[0] == there[1]


def _repeats(verdict: ClaimVerdict, sheet: RunSheet, tried: Counter[TrialIdentity]) -> Iterator[PlannedTrial]:
    """Set-ups whose trials disagree, or in which gear came up too seldom for a few tries to tell; not without end,
    even where a trial comes out as one of another set-up.
    """
    for set_up in verdict.set_ups:
        most = MOST_PLUGS if _comes_up_seldom(verdict, set_up) else MOST_REPEATS if set_up.disagrees else 0
        planned = _planned(verdict, set_up, sheet) if len(set_up.trials) < most else None
        if planned is not None and tried[planned.identity] < most:
            yield planned


def _comes_up_seldom(verdict: ClaimVerdict, set_up: SetUpVerdict) -> bool:
    """It appears, or works, too seldom for so few tries to tell whether that is less often than elsewhere."""
    promise = verdict.claim.promise
    counts_by_eye = isinstance(promise, Working) and verdict.verdict is not Verdict.HOLDS
    counted = {APPEARS, promise.words} if counts_by_eye else {APPEARS}
    return any(part.name in counted and part.verdict is Verdict.TOO_CLOSE for part in set_up.parts)


def _directs_again(verdict: ClaimVerdict, sheet: RunSheet, records: Sequence[TrialRecord]) -> Iterator[PlannedTrial]:
    """The same gear without the device as well, half as often: that it came up once there shows little."""
    for set_up in verdict.set_ups:
        planned = _planned(verdict, set_up, sheet) if _comes_up_seldom(verdict, set_up) else None
        gear = planned.setup.gear_at(verdict.claim.port) if planned is not None else None
        direct = next((each for each in sheet.trials if each.port is None and each.gear == gear), None)
        if direct is None or len(set_up.trials) >= MOST_PLUGS:
            continue
        times = sum(each.identity == direct.identity and each.outcome is Outcome.COMPLETE for each in records)
        if 2 * times < len(set_up.trials):
            yield direct


def _second_look(verdict: ClaimVerdict, sheet: RunSheet) -> Iterator[PlannedTrial]:
    """A claim is accused on a single trial: the same once more, with everything plugged in again; and a figure read
    off once more. Hands slip, on plugs and on keys.
    """
    failing = verdict.failing
    if verdict.verdict.accuses and sum(len(each.trials) for each in failing) == 1:
        planned = _planned(verdict, failing[0], sheet)
        is_figure = isinstance(verdict.claim.promise, Figure)
        if planned is not None and (is_figure or procedure_of(planned.procedure).door is not Door.NONE):
            yield planned


def _plugged_seldom(verdict: ClaimVerdict, sheet: RunSheet, records: Sequence[TrialRecord]) -> Iterator[PlannedTrial]:
    """A socket that works, and was plugged into only once or twice: gear that comes up now and then would pass for
    sound.
    """
    tried = [each for each in verdict.set_ups if each.trials]
    if verdict.verdict is not Verdict.HOLDS or not tried:
        return
    planned = _planned(verdict, tried[0], sheet)
    if planned is not None and procedure_of(planned.procedure).door is Door.TARGETS:
        of_claim = {name for each in tried for name in each.trials}
        if sum(each.identity == planned.identity for each in records) >= MOST_REPEATS:
            return
        if times_plugged((each for each in records if each.trial.id in of_claim), verdict.claim.port) < LEAST_PLUGS:
            yield planned


def _other_leads(
    verdict: ClaimVerdict, sheet: RunSheet, done: set[TrialIdentity], poor: Container[str]
) -> Iterator[PlannedTrial]:
    """Other leads, and the same lead by itself, where nothing decides because the lead may be to blame, or is."""
    undecided = verdict.verdict is Verdict.UNPROVEN and any(
        any(part.low for part in each.parts) or _has_poor_lead(verdict, each, sheet, poor)
        for each in verdict.set_ups if each.verdict is Verdict.UNPROVEN
    )  # fmt: skip
    for trial in sheet.reserve if undecided else ():
        of_claim = verdict.claim.id in trial.claims and trial.identity not in done
        if of_claim and _LEADS & set(trial.setup.departs) and not trial.setup.soaked_s:
            yield trial


def _has_poor_lead(verdict: ClaimVerdict, set_up: SetUpVerdict, sheet: RunSheet, poor: Container[str]) -> bool:
    planned = _planned(verdict, set_up, sheet)
    return planned is not None and any(each.lead in poor for each in planned.setup.plugged)


def _that_separate(
    verdict: ClaimVerdict, sheet: RunSheet, done: set[TrialIdentity], tried: Counter[TrialIdentity]
) -> Iterator[PlannedTrial]:
    """What is lacking to tell what separates the set-ups that fail from those that hold; a trial that comes out as one
    of another set-up, because its lead was replaced meanwhile, is not repeated without end.
    """
    failing = [set_up for set_up in verdict.set_ups if set_up.verdict.accuses]
    holding = [each for each in verdict.set_ups if each.verdict is Verdict.HOLDS or each.reached_the_rigs_end]
    found = separating([each.seen for each in failing], [each.seen for each in holding])
    if verdict.unless or not found:
        return
    parts = tuple(_parts_of(verdict, failing, sheet, done))
    alone = [part for part in parts if set(circumstances_for(verdict.claim, part)) == set(found[0])]
    if len(found) > 1 or alone:
        yield from alone or parts or _host_or_its_lead(verdict, found, failing, sheet, done)
        return
    for side in (failing, holding):
        planned = _planned(verdict, side[0], sheet)
        seldom = sum(each.times for each in side) < times_that_separate(failing)
        if seldom and planned is not None and tried[planned.identity] < MOST_REPEATS:
            yield planned


def _with_less(verdict: ClaimVerdict, sheet: RunSheet, done: set[TrialIdentity]) -> Iterator[PlannedTrial]:
    """A claim that was tried only beside something else, and fails there: the same with less beside it."""
    failing = [set_up for set_up in verdict.set_ups if set_up.verdict.accuses]
    tried = [set_up for set_up in verdict.set_ups if set_up.trials]
    if failing and len(failing) == len(tried) and all(each.varied for each in failing):
        yield from _parts_of(verdict, failing, sheet, done)


def _fed_too(verdict: ClaimVerdict, sheet: RunSheet, done: set[TrialIdentity]) -> Iterator[PlannedTrial]:
    """A claim that fails wherever it was tried, and was never tried with a supply in the inlet: does that help?"""
    tried = [set_up for set_up in verdict.set_ups if set_up.trials]
    failing = [each for each in tried if each.verdict.accuses]
    fed = any(circumstance.aspect is Aspect.SUPPLY for each in tried for circumstance in each.varied)
    for trial in sheet.reserve if failing and failing == tried and not fed else ():
        of_claim = verdict.claim.id in trial.claims and trial.port is not None and trial.identity not in done
        if of_claim and trial.setup.departs == (Aspect.SUPPLY,):
            yield trial


def _host_or_its_lead(
    verdict: ClaimVerdict, found: Sequence[Circumstances], failing: Sequence[SetUpVerdict], sheet: RunSheet,
    done: set[TrialIdentity],
) -> Iterator[PlannedTrial]:  # fmt: skip
    """A set-up that fails on one host alone, with another lead to it."""
    if not any(each.aspect is Aspect.HOST_LEAD for circumstances in found for each in circumstances):
        return
    for trial in sheet.reserve:
        if verdict.claim.id in trial.claims and trial.port is not None and trial.identity not in done:
            conditions = set(circumstances_for(verdict.claim, trial))
            more = [conditions - set(each.varied) for each in failing if set(each.varied) < conditions]
            if any(all(each.aspect is Aspect.HOST_LEAD for each in besides) for besides in more):
                yield trial


def _parts_of(
    verdict: ClaimVerdict, failing: Sequence[SetUpVerdict], sheet: RunSheet, done: set[TrialIdentity]
) -> Iterator[PlannedTrial]:
    """Trials in reserve with only a part of what else ran in a bad set-up."""
    for trial in sheet.reserve:
        if verdict.claim.id in trial.claims and trial.port is not None and trial.identity not in done:
            conditions = set(circumstances_for(verdict.claim, trial))
            if any(conditions < set(each.varied) for each in failing):
                yield trial


def _planned(verdict: ClaimVerdict, set_up: SetUpVerdict, sheet: RunSheet) -> PlannedTrial | None:
    """The planned trial that makes such a set-up."""
    every = (*sheet.trials, *sheet.reserve)
    return next(
        (
            trial
            for trial in every
            if verdict.claim.id in trial.claims
            and trial.port is not None
            and circumstances_for(verdict.claim, trial) == set_up.varied
        ),
        None,
    )
