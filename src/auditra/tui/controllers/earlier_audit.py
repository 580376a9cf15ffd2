"""The audit that this one follows, judged as it stands: read once, when somebody looks at the difference."""

from __future__ import annotations

from typing import TYPE_CHECKING

from auditra.core.errors import AuditraError
from auditra.core.judge.follow_up import FollowUp, follow_up_of
from auditra.core.judge.judged_audit import JudgedAudit

if TYPE_CHECKING:
    from auditra.tui.audit_state import AuditState


class EarlierAudit:
    """Nothing where this audit follows none, or where the earlier one is not on the shelf any more."""

    def __init__(self, state: AuditState) -> None:
        self._state = state
        self._name = ""
        self._judged: JudgedAudit | None = None

    def difference(self) -> FollowUp | None:
        """What differs between the two."""
        follows = self._state.judged.audit.follows
        if follows is None:
            return None
        if self._name != follows.earlier:
            self._name, self._judged = follows.earlier, self._read(follows.earlier)
        return follow_up_of(self._judged, self._state.judged, follows.changed) if self._judged is not None else None

    def _read(self, name: str) -> JudgedAudit | None:
        try:
            return self._state.services.open_session(name).judged
        except AuditraError:
            return None
