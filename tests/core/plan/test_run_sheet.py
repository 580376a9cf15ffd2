"""The run sheet is derived from claims and rig: direct first, then alone, then beside a display."""

from __future__ import annotations

from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.journal.facts import TrialPlanned, TrialSkipped
from auditra.core.judge.judgement import judge
from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Device, Face, Port, Role
from auditra.core.model.rig import Adapter, Lead, Origin
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.model.verdict import Verdict
from auditra.core.plan.factors.supply import PULLED
from auditra.core.plan.planner import plan_run_sheet, run_sheet_of
from auditra.core.plan.run_sheet import PlannedTrial, still_to_do
from auditra.core.simulate.practice.practice import make_practice
from auditra.core.wiring.moves import RESTS, Action, in_words, moves_between
from auditra.core.wiring.trial_profile import host_lead
from auditra.workflows.trials.run import trial_of
from tests.support.audits import HUB, PROFILE, appeared, audit_of, galley, planned, rates, with_trial

TWO_SCREENS = 143517
"""The seed of a practice device with two sockets for displays that are of one class."""
ALL = ("A1 data 5 Gb/s", "A2 data 5 Gb/s", "S1 cards 95 MB/s", "N1 links 1 Gb/s", "H1 shows 3840x2160@30",
       "P1 takes 90 W", "P1 no data", "A1 gives 4.5 W", "UP charges host 60 W", "UP length 15 cm")  # fmt: skip


def keys(*sentences: str) -> list[str]:
    return [trial.key for trial in run_sheet_of(audit_of(*sentences)).trials]


