"""The trial under way, as far as it has come."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import Enum

from auditra.core.model.reading import Reading
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove


class Phase(Enum):
    """Where a trial is."""

    READY = "ready"
    MEASURING = "measuring"
    ASKING = "asking"


@dataclass
class LiveTrial:
    """The trial that comes next, is under way, or has just ended."""

    phase: Phase = Phase.READY
    planned: PlannedTrial | None = None
    moves: tuple[PlugMove, ...] = ()
    doing: str = ""
    value: float | None = None
    time_s: list[float] = field(default_factory=list)
    values: list[float] = field(default_factory=list)
    readings: list[Reading] = field(default_factory=list)
    message: str = ""
    failed: bool = False
    asks_text: bool = False
    """Something must be typed, rather than connected."""
    hint: str = ""
    """An example of what must be typed."""
    at: str | None = None
    """The port that is measured now, where a trial measures several."""

    def clear_trace(self) -> None:
        self.time_s, self.values, self.value = [], [], None

    @property
    def has_appeared(self) -> bool:
        """Whether what is tried appeared, or was measured already."""
        return any(reading.count is None or reading.count.seen for reading in self.readings)
