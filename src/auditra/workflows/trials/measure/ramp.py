"""Raise a load's current until a promise is passed or the source gives way; find where, and what it does then."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from auditra.core.errors import InstrumentError
from auditra.core.links.charging import lowest_sink_v
from auditra.workflows.trials.doors import Clock, Load, VoltsAmperes

STEP_A = 0.1
MOST_A = 12.0
MOST_USB_A = 5.5
"""A tenth above what any plug of USB carries (USB Type-C R2.2, 3.7.7; 5 A)."""
FINEST_A = 0.0125
"""Where the source gives way is found to this: a whole step would be 2 W of a source of 20 V."""
SETTLES_IN_S = 0.3
NOTHING_V = 0.5
"""Below this a port is dead."""
BACK_WITHIN_S = 10.0
"""How long a source that cut off is left without load before it counts as gone: sources try again within seconds."""
_LOOK_S = 0.2
_BACK_SHARE = 0.9
_OFF_SHARE, _OFF_A = 0.05, 0.05
"""How far the current that a load draws may be from the one that it was set to, while the source holds its volts."""


@dataclass
class Ramp:
    """A ramp as it went. `held_a` is the most that the source kept up, `gave_way_a` the least at which it did not."""

    open_v: float = 0.0
    has_passed: bool = False
    held_a: float = 0.0
    held: VoltsAmperes = VoltsAmperes(0.0, 0.0)
    """What the load read at that current."""
    gave_way_a: float | None = None
    fell_to_v: float = 0.0
    back_after_s: float | None = None
    """How long it took to come back after it had cut off; None where it did not cut off, or did not come back."""
    is_gone: bool = False
    """It cut off and did not come back."""
    time_s: list[float] = field(default_factory=list)
    volts: list[float] = field(default_factory=list)
    amperes: list[float] = field(default_factory=list)

    @property
    def is_dead(self) -> bool:
        """There was no voltage even without load."""
        return self.open_v < NOTHING_V

    @property
    def cut_off(self) -> bool:
        return self.gave_way_a is not None and self.fell_to_v < NOTHING_V

    @property
    def words(self) -> str:
        """Where it gave way and what it did then; empty where it did not."""
        if self.gave_way_a is None:
            return ""
        at = f"gave way at {self.gave_way_a:.2f} A"
        if not self.cut_off:
            return f"{at} to {self.fell_to_v:.1f} V"
        if self.is_gone:
            return f"{at}: cut off, and not back within {BACK_WITHIN_S:g} s without load"
        return f"{at}: cut off" + (f", back after {self.back_after_s:.1f} s" if self.back_after_s is not None else "")


Look = Callable[[float, VoltsAmperes], bool]
"""Told the current that was set and what the load reads; True once the promise is passed."""


def require_drawn(amperes: float, taken: VoltsAmperes) -> None:
    """While the volts hold, a load draws what it was set to; one that does not would pass for a weak source.

    Raises: InstrumentError.
    """
    if abs(taken.amperes - amperes) > _OFF_SHARE * amperes + _OFF_A + (taken.error_a or 0.0):
        why = f"it was set to {amperes:.2f} A and reads {taken.amperes:.2f} A while the voltage holds"
        raise InstrumentError("the load", why=why, do="Check its mode, its range and its leads")


@dataclass
class Ramping:
    """One ramp of a load, up to `most_a` or what the load can be set to. Raises: InstrumentError where the load cannot
    be believed; whatever `passed` raises.
    """

    clock: Clock
    load: Load
    passed: Look
    most_a: float = MOST_A
    made: Ramp = field(default_factory=Ramp)

    def run(self) -> Ramp:
        """The load is on and draws nothing; afterwards it draws what the source holds, or nothing where it is gone."""
        self.clock.sleep(SETTLES_IN_S)
        self._started_s = self.clock.now_s()
        made = self.made
        made.open_v = self._kept(self.load.measure()).volts
        most_a = min(self.most_a, self.load.highest_a)
        while not (made.is_dead or made.has_passed) and made.held_a < most_a:
            amperes = min(STEP_A * (round(made.held_a / STEP_A) + 1), most_a)
            taken = self._draw(amperes)
            if taken is None:
                self._find_edge(amperes)
                return made
            self._hold(amperes, taken)
        return made

    def _hold(self, amperes: float, taken: VoltsAmperes) -> None:
        self.made.held_a, self.made.held = amperes, taken
        self.made.has_passed = self.passed(amperes, taken)

    def _draw(self, amperes: float) -> VoltsAmperes | None:
        """What is read at a current; None where the source gives way."""
        self.load.set_current(amperes)
        self.clock.sleep(SETTLES_IN_S)
        taken = self._kept(self.load.measure())
        if self._has_given_way(taken):
            self.made.gave_way_a, self.made.fell_to_v = amperes, taken.volts
            return None
        require_drawn(amperes, taken)
        return taken

    def _has_given_way(self, taken: VoltsAmperes) -> bool:
        return taken.volts < lowest_sink_v(self.made.open_v)

    def _find_edge(self, gave_way_a: float) -> None:
        """Halve the step in which it gave way, as long as it comes back each time."""
        made = self.made
        if not self._comes_back_at(made.held_a):
            return
        while gave_way_a - made.held_a > FINEST_A:
            middle_a = (made.held_a + gave_way_a) / 2
            taken = self._draw(middle_a)
            if taken is not None:
                self._hold(middle_a, taken)
                continue
            gave_way_a = middle_a
            if not self._comes_back_at(made.held_a):
                return
        self.load.set_current(made.held_a)
        self.clock.sleep(SETTLES_IN_S)

    def _comes_back_at(self, amperes: float) -> bool:
        """Back off to a current that it held; one that has cut off is left without load until it tries again."""
        self.load.set_current(amperes)
        self.clock.sleep(SETTLES_IN_S)
        if not self._has_given_way(self._kept(self.load.measure())):
            return True
        self.load.set_current(0.0)
        begun_s = self.clock.now_s()
        while self.clock.now_s() - begun_s < BACK_WITHIN_S:
            if self._kept(self.load.measure()).volts >= _BACK_SHARE * self.made.open_v:
                self.made.back_after_s = self.clock.now_s() - begun_s
                self.load.set_current(amperes)
                self.clock.sleep(SETTLES_IN_S)
                if not self._has_given_way(self._kept(self.load.measure())):
                    return True
                self.load.set_current(0.0)
                break
            self.clock.sleep(_LOOK_S)
        self.made.is_gone = True
        return False

    def _kept(self, taken: VoltsAmperes) -> VoltsAmperes:
        self.made.time_s.append(self.clock.now_s() - self._started_s)
        self.made.volts.append(taken.volts)
        self.made.amperes.append(taken.amperes)
        return taken
