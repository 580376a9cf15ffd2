"""The case's temperature beside the room's: at the end of work, over a long time of it, and while it cools."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace

from auditra.core.errors import InstrumentError
from auditra.core.journal.facts import NoteWritten
from auditra.core.model.reading import Quantity, Reading, Trace
from auditra.core.model.rig import CASE, ROOM
from auditra.core.model.setup import MINUTE_S
from auditra.workflows.trials.doors import Bench, Celsius, Clock, Progress, Thermometers
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.waiting import pass_time

COOL_RISE_K = 12.0
"""A case within this of the room is cool enough for a trial that is not about heat."""
COOLS_WITHIN_S = 60 * MINUTE_S
COOLS_UNSEEN_S = 30 * MINUTE_S
"""How long it is left to cool where there is no thermometer."""
_LOOK_S = 5.0
_SAMPLE_S = 30.0


def take_temperatures(session: TrialSession) -> None:
    """At every spot that has a thermometer, where the device takes part.

    If one stops answering, only its own reading is missing, and a note says so: what the trial is about is measured.
    """
    door = _thermometers(session)
    if door is None:
        return
    for spot in door.spots():
        celsius = _read(session, door, spot)
        if celsius is not None:
            session.take(_reading(session, spot, celsius))


def let_cool(bench: Bench, watch: Callable[[Progress], None]) -> None:
    """Wait until the device is cool again, so that heat from before does not pass for a fault. Raises: TrialStopped."""
    door = bench.thermometers
    if door is None or not {CASE, ROOM} <= {*door.spots()} or not _has_cooled(bench.clock, door, watch):
        pass_time(bench.clock, watch, "letting the device cool", COOLS_UNSEEN_S)


def _has_cooled(clock: Clock, door: Thermometers, watch: Callable[[Progress], None]) -> bool:
    """Waits until it is cool, or for as long as it may take; False where a thermometer does not answer."""
    started = clock.now_s()
    while clock.now_s() - started < COOLS_WITHIN_S:
        try:
            case, room = door.read(CASE), door.read(ROOM)
        except InstrumentError:
            return False
        if case.value - room.value < COOL_RISE_K:
            return True
        watch(Progress(f"letting the device cool, the case is at {case.value:.1f} C"))
        clock.sleep(_LOOK_S)
    return True


@dataclass
class HeatTrace:
    """The temperatures over a long trial; nothing where no instrument reads them."""

    session: TrialSession
    origin_s: float
    time_s: dict[str, list[float]] = field(default_factory=dict)
    celsius: dict[str, list[Celsius]] = field(default_factory=dict)
    _looked_s: float | None = None
    _silent: set[str] = field(default_factory=set)

    def look(self) -> bool:
        """Take a sample, if it is time for one; whether it was."""
        now_s = self.session.bench.clock.now_s() - self.origin_s
        door = _thermometers(self.session)
        if door is None or (self._looked_s is not None and now_s - self._looked_s < _SAMPLE_S):
            return False
        self._looked_s = now_s
        for spot in door.spots():
            celsius = _read(self.session, door, spot, is_noted=spot in self._silent)
            if celsius is None:
                self._silent.add(spot)
            else:
                self.time_s.setdefault(spot, []).append(now_s)
                self.celsius.setdefault(spot, []).append(celsius)
        return True

    def take(self) -> None:
        """The highest of each spot of the device, with its trace."""
        for spot, trace in self._traces():
            self.session.take(_reading(self.session, spot, self._highest(spot), trace))

    def traces(self) -> tuple[Trace, ...]:
        """Of the spots of the device."""
        return tuple(trace for _, trace in self._traces())

    def highest_c(self) -> float | None:
        """The highest of now; None before the first look."""
        return max((taken[-1].value for spot, taken in self.celsius.items() if spot != ROOM), default=None)

    def readings(self, warmest_at: str) -> Iterator[Reading]:
        """The spot that is warmest at the end, as taken at a place; the room's."""
        spots = [spot for spot in self.celsius if spot != ROOM]
        if spots:
            spot = max(spots, key=lambda each: self.celsius[each][-1].value)
            trace = Trace(tuple(self.time_s[spot]), tuple(each.value for each in self.celsius[spot]))
            reading = _reading(self.session, spot, self._highest(spot), trace)
            yield replace(reading, at=warmest_at, note="" if spot == CASE else f"at the {spot}")
        if self.celsius.get(ROOM):
            yield _reading(self.session, ROOM, self.celsius[ROOM][-1])

    def _traces(self) -> Iterator[tuple[str, Trace]]:
        for spot, taken in self.celsius.items():
            if spot != ROOM:
                yield spot, Trace(tuple(self.time_s[spot]), tuple(each.value for each in taken))

    def _highest(self, spot: str) -> Celsius:
        return max(self.celsius[spot], key=lambda each: each.value)


def _reading(session: TrialSession, spot: str, celsius: Celsius, trace: Trace | None = None) -> Reading:
    quantity = Quantity.AMBIENT_TEMPERATURE if spot == ROOM else Quantity.CASE_TEMPERATURE
    return session.number(
        quantity, celsius.instrument, (celsius.value,), error=celsius.error_k, resolution=celsius.resolution_k, at=spot,
        trace=trace,
    )  # fmt: skip


def _read(session: TrialSession, door: Thermometers, spot: str, *, is_noted: bool = False) -> Celsius | None:
    """None where it does not answer, which is noted once."""
    try:
        return door.read(spot)
    except InstrumentError as error:
        if not is_noted:
            session.put(NoteWritten(f"{session.trial}, no temperature of the {spot}: {error}"[:400]))
        return None


def _thermometers(session: TrialSession) -> Thermometers | None:
    """The door, where the bench has it and the device takes part."""
    return session.bench.thermometers if session.planned.port is not None else None
