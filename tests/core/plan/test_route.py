"""The order of trials: none is lost, what others rely on comes first, and the hands have as little to do as can be."""

from __future__ import annotations

from dataclasses import replace
from itertools import groupby, pairwise, permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.journal.audit import Audit
from auditra.core.journal.fold import fold_audit
from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE
from auditra.core.plan import route as routing
from auditra.core.plan.estimate import A_MOVE_S, pace_of, work_of
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.route import Router, cost_of, route, route_on
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.moves import Action
from auditra.store.demos import DEMOS
from tests.support.audits import audit_of, entries, galley, rates, with_trial
from tests.support.docks import CLAIMS, LARGE, down_the_list

DEMO_AUDITS = [fold_audit(demo.name, entries(demo.facts())) for demo in DEMOS]
DOCK = DEMO_AUDITS[1]
FORENSIC = run_sheet_of(replace(DOCK, depth=Depth.FORENSIC)).trials
FEW = st.lists(st.sampled_from(FORENSIC), min_size=2, max_size=9, unique_by=lambda trial: trial.key)


@settings(max_examples=60, deadline=None)
@given(FEW)
def test_no_trial_is_lost_soaks_are_last_and_direct_ones_come_first(trials: list[PlannedTrial]) -> None:
    ordered = route(trials)
    assert sorted(trial.key for trial in ordered) == sorted(trial.key for trial in trials)
    soaks = [trial.setup.soaked_s > 0 for trial in ordered]
    assert soaks == sorted(soaks)
    for index, trial in enumerate(ordered):
        procedure = procedure_of(trial.procedure)
        if trial.port is None or trial.setup.soaked_s:
            continue
        late = [later.key for later in ordered[index:] if later.port is None and later.gear in trial.tested
                and not later.setup.soaked_s and procedure.compares_with(procedure_of(later.procedure))]  # fmt: skip
        assert late == [], trial.key


@settings(max_examples=25, deadline=None)
@given(st.lists(st.sampled_from([t for t in FORENSIC if t.depth is Depth.QUICK and t.port]),
                min_size=2, max_size=6, unique_by=lambda trial: trial.key))  # fmt: skip
def test_no_order_of_a_small_sheet_costs_less(trials: list[PlannedTrial]) -> None:
    assert cost_of(route(trials)) == min(map(cost_of, permutations(trials)))


@settings(max_examples=30, deadline=None)
@given(FEW)
def test_the_way_that_large_sheets_are_ordered_is_near_the_best_of_small_ones(trials: list[PlannedTrial]) -> None:
    best = cost_of(route(trials))
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(routing, "MOST_FOR_EXACT", 1)
        assert cost_of(route(trials)) <= max(1.05 * best, best)


@pytest.mark.parametrize("audit", DEMO_AUDITS[:2], ids=lambda audit: audit.name)
def test_the_demos_take_three_moves_where_going_down_the_list_takes_ten_over_two(audit: Audit) -> None:
    """Two moves more are the rest of a device after it was connected again, which no order saves."""
    routed, listed = work_of(route(run_sheet_of(audit).trials), None), work_of(down_the_list(audit), None)
    assert routed.moves - 2 <= 0.7 * listed.moves
    assert routed.seconds < listed.seconds


def test_no_order_of_the_extension_costs_less() -> None:
    """It has a trial or two for a socket: no order saves it so many moves, and none saves more than its route."""
    extension = next(audit for audit in DEMO_AUDITS if audit.name == "T5")
    trials = run_sheet_of(extension).trials
    found = route(trials)
    assert work_of(found, None).moves <= work_of(down_the_list(extension), None).moves
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(routing, "MOST_FOR_EXACT", len(trials))
        assert cost_of(found) == cost_of(route(trials))


