"""Two trials are compared only where nothing but the device in between differs; everything that does is said."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.fold import Audit, TrialRecord
from auditra.core.judge.comparison import Aspect, Comparison, Difference, compare, refusal_text
from auditra.core.model.setup import NetworkPath
from auditra.core.model.storage_path import PathTrace, UsbStep
from tests.support.audits import audit_of, rates, with_trial

AUDIT = with_trial(with_trial(audit_of("A1 data 5 Gb/s"), "direct/", *rates("direct", 1000)), "A1/", *rates("A1", 450))


def compared(audit: Audit = AUDIT, **changes: object) -> Comparison:
    direct, record = audit.trials
    changed = replace(record.trial, setup=replace(record.trial.setup, **changes))  # type: ignore[arg-type]
    return compare("claim1", "A1", replace(record, trial=changed), direct)


def test_the_device_and_the_lead_it_wants_may_differ_and_are_said() -> None:
    comparison = compared()
    assert comparison.refusing == ()
    assert comparison.differences == (Difference(Aspect.LEAD, "AC-1", "CC-1"),)


@pytest.mark.parametrize(
    ("changes", "told"),
    [({"host": "older-laptop"}, "host: older-laptop"), ({"soaked_s": 60.0}, "soaked: 60.0")],
)
def test_a_second_reason_refuses_the_comparison_by_its_name(changes: dict[str, object], told: str) -> None:
    assert told in refusal_text(compared(AUDIT, **changes))


def test_what_one_side_did_not_note_is_no_difference_and_what_both_noted_is() -> None:
    assert compared(driver="1.2").refusing == ()
    direct, record = AUDIT.trials
    noted = replace(direct.trial, setup=replace(direct.trial.setup, driver="1.1", network=NetworkPath(streams=4)))
    both = replace(AUDIT, trials=(replace(direct, trial=noted), record))
    assert "driver: 1.2, direct 1.1" in refusal_text(compared(both, driver="1.2"))
    assert "network" in refusal_text(compared(both, network=NetworkPath(streams=1)))


def on_drive(record: TrialRecord, ids: str) -> TrialRecord:
    return replace(record, path=PathTrace("/m", "/m", "ext4", "sdb1", (UsbStep("2-1", ids, 5e9, "SSD"),)))


def test_another_drive_is_another_thing() -> None:
    direct, record = AUDIT.trials
    same = compare("claim1", "A1", on_drive(record, "1f6e:5501"), on_drive(direct, "1f6e:5501"))
    other = compare("claim1", "A1", on_drive(record, "1f6e:5501"), on_drive(direct, "1f6e:5503"))
    assert same.refusing == ()
    assert "drive" in refusal_text(other)
