"""Read back the mode that a display runs, at both ends where somebody reads the display's own menu."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.claims.promise import Look
from auditra.core.journal.facts import EventNoted
from auditra.core.links.display import Mode
from auditra.core.model.circumstance import Aspect
from auditra.core.model.event import EventKind
from auditra.core.model.reading import Grade, Quantity, Words
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.doors import FarEnd
from auditra.workflows.trials.measure.session import NO, TrialSession

PICTURE_WITHIN_S = 15.0
WITNESS, MENU = "mode read back", "the display's own menu"
_LOOKS_EVERY_S = 0.25
_SAME_HZ = 0.6
"""A menu shows 59.94 Hz as 60."""


def measure(session: TrialSession) -> Outcome:
    """The mode on the display under test, and how long it took to run. Raises: BenchError, TrialStopped."""
    displays, display = session.need(session.bench.displays, "way to read a display back"), session.planned.gear
    clock = session.bench.clock
    began_s, looks = clock.now_s(), 0

    def look() -> Mode | None:
        nonlocal looks
        looks += 1
        return displays.mode_of(display)

    mode = session.wait_for(look, "waiting for a picture", PICTURE_WITHIN_S, _LOOKS_EVERY_S)
    took_s = clock.now_s() - began_s
    outcome = session.appeared(mode is not None, witness=WITNESS)
    if mode is None:
        return outcome
    if looks > 1:  # else it ran already, and for how long is not known
        note = "until its mode ran, from when it was connected"
        took = session.number(Quantity.TIME_TO_APPEAR, WITNESS, (took_s,), grade=Grade.READ, note=note)
        session.take(replace(took, resolution=2 * _LOOKS_EVERY_S))
    _take_modes(session, mode, displays.told_by_display(display, mode) if isinstance(displays, FarEnd) else None)
    _ask_about_arrangement(session)
    return outcome


def _ask_about_arrangement(session: TrialSession) -> None:
    """Whether a host knows its displays again: asked where the device was connected again anyway, and on other hosts.

    Raises: TrialStopped.
    """
    setup, device = session.planned.setup, session.device.name
    if session.planned.port is None or not {Aspect.REPLUGGED, Aspect.HOST} & set(setup.departs):
        return
    asked = (
        f"Pull the {device} from the {session.rig.name_of(setup.host)} and plug it in again: do displays and windows"
    )
    look = Look(f"{asked} come back to their places?", Quantity.ARRANGEMENT, "yes")
    answer = session.bench.person.look(session.spot, look, f"{look.question} (yes, or no; empty: not tried)")
    if answer.strip().lower() in NO:
        moment = session.bench.clock.moment()
        session.put(EventNoted(EventKind.ARRANGEMENT_LOST, "", session.spot, session.trial, moment))


def _take_modes(session: TrialSession, sent: Mode, arrives: Mode | None) -> None:
    """What is read back counts as what the display runs, unless the display itself says otherwise."""
    reading = session.reading(Quantity.MODE, WITNESS, Grade.READ, Words(str(sent)))
    if arrives is None:
        session.take(reading)
    elif _are_same(sent, arrives):
        session.take(replace(reading, note=f"{MENU} shows {arrives}"))
    else:
        session.take(
            replace(reading, quantity=Quantity.MODE_SENT),
            session.reading(Quantity.MODE, MENU, Grade.TYPED, Words(str(arrives))),
        )


def _are_same(one: Mode, other: Mode) -> bool:
    same_size = (one.width, one.height) == (other.width, other.height)
    return same_size and abs(one.refresh_hz - other.refresh_hz) < _SAME_HZ
