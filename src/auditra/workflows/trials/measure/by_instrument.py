"""Figures that a person would read off and type, taken by instruments of the rig that answer by themselves.

The person still connects everything: where nothing answers, or the source is what gave way, the question is asked.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from auditra.core.claims.kinds.body import STEADY_K, STEADY_S
from auditra.core.claims.kinds.cable import FAR, NEAR
from auditra.core.claims.promise import Look
from auditra.core.decide.first_order import fit_first_order
from auditra.core.decide.instrument_error import UNKNOWN_POWER_ERROR_PERCENT, limit_of_error, power_error_w
from auditra.core.errors import BenchError, InstrumentError
from auditra.core.links.charging import lowest_sink_v
from auditra.core.model.device import BODY
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.rig import Instrument, Meter
from auditra.core.model.rig import Load as LoadGear
from auditra.core.model.setup import MINUTE_S
from auditra.workflows.trials.doors import CountedStream, Load, Progress, Volts, VoltsAmperes
from auditra.workflows.trials.doors import Meter as MeterDoor
from auditra.workflows.trials.measure.network import ENGINE, LINK_WITHIN_S, find_new_link, named_link
from auditra.workflows.trials.measure.ramp import SETTLES_IN_S, Ramping
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.waiting import CLOCK
from auditra.workflows.trials.measure.warmth import HeatTrace

SHARES = (1.0, 0.75, 0.5, 0.25)
"""Of the promised current, the promised one first: what is decided from is read before the copper is warm."""
REPEATS, PITCH_S = 5, 0.2
STEADY_AT_THE_LATEST_S = 90 * MINUTE_S
_CLEARLY_STEADY = 0.8
"""It is watched until it rises by clearly less than what counts as steady: on the very edge a judge would ask again."""
_LOOK_S = 5.0
_OFF_SHARE, _OFF_A = 0.05, 0.05
_NEED_V = 0.5
"""Of what a source has without load, the least that it must keep under load: below, it is the source that gives way."""


def read_off(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    """What the instruments say to a question; nothing where there is none for it. Raises: InstrumentError,
    TrialStopped.
    """
    taking = _TAKEN_BY.get(look.quantity) if isinstance(look.quantity, Quantity) else None
    return tuple(taking(session, look)) if taking is not None else ()


@dataclass(frozen=True)
class _Ends:
    """A load that draws through something, and what reads the volts at both of its ends."""

    load: Load
    load_gear: LoadGear
    near: MeterDoor
    near_gear: Meter
    far: MeterDoor
    far_gear: Instrument


def _drop(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The volts at both ends under the promised current, and under less, from which the ohms follow."""
    load, near = _load(session), meter_at(session, NEAR)
    if load is None or near is None or look.behind_a is None:
        return
    far = meter_at(session, FAR) or load
    ends = _Ends(load[0], load[1], near[0], near[1], far[0], far[1])
    words = (
        f"Put {_thing(session)} between a supply and the {ends.load_gear.name}; the {ends.near_gear.name} reads the "
        f"volts at its near end, the {ends.far_gear.name} those at its far end"
    )
    session.bench.person.wait(words, 0.0)
    try:
        ends.load.set_current(0.0)
        ends.load.switch(on=True)
        session.bench.clock.sleep(SETTLES_IN_S)
        open_v = ends.near.volts().volts
        for share in SHARES:
            yield from _at_both_ends(session, ends, look.behind_a * share, open_v)
    finally:
        ends.load.switch(on=False)


def _at_both_ends(session: TrialSession, ends: _Ends, amperes: float, open_v: float) -> tuple[Reading, ...]:
    """Raises: InstrumentError where the source gives way, or the load draws something else."""
    ends.load.set_current(amperes)
    session.bench.clock.sleep(SETTLES_IN_S)
    near, far, drawn = [], [], []
    for turn in range(1, REPEATS + 1):
        session.watch(Progress(f"{amperes:.2f} A through it, reading {turn} of {REPEATS}", value=amperes))
        near.append(ends.near.volts())
        at_load = ends.load.measure()
        drawn.append(at_load.amperes)
        far.append(ends.far.volts() if ends.far is not ends.load else Volts(at_load.volts, at_load.error_v))
        session.bench.clock.sleep(PITCH_S)
    if near[-1].volts < _NEED_V * open_v:
        why = f"the source gives way at {amperes:.2f} A: {near[-1].volts:.2f} of {open_v:.2f} V are left"
        raise InstrumentError(ends.load_gear.name, why=why, do="Use a stronger supply")
    if any(abs(each - amperes) > _OFF_SHARE * amperes + _OFF_A for each in drawn):
        why = f"it was set to {amperes:.2f} A and reads {drawn[-1]:.2f} A"
        raise InstrumentError(ends.load_gear.name, why=why, do="Check its mode, its range and its leads")
    readings = (
        _volts(session, ends.near_gear, near, NEAR),
        _volts(session, ends.far_gear, far, FAR),
    )
    return tuple(replace(each, behind_a=amperes) for each in readings)


