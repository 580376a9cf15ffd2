"""What a repeat is known by: the same procedure, place, gear, host and circumstances, however the trial is worded."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.facts import DeviceNoted, RigNoted, TrialBegun
from auditra.core.journal.fold import fold_audit
from auditra.core.model.depth import Depth
from auditra.core.model.trial import ProcedureId, Trial
from auditra.core.plan.planner import run_sheet_of
from auditra.core.procedures.identity import identity_of, identity_text
from tests.support.audits import audit_of, entries, planned, with_trial

AUDIT = audit_of("A1 data 5 Gb/s", "S1 cards 95 MB/s", "H1 shows 3840x2160@30")
TRIAL = with_trial(AUDIT, "A1/storage/fast-ssd").trials[0].trial
SETUP = TRIAL.setup
TRIAL_IDENTITY = identity_of(TRIAL)


def other(**changes: object) -> Trial:
    return replace(TRIAL, setup=replace(SETUP, **changes))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "same",
    [
        replace(TRIAL, id="T9", key="named by an older Auditra", claims=("claim1", "claim7"), target=3.0),
        other(protocol="block", battery_percent=80.0, order=("fast-ssd",), replugged=False, flipped=False),
    ],
)
def test_what_was_only_named_or_noted_otherwise_is_a_repeat(same: Trial) -> None:
    assert identity_of(same) == identity_of(TRIAL) == planned(AUDIT, "A1/storage").identity


@pytest.mark.parametrize(
    ("different", "words"),
    [
        (replace(TRIAL, port="A2"), "A2/storage/fast-ssd/on laptop"),
        (replace(TRIAL, gear="film-ssd"), "A1/storage/film-ssd/on laptop"),
        (replace(TRIAL, port=None), "direct/storage/fast-ssd/on laptop"),
        (replace(TRIAL, procedure=ProcedureId.POWER_OUT), "A1/power_out/fast-ssd/on laptop"),
        (other(host="older-laptop"), "A1/storage/fast-ssd/on older-laptop"),
        (other(soaked_s=2700.0), "A1/storage/fast-ssd/after 45 min of full load on laptop"),
        (other(running=("S1 cards 95 MB/s",)), "A1/storage/fast-ssd/on laptop with S1 in use (cards 95 MB/s)"),
        (other(arranged=("without driver",)), "A1/storage/fast-ssd/on laptop without driver"),
        (other(flipped=True), "A1/storage/fast-ssd/on laptop with the plug turned over"),
        (other(replugged=True), "A1/storage/fast-ssd/after plugging it in again on laptop"),
    ],
)
def test_what_is_planned_otherwise_is_another_trial(different: Trial, words: str) -> None:
    assert identity_of(different) != identity_of(TRIAL)
    assert identity_text(identity_of(different)) == words


def test_a_claim_that_a_person_arranges_is_tried_apart_from_the_plain_one() -> None:
    sheet = run_sheet_of(audit_of("A1 data 5 Gb/s", "A1 data 5 Gb/s without driver"))
    tried = [trial for trial in sheet.down_to(Depth.QUICK) if trial.port == "A1"]
    assert [(trial.claims, trial.setup.arranged) for trial in tried] == [
        (("claim1",), ()),
        (("claim2",), ("without driver",)),
    ]


def test_what_a_person_arranged_is_read_from_the_key_of_an_older_trial() -> None:
    audit = audit_of("A1 data 5 Gb/s", "A1 data 5 Gb/s without driver")
    older = replace(TRIAL, id="T1", key="A1/storage/fast-ssd/without driver", claims=("claim2",))
    facts = (DeviceNoted(audit.device), RigNoted(audit.rig), TrialBegun(older))
    (record,) = fold_audit("older", entries(facts)).trials
    assert record.identity == planned(audit, "A1/storage/fast-ssd/on laptop without driver").identity
    assert record.identity != TRIAL_IDENTITY


def test_two_claims_of_one_set_up_are_tried_in_one_trial() -> None:
    """One says so, the other is promised whatever else runs: the set-up is the same."""
    sentences = ("A1 data 5 Gb/s", "A1 data 5 Gb/s while H1 shows 3840x2160@30", "H1 shows 3840x2160@30")
    sheet = run_sheet_of(audit_of(*sentences))
    beside = [trial for trial in sheet.down_to(Depth.QUICK) if trial.port == "A1" and trial.setup.running]
    assert [set(trial.claims) for trial in beside] == [{"claim1", "claim2"}]
