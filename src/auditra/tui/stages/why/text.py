"""The Why stage in words: the trials of a port, and two of them side by side."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.decide.circumstance_text import setup_text
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.claim_verdict import ALONE
from auditra.core.judge.comparison import TrialComparison, measured_text
from auditra.core.judge.judgement import Judgement
from auditra.core.model.circumstance import Aspect, Circumstance, Running
from auditra.core.procedures.registry import procedure_of
from auditra.core.sanitize import sanitize
from auditra.core.wiring.trial_profile import planned_circumstances
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette


def trials_of(port: str | None, audit: Audit) -> tuple[TrialRecord, ...]:
    """The trials of a port, and those of the same gear without the device."""
    here = [record for record in audit.trials if port and (record.trial.port == port or record.taken.at(port))]
    gear = {record.trial.setup.gear_at(port or "") or record.trial.gear for record in here}
    return tuple(
        record for record in audit.trials
        if record in here or (record.trial.setup.direct and record.trial.port is None and record.trial.gear in gear)
    )  # fmt: skip


def list_of_trials(
    records: Sequence[TrialRecord], chosen: int, marked: str | None, port: str | None, judgement: Judgement,
    palette: Palette,
) -> tuple[Content, int]:  # fmt: skip
    """Two lines a trial, and the line at which the chosen one begins."""
    aside = {each.trial: each for each in judgement.set_aside}
    count = counted(len(records), "trial") if records else ""
    lines = [heading(f"trials of {port}" if port else "trials", palette, count), Content("")]
    if not records:
        lines.append(Content.styled("No trial of this port yet. Run its trials in stage 4, Run.", palette.quiet))
    line = 0
    for index, record in enumerate(records):
        trial, is_chosen = record.trial, index == chosen
        line = len(lines) if is_chosen else line
        mark = "▸ " if is_chosen else "* " if trial.id == marked else "  "
        style = f"bold {palette.accent}" if is_chosen else palette.ink
        place = "direct" if trial.port is None else trial.port
        title = f"{trial.id}  {place} {procedure_of(trial.procedure).title}"
        lines.append(Content.assemble((mark, palette.accent), (title, style)))
        words = setup_text(
            sorted((each for each in planned_circumstances(trial.setup) if _is_shown(each, port)), key=repr)
        )
        why = aside.get(trial.id)
        lines.append(
            Content.styled(f"  set aside: {sanitize(why.why, 90)}", palette.partly)
            if why is not None
            else Content.styled(f"  {words or ALONE}", palette.quiet)
        )
    return Content("\n").join(lines), line


def _is_shown(circumstance: Circumstance, port: str | None) -> bool:
    """What is special about a set-up; not the host, and not what the port itself does."""
    if isinstance(circumstance, Running):
        return circumstance.claim.partition(" ")[0] != port
    return circumstance.aspect is not Aspect.HOST


def comparison_lines(found: TrialComparison | None, palette: Palette) -> Iterator[Content]:
    """Fair or not, each difference, each ratio."""
    if found is None:
        yield Content.styled("Press m on one trial, then choose another to compare them.", palette.quiet)
        return
    yield heading(f"{found.one} against {found.other}", palette)
    yield Content.styled(
        "A fair comparison: one thing differs at most." if found.is_fair else f"Not fair: {found.why_not}",
        palette.ink if found.is_fair else palette.partly,
    )
    for difference in found.differences if found.is_fair else ():
        yield Content.styled(f"differs  {difference}", palette.quiet)
    for each in found.measured:
        yield Content.styled(measured_text(each), palette.ink)
    if not found.measured:
        yield Content.styled("No quantity was read in both.", palette.quiet)
