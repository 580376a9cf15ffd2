"""The stages in the order of the work. A new stage is a folder beside this file and one line here."""

from __future__ import annotations

from auditra.tui.stages.claims.stage import ClaimsStage
from auditra.tui.stages.paper.stage import PaperStage
from auditra.tui.stages.publish.stage import PublishStage
from auditra.tui.stages.rig.stage import RigStage
from auditra.tui.stages.run.stage import RunStage
from auditra.tui.stages.score.stage import ScoreStage
from auditra.tui.stages.stage import Stage
from auditra.tui.stages.traces.stage import TracesStage
from auditra.tui.stages.why.stage import WhyStage

STAGES: tuple[type[Stage], ...] = (
    ClaimsStage,
    PaperStage,
    RigStage,
    RunStage,
    TracesStage,
    WhyStage,
    ScoreStage,
    PublishStage,
)
FIRST_STAGE = STAGES.index(RunStage)
"""An audit opens where trials are run."""
