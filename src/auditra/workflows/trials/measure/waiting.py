"""Waiting by the clock: what takes three quarters of an hour is not done because somebody pressed a key."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime

from auditra.core.journal.audit import Audit
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.setup import MINUTE_S
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.workflows.trials.doors import Clock, Progress
from auditra.workflows.trials.measure.session import EarlierSoak, TrialSession

CLOCK = "clock"
_LOOK_S, _TICK_S = 1.0, 1e-3
"""How often it looks, and what is left of a wait that is as good as over: a sum of seconds need not come out even."""


def wait_on_clock(session: TrialSession, doing: str, seconds: float, already_s: float = 0.0) -> float:
    """Show the time until it is up; how long it was in all, in seconds. Raises: TrialStopped when it is left."""
    return pass_time(session.bench.clock, session.watch, doing, seconds, already_s)


def pass_time(
    clock: Clock, watch: Callable[[Progress], None], doing: str, seconds: float, already_s: float = 0.0
) -> float:
    """The same where no trial has begun."""
    started = clock.now_s() - already_s
    while (passed := clock.now_s() - started) < seconds - _TICK_S:
        words = f"{doing}: {passed / MINUTE_S:.0f} of {seconds / MINUTE_S:.0f} min"
        watch(Progress(words, time_s=passed, lasts_s=seconds))
        clock.sleep(min(_LOOK_S, seconds - passed))
    return passed


def soak_by_hand(session: TrialSession) -> None:
    """Keep the device at full load for as long as the trial says, and record how long that really was.

    It can be left and resumed: what was soaked by then is recorded too, and counts on when the load was kept up.
    Raises: TrialStopped.
    """
    wanted = session.planned.setup.soaked_s
    already = _kept_up(session)
    if not already:
        besides = "".join(f", and keep {claim} going" for claim in session.planned.setup.running)
        begin = f"Use {session.spot} as is promised" if session.looks else f"Put {session.spot} under full load"
        words = f"{begin}{besides}; the clock starts when you confirm"
        session.bench.person.wait(words, 0.0)
    clock = session.bench.clock
    started = clock.now_s() - already
    try:
        wait_on_clock(session, f"full load on {session.spot}", wanted, already)
    finally:
        soaked = session.number(Quantity.SOAKED, CLOCK, (clock.now_s() - started,), grade=Grade.MEASURED)
        session.take(replace(soaked, moment=clock.moment()))


def _kept_up(session: TrialSession) -> float:
    """Seconds for which the load has been on since an earlier try of this trial; 0 where it was switched off."""
    earlier = session.earlier_soak
    if earlier is None:
        return 0.0
    since = max(0.0, (session.bench.clock.moment() - earlier.until).total_seconds())
    question = f"It was at full load for {earlier.seconds / MINUTE_S:.0f} min. Has the load been on ever since?"
    return earlier.seconds + since if session.ask_yes_or_no(question) else 0.0


def earlier_soak(planned: PlannedTrial, audit: Audit) -> EarlierSoak | None:
    """What the last try of a trial soaked, where it was left; None where nothing was."""
    tries = [record for record in audit.trials if record.identity == planned.identity]
    if not tries or tries[-1].outcome not in (Outcome.STOPPED, Outcome.FAILED, None):
        return None
    soaked = tries[-1].taken.of(Quantity.SOAKED).numbers().last()
    if soaked is None or not isinstance(soaked.moment, datetime):
        return None
    return EarlierSoak(soaked.values[0], soaked.moment)
