"""What goes through a cable, and what a device keeps for itself."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.claims.promise import Look
from auditra.core.decide.instrument_error import power_error_w
from auditra.core.model.reading import Quantity, Reading
from auditra.workflows.trials.doors import Progress, VoltsAmperes
from auditra.workflows.trials.measure.at_work import answers_itself, error_of, load_at_work, switched_on, thing_tried
from auditra.workflows.trials.measure.power import ENOUGH
from auditra.workflows.trials.measure.ramp import MOST_USB_A, Ramping
from auditra.workflows.trials.measure.session import TrialSession

REPEATS, PITCH_S, OWN_USE_PITCH_S = 5, 0.2, 1.0


def passed_through(session: TrialSession, look: Look) -> Iterator[Reading]:
    """What goes through it, up to the promise. Where source or load do not reach that, nothing is known of it."""
    found, quantity = load_at_work(session), look.quantity
    owed = next((scale.limit for scale in session.scales if quantity in scale.quantities), None)
    if found is None or owed is None:
        return
    load, gear = found
    session.bench.person.wait(f"Put {thing_tried(session)} between a supply that gives enough and the {gear.name}", 0.0)

    def value(taken: VoltsAmperes) -> float:
        return taken.amperes if quantity is Quantity.CURRENT else taken.watts

    def passed(amperes: float, taken: VoltsAmperes) -> bool:
        session.watch(Progress(f"drawing {amperes:.2f} A", value(taken)))
        return value(taken) >= owed

    most_a = owed * ENOUGH if quantity is Quantity.CURRENT else MOST_USB_A
    with switched_on(load):
        if not Ramping(session.bench.clock, load, passed, most_a).run().has_passed:
            return
        taken = []
        for _ in range(REPEATS):
            session.bench.clock.sleep(PITCH_S)
            taken.append(load.measure())
    highest = max(taken, key=value)
    error = (
        power_error_w(gear, highest.watts, highest.error_w)
        if quantity is Quantity.POWER
        else error_of(gear, Quantity.CURRENT, highest.amperes, highest.error_a)
    )
    yield session.number(Quantity(quantity), gear.name, tuple(map(value, taken)), error=error)


def own_use_of(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The watts through the one meter in line, with nothing else plugged in."""
    meters = [
        (session.bench.meters[meter.id], meter)
        for meter in session.rig.meters
        if answers_itself(meter) and not isinstance(meter.end, str) and meter.id in session.bench.meters
    ]
    if len(meters) != 1:
        return
    door, gear = meters[0]
    session.bench.person.wait(
        f"Feed {thing_tried(session)} through the {gear.name}, with nothing else plugged in, the host neither", 0.0
    )
    taken = []
    for _ in range(REPEATS):
        session.bench.clock.sleep(OWN_USE_PITCH_S)
        taken.append(door.measure())
    highest = max(taken, key=lambda each: each.watts)
    error = power_error_w(gear, highest.watts, highest.error_w)
    yield session.number(Quantity.OWN_USE, gear.name, tuple(each.watts for each in taken), error=error)
