"""Two trials are compared only where nothing but the one thing meant differs; everything that does is named."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.comparison import Comparison, TrialComparison, compare_trials, differences, refusal_text
from auditra.core.judge.records import Records
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import NetworkPath
from auditra.core.model.storage_path import PathTrace, UsbStep
from tests.support.audits import audit_of, number, rates, with_trial

AUDIT = with_trial(with_trial(audit_of("A1 data 5 Gb/s"), "direct/", *rates("direct", 1000)), "A1/", *rates("A1", 450))


def records_of(audit: Audit) -> Records:
    return Records(audit.rig).grown_to(audit.trials, audit.rig, frozenset())


def with_setup(record: TrialRecord, **changes: object) -> TrialRecord:
    return replace(record, trial=replace(record.trial, setup=replace(record.trial.setup, **changes)))  # type: ignore[arg-type]


def against_direct(audit: Audit) -> Comparison:
    records = records_of(audit)
    direct, through = records.counted
    return Comparison("claim1", through.id, direct.id, differences(records, through, direct, "A1"))


def changed(**changes: object) -> Audit:
    direct, through = AUDIT.trials
    return replace(AUDIT, trials=(direct, with_setup(through, **changes)))


def test_the_device_and_the_lead_it_wants_may_differ_and_are_named() -> None:
    comparison = against_direct(AUDIT)
    assert comparison.refusing == ()
    assert "lead: with AC-1, against with CC-1" in map(str, comparison.differences)


@pytest.mark.parametrize(
    ("changes", "words"),
    [({"host": "older-laptop"}, "host: on older-laptop"), ({"soaked_s": 60.0}, "time at full load: after 1 min"),
     ({"protocol": "uas"}, "")],
)  # fmt: skip
def test_a_second_reason_refuses_the_comparison_by_its_name(changes: dict[str, object], words: str) -> None:
    assert words in refusal_text(against_direct(changed(**changes)))


def test_what_one_side_did_not_note_is_no_difference_and_what_both_noted_is() -> None:
    assert against_direct(changed(driver="1.2")).refusing == ()
    direct, through = AUDIT.trials
    both = replace(AUDIT, trials=(
        with_setup(direct, driver="1.1", network=NetworkPath(streams=4)),
        with_setup(through, driver="1.2", network=NetworkPath(streams=1)),
    ))  # fmt: skip
    assert "driver: with 1.2 installed, against with 1.1 installed" in refusal_text(against_direct(both))
    assert "streams" in refusal_text(against_direct(both))


def on_drive(record: TrialRecord, ids: str) -> TrialRecord:
    return replace(record, path=PathTrace("/m", "/m", "ext4", "sdb1", (UsbStep("2-1", ids, 5e9, "SSD"),)))


def test_another_drive_is_another_thing() -> None:
    direct, through = AUDIT.trials
    same, other = (
        against_direct(replace(AUDIT, trials=(on_drive(direct, ids), on_drive(through, "1f6e:5501"))))
        for ids in ("1f6e:5501", "1f6e:5503")
    )
    assert same.refusing == ()
    assert "drive" in refusal_text(other)


def pair(one_mb: float, other_mb: float, **changes: object) -> TrialComparison:
    """Two trials at A1 that differ in what is named, and in their rate."""
    audit = with_trial(audit_of("A1 data 5 Gb/s"), "A1/", *rates("A1", one_mb, one_mb * 1.001))
    audit = with_trial(audit, "A1/", *rates("A1", other_mb, other_mb * 1.001))
    one, other = audit.trials
    records = records_of(replace(audit, trials=(one, with_setup(other, **changes))))
    return compare_trials(records, *records.counted)


def test_any_two_trials_are_fair_while_one_thing_differs() -> None:
    assert pair(450, 300).is_fair
    assert pair(450, 300, soaked_s=2700.0).is_fair
    both = pair(450, 300, soaked_s=2700.0, flipped=True)
    assert both.is_fair  # the side was not noted on the one
    assert not pair(450, 300, soaked_s=2700.0, host_socket="C2").is_fair
    assert "2 things differ" in pair(450, 300, soaked_s=2700.0, host_socket="C2").why_not


def test_the_ratio_has_its_uncertainty_and_a_difference_inside_the_scatter_is_none() -> None:
    write = next(each for each in pair(450, 300).measured if each.quantity == Quantity.WRITE)
    assert write.ratio == pytest.approx(1.5)
    assert write.ratio_expanded is not None
    assert 0 < write.ratio_expanded < 0.05
    assert write.is_real
    same = next(each for each in pair(450, 450.2).measured if each.quantity == Quantity.WRITE)
    assert not same.is_real


def test_through_the_device_beside_direct_the_device_is_the_one_thing() -> None:
    records = records_of(AUDIT)
    direct, through = records.counted
    assert compare_trials(records, through, direct).is_fair
    slow = replace(AUDIT.rig, leads=tuple(
        replace(lead, data_bps=480e6) if lead.id == "AC-1" else lead for lead in AUDIT.rig.leads
    ))  # fmt: skip
    records = Records(slow).grown_to(AUDIT.trials, slow, frozenset())
    assert "lead" in compare_trials(records, records.counted[1], records.counted[0]).why_not


def test_a_single_value_without_error_makes_no_difference_real() -> None:
    audit = with_trial(audit_of("A1 data 5 Gb/s"), "A1/", number(Quantity.WRITE, 4e9, error=0.0))
    audit = with_trial(audit, "A1/", number(Quantity.WRITE, 2e9, error=0.0))
    records = records_of(audit)
    assert not compare_trials(records, *records.counted).measured[0].is_real
