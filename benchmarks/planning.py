"""How good the order of trials is beside the best one, where that is known, and how long a large dock takes to plan."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator, Sequence
from dataclasses import replace
from random import Random

from tests.support.audits import audit_of, galley
from tests.support.docks import CLAIMS, LARGE, down_the_list

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Entry
from auditra.core.journal.fold import fold_audit
from auditra.core.model.depth import Depth
from auditra.core.plan import route as routing
from auditra.core.plan.estimate import work_of
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.route import cost_of, route
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.store.demos import DEMOS
from benchmarks.judging_and_journal import NOW
from benchmarks.pairs import p95, take_pairs

SHEETS, MOST = 400, 9


def demo_audits() -> Iterator[Audit]:
    for demo in DEMOS:
        entries = [Entry(number, NOW, "made", fact) for number, fact in enumerate(demo.facts(), start=1)]
        yield fold_audit(demo.name, entries)


def ratios_to_the_best(trials: Sequence[PlannedTrial], exact: int) -> Iterator[float]:
    """What the way for large sheets costs, of what the best order does, for small sheets drawn from a large one."""
    chance = Random(1)
    for _ in range(SHEETS):
        few = chance.sample(trials, chance.randint(4, exact))
        best = cost_of(route(few))
        routing.MOST_FOR_EXACT = 1
        found = cost_of(route(few))
        routing.MOST_FOR_EXACT = exact
        yield found / best if best else 1.0


def seconds_to_plan(audit: Audit) -> float:
    begun = time.perf_counter()
    route(run_sheet_of(audit).trials)
    return time.perf_counter() - begun


def main() -> None:
    large = audit_of(*CLAIMS, device=LARGE, rig=galley())
    for audit in demo_audits():
        forensic = run_sheet_of(replace(audit, depth=Depth.FORENSIC)).trials
        ratios = sorted(ratios_to_the_best(forensic, MOST))
        told = f"mean {statistics.fmean(ratios):.4f}, p95 {p95(ratios):.3f}, most {ratios[-1]:.3f}"
        print(f"{audit.name}: cost of {SHEETS} small sheets beside the best order: {told} (at most 1.05)")
    for audit in (*demo_audits(), large):
        trials = run_sheet_of(audit).trials
        routed, listed, old = (work_of(each, None).moves for each in (route(trials), trials, down_the_list(audit)))
        print(
            f"{audit.name}: {len(trials)} trials, {routed} moves; {listed} in the order of the list, "
            f"{old} claim by claim with all anew: {1 - routed / old:.0%} fewer (at least 30 %)"
        )
    (small, _) = demo_audits()
    pairs = take_pairs(lambda: seconds_to_plan(small), lambda: seconds_to_plan(large))
    print(pairs.told("plan and order, a dock of 14 sockets and 45 claims beside the small demo", "ms", 1e3, "2000 ms"))


if __name__ == "__main__":
    main()
