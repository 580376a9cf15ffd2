"""The case's temperature beside the room's: at the end of work, over a long time of it, and while it cools."""

from __future__ import annotations

from dataclasses import dataclass, field

from auditra.core.model.reading import Quantity, Trace
from auditra.core.model.rig import Thermometer as ThermometerGear
from auditra.core.model.setup import MINUTE_S
from auditra.workflows.trials.doors import Progress, Thermometer
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.waiting import wait_on_clock

CASE, ROOM = "case", "room"
COOL_RISE_K = 12.0
"""A case within this of the room is cool enough for a trial that is not about heat."""
COOLS_WITHIN_S = 60 * MINUTE_S
_COOLS_UNSEEN_S = 30 * MINUTE_S
"""How long it is left to cool where there is no thermometer."""
_LOOK_S = 5.0
_SAMPLE_S = 30.0
_THERMOMETER_DIGIT_C = 0.1


def take_temperatures(session: TrialSession) -> None:
    """Both temperatures, where the bench has a thermometer and the device takes part."""
    door, gear = _thermometer(session)
    if door is None or gear is None:
        return
    for quantity, spot, celsius in (
        (Quantity.CASE_TEMPERATURE, CASE, door.case_c()),
        (Quantity.AMBIENT_TEMPERATURE, ROOM, door.ambient_c()),
    ):
        session.take(
            session.number(
                quantity, gear.name, (celsius,), error=gear.error_k, resolution=_THERMOMETER_DIGIT_C, at=spot
            )
        )


def let_cool(session: TrialSession) -> None:
    """Wait until the device is cool again, so that heat from before does not pass for a fault. Raises: TrialStopped."""
    clock, door = session.bench.clock, _thermometer(session)[0]
    if door is None:
        wait_on_clock(session, "letting the device cool", _COOLS_UNSEEN_S)
        return
    started = clock.now_s()
    while clock.now_s() - started < COOLS_WITHIN_S and door.case_c() - door.ambient_c() >= COOL_RISE_K:
        session.watch(Progress(f"letting the device cool, the case is at {door.case_c():.1f} C"))
        clock.sleep(_LOOK_S)


@dataclass
class CaseTrace:
    """The case temperature over a long trial; nothing where no instrument reads it."""

    session: TrialSession
    origin_s: float
    time_s: list[float] = field(default_factory=list)
    case_c: list[float] = field(default_factory=list)

    def look(self) -> None:
        """Take a sample, if it is time for one."""
        door = _thermometer(self.session)[0]
        now_s = self.session.bench.clock.now_s() - self.origin_s
        if door is not None and (not self.time_s or now_s - self.time_s[-1] >= _SAMPLE_S):
            self.time_s.append(now_s)
            self.case_c.append(door.case_c())

    def take(self) -> None:
        gear = _thermometer(self.session)[1]
        if gear is not None and self.case_c:
            trace = Trace(tuple(self.time_s), tuple(self.case_c))
            reading = self.session.number(
                Quantity.CASE_TEMPERATURE, gear.name, (max(self.case_c),), error=gear.error_k,
                resolution=_THERMOMETER_DIGIT_C, at=CASE, trace=trace,
            )  # fmt: skip
            self.session.take(reading)


def _thermometer(session: TrialSession) -> tuple[Thermometer | None, ThermometerGear | None]:
    """The door and the gear, where the bench has both and the device takes part."""
    if session.planned.port is None or not session.rig.thermometers:
        return None, None
    return session.bench.thermometer, session.rig.thermometers[0]
