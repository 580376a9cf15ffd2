"""The Run stage in words: what to do now, what comes next, what happened."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import Enum

from textual.content import Content

from auditra.core.claims.promise import Scale
from auditra.core.decide.estimates import estimate
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.journal.fold import Audit
from auditra.core.judge.judgement import Judgement
from auditra.core.model.reading import Quantity, Reading
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.quantities.display import Format
from auditra.core.wiring.moves import PlugMove, in_words
from auditra.tui.renderables.cells import cut
from auditra.tui.renderables.scale import Mark
from auditra.tui.renderables.words import heading
from auditra.tui.theme import Palette


class Phase(Enum):
    """Where a trial is."""

    READY = "ready"
    MEASURING = "measuring"
    ASKING = "asking"


@dataclass
class Live:
    """What the Run stage shows of the trial under way or just done."""

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
    """Something is to be typed, rather than plugged."""
    at: str | None = None
    """The port that is measured now, where a trial measures several."""

    def clear_trace(self) -> None:
        self.time_s, self.values, self.value = [], [], None


@dataclass(frozen=True)
class Watched:
    """What the reading under way is held against."""

    words: str
    fmt: Format
    limit: float
    marks: tuple[Mark, ...]


def watched(
    planned: PlannedTrial, audit: Audit, judgement: Judgement, palette: Palette, at: str | None = None
) -> Watched | None:
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
    return Watched(claim.promise.words, claim.promise.format, scale.limit, tuple(marks))


def recorded(port: str | None, audit: Audit, judgement: Judgement) -> Live | None:
    """The newest trace of a port, to be looked at while nothing is measured; None where it has none."""
    for record in reversed(audit.trials):
        planned = judgement.sheet.trial(record.trial.key)
        traced = [reading for reading in record.readings if reading.trace is not None and reading.at == port]
        if planned is not None and traced:
            reading = max(traced, key=_span_s)
            trace = reading.trace
            live = Live(planned=planned, at=port, doing=f"{reading.at} {reading.quantity}, trial {record.trial.id}")
            soaked = trace is not None and reading.quantity is Quantity.SOAK_RATE
            live.value = trace.values[-1] if trace is not None and soaked else estimate(reading).value
            live.time_s, live.values = (list(trace.time_s), list(trace.values)) if trace else ([], [])
            return live
    return None


def _span_s(reading: Reading) -> float:
    """How long its trace is; of several, the longest tells most."""
    return reading.trace.time_s[-1] if reading.trace is not None and reading.trace.time_s else 0.0


def past_log(audit: Audit, judgement: Judgement) -> list[tuple[datetime, str]]:
    """The trials of an audit as lines of its log."""
    lines = []
    for record in audit.trials:
        planned = judgement.sheet.trial(record.trial.key)
        title = planned.title if planned else record.trial.key
        if record.begun_at is not None:
            lines.append((record.begun_at, f"{record.trial.id} {title}: {record.outcome or 'cut off'}"))
    return lines


def _direct(gear: str, audit: Audit, scale: Scale) -> float | None:
    values = [
        estimate(reading).value
        for record in audit.trials
        if record.trial.port is None and record.trial.gear == gear
        for reading in record.readings
        if reading.quantity in scale.quantities
    ]
    return min(values) if values else None


def now_panel(live: Live, audit: Audit, judgement: Judgement, palette: Palette) -> Content:
    """What the hands do now, and why."""
    planned = live.planned
    if planned is None:
        return _all_done(judgement, palette)
    total, left = len(judgement.sheet.trials), len(judgement.to_do)
    lines = [heading("now", palette, f"trial {min(total, total - left + 1)} of {total}"), Content("")]
    lines += [Content.styled(planned.title, f"bold {palette.ink}"), Content("")]
    lines += [_move_line(move, audit, live.phase is Phase.MEASURING or live.asks_text, palette) for move in live.moves]
    if not live.moves:
        lines.append(Content.styled("  everything is already connected", palette.quiet))
    lines += [Content(""), Content.styled(_call(live), f"bold {palette.accent}"), Content("")]
    lines.append(Content.assemble(("why   ", palette.quiet), (planned.why, palette.quiet)))
    lines += [_reading_line(reading, palette) for reading in live.readings]
    if live.message:
        lines += [Content(""), Content.styled(live.message, palette.broken if live.failed else palette.ink)]
    return Content("\n").join(lines)


def _call(live: Live) -> str:
    match live.phase:
        case Phase.READY:
            return "Enter: connected as shown, start the trial"
        case Phase.ASKING:
            return live.doing
        case Phase.MEASURING:
            return live.doing or "waiting for the gear to appear"


def _move_line(move: PlugMove, audit: Audit, done: bool, palette: Palette) -> Content:
    sign = "✓" if done else "▸"
    words = in_words(move, audit.device, audit.rig)
    return Content.assemble(
        (f"{sign} ", palette.quiet if done else palette.accent), (words, palette.quiet if done else palette.ink)
    )


def _reading_line(reading: Reading, palette: Palette) -> Content:
    return Content.assemble(
        ("taken ", palette.quiet),
        (f"{reading.quantity} {reading_in_words(reading)}", palette.holds),
        (f"  grade {reading.grade.value}", palette.quiet),
    )


def _all_done(judgement: Judgement, palette: Palette) -> Content:
    lines = [heading("run", palette, "no trials left"), Content("")]
    if not judgement.sheet.trials:
        lines.append(Content.styled("No trials planned: this rig cannot show any of the claims.", palette.ink))
    else:
        lines.append(Content.styled(f"All {len(judgement.sheet.trials)} trials are done.", palette.ink))
        lines.append(Content.styled("Press 7 for the score, 8 to preview the report.", palette.quiet))
    verdicts = {each.claim.id: each.claim for each in judgement.claims}
    for claim_id, lacking in judgement.sheet.beyond_rig.items():
        lines.append(Content.styled(f"? {verdicts[claim_id]}: {lacking}", palette.unsure))
    return Content("\n").join(lines)


def next_panel(judgement: Judgement, live: Live, palette: Palette, width: int, room: int) -> Content:
    """The trials after this one, a line each."""
    total = len(judgement.sheet.trials)
    after = [each for each in judgement.to_do if live.planned is None or each.key != live.planned.key]
    lines = [heading("next", palette, f"{len(after)} more" if after else "no more trials"), Content("")]
    first = total - len(after) + 1
    for number, planned in enumerate(after[: max(1, room - 3)], start=first):
        lines.append(Content.assemble((f"{number:>3} ", palette.quiet), (cut(planned.title, width - 4), palette.ink)))
    if len(after) > room - 3:
        lines.append(Content.styled(f"    … {len(after) - max(1, room - 3)} more", palette.quiet))
    return Content("\n").join(lines)


def log_panel(log: Sequence[tuple[datetime, str]], palette: Palette, width: int, room: int) -> Content:
    """What happened last, a line each, newest at the foot."""
    lines = [heading("log", palette), Content("")]
    for at, words in log[-max(1, room - 2) :]:
        lines.append(Content.styled(cut(f"{at:%H:%M:%S}  {words}", width), palette.quiet))
    if not log:
        lines.append(Content.styled("Connections, readings and undos are listed here.", palette.quiet))
    return Content("\n").join(lines)
