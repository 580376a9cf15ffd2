"""The Publish stage in words."""

from __future__ import annotations

from textual.content import Content

from auditra.core.judge.finding import Role
from auditra.core.judge.judgement import Judgement
from auditra.core.model.verdict import UNSTATED_MARK
from auditra.tui.renderables.labels import verdict_words
from auditra.tui.theme import Palette


def report_preview(judgement: Judgement, palette: Palette) -> Content:
    """What the reader will see: every claim with its verdict, what was shown, and the sum behind it."""
    lines: list[Content] = []
    for verdict in judgement.claims:
        mark = verdict_words(verdict.verdict, palette)
        gap = " " * max(1, 14 - mark.cell_length)
        condition = f", {verdict.condition}" if verdict.condition else ""
        lines.append(Content.assemble(mark, gap, (f"{verdict.claim}{condition}", f"bold {palette.ink}")))
        lines.append(Content.styled(f"{'':14}{verdict.shown}", palette.ink))
        if verdict.why:
            lines.append(Content.styled(f"{'':14}{verdict.why}", palette.quiet))
    for finding in (*judgement.dangers, *judgement.reasons_so_far, *judgement.unstated):
        word, colour = {
            Role.DANGER: ("danger", palette.broken), Role.UNSTATED: (f"{UNSTATED_MARK} unstated", palette.partly),
        }.get(finding.role, ("because", palette.accent))  # fmt: skip
        lines.append(Content.assemble((word.ljust(14), f"bold {colour}"), finding.sentence))
        lines.append(Content.styled(f"{'':14}{finding.arithmetic}", palette.quiet))
    return Content("\n").join(lines)
