"""Pictures that ought to stay while something else is plugged or pulled: whether one is lost meanwhile."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EventNoted
from auditra.core.model.device import DEVICE
from auditra.core.model.event import EventKind
from auditra.core.model.rig import Display
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove
from auditra.workflows.trials.doors import Bench, Clock

LOOKS_EVERY_S = 0.25
_LOOKS_ON_FOR_S = 3.5
"""An output that answers a plug answers it within a second or two: longer would make every trial wait."""


@dataclass
class PictureWatch:
    """Looks at displays that stay as they are and had a picture before the hands moved; there may be none."""

    still_shows: Callable[[str], bool]
    clock: Clock
    plugged: Sequence[Plugged]
    _dark: set[str] = field(default_factory=set)
    _seen: list[tuple[EventKind, str, datetime]] = field(default_factory=list)

    def look(self) -> None:
        for each in self.plugged:
            dark = not self.still_shows(each.gear)
            if dark != (each.gear in self._dark):
                kind = EventKind.PICTURE_LOST if dark else EventKind.PICTURE_BACK
                self._seen.append((kind, each.socket, self.clock.moment()))
                self._dark ^= {each.gear}

    def look_on(self) -> None:
        """For a while after the last move."""
        until_s = self.clock.now_s() + _LOOKS_ON_FOR_S if self.plugged else 0.0
        while self.clock.now_s() < until_s:
            self.look()
            self.clock.sleep(LOOKS_EVERY_S)

    def meanwhile(self, done: Callable[[], bool] | None) -> Callable[[], bool] | None:
        """What says whether the moves are done, with a look at the pictures whenever that is asked."""
        if not self.plugged:
            return done

        def asked() -> bool:
            self.look()
            return done is not None and done()

        return asked

    @property
    def dark_s(self) -> float:
        """For how long pictures were gone, all together."""
        begun: dict[str, datetime] = {}
        dark_s = 0.0
        for kind, socket, moment in self._seen:
            if kind is EventKind.PICTURE_LOST:
                begun[socket] = moment
            else:
                dark_s += (moment - begun.pop(socket)).total_seconds()
        return dark_s + sum((self.clock.moment() - each).total_seconds() for each in begun.values())

    def events(self, trial: str) -> Iterable[EventNoted]:
        """What was seen, as facts of the trial that the hands set up."""
        return [EventNoted(kind, "", socket, trial, moment) for kind, socket, moment in self._seen]


def watch_pictures(planned: PlannedTrial, moves: Sequence[PlugMove], audit: Audit, bench: Bench) -> PictureWatch:
    """A watch on none where no display can be read back, where nothing is plugged, or where the device itself moves:
    then every picture goes, and rightly."""
    last, shown = audit.last_setup, bench.displays.still_shows if bench.displays is not None else _shows_nothing
    if last is None or not moves or any(move.what.gear == DEVICE for move in moves):
        return PictureWatch(shown, bench.clock, ())
    stay = set(_lit(audit, last)) & set(_lit(audit, planned.setup)) - {move.what for move in moves}
    watched = sorted((each for each in stay if shown(each.gear)), key=lambda each: each.socket)
    return PictureWatch(shown, bench.clock, watched)


def _shows_nothing(display: str) -> bool:
    return False


def _lit(audit: Audit, setup: SetUp) -> Iterable[Plugged]:
    """The displays behind the device that are on."""
    return (each for each in setup.plugged if each.owner == DEVICE and each.gear not in setup.switched_off
            and isinstance(audit.rig.find(each.gear), Display))  # fmt: skip