@settings(max_examples=40, deadline=None)
@given(FEW)
def test_no_plug_is_pulled_that_could_have_stayed(trials: list[PlannedTrial]) -> None:
    for before, after in pairwise(route(trials)):
        anew = after.tested - after.may_stay
        for move in after.moves_from(before.setup):
            if move.action is not Action.PULL or move.what not in after.setup.plugged:
                continue
            again = Aspect.REPLUGGED in after.setup.departs or after.setup.order or before.setup.turned
            assert {move.what.gear, move.what.owner} & anew or again or after.setup.turned or move.what.gear == DEVICE


@settings(max_examples=30, deadline=None)
@given(FEW, st.integers(0, 8))
def test_what_is_left_is_ordered_from_what_is_connected_and_never_dearer(trials: list[PlannedTrial], at: int) -> None:
    whole = route(trials)
    standing, left = whole[min(at, len(whole) - 1)].setup, whole[at + 1 :]
    assert cost_of(route_on(left, whole, standing), standing) <= cost_of(left, standing)


def test_an_order_is_kept_as_long_as_nothing_changed() -> None:
    router, sheet = Router(), run_sheet_of(DOCK).trials
    first = router.order(sheet, sheet, None)
    assert router.order(sheet, sheet, None) is first
    assert router.whole(sheet) == route(sheet)


def test_a_sheet_that_changed_a_little_keeps_the_order_that_was_seen() -> None:
    router, sheet = Router(), run_sheet_of(DOCK).trials
    seen = {trial.key: place for place, trial in enumerate(router.whole(sheet[:-4]))}
    whole = router.whole(sheet)
    assert sorted(trial.key for trial in whole) == sorted(trial.key for trial in sheet)
    assert cost_of(whole) <= 1.1 * cost_of(route(sheet))
    kept = [seen[trial.key] for trial in whole if trial.key in seen]
    assert sum(one < other for one, other in pairwise(kept)) >= 0.8 * (len(kept) - 1)


def test_a_kit_is_changed_once_between_its_devices() -> None:
    other = replace(DOCK.device, id="far", model="BW-12")
    claims = (*DOCK.claims, *(replace(claim, id=f"far {claim.id}", device="far") for claim in DOCK.claims))
    kit = replace(DOCK, devices=(DOCK.device, other), claims=claims)
    sheet = run_sheet_of(kit)
    assert {trial.setup.device for trial in sheet.trials} == {DEVICE, "far"}
    ordered = route(sheet.trials)
    plain = [trial.setup.device for trial in ordered if trial.port and not trial.setup.soaked_s]
    assert len(list(groupby(plain))) == 2
    assert work_of(ordered, None).moves <= 0.7 * work_of(down_the_list(kit), None).moves


def test_minutes_come_from_trials_of_the_same_kind() -> None:
    audit = audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    trials = route(run_sheet_of(audit).down_to(Depth.QUICK))
    usual = work_of(trials, None)
    assert usual.seconds == sum(procedure_of(each.procedure).takes_s for each in trials) + usual.moves * A_MOVE_S
    slow = with_trial(audit, "A1/storage", *rates("A1", 450.0))
    (record,) = slow.trials
    begun = DOCK.last_at
    assert begun is not None
    took = replace(record, begun_at=begun, ended_at=begun.replace(hour=(begun.hour + 1) % 24))
    longer = work_of(trials, None, pace_of([took]))
    of_kind = sum(each.procedure == record.trial.procedure for each in trials)
    assert longer.seconds > usual.seconds + of_kind * 3000


def test_a_dock_of_fourteen_sockets_with_forty_five_claims_has_a_trial_or_a_reason_for_each() -> None:
    audit = audit_of(*CLAIMS, device=LARGE, rig=galley())
    sheet = run_sheet_of(audit)
    tried = {claim for trial in sheet.trials for claim in trial.claims}
    assert all(claim.id in tried or sheet.beyond_rig.get(claim.id) for claim in audit.claims)
    assert work_of(route(sheet.trials), None).moves < 0.7 * work_of(down_the_list(audit), None).moves
