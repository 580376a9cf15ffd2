"""The Publish stage in words."""

from __future__ import annotations

from textual.content import Content

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
    for reason in judgement.reasons_so_far:
        lines.append(Content.assemble(("because".ljust(14), f"bold {palette.accent}"), reason.sentence))
        lines.append(Content.styled(f"{'':14}{reason.arithmetic}", palette.quiet))
    for finding in judgement.unstated:
        lines.append(
            Content.assemble((f"{UNSTATED_MARK} unstated".ljust(14), f"bold {palette.partly}"), finding.sentence)
        )
        lines.append(Content.styled(f"{'':14}{finding.arithmetic}", palette.quiet))
    return Content("\n").join(lines)
