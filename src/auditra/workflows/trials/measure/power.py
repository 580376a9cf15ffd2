"""Draw more and more until the promise is passed or the source gives way, then read the watts that it keeps up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from auditra.core.decide.instrument_error import power_error_w
from auditra.core.errors import InstrumentError
from auditra.core.links.charging import lowest_sink_v
from auditra.core.model.reading import Quantity, Reading, Trace
from auditra.core.model.rig import Instrument, Rig
from auditra.core.model.rig import Load as LoadGear
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.workflows.trials.doors import Bench, Load, Meter, Progress, VoltsAmperes
from auditra.workflows.trials.measure.session import TrialSession

STEP_A = 0.1
MAX_STEPS = 120
SETTLES_IN_S = 0.3
ENOUGH = 1.04
"""The ramp stops this far above the promise: no more is asked of a device than its seller names."""
REPEATS = 5
REPEAT_PITCH_S = 0.2
NOTHING_V = 0.5
"""Below this a port is dead."""


@dataclass
class _Tap:
    """One place where watts are read, with the readings so far."""

    spot: str
    instrument: Instrument
    door: Meter
    watts: list[float] = field(default_factory=list)
    amperes: list[float] = field(default_factory=list)

    def read(self) -> VoltsAmperes:
        return self.door.measure()


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
    """Watts at the port; for an inlet, those that arrive at the upstream plug too.

    Raises: BenchError, InstrumentError, TrialStopped. The load is switched off whatever happens.
    """
    gear = session.need(load_of(session.planned.setup, session.rig), "electronic load in this set-up")
    load = session.need(session.bench.loads.get(gear.id), "electronic load")
    taps = _taps(session, load, gear)
    shown = next((tap for tap in taps if tap.spot == session.spot), taps[0])
    try:
        load.set_current(0.0)
        load.switch(on=True)
        growing = _Growing(session)
        _ramp(session, load, shown, growing)
        for turn in range(1, REPEATS + 1):
            session.bench.clock.sleep(REPEAT_PITCH_S)
            for tap in taps:
                taken = tap.read()
                tap.watts.append(taken.watts)
                tap.amperes.append(taken.amperes)
            growing.add(f"reading {turn} of {REPEATS}", shown.watts[-1])
    finally:
        _switch_off(load)
    readings = (
        session.number(
            Quantity.POWER,
            tap.instrument.name,
            tuple(tap.watts),
            error=power_error_w(tap.instrument, max(tap.watts)),
            at=tap.spot,
            trace=growing.trace() if tap is shown else None,
        )
        for tap in taps
    )
    session.take(*readings, *_amperes(session, taps))
    return Outcome.COMPLETE


def _amperes(session: TrialSession, taps: list[_Tap]) -> Iterator[Reading]:
    """The current at each tap, where it is what was claimed; its error is the same share as that of the watts."""
    if not any(Quantity.CURRENT in scale.quantities for scale in session.scales):
        return
    for tap in taps:
        share = power_error_w(tap.instrument, max(tap.watts)) / max(tap.watts) if max(tap.watts) else 0.0
        values = tuple(tap.amperes)
        yield session.number(Quantity.CURRENT, tap.instrument.name, values, error=share * max(values), at=tap.spot)


def _switch_off(load: Load) -> None:
    """Try again once: after a line that dropped, the second try opens another."""
    try:
        load.switch(on=False)
    except InstrumentError:
        load.switch(on=False)


def load_of(setup: SetUp, rig: Rig) -> LoadGear | None:
    """The load of a set-up: connected to something, or with something connected to it."""
    ids = {each_id for each in setup.plugged for each_id in (each.gear, each.owner)}
    return next((load for load in rig.loads if load.id in ids), None)


def instruments_answer(setup: SetUp, rig: Rig, bench: Bench) -> bool:
    """Whether every instrument of a set-up can be read by the bench itself. Raises: InstrumentError."""
    load = load_of(setup, rig)
    in_line = [meter.id for meter in rig.meters if any(meter.id in each.through for each in setup.plugged)]
    meters = [bench.meters.get(each) for each in in_line]
    return load is not None and bench.loads.get(load.id) is not None and None not in meters


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


def _ramp(session: TrialSession, load: Load, shown: _Tap, growing: _Growing) -> None:
    """Raise the current until the promise is passed with room spare, or back off from where the voltage gave way."""
    clock, target = session.bench.clock, session.planned.target * ENOUGH
    clock.sleep(SETTLES_IN_S)
    open_v = load.measure().volts
    for step in range(1, MAX_STEPS + 1):
        load.set_current(step * STEP_A)
        clock.sleep(SETTLES_IN_S)
        if open_v < NOTHING_V or load.measure().volts < lowest_sink_v(open_v):
            load.set_current((step - 1) * STEP_A)
            clock.sleep(SETTLES_IN_S)
            return
        watts = shown.read().watts
        growing.add(f"drawing {step * STEP_A:.1f} A", watts)
        if watts >= target:
            return
