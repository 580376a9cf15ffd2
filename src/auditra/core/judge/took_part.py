"""Which parts of the rig were in the trials behind a verdict."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.rig import part_name


def parts_behind(verdict: ClaimVerdict, judged: JudgedAudit) -> Iterator[str]:
    """Hosts, gear and leads, by what they are called; some of them more than once."""
    trials, rig = set(verdict.trials), judged.audit.rig
    for record in (each for each in judged.audit.trials if each.trial.id in trials):
        setup = record.trial.setup
        names = (
            setup.host,
            *(part for plug in setup.plugged for part in (plug.gear, plug.lead, *plug.through) if part),
        )
        yield from (part_name(part) for name in names if (part := rig.part(name)) is not None)
