"""What each of the three run sheets would still ask for, and what it leaves untried."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from auditra.core.journal.audit import Audit
from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.plan.estimate import Work, pace_of, work_of
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.route import route
from auditra.core.plan.run_sheet import PlannedTrial, circumstances_for, still_to_do
from auditra.core.procedures.identity import identity_of


@dataclass(frozen=True)
class SheetOffer:
    """One of the run sheets, as far as it is not done yet."""

    depth: Depth
    left: int
    work: Work
    untried: int
    """Set-ups that the next deeper sheet has besides."""
    aspects: tuple[Aspect, ...]
    """In what these differ from all that this sheet has."""


def sheets_offered(audit: Audit) -> tuple[SheetOffer, ...]:
    """The quick, the full and the forensic sheet of an audit; takes some tenths of a second on a large one."""
    sheet = run_sheet_of(replace(audit, depth=Depth.FORENSIC))
    skipped = {identity_of(each.trial) for each in audit.skipped}
    pace, offers = pace_of(audit.trials), []
    for depth in Depth:
        left = still_to_do(sheet, audit.trials, skipped, depth)
        work = work_of(route(left, audit.last_setup), audit.last_setup, pace)
        own, deeper = sheet.down_to(depth), sheet.down_to(depth.deeper)
        besides = [aspect for aspect in aspects_of(deeper, audit) if aspect not in aspects_of(own, audit)]
        offers.append(SheetOffer(depth, len(left), work, len(deeper) - len(own), tuple(besides)))
    return tuple(offers)


def aspects_of(trials: Iterable[PlannedTrial], audit: Audit) -> tuple[Aspect, ...]:
    """In what trials differ from those of each claim alone."""
    claims = {claim.id: claim for claim in audit.claims}
    found = {
        each.aspect
        for trial in trials
        if trial.port is not None
        for claim in trial.claims
        if claim in claims
        for each in circumstances_for(claims[claim], trial)
    }
    return tuple(aspect for aspect in Aspect if aspect in found)