def _volts(session: TrialSession, gear: Instrument, taken: list[Volts], end: str) -> Reading:
    values = tuple(each.volts for each in taken)
    error = _error(gear, Quantity.VOLTAGE, max(values), taken[-1].error_v)
    return replace(session.number(Quantity.VOLTAGE, gear.name, values, error=error), end=end)


def _through(session: TrialSession, look: Look) -> Iterator[Reading]:
    """What goes through it, up to the promise. Where the source gives way before, nothing is known of the device."""
    found, quantity = _load(session), look.quantity
    owed = next((scale.limit for scale in session.scales if quantity in scale.quantities), None)
    if found is None or owed is None:
        return
    load, gear = found
    session.bench.person.wait(f"Put {_thing(session)} between a supply that gives enough and the {gear.name}", 0.0)

    def value(taken: VoltsAmperes) -> float:
        return taken.amperes if quantity is Quantity.CURRENT else taken.watts

    def passed(amperes: float, taken: VoltsAmperes) -> bool:
        session.watch(Progress(f"drawing {amperes:.2f} A", value(taken)))
        return value(taken) >= owed

    try:
        load.set_current(0.0)
        load.switch(on=True)
        ramp = Ramping(session.bench.clock, load, passed).run()
        if ramp.gave_way_a is not None or ramp.open_v < lowest_sink_v(ramp.open_v):
            return
        taken = []
        for _ in range(REPEATS):
            session.bench.clock.sleep(PITCH_S)
            taken.append(load.measure())
    finally:
        load.switch(on=False)
    highest = max(taken, key=value)
    error = (
        power_error_w(gear, highest.watts, highest.error_w)
        if quantity is Quantity.POWER
        else _error(gear, Quantity.CURRENT, highest.amperes, highest.error_a)
    )
    yield session.number(Quantity(quantity), gear.name, tuple(map(value, taken)), error=error)


