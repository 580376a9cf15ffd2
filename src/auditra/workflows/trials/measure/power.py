"""Draw more and more until the promise is passed or the source gives way, then read the watts that it keeps up."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

from auditra.core.decide.instrument_error import power_error_w
from auditra.core.errors import InstrumentError
from auditra.core.model.reading import Quantity, Reading, Trace
from auditra.core.model.rig import Instrument
from auditra.core.model.rig import Load as LoadGear
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.workflows.trials.doors import Load, Meter, Progress, VoltsAmperes
from auditra.workflows.trials.measure.at_work import load_of_trial, switched_on
from auditra.workflows.trials.measure.curve import curve_of, error_a
from auditra.workflows.trials.measure.ramp import Ramp, Ramping
from auditra.workflows.trials.measure.session import TrialSession

ENOUGH = 1.04
"""The ramp stops this far above the promise: no more is asked of a device than its seller names."""
REPEATS = 5
REPEAT_PITCH_S = 0.2
LOST_ON_THE_WAY = 0.1
"""The most of its watts that a lead may lose: 0.75 V of 20 V are 4 %, and contacts come to it. Source: USB Type-C R2.2,
4.4.1 (500 mV over VBUS, 250 mV over ground)."""
_CLEARLY_MORE_A = 0.5
"""Over so much more current a meter that works does not read the same to the last digit."""


@dataclass
class _Tap:
    """One place where watts are read, with the readings so far."""

    spot: str
    instrument: Instrument
    door: Meter
    taken: list[VoltsAmperes] = field(default_factory=list)

    def read(self) -> VoltsAmperes:
        return self.door.measure()

    def values(self, what: Callable[[VoltsAmperes], float]) -> tuple[float, ...]:
        return tuple(what(each) for each in self.taken)

    def error_w(self) -> float:
        """At the highest watts: what the rig says of the instrument, else what its description says."""
        highest = max(self.taken, key=lambda each: each.watts)
        return power_error_w(self.instrument, highest.watts, highest.error_w)


@dataclass
class _Growing:
    """The watts over time, reported as they come."""

    session: TrialSession
    time_s: list[float] = field(default_factory=list)
    watts: list[float] = field(default_factory=list)
    _started: float | None = None

    def add(self, doing: str, watts: float) -> None:
        now = self.session.bench.clock.now_s()
        self._started = now if self._started is None else self._started
        self.time_s.append(now - self._started)
        self.watts.append(watts)
        self.session.watch(Progress(doing, watts, self.time_s[-1], restarts_trace=len(self.watts) == 1))

    def trace(self) -> Trace:
        return Trace(tuple(self.time_s), tuple(self.watts))


def measure(session: TrialSession) -> Outcome:
    """Watts at the port; for an inlet, those that arrive at the upstream plug too; volts over amperes at the load.

    Raises: BenchError, InstrumentError, TrialStopped. The load is switched off whatever happens.
    """
    load, gear = load_of_trial(session)
    taps = _taps(session, load, gear)
    shown = next((tap for tap in taps if tap.spot == session.spot), taps[0])
    growing = _Growing(session)
    with switched_on(load):
        ramp, last = _ramp(session, load, shown, growing)
        if ramp.is_gone:
            shown.taken.append(last)  # what it kept up before it went; there is nothing to read again
            taps = [shown]
        for turn in range(1, REPEATS + 1) if not ramp.is_gone else ():
            session.bench.clock.sleep(REPEAT_PITCH_S)
            for tap in taps:
                tap.taken.append(tap.read())
            growing.add(f"reading {turn} of {REPEATS}", shown.taken[-1].watts)
        if not ramp.is_gone:
            _require_agreement(session, load, gear)
    readings = (
        session.number(
            Quantity.POWER,
            tap.instrument.name,
            tap.values(lambda each: each.watts),
            error=tap.error_w(),
            at=tap.spot,
            trace=growing.trace() if tap is shown else None,
            note=ramp.words if tap is shown else "",
        )
        for tap in taps
    )
    at_load = next((tap for tap in taps if tap.instrument is gear and tap.taken), None)
    curve = curve_of(session, gear, at_load.spot, at_load.taken, ramp) if at_load is not None else ()
    session.take(*readings, *_amperes(session, taps), *curve)
    return Outcome.COMPLETE


def _require_agreement(session: TrialSession, load: Load, gear: LoadGear) -> None:
    """What a load draws has gone through the meter in line before it: no more arrives than was fed in, and without the
    device nearly all of it does. Raises: InstrumentError where the two cannot both be right."""
    in_line = next((meter for meter in session.rig.meters for each in session.planned.setup.plugged
                    if meter.id in each.through), None)  # fmt: skip
    door = session.bench.meters.get(in_line.id) if in_line is not None else None
    if in_line is None or door is None:
        return
    fed, drawn = door.measure(), load.measure()
    errors_w = power_error_w(in_line, fed.watts, fed.error_w) + power_error_w(gear, drawn.watts, drawn.error_w)
    lost_w = fed.watts - drawn.watts
    lost_on_way = session.planned.port is None and lost_w > errors_w + LOST_ON_THE_WAY * fed.watts
    if lost_w < -errors_w or lost_on_way:
        why = f"it shows {fed.watts:.1f} W where the {gear.name} draws {drawn.watts:.1f} W: one of the two is wrong"
        raise InstrumentError(in_line.name, why=why, do="Check both against a third before you go on")


def _amperes(session: TrialSession, taps: list[_Tap]) -> Iterator[Reading]:
    """The current at each tap, where it is what was claimed."""
    if not any(Quantity.CURRENT in scale.quantities for scale in session.scales):
        return
    for tap in taps:
        values, error = tap.values(lambda each: each.amperes), error_a(tap.instrument, tap.taken)
        yield session.number(Quantity.CURRENT, tap.instrument.name, values, error=error, at=tap.spot)


def _taps(session: TrialSession, load: Load, gear: LoadGear) -> list[_Tap]:
    """Where this set-up can be read: at the meter in line, and at the load."""
    plugged = session.planned.setup.plugged
    load_spot = next((each.socket for each in plugged if each.gear == gear.id), session.spot)
    direct = session.planned.port is None
    feeds = session.planned.procedure in (ProcedureId.POWER_IN, ProcedureId.CHARGE)
    loads_directly = direct and session.planned.procedure == ProcedureId.CHARGE
    in_line = next(((each.socket, meter) for each in plugged for meter in session.rig.meters
                    if meter.id in each.through), None)  # fmt: skip
    if feeds and in_line is not None and not loads_directly:
        spot, meter = in_line
        door = session.need(session.bench.meters.get(meter.id), "meter in line")
        tap = _Tap(session.spot if direct else spot, meter, door)
        return [tap] if direct else [tap, _Tap(load_spot, gear, load)]
    return [_Tap(session.spot if direct else load_spot, gear, load)]


def _ramp(session: TrialSession, load: Load, shown: _Tap, growing: _Growing) -> tuple[Ramp, VoltsAmperes]:
    """Raise the current until the promise is passed with room spare, or to where the voltage gives way; what was read
    last while it held.

    Raises: InstrumentError for a meter that does not follow what is drawn, and a load that cannot draw enough.
    """
    target, read = session.planned.target * ENOUGH, [VoltsAmperes(0.0, 0.0)]

    def passed(amperes: float, at_load: VoltsAmperes) -> bool:
        taken = at_load if shown.door is load else shown.read()
        read.append(taken)
        growing.add(f"drawing {amperes:.2f} A", taken.watts)
        return taken.watts >= target

    ramp = Ramping(session.bench.clock, load, passed).run()
    if shown.door is not load and ramp.held_a > _CLEARLY_MORE_A and len({each.amperes for each in read[1:]}) == 1:
        why = f"it reads {read[-1].amperes:g} A whatever is drawn"
        raise InstrumentError(shown.instrument.name, why=why, do="Check that it is in line, then start the trial again")
    if not (ramp.has_passed or ramp.is_dead or ramp.gave_way_a is not None) and read[-1].watts < session.planned.target:
        why = f"it draws {ramp.held_a:g} A at most, and the source holds: that is too little for this promise"
        raise InstrumentError("the load", why=why, do="Use a load for more")
    return ramp, read[-1]
