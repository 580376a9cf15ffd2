"""Trials of claims with conditions, groups and hedges: the set-up that is promised, and no other."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DeviceNoted
from auditra.core.judge.judgement import judge
from auditra.core.model.circumstance import AtPort
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Verdict
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.store.demos import DEMOS
from tests.support.audits import PROFILE, audit_of, rates, with_trial


def trials_at_ports(audit: Audit) -> list[PlannedTrial]:
    """Those for a claim."""
    return [trial for trial in run_sheet_of(audit).trials if trial.port is not None and trial.claims]


def beyond(sentence: str) -> str:
    sheet = run_sheet_of(audit_of(sentence))
    assert sheet.trials == ()
    return sheet.beyond_rig["claim1"]


def test_what_runs_meanwhile_is_plugged_in_and_nothing_else_is_tried() -> None:
    audit = audit_of("A1 data 5 Gb/s while H1 shows 3840x2160@30")
    (trial,) = trials_at_ports(audit)
    assert trial.setup.running == ("H1 shows 3840x2160@30",)
    assert trial.setup.gear_at("H1") == "projector"
    verdict = judge(with_trial(audit, trial.key, *rates("A1", 450.0)), PROFILE).claims[0]
    assert [each.beside for each in verdict.set_ups] == [()]


def test_a_forensic_sheet_tries_it_with_nothing_else_at_work_too() -> None:
    audit = replace(audit_of("A1 data 5 Gb/s while H1 shows 3840x2160@30"), depth=Depth.FORENSIC)
    beside, unladen = trials_at_ports(audit)
    assert (len(beside.setup.running), unladen.setup.running) == (1, ())
    audit = with_trial(audit, "direct/storage/fast-ssd", *rates("direct", 1000.0))
    slow_beside = with_trial(with_trial(audit, unladen.key, *rates("A1", 450.0)), beside.key, *rates("A1", 200.0))
    assert judge(slow_beside, PROFILE).claims[0].verdict is Verdict.SHORT
    only_unladen = judge(with_trial(audit, unladen.key, *rates("A1", 450.0)), PROFILE).claims[0]
    assert only_unladen.verdict in (Verdict.OPEN, Verdict.UNPROVEN)


def test_a_failure_under_its_condition_leaves_the_plain_claim_alone() -> None:
    audit = audit_of("A1 data 5 Gb/s", "A1 data 5 Gb/s while S1 cards 95 MB/s")
    keys = [trial.key for trial in trials_at_ports(audit)]
    assert "A1/storage/fast-ssd/on laptop" in keys
    assert "A1/storage/fast-ssd/on laptop with S1 in use (cards 95 MB/s)" in keys
    told = with_trial(audit, "direct/storage/fast-ssd", *rates("direct", 1000.0))
    told = with_trial(told, "A1/storage/fast-ssd", *rates("A1", 450.0))
    told = with_trial(told, "A1/storage/fast-ssd/on laptop with S1", *rates("A1", 200.0))
    assert [each.verdict for each in judge(told, PROFILE).claims] == [Verdict.HOLDS, Verdict.SHORT]


def test_data_of_a_group_is_measured_at_once_and_the_slow_port_is_named() -> None:
    audit = audit_of("A1+A2 data 5 Gb/s each")
    (trial,) = trials_at_ports(audit)
    assert trial.procedure == ProcedureId.TOGETHER
    assert {trial.setup.gear_at("A1"), trial.setup.gear_at("A2")} == {"fast-ssd", "film-ssd"}
    told = with_trial(audit, trial.key, *rates("A1", 450.0), *rates("A2", 450.0))
    assert judge(told, PROFILE).claims[0].verdict is Verdict.HOLDS
    slow = with_trial(audit, trial.key, *rates("A1", 450.0), *rates("A2", 200.0))
    slow = with_trial(slow, "direct/storage/film-ssd", *rates("direct", 440.0))
    verdict = judge(slow, PROFILE).claims[0]
    assert verdict.verdict is Verdict.SHORT
    assert "A2 write" in verdict.shown


def test_power_of_a_group_is_drawn_at_each_port_while_the_others_give() -> None:
    dock = next(fact.device for fact in DEMOS[1].facts() if isinstance(fact, DeviceNoted))
    audit = audit_of("C1+C2 give 27 W each", device=dock)
    first, second = trials_at_ports(audit)
    assert (first.port, first.setup.running) == ("C1", ("C2 gives 27 W",))
    assert (second.port, second.setup.running) == ("C2", ("C1 gives 27 W",))
    assert [each.beside for each in judge(audit, PROFILE).claims[0].set_ups] == [(AtPort("C1"),), (AtPort("C2"),)]


def test_one_at_a_time_each_port_is_tried_by_itself() -> None:
    trials = trials_at_ports(audit_of("A1|A2 data 5 Gb/s each"))
    assert [(trial.port, trial.setup.running) for trial in trials] == [("A1", ()), ("A2", ())]


def test_up_to_is_tried_once_and_holds_where_its_best_set_up_does() -> None:
    audit = audit_of("N1 links up to 1 Gb/s", "H1 shows 3840x2160@30")
    assert [trial.key for trial in trials_at_ports(audit) if "claim1" in trial.claims] == [
        "N1/network/film-server/on laptop"
    ]
    plain = audit_of("N1 links 1 Gb/s", "H1 shows 3840x2160@30")
    assert len([trial for trial in trials_at_ports(plain) if "claim1" in trial.claims]) > 1


def test_a_host_that_is_named_is_the_one_that_is_used() -> None:
    (trial,) = trials_at_ports(audit_of("A1 data 5 Gb/s on laptop"))
    assert trial.setup.host == "laptop"
    assert "needs the host tablet" in beyond("A1 data 5 Gb/s on tablet")


def test_what_cannot_be_tried_says_why() -> None:
    assert "claim it for UP" in beyond("P1 passes 80 W")
    assert "needs more gear" in beyond("A1 gives 4.5 W while A2 gives 200 W")
    assert "no port Z1" in beyond("A1+Z1 give 4.5 W each")
    assert "packets of" in beyond("N1 frames 60 kB")


def test_what_is_looked_at_leaves_everything_plugged_and_has_no_direct_trial() -> None:
    audit = audit_of("body weighs 95 g", "A1 works with printer", "H1|P1 one at a time")
    trials = run_sheet_of(audit).trials
    assert [(trial.port, trial.gear, trial.tested) for trial in trials] == [
        ("body", DEVICE, frozenset()), ("A1", DEVICE, frozenset()), ("H1", DEVICE, frozenset()),
    ]  # fmt: skip
    assert all([each.gear for each in trial.setup.plugged] == [DEVICE] for trial in trials)
