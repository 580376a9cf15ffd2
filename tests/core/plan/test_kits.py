"""Kits: every device of a sheet is planned and judged, each with its own score."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import ClaimMade, DeviceNoted, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.model.device import DEVICE, Device, Face, Port, Role
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.plan.planner import run_sheet_of
from auditra.core.wiring.moves import Action, in_words, moves_between
from auditra.tui.stages.score.text import render_ledger
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from auditra.workflows.trials.run import trial_of
from tests.support.audits import HUB, entries, galley, judged, number, rates

LEAD = Device(
    "Osierpell", "OL-1", "lead", (Face("ends", (Port("E1", "usb-c plug"), Port("E2", "usb-c plug"))),), id="lead"
)
OTHER = replace(HUB, id="far", model="OP-7")
SENTENCES = (("A1 data 5 Gb/s", DEVICE), ("body length 80 cm", "lead"), ("A1 data 5 Gb/s", "far"))


def kit(*devices: Device) -> Audit:
    claims = [ClaimMade(f"claim{n}", words, device=device) for n, (words, device) in enumerate(SENTENCES, start=1)
              if device in {each.id for each in devices}]  # fmt: skip
    return fold_audit("kit", entries([*map(DeviceNoted, devices), RigNoted(galley()), *claims]))


def with_readings(audit: Audit, key: str, *readings: Reading) -> Audit:
    planned = next(trial for trial in run_sheet_of(audit).trials if trial.key.startswith(key))
    trial = trial_of(planned, audit, "simulated bench")
    record = TrialRecord(trial, tuple(replace(each, trial=trial.id) for each in readings), Outcome.COMPLETE)
    return replace(audit, trials=(*audit.trials, record), begun_trials=audit.begun_trials + 1)


def test_each_device_has_its_trials_and_what_is_direct_is_done_once() -> None:
    sheet = run_sheet_of(kit(HUB, LEAD, OTHER))
    keys = [trial.key for trial in sheet.trials]
    assert sum(key.startswith("direct/storage") for key in keys) == 1
    assert any(key.startswith("A1/storage") for key in keys)
    assert any(key.startswith("far:A1/storage") for key in keys)
    assert any(key.startswith("lead:body/rule") for key in keys)
    assert sheet.beyond_rig == {}


def test_each_device_is_judged_by_its_own_trials_and_has_its_own_score() -> None:
    audit = with_readings(kit(HUB, LEAD, OTHER), "direct/storage", *rates("direct", 1000, 1001, 1002))
    audit = with_readings(audit, "A1/storage", *rates("A1", 450, 451, 452))
    audit = with_readings(audit, "far:A1/storage", *rates("A1", 212, 212.5, 213))
    audit = with_readings(audit, "lead:body/rule", number(Quantity.LENGTH, 0.801, at="body", grade=Grade.TYPED))
    judgement = judged(audit)
    assert [verdict.verdict for verdict in judgement.claims] == [Verdict.HOLDS, Verdict.HOLDS, Verdict.SHORT]
    scores = {device: score.value for device, score in judgement.scores.items()}
    assert scores[DEVICE] == scores["lead"] == Decimal(100)
    assert scores["far"] is not None
    assert scores["far"] < Decimal(60)
    assert judgement.score == judgement.scores[DEVICE]
    ledger = render_ledger(judgement, "A1", 120, PALETTES[DEFAULT_PALETTE]).plain
    assert "LEDGER OF FAR" in ledger
    assert "lead:body length 80 cm" in ledger


def test_hands_change_the_device_between_trials_of_two() -> None:
    audit = kit(HUB, OTHER)
    one, other = (next(trial.setup for trial in run_sheet_of(audit).trials if trial.key.startswith(key))
                  for key in ("A1/storage", "far:A1/storage"))  # fmt: skip
    moves = moves_between(one, other, ())
    words = [in_words(move, audit.device_of(move.device), audit.rig) for move in moves]
    assert any(move.action is Action.PULL and move.what.gear == DEVICE for move in moves)
    assert "unplug the OP-6 from laptop C1" in words
    assert "plug the OP-7 into laptop C1, marked side up" in words


def test_a_device_without_a_plug_for_a_host_is_not_plugged_into_one() -> None:
    sheet = run_sheet_of(kit(replace(HUB, id="x"), LEAD))
    assert LEAD.first(Role.UPSTREAM) is None
    assert all(each.gear != DEVICE for trial in sheet.trials if trial.setup.device == "lead"
               for each in trial.setup.plugged)  # fmt: skip
