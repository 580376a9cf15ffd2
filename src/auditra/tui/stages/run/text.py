"""The Run stage in words: what to do now, what comes next, what happened."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from textual.content import Content

from auditra.core.decide.reading_text import reading_in_words
from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import Judgement
from auditra.core.model.depth import Depth
from auditra.core.model.reading import Reading
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove, in_words
from auditra.tui.controllers.live_trial import LiveTrial, Phase
from auditra.tui.renderables.cells import cut
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette


def now_panel(live: LiveTrial, audit: Audit, judgement: Judgement, palette: Palette) -> Content:
    """What the hands do now, and why."""
    planned = live.planned
    if planned is None:
        return _all_done(live, audit, judgement, palette)
    known = list(dict.fromkeys((*judgement.in_order, *judgement.to_do)))
    number = known.index(planned) + 1 if planned in known else len(known)
    lines = [heading("now", palette, f"trial {number} of {len(known)}"), Content("")]
    lines += [Content.styled(planned.title, f"bold {palette.ink}"), Content("")]
    lines += [_move_line(move, audit, live.phase is Phase.MEASURING or live.asks_text, palette) for move in live.moves]
    if not live.moves:
        lines.append(Content.styled(f"  {_already(planned)}", palette.quiet))
    lines += [Content(""), Content.styled(_call(live), f"bold {palette.accent}"), Content("")]
    lines.append(Content.assemble(("why   ", palette.quiet), (planned.why, palette.quiet)))
    lines += [_reading_line(reading, palette) for reading in live.readings]
    if live.message:
        lines += [Content(""), Content.styled(live.message, palette.broken if live.failed else palette.ink)]
    return Content("\n").join(lines)


def _already(planned: PlannedTrial) -> str:
    return "everything is already connected" if planned.setup.plugged else "nothing has to be connected"


def _call(live: LiveTrial) -> str:
    match live.phase:
        case Phase.READY:
            return "Enter: connected as shown, start the trial" if live.moves else "Enter: start the trial"
        case Phase.ASKING:
            return live.doing
        case Phase.MEASURING:
            return live.doing or "waiting for the gear to appear"


def _move_line(move: PlugMove, audit: Audit, done: bool, palette: Palette) -> Content:
    sign = "✓" if done else "▸"
    words = in_words(move, audit.device_of(move.device), audit.rig)
    return Content.assemble(
        (f"{sign} ", palette.quiet if done else palette.accent), (words, palette.quiet if done else palette.ink)
    )


def _reading_line(reading: Reading, palette: Palette) -> Content:
    return Content.assemble(
        ("taken ", palette.quiet),
        (f"{reading.quantity} {reading_in_words(reading)}", palette.holds),
        (f"  grade {reading.grade.value}", palette.quiet),
    )


def _all_done(live: LiveTrial, audit: Audit, judgement: Judgement, palette: Palette) -> Content:
    lines = [heading("run", palette, "no trials left"), Content("")]
    count, skipped = len(judgement.in_order), len(audit.skipped)
    if not count:
        lines.append(Content.styled(_nothing_planned(judgement), palette.ink))
    else:
        done = f"{count - skipped} trials are done, {skipped} skipped." if skipped else f"All {count} trials are done."
        lines.append(Content.styled(done, palette.ink))
        lines.append(Content.styled("Press 7 for the score, 8 to preview the report.", palette.quiet))
        if audit.depth is not Depth.FORENSIC:
            deeper = f"That was the {audit.depth} sheet: d shows what the {audit.depth.deeper} one adds."
            lines.append(Content.styled(deeper, palette.quiet))
    verdicts = {verdict.claim.id: verdict.claim for verdict in judgement.claims}
    for claim_id, lacking in judgement.sheet.beyond_rig.items():
        lines.append(Content.styled(f"? {verdicts[claim_id]}: {lacking}", palette.unsure))
    if live.message:
        lines += [Content(""), Content.styled(live.message, palette.broken if live.failed else palette.ink)]
    return Content("\n").join(lines)


def _nothing_planned(judgement: Judgement) -> str:
    if not judgement.claims:
        return "No claims yet: press 1 to add them. o plans a trial of your own."
    return "No trials planned: this rig cannot show any of the claims. Stage 3 says what it lacks."


def log_panel(log: Sequence[tuple[datetime, str]], palette: Palette, width: int, room: int) -> Content:
    """What happened last, a line each, newest at the foot."""
    lines = [heading("log", palette), Content("")]
    for at, words in log[-max(1, room - 2) :]:
        lines.append(Content.styled(cut(f"{at:%H:%M:%S}  {words}", width), palette.quiet))
    if not log:
        lines.append(Content.styled("Connections, readings and undos are listed here.", palette.quiet))
    return Content("\n").join(lines)


def without_scale(live: LiveTrial, palette: Palette) -> Content:
    """The reading panel of a trial in which nothing is a number to watch."""
    if live.planned is None:
        return Content("")
    idle = "This trial asks whether something works; it has no scale."
    words = idle if live.phase is Phase.READY else live.doing
    return Content("\n").join([heading("reading", palette), Content(""), Content.styled(words, palette.quiet)])
