"""The log of an audit's trials: what happened, a line each."""

from __future__ import annotations

from datetime import datetime

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.procedures.identity import identity_text
from auditra.core.sanitize import sanitize

MAX_LINES = 200


class TrialLog:
    """Begins with the trials that are in the journal already."""

    def __init__(self, judged: JudgedAudit) -> None:
        self.lines: list[tuple[datetime, str]] = []
        for record in judged.audit.trials:
            planned = judged.judgement.sheet.trial(record.identity)
            title = planned.title if planned else identity_text(record.identity)
            if record.begun_at is not None:
                self.add(record.begun_at, f"{record.trial.id} {title}: {record.outcome or 'cut off'}")

    def add(self, at: datetime, words: str) -> None:
        self.lines.append((at, sanitize(words, 80)))
        del self.lines[:-MAX_LINES]