def test_the_same_gear_is_tried_direct_once_for_all_claims_that_use_it() -> None:
    sheet = run_sheet_of(audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s", "P1 no data"))
    direct = [trial for trial in sheet.trials if trial.port is None]
    assert [trial.key for trial in direct] == ["direct/storage/fast-ssd/on laptop"]
    assert direct[0].claims == ("claim1", "claim2", "claim3")


def test_identical_sockets_are_tried_one_by_one() -> None:
    tried = keys("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    assert {"A1/storage/fast-ssd/on laptop", "A2/storage/fast-ssd/on laptop"} < set(tried)


def test_gear_reaches_beyond_the_claim_and_a_supply_that_only_equals_it_is_not_used() -> None:
    sheet = run_sheet_of(audit_of("P1 takes 90 W"))
    assert {trial.gear for trial in sheet.trials} == {"supply-140"}


def test_what_the_rig_lacks_is_said_and_as_much_as_it_reaches_is_tried() -> None:
    sheet = run_sheet_of(audit_of("P1 takes 240 W", "H1 shows 7680x4320@60", "Z9 data 5 Gb/s", "A1 data 20 Gb/s"))
    assert {claim for trial in sheet.trials for claim in trial.claims} == {"claim1", "claim2", "claim4"}
    assert "240 W" in sheet.beyond_rig["claim1"]
    assert "7680x4320@60" in sheet.beyond_rig["claim2"]
    assert "no port Z9" in sheet.beyond_rig["claim3"]
    assert "%" in sheet.beyond_rig["claim4"]


def test_a_device_without_an_upstream_plug_that_fits_is_said_to_be_beyond_the_rig() -> None:
    rig = replace(galley(), hosts=())
    assert "upstream" in plan_run_sheet(HUB, rig, audit_of(*ALL).claims).beyond_rig["claim1"]


def test_watts_at_the_inlet_are_metered_between_supply_and_load() -> None:
    sheet = run_sheet_of(audit_of("P1 takes 90 W"))
    setup = next(trial.setup for trial in sheet.trials if trial.key.startswith("P1/"))
    plugged = {each.socket: (each.gear, each.through) for each in setup.plugged}
    assert plugged == {"UP": ("load", ()), "P1": ("supply-140", ("meter",))}


def test_a_done_trial_is_not_owed_and_one_that_did_not_appear_is_owed_three_times() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    assert len(still_to_do(run_sheet_of(audit), audit.trials, depth=Depth.QUICK)) == 2
    audit = with_trial(audit, "direct/", *rates("direct", 1000))
    for owed in (1, 1, 0):
        audit = with_trial(audit, "A1/", appeared("A1", 0, 1), outcome=Outcome.DID_NOT_APPEAR)
        assert len(still_to_do(run_sheet_of(audit), audit.trials, depth=Depth.QUICK)) == owed


def stands(before: SetUp | None, planned: PlannedTrial) -> set[Plugged]:
    """What is plugged once the moves are made."""
    now = set(before.plugged if before else ())
    for move in planned.moves_from(before):
        if move.action is Action.PULL:
            assert move.what in now
            now.remove(move.what)
        elif move.action is Action.PLUG:
            assert all((each.owner, each.socket) != (move.what.owner, move.what.socket) for each in now)
            now.add(move.what)
    return now


@given(st.lists(st.sampled_from(run_sheet_of(audit_of(*ALL)).trials), min_size=1, max_size=12))
def test_any_order_of_trials_is_reached_by_its_moves(order: list[PlannedTrial]) -> None:
    before: SetUp | None = None
    for trial in order:
        assert stands(before, trial) == set(trial.setup.plugged)
        before = trial.setup


def test_the_gear_under_test_is_plugged_last_and_anew_in_a_repeat() -> None:
    sheet = (trial for trial in run_sheet_of(audit_of(*ALL)).trials if trial.procedure != ProcedureId.RULE)
    trials = [trial for trial in sheet if not {Aspect.ORDER, Aspect.REPLUGGED} & set(trial.setup.departs)]
    for trial in trials:
        every = trial.moves_from(trial.setup)
        moves = [move for move in every if move.what.gear != DEVICE and move.action is not Action.ARRANGE]
        half = len(moves) // 2
        assert moves
        assert [move.action for move in moves] == [Action.PULL] * half + [Action.PLUG] * half
        assert all({move.what.gear, move.what.owner} & trial.tested for move in moves)


def test_what_is_done_meanwhile_is_asked_for_in_each_trial_anew() -> None:
    trial = next(each for each in run_sheet_of(audit_of(*ALL)).trials if PULLED in each.setup.arranged)
    for before in (None, trial.setup):
        assert [move.words for move in trial.moves_from(before) if move.action is Action.ARRANGE] == [PULLED]


def test_what_no_host_sees_comes_anew_in_a_repeat_as_a_slip_would_stay_in_its_wrong_socket() -> None:
    audit = audit_of("P1 takes 90 W", "A1 data 5 Gb/s")
    inlet, drive = planned(audit, "P1/"), planned(audit, "A1/storage")
    behind = {each.gear for each in inlet.setup.plugged if each.owner == DEVICE}
    again = inlet.moves_in(with_trial(audit, inlet.key))
    assert behind > inlet.tested
    assert {move.what.gear for move in again if move.action is Action.PLUG} == behind
    assert {move.what.gear for move in again if move.action is Action.PULL} == behind
    assert {move.what.gear for move in drive.moves_in(with_trial(audit, drive.key))} == drive.tested


def test_several_displays_come_anew_in_one_more_trial_as_no_host_sees_in_which_socket_each_is() -> None:
    made = make_practice(TWO_SCREENS)
    audit = audit_of(*made.promises, device=made.device, rig=made.rig)
    beside = "H1/display/quick-screen/on laptop with H2 in use (shows 1920x1080@60)"
    trial, turned = planned(audit, beside), planned(audit, f"{beside} with the host plug turned over")
    shown = {each.gear for each in trial.setup.plugged if each.socket in ("H1", "H2")}
    assert len(shown) == 2
    tried = with_trial(audit, trial.key)
    assert shown <= {move.what.gear for move in trial.moves_in(tried) if move.action is Action.PLUG}
    assert shown <= {move.what.gear for move in turned.moves_in(tried) if move.action is Action.PLUG}
    alone = planned(audit, "H1/display/quick-screen/on laptop")
    assert not shown <= {move.what.gear for move in alone.moves_in(tried) if move.action is Action.PLUG}


def test_after_connecting_again_the_device_is_left_without_power_and_gear_stays_in_its_sockets() -> None:
    trials = run_sheet_of(audit_of(*ALL)).trials
    again = next(
        trial for trial in trials if Aspect.REPLUGGED in trial.setup.departs and isinstance(trial.setup.charger, str)
    )
    plain = replace(again, setup=replace(again.setup, replugged=False, departs=()))
    moves = moves_between(again.setup, plain.setup, ())
    rest = next(place for place, move in enumerate(moves) if move.words == RESTS)
    pulled = {move.what.gear for move in moves[:rest]}
    assert pulled == {DEVICE, again.setup.charger}
    assert {move.what.gear for move in moves[rest + 1 :]} == pulled


def test_ports_that_fit_the_way_to_the_host_are_tried_at_once_in_few_trials_and_in_pairs_in_reserve() -> None:
    dock = ("C1 data 10 Gb/s", "A1 data 5 Gb/s", "A2 data 5 Gb/s", "N1 links 2.5 Gb/s", "S1 cards 250 MB/s")
    device = replace(HUB, faces=(*HUB.faces, Face("front", (Port("C1", "usb-c"),))))
    sheet = run_sheet_of(audit_of(*dock, device=device))
    together = [trial.key for trial in sheet.trials if trial.procedure == ProcedureId.TOGETHER]
    assert together == [f"{ports}/together/on laptop" for ports in ("A1+A2", "A1+N1+S1", "A2+N1+S1")]
    pairs = {trial.key for trial in sheet.reserve if trial.procedure == ProcedureId.TOGETHER}
    assert pairs == {f"{pair}/together/on laptop" for pair in ("A1+N1", "A1+S1", "N1+S1", "A2+N1", "A2+S1")}


def test_no_lead_and_no_gear_is_in_two_places_of_one_set_up() -> None:
    sheet = run_sheet_of(audit_of(*ALL))
    for trial in (*sheet.trials, *sheet.reserve):
        used = [part for each in trial.setup.plugged for part in (each.gear, each.lead) if part is not None]
        assert len(used) == len(set(used)), trial.key


def test_moves_are_told_in_words_with_lead_and_meter() -> None:
    planned = next(trial for trial in run_sheet_of(audit_of("P1 takes 90 W")).trials if trial.port == "P1")
    words = [in_words(move, HUB, galley()) for move in moves_between(None, planned.setup, planned.tested)]
    assert words == ["plug the load into UP", "plug the 140 W supply into P1 with lead CC-1 through the meter"]
    assert all(DEVICE not in each.split() for each in words)


def test_a_trial_of_the_reviewers_own_is_due_until_just_its_set_up_was_tried() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    first = planned(audit, "A1/storage")
    setup = replace(first.setup, plugged=tuple(replace(each, lead="AC-2") for each in first.setup.plugged))
    wanted = TrialPlanned(replace(trial_of(first, audit, "live bench"), setup=setup), "A1 with AC-2")
    done = replace(with_trial(audit, "A1/storage", *rates("A1", 440)), own_trials=(wanted,))
    sheet = run_sheet_of(done)
    assert [trial.title for trial in sheet.own] == ["A1 with AC-2"]
    assert sheet.own[0] in still_to_do(sheet, done.trials)
    record = replace(done.trials[0], trial=replace(wanted.trial, id="T2"))
    assert sheet.own[0] not in still_to_do(sheet, (*done.trials, record))


def test_a_skipped_trial_is_not_due_and_its_claim_stays_open() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    skipped = planned(audit, "A1/storage")
    audit = replace(audit, skipped=(TrialSkipped(trial_of(skipped, audit, "live bench"), "no time"),))
    judgement = judge(audit, PROFILE)
    assert skipped.identity not in {trial.identity for trial in judgement.to_do}
    assert judgement.claims[0].verdict is Verdict.OPEN


def test_what_is_retired_is_not_planned_with() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    used = planned(audit, "A1/storage").gear
    later = run_sheet_of(replace(audit, rig=replace(audit.rig, retired=(used,)))).trials
    assert later
    assert used not in {trial.gear for trial in later}


def with_socket_for_host() -> Device:
    """The hub with a socket where a lead to the host goes."""
    tail = Face("tail", (Port("UP", "usb-b", Role.UPSTREAM),))
    return replace(HUB, faces=(*HUB.faces[:-1], tail))


def test_a_lead_to_the_host_is_on_every_trial_and_the_supplied_one_is_taken() -> None:
    leads = (Lead("fast", ("usb-b", "usb-c"), data_bps=20e9), Lead("own", ("usb-c", "usb-b"), origin=Origin.SHIPPED))
    rig = replace(galley(), leads=(*galley().leads, *leads))
    audit = audit_of("A1 data 5 Gb/s", device=with_socket_for_host(), rig=rig)
    through = [trial for trial in run_sheet_of(audit).trials if trial.port is not None]
    assert through
    assert {host_lead(trial.setup) for trial in through if Aspect.HOST_LEAD not in trial.setup.departs} == {"own"}
    (other,) = [trial for trial in through if Aspect.HOST_LEAD in trial.setup.departs]
    assert (host_lead(other.setup), other.setup.unpromised) == ("fast", True), "nobody promises that with it"
    without = replace(rig, leads=(*galley().leads, leads[0]))
    sheet = run_sheet_of(replace(audit, rig=without))
    assert {host_lead(trial.setup) for trial in sheet.trials if trial.port is not None} == {"fast"}
    assert run_sheet_of(replace(audit, rig=galley())).beyond_rig["claim1"].startswith("no host socket")


def test_the_lead_to_the_host_is_not_used_for_gear_as_well() -> None:
    device = replace(HUB, faces=(
        Face("front", (Port("C1", "usb-c"),)), Face("back", (Port("UP", "usb-c", Role.UPSTREAM),)),
    ))  # fmt: skip
    audit = audit_of("C1 data 5 Gb/s", device=device)
    (trial,) = [each for each in run_sheet_of(audit).down_to(Depth.QUICK) if each.port is not None]
    leads = [each.lead for each in trial.setup.plugged]
    assert None not in leads
    assert len(set(leads)) == len(leads) == 2


def test_an_adapter_goes_in_line_where_no_lead_fits() -> None:
    adapter = Adapter("c-to-h", "C to H adapter", "usb-c plug", ("hdmi",))
    rig = replace(galley(), adapters=(adapter,), leads=tuple(each for each in galley().leads if each.id != "CH-1"))
    device = replace(HUB, faces=(*HUB.faces, Face("front", (Port("C1", "usb-c"),))))
    audit = audit_of("C1 shows 3840x2160@60", device=device, rig=rig)
    (trial,) = [each for each in run_sheet_of(audit).down_to(Depth.QUICK) if each.port == "C1"]
    assert trial.setup.plugged[-1] == Plugged(DEVICE, "C1", "projector", "HD-1", ("c-to-h",))
    moves = moves_between(None, trial.setup, trial.tested)
    assert in_words(moves[-1], device, rig).endswith("with lead HD-1 through the C to H adapter, marked side up")
