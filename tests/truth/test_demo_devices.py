"""Each demo device's audit finds what the device was made to do, and nothing else."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from auditra.store.demos import DEMOS, Demo
from auditra.workflows.audits.audit_session import AuditSession
from tests.support.audits import PROFILE
from tests.support.benches import MemoryJournal, run_what_is_left

MADE = json.loads((Path(__file__).parents[1] / "vectors" / "demo_devices.json").read_text(encoding="utf-8"))["devices"]


@pytest.mark.parametrize("demo", DEMOS, ids=lambda demo: demo.name)
def test_an_audit_finds_what_the_device_was_made_to_do_and_nothing_else(demo: Demo) -> None:
    session = AuditSession(demo.name, MemoryJournal(demo.facts()), PROFILE)
    run_what_is_left(session)
    judgement = session.judged.judgement
    told = {str(each.claim): [each.verdict.word, each.condition] for each in judgement.claims}
    assert told == {claim: ["holds", ""] for claim in told} | MADE[demo.name]["verdicts"]
    assert sorted({each.kind for each in judgement.findings}) == MADE[demo.name]["findings"]
