"""Evidence put together by hand: what was taken, and what the same gear gave direct with nothing else different."""

from __future__ import annotations

from collections.abc import Iterable

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.decide.evidence import Clearing, Evidence, NoRig, OtherCount
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.links.display import parse_mode
from auditra.core.model.reading import Quantity, Reading


class DirectRig(NoRig):
    """A rig of which nothing is known but what the same gear gave direct."""

    def __init__(self, direct: Iterable[Reading]) -> None:
        self._direct_readings = ReadingSet(tuple(direct))
        super().__init__(self._direct_readings)

    def clearing(self, quantity: Quantity | str, shown: Estimate, needed: float) -> Clearing:
        reading = self._direct_readings.of(quantity).numbers().last()
        if reading is None:
            return super().clearing(quantity, shown, needed)
        d = estimate(reading)
        return Clearing(shown.high < d.low, f"direct {d.value:g}", blames_rig=shown.high >= d.low)

    def clearing_of_mode(self, shown: str, needed: str) -> Clearing:
        modes = [parse_mode(reading.text) for reading in self._direct_readings.of(Quantity.MODE) if reading.text]
        return Clearing(any(mode.covers(parse_mode(needed)) for mode in modes), "direct")

    def clearing_of_word(self, name: str) -> Clearing:
        return Clearing(any(reading.yes for reading in self._direct_readings.of(name)), "direct")

    def other_count(self, quantity: Quantity | str) -> OtherCount:
        return OtherCount(self._direct_readings.of(quantity).count())


def evidence_of(*taken: Reading, direct: Iterable[Reading] = ()) -> Evidence:
    """One trial's readings, which are all there are."""
    readings = ReadingSet(taken)
    return Evidence(readings, readings, DirectRig(direct))
