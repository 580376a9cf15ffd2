"""Traces that were recorded, and the scale that a trial's figures are read on."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.promise import Scale
from auditra.core.decide.estimates import estimate
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import Judgement
from auditra.core.model.reading import Quantity, Reading
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.quantities.display import Format
from auditra.tui.renderables.scale import Mark
from auditra.tui.theme import Palette


@dataclass(frozen=True)
class TrialScale:
    """What a trial's figures are compared with."""

    words: str
    fmt: Format
    limit: float
    marks: tuple[Mark, ...]


def trial_scale(
    planned: PlannedTrial, audit: Audit, judgement: Judgement, palette: Palette, at: str | None = None
) -> TrialScale | None:
    """The scale of a trial: claim, the same gear direct, ceiling of the link; None where nothing is a number."""
    bearing = [each.claim for each in judgement.claims if each.claim.id in planned.claims]
    here = [claim for claim in bearing if (at or planned.port) in claim.ports]
    claim = next(iter(here or bearing), None)
    scale = claim.promise.scale() if claim else None
    if claim is None or scale is None:
        return None
    marks = [Mark("claim", scale.limit, palette.accent)]
    gear = planned.setup.gear_at(at or planned.port or claim.port) or planned.gear
    if planned.port is not None and (direct := _direct(gear, audit, scale)) is not None:
        marks.append(Mark("direct", direct, palette.holds))
    if scale.ceiling is not None:
        marks.append(Mark(scale.ceiling_words, scale.ceiling, palette.unsure))
    return TrialScale(claim.promise.words, claim.promise.format, scale.limit, tuple(marks))


@dataclass(frozen=True)
class RecordedTrace:
    """A reading that has a trace, with the trial it came from."""

    trial_id: str
    planned: PlannedTrial
    reading: Reading

    @property
    def title(self) -> str:
        return f"{self.reading.at} {self.reading.quantity}, trial {self.trial_id}"

    @property
    def figure(self) -> float:
        """The figure to show in large: the end of a soak, else the estimate."""
        trace = self.reading.trace
        ends = self.reading.quantity is Quantity.SOAK_RATE or not self.reading.values
        return trace.values[-1] if trace is not None and trace.values and ends else estimate(self.reading).value

    @property
    def span_s(self) -> float:
        trace = self.reading.trace
        return trace.time_s[-1] if trace is not None and trace.time_s else 0.0


def recorded_traces(port: str | None, audit: Audit, judgement: Judgement) -> tuple[RecordedTrace, ...]:
    """The traces of a port, those of the newest trial first, the longest of a trial before the others."""
    found: list[RecordedTrace] = []
    for record in reversed(audit.trials):
        planned = judgement.sheet.trial(record.identity)
        if planned is not None:
            traced = record.taken.at(port or "").traced()
            of_trial = [
                RecordedTrace(record.trial.id, planned, reading)
                for reading in traced
                if reading.values or (reading.trace and reading.trace.values)
            ]
            found += sorted(of_trial, key=lambda recorded: -recorded.span_s)
    return tuple(found)


def _direct(gear: str, audit: Audit, scale: Scale) -> float | None:
    same = (record for record in audit.trials if record.trial.port is None and record.trial.gear == gear)
    readings = ReadingSet.joined(record.taken for record in same).of(*scale.quantities).numbers()
    return min((estimate(reading).value for reading in readings), default=None)
