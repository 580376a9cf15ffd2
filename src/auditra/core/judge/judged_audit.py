"""An audit with its judgement: what every screen, report and file is made of."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import Judgement


@dataclass(frozen=True)
class JudgedAudit:
    """An audit as it is now, with its judgement."""

    audit: Audit
    judgement: Judgement
    bench: str
    """What its trials run on: "simulated bench" or "live bench". Every screen and report says so."""
    flaws: tuple[str, ...] = ()
    """What is wrong with its evidence, where that was checked."""
