"""The stages that are still to come say in a line what belongs there; Publish tells what it writes."""

from __future__ import annotations

from textual.content import Content

from auditra.core.judge.judgement import Judgement
from auditra.tui.renderables.words import heading, report_in_words
from auditra.tui.widgets.faces import STAGES
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

_BELONGS = {
    5: "Shows the traces of every trial: rates, voltages and temperatures.",
    6: "Chain, contention and the finding in plain words belong here. Stage 4 shows the sums of the chosen socket.",
    8: "What the reader will see. Press p to write the faces drawing (SVG, PDF) and the report (PDF).",
}


class QuietStage(ShownText):
    """One line about the chosen stage."""

    DEFAULT_CSS = "QuietStage { height: 1fr; padding: 1 2; }"

    def show(self, stage: int, message: str, judgement: Judgement) -> None:
        palette = palette_of(self)
        lines = [heading(STAGES[stage - 1], palette), Content(""), Content.styled(_BELONGS.get(stage, ""), palette.ink)]
        if message:
            lines += [Content(""), *(Content.styled(line, palette.holds) for line in message.splitlines())]
        if stage == len(STAGES):
            lines += [Content(""), report_in_words(judgement, palette)]
        self.update(Content("\n").join(lines))
