"""Before a host's charging is measured: how full its battery is, what it does meanwhile, and what it asks for.

A nearly full battery takes little whatever it is offered, so that such a trial would say nothing of the device.
"""

from __future__ import annotations

from dataclasses import replace

from auditra.core.errors import BenchError, QuantityError
from auditra.core.model.device import DEVICE
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Grade, Number, Quantity, Reading, Words
from auditra.core.model.rig import Host, Rig
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.parsing import parse_typed
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import sanitize
from auditra.core.wiring.trial_profile import MIN_FULL_BATTERY_PERCENT
from auditra.workflows.trials.measure.session import MAX_TRIES, TrialSession

HOST_SCREEN = "the host's screen"
HOST_LOAD, HOST_WANTS = "load on the host", "power the host asks for"
"""Quantities that such a trial asks for besides the battery level."""
_CHARGES = (ProcedureId.CHARGE, ProcedureId.POWER_IN)
_NONE = ("none", "no battery")


def charged_host(setup: SetUp, procedure: str, rig: Rig) -> Host | None:
    """The host whose battery is charged in a set-up: the device is connected to it; None for a load in its place."""
    on_host = any(each.gear == DEVICE and each.owner == setup.host for each in setup.plugged)
    return rig.host(setup.host) if on_host and procedure in _CHARGES else None


def require_room_in_battery(session: TrialSession) -> None:
    """Ask for what a charging trial depends on, and record it. Raises: TrialStopped; BenchError for a full battery."""
    setup = session.planned.setup
    host = charged_host(setup, session.planned.procedure, session.rig)
    if host is None or host.battery_wh is None:
        return
    level = setup.battery_percent if isinstance(setup.battery_percent, float | int) else _ask_level(session, host)
    if level is None:
        return
    session.take(_read(session, Quantity.BATTERY, level))
    if level >= MIN_FULL_BATTERY_PERCENT:
        why = f"its battery is at {level:g} %, and a nearly full one draws little whatever it is offered"
        raise BenchError(
            host.name, why=why, do=f"Use it down to below {MIN_FULL_BATTERY_PERCENT:g} %, then start again"
        )
    doing = session.bench.person.ask(f"What does the {host.name} do meanwhile?", "nothing, or full load").strip()
    if doing:
        session.take(
            Reading(session.trial, HOST_LOAD, session.spot, HOST_SCREEN, Grade.TYPED, Words(sanitize(doing, 80)))
        )
    if host.wants_w is NOT_NOTED:
        _ask_wants(session, host)


def _ask_level(session: TrialSession, host: Host) -> float | None:
    """In per cent; None for a host without a battery. Raises: TrialStopped; BenchError where nothing was answered."""
    question = asked = f"Battery level of the {host.name} now, in %? (none where it has no battery)"
    for _ in range(MAX_TRIES):
        text = session.bench.person.ask(question, "35 %").strip()
        if text.lower() in _NONE:
            return None
        try:
            level, _digit = parse_typed(text if text.endswith("%") else f"{text} %", Dimension.RATIO)
        except QuantityError as error:
            question = f"{error.why}. {asked}"
            continue
        if level <= 100:
            return level
        question = f"A level is 100 % at most. {asked}"
    raise BenchError(host.name, why="its battery level was not answered", do="Start the trial again")


def _ask_wants(session: TrialSession, host: Host) -> None:
    """What its own charger gives: whether the delivered power is enough is judged against it."""
    text = session.bench.person.ask(f"How many watts does the own charger of the {host.name} give?", "65 W").strip()
    if not text:
        return
    try:
        watts, digit = parse_typed(text, Dimension.POWER)
    except QuantityError:
        return
    reading = _read(session, HOST_WANTS, watts)
    session.take(replace(reading, resolution=digit, unit=Dimension.POWER.value, typed=sanitize(text, 40)))


def _read(session: TrialSession, quantity: Quantity | str, value: float) -> Reading:
    return Reading(session.trial, quantity, session.spot, HOST_SCREEN, Grade.TYPED, Number((value,)))
