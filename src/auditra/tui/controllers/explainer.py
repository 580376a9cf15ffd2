"""Works out the causes of a judgement on a thread of its own: a key must never wait for them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from auditra.core.judge.judgement import Judgement
from auditra.tui.messages import ReasonsFound

if TYPE_CHECKING:
    from auditra.tui.audit_state import AuditState


class Explainer:
    """Asked whenever the screen is painted; each judgement is explained once, and none while a trial runs."""

    def __init__(self, state: AuditState) -> None:
        self._state = state
        self._asked: Judgement | None = None

    def want(self) -> None:
        """Explain the judgement as it stands, unless that is done or under way."""
        judgement = self._state.judged.judgement
        if judgement.is_explained or judgement is self._asked or self._state.runner.is_measuring:
            return
        self._asked = judgement
        self._state.surface.explain_in_background(lambda: self._explain(judgement))

    def _explain(self, judgement: Judgement) -> None:
        judgement.explain()
        self._state.surface.post_message(ReasonsFound())
