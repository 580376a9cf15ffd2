"""The ledger: where every point of the score was earned or lost, line by line."""

from __future__ import annotations

from collections.abc import Mapping

from textual.content import Content

from auditra.core.advice.coverage import coverage_of
from auditra.core.advice.praise import Remark, praise, warnings
from auditra.core.judge.finding import Role
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.score import Line, Score
from auditra.core.model.profile import Profile
from auditra.core.model.verdict import UNSTATED_MARK
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import fill
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_FIGURES_WIDTH = 21
_TEXT_WIDTH, _MIN_SHOWN = 36, 20


def render_ledger(judgement: Judgement, selected: str | None, width: int, palette: Palette) -> Content:
    """A line a claim and finding, then the foot that they add up to; the ledgers of a kit one after the other."""
    lines = _one_ledger(judgement.score, "ledger", judgement, selected, width, palette)
    for device, score in judgement.scores.items():
        if device != judgement.device:
            lines += [Content(""), *_one_ledger(score, f"ledger of {device}", judgement, selected, width, palette)]
    return Content("\n").join(lines)


def _one_ledger(
    score: Score, name: str, judgement: Judgement, selected: str | None, width: int, palette: Palette
) -> list[Content]:
    lines = [heading(name, palette, "where every point went"), Content("")]
    room = max(20, width - _FIGURES_WIDTH)
    text_width = min(_TEXT_WIDTH, room) if room >= _TEXT_WIDTH + _MIN_SHOWN else room
    lines += [_line(line, judgement, selected, text_width, room - text_width, palette) for line in score.ledger]
    lines.append(Content.styled("─" * min(width, room + _FIGURES_WIDTH - 1), palette.rule))
    foot = f"{score.earned:>11} of {score.weight_decided:<6}"
    lines.append(
        Content.assemble(("earned of the decided claims".ljust(room), palette.quiet), (foot, f"bold {palette.ink}"))
    )
    return lines


def _line(line: Line, judgement: Judgement, selected: str | None, text: int, shown: int, palette: Palette) -> Content:
    mark = line.verdict.mark if line.verdict else UNSTATED_MARK
    colour = palette.of(line.verdict) if line.verdict else palette.partly
    verdict = judgement.of_claim(line.claim) if line.claim else None
    here = verdict is not None and selected in verdict.claim.ports
    words = line.text if line.verdict else f"unstated: {line.text}"
    told = (
        verdict.condition or verdict.shown
        if verdict
        else next((each.arithmetic for each in judgement.unstated if each.sentence == line.text), "")
    )
    earned = f"{line.lowest} to {line.highest}" if line.earned is None else f"{line.earned}"
    weight = f" of {line.weight}" if line.weight else ""
    return Content.assemble(
        (f"{mark:3}", f"bold {colour}"),
        (fill(words, text - 3), f"bold {palette.accent}" if here else palette.ink),
        (fill(f" {told}", shown) if shown else "", palette.quiet),
        (f"{earned:>11}", colour),
        (f"{weight:<9}", palette.quiet),
    )


_REASONS = (
    ("because", (Role.CAUSE, Role.CONTENTION)), ("limits of the rig", (Role.RIG_LIMIT,)),
    ("contradictions", (Role.CONTRADICTION,)), ("chance", (Role.CHANCE,)),
)  # fmt: skip


def score_summary(judged: JudgedAudit, palette: Palette) -> Content:
    """What the score rests on and what follows from it; then what to warn of and what to praise, with their trials."""
    judgement = judged.judgement
    score, found = judgement.score, coverage_of(judged.audit, judgement, judged.audit.device)
    lines = [
        Content.styled(f"{found.claims.words} claims decided.", palette.ink),
        Content.styled(f"Tried on {found.ports.words} ports and {found.hosts.words} hosts.", palette.ink),
        Content.styled(_outlook(score), palette.quiet),
        Content.styled(f"{found.advice.capitalize()}.", f"bold {palette.accent}"),
    ]
    if len(judgement.scores) > 1:
        lines += [Content(""), heading("each device of the kit", palette)]
        lines += [Content.styled(f"{device}: {_points(own)}", palette.ink) for device, own in judgement.scores.items()]
    if score.danger:
        capped = f"Danger: {score.danger}. The score is capped."
        lines += [Content(""), Content.styled(capped, f"bold {palette.broken}")]
    if judgement.to_do:
        lines += [Content(""), Content.styled(f"Next: {judgement.to_do[0].title} (stage 4)", palette.accent)]
    if warn := warnings(judgement):
        lines += [Content(""), Content.styled("WARNINGS", f"bold {palette.broken}")]
        lines += [_remark(each, palette) for each in warn]
    for title, roles in _REASONS:
        reasons = [finding.sentence for finding in judgement.reasons_so_far if finding.role in roles]
        if reasons:
            lines += [Content(""), heading(title, palette), *(Content.styled(each, palette.ink) for each in reasons)]
    if good := praise(judgement):
        lines += [Content(""), heading("praise", palette), *(_remark(each, palette) for each in good)]
    return Content("\n").join(lines)


def _remark(remark: Remark, palette: Palette) -> Content:
    trials = f"  {', '.join(remark.trials)}" if remark.trials else ""
    return Content.assemble(("- ", palette.accent), (sanitize(remark.text, 300), palette.ink), (trials, palette.quiet))


def profile_line(profile: Profile, scores: Mapping[str, Score]) -> str:
    """A profile with the score of each device under it."""
    values = (_points(score) if len(scores) == 1 else f"{device} {_points(score)}" for device, score in scores.items())
    return f"{fill(profile.name, 14)}{'; '.join(values)}"


def _points(score: Score) -> str:
    value = "no score yet" if score.value is None else f"{score.value}"
    return f"{value} ({score.lowest:.0f} to {score.highest:.0f})"


def _outlook(score: Score) -> str:
    if score.lowest == score.highest:
        return "All claims are decided."
    return f"What is open or not yet tried can move it between {score.lowest:.0f} and {score.highest:.0f}."
