"""Which trials count, and why the others do not."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.audit import TrialRecord
from auditra.core.journal.facts import TrialRuled
from auditra.core.judge.counting import aside
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.setup import NetworkPath
from auditra.core.model.storage_path import PathTrace, UsbStep
from auditra.core.model.trial import Outcome, ProcedureId
from tests.support.audits import audit_of, galley, number, rates, with_trial

(RECORD,) = with_trial(audit_of("A1 data 5 Gb/s"), "A1/", *rates("A1", 450)).trials
HUB_IDS = frozenset({"1f6e:0001"})


def with_setup(**noted: object) -> TrialRecord:
    return replace(RECORD, trial=replace(RECORD.trial, setup=replace(RECORD.trial.setup, **noted)))  # type: ignore[arg-type]


def behind(*hubs: str) -> PathTrace:
    steps = (
        *(UsbStep(f"2-{n}", ids, 5e9, is_hub=True) for n, ids in enumerate(hubs)),
        UsbStep("2-9", "1f6e:5501", 5e9),
    )
    return PathTrace("/m", "/m", "ext4", "sdb1", steps)


def why(record: TrialRecord, hub_ids: frozenset[str] = frozenset()) -> str:
    found = aside(record, galley(), hub_ids)
    return found.why if found is not None else ""


def test_a_plain_trial_counts() -> None:
    assert why(RECORD) == why(with_setup(recorder=None)) == why(with_setup(battery_percent=95.0)) == ""


@pytest.mark.parametrize("outcome", [Outcome.STOPPED, Outcome.FAILED])
def test_what_was_broken_off_says_so(outcome: Outcome) -> None:
    assert why(replace(RECORD, outcome=outcome, why="the meter was silent")) == f"{outcome}: the meter was silent"


def test_what_the_reviewer_decided_goes_before_any_other_reason() -> None:
    stopped = replace(RECORD, outcome=Outcome.STOPPED, ruling=TrialRuled("T1", counts=True))
    assert why(stopped) == ""
    assert (
        why(replace(RECORD, ruling=TrialRuled("T1", False, "the lid was open"))) == "by the reviewer: the lid was open"
    )


def test_a_recorder_and_a_full_battery_can_only_have_lowered_a_value() -> None:
    recorded = aside(with_setup(recorder="screen recorder"), galley())
    assert recorded is not None
    assert recorded.what_it_reached_counts
    charging = with_setup(battery_percent=95.0)
    charging = replace(charging, trial=replace(charging.trial, procedure=ProcedureId.CHARGE))
    assert "95 %" in why(charging)
    level = Reading("T", Quantity.BATTERY, "UP", "host", Grade.READ, Number((91.0,)))
    assert "91 %" in why(replace(charging, trial=replace(charging.trial, setup=RECORD.trial.setup), readings=(level,)))


def test_bytes_that_did_not_pass_the_port_void_a_network_trial() -> None:
    wireless = with_setup(network=NetworkPath(wireless=True))
    network = replace(wireless, trial=replace(wireless.trial, procedure=ProcedureId.NETWORK))
    assert "wireless was on" in why(network)
    moved = number(Quantity.MOVED, 1e9), number(Quantity.ON_WIRE, 1e6)
    assert "passed the port's own interface" in why(replace(network, readings=moved))
    assert "only 0 of" in why(replace(network, readings=(*moved[:1], number(Quantity.ON_WIRE, 0.0))))
    assert "not known what passed" in why(replace(network, readings=moved[:1]))
    on_the_wire = number(Quantity.MOVED, 1e9), number(Quantity.ON_WIRE, 1.05e9)
    assert why(replace(network, readings=on_the_wire)) == ""


@pytest.mark.parametrize(
    ("busy", "lost", "words"),
    [(40.0, 1.0, ""), (95.0, 2.0, ""), (97.0, 0.0, "97 % busy"), (40.0, 31.0, "took 31 % of the processors")],
)
def test_what_a_busy_or_borrowed_processor_reached_counts_all_the_same(busy: float, lost: float, words: str) -> None:
    readings = number(Quantity.PROCESSOR, busy), number(Quantity.LOST_PROCESSOR, lost)
    record = replace(with_setup(), readings=readings)
    network = replace(record, trial=replace(record.trial, procedure=ProcedureId.NETWORK))
    found = aside(network, galley())
    assert words in why(network)
    assert (found is None) == (words == "")
    assert found is None or found.what_it_reached_counts
    assert why(record) == ""


def test_a_drive_that_hangs_elsewhere_shows_nothing_of_the_device() -> None:
    assert why(replace(RECORD, path=behind("1f6e:0001")), HUB_IDS) == ""
    assert "was not behind the device" in why(replace(RECORD, path=behind("0bda:5411")), HUB_IDS)
    direct = replace(RECORD, trial=replace(RECORD.trial, port=None), path=behind("1f6e:0001"))
    assert "was behind the device" in why(direct, HUB_IDS)
    assert why(replace(direct, path=behind())) == ""
