"""Works out the causes of a judgement on a thread of its own: a key must never wait for them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from auditra.core.judge.judgement import Judgement
from auditra.tui.messages import ReasonsFound

if TYPE_CHECKING:
    from auditra.tui.audit_state import AuditState

SETTLES_AFTER_S = 0.3
"""While trials follow one another, or somebody types, the causes of the moments between are of no use."""


class Explainer:
    """Asked whenever the screen is painted; each judgement is explained once, and none while a trial runs."""

    def __init__(self, state: AuditState) -> None:
        self._state = state
        self._waits = False
        self._asked: Judgement | None = None

    def want(self) -> None:
        """Explain the judgement as it stands once things have settled, unless that is done or under way."""
        if self._is_wanted and not self._waits:
            self._waits = True
            self._state.surface.later(SETTLES_AFTER_S, self._begin)

    @property
    def _is_wanted(self) -> bool:
        judgement = self._state.judged.judgement
        is_known = judgement.is_explained or judgement is self._asked
        return not is_known and not self._state.runner.is_measuring

    def _begin(self) -> None:
        self._waits = False
        if self._is_wanted:
            judgement = self._asked = self._state.judged.judgement
            self._state.surface.explain_in_background(lambda: self._explain(judgement))

    def _explain(self, judgement: Judgement) -> None:
        judgement.explain()
        self._state.surface.post_message(ReasonsFound())