def _own_use(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The watts through the one meter in line, with nothing else plugged in."""
    meters = [
        (session.bench.meters[meter.id], meter)
        for meter in session.rig.meters
        if _answers(meter) and meter.end is not NEAR and meter.end is not FAR and meter.id in session.bench.meters
    ]
    if len(meters) != 1:
        return
    door, gear = meters[0]
    session.bench.person.wait(
        f"Feed {_thing(session)} through the {gear.name}, with nothing else plugged in, the host neither", 0.0
    )
    taken = []
    for _ in range(REPEATS):
        session.bench.clock.sleep(1.0)
        taken.append(door.measure())
    highest = max(taken, key=lambda each: each.watts)
    error = power_error_w(gear, highest.watts, highest.error_w)
    yield session.number(Quantity.OWN_USE, gear.name, tuple(each.watts for each in taken), error=error)


def _warmest(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The temperatures until they are steady: the warmest spot, with its trace, and the room."""
    door = session.bench.thermometers
    if door is None or not any(_answers(each) for each in session.rig.thermometers):
        return
    session.bench.person.wait(
        f"Put {_thing(session)} to work and keep it there; the clock starts when you confirm", 0.0
    )
    clock = session.bench.clock
    began_s = clock.now_s()
    heat = HeatTrace(session, began_s)
    while (spent_s := clock.now_s() - began_s) < STEADY_AT_THE_LATEST_S and not _is_steady(heat):
        heat.look()
        session.watch(Progress(_warmth_words(heat, spent_s), heat.highest_c(), spent_s))
        clock.sleep(_LOOK_S)
    yield from heat.readings(warmest_at=session.spot)
    soaked = session.number(Quantity.SOAKED, CLOCK, (clock.now_s() - began_s,), grade=Grade.MEASURED)
    yield replace(soaked, moment=clock.moment())


def _frames(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The largest packet that goes to the peer and back whole. Raises: BenchError where one of the two ends is set to
    less than what is promised: then nothing larger could have come through.
    """
    peers = session.bench.peers
    owed = next((scale.limit for scale in session.scales if Quantity.LARGEST_FRAME in scale.quantities), None)
    plugged = (each.gear for each in session.planned.setup.plugged)
    peer = next((each for each in plugged if peers is not None and peers.serves(each)), None)
    if peers is None or owed is None or peer is None:
        return
    interface = session.wait_for(lambda: find_new_link(session), "waiting for the network link", LINK_WITHIN_S)
    interface = interface or named_link(session, peers, peer)
    if interface is None:
        return
    stream = peers.connect(peer, interface.name)
    try:
        if not isinstance(stream, CountedStream):
            return
        session.watch(Progress("asking for packets that may not be split"))
        sizes = stream.packets()
    finally:
        stream.close()
    for words, size, do in (
        ("this host's interface", sizes.this_end_bytes, f"Set it: ip link set {interface.name} mtu {owed:g}"),
        ("the peer's interface", sizes.far_end_bytes, f"Set it to {owed:g} B there"),
    ):
        if size is not None and size < owed:
            raise BenchError(words, why=f"it is set to packets of {size} B, less than the {owed:g} B promised", do=do)
    if sizes.whole_bytes is not None:
        note = f"there and back, not split; this end takes {sizes.this_end_bytes} B, the peer {sizes.far_end_bytes} B"
        values = (float(sizes.whole_bytes),)
        yield session.number(Quantity.LARGEST_FRAME, ENGINE, values, resolution=1.0, note=note)


def _is_steady(heat: HeatTrace) -> bool:
    """Every spot rose by less than half a kelvin in the last ten minutes, and its curve goes no further."""
    traces = heat.traces()
    if not traces:
        return False
    for trace in traces:
        late = [value for at, value in zip(trace.time_s, trace.values, strict=True) if at > trace.time_s[-1] - STEADY_S]
        if trace.time_s[-1] < 2 * STEADY_S or max(late) - min(late) >= _CLEARLY_STEADY * STEADY_K:
            return False
        fit = fit_first_order(trace)
        if fit is not None and not fit.is_steady:
            return False
    return True


def _warmth_words(heat: HeatTrace, spent_s: float) -> str:
    """How it gets on, with where its curve leads to once that can be told."""
    fits = [fit for trace in heat.traces() if (fit := fit_first_order(trace)) is not None]
    towards = f", towards {max(fit.plateau for fit in fits):.0f} C" if fits else ""
    return f"warming, {spent_s / MINUTE_S:.0f} min{towards}"


def _thing(session: TrialSession) -> str:
    return "the device" if session.spot == BODY else session.spot


def _load(session: TrialSession) -> tuple[Load, LoadGear] | None:
    """The first load of the rig that answers by itself."""
    found = (load for load in session.rig.loads if _answers(load) and load.id in session.bench.loads)
    gear = next(found, None)
    return (session.bench.loads[gear.id], gear) if gear is not None else None


def meter_at(session: TrialSession, end: str) -> tuple[MeterDoor, Meter] | None:
    """The meter that reads the volts at this end of a lead."""
    found = (meter for meter in session.rig.meters if _answers(meter) and meter.end == end)
    gear = next((meter for meter in found if meter.id in session.bench.meters), None)
    return (session.bench.meters[gear.id], gear) if gear is not None else None


def _answers(gear: object) -> bool:
    return isinstance(getattr(gear, "address", None), str)


def _error(gear: Instrument, quantity: Quantity, value: float, described: float | None) -> float:
    """As the rig notes it, else as its description has it, else 5 %."""
    stated = limit_of_error(gear, quantity, value)
    if stated:
        return stated
    return described if described is not None else abs(value) * UNKNOWN_POWER_ERROR_PERCENT / 100


_TAKEN_BY: dict[Quantity, Callable[[TrialSession, Look], Iterator[Reading]]] = {
    Quantity.DROP: _drop,
    Quantity.CURRENT: _through,
    Quantity.POWER: _through,
    Quantity.OWN_USE: _own_use,
    Quantity.CASE_TEMPERATURE: _warmest,
    Quantity.LARGEST_FRAME: _frames,
}
