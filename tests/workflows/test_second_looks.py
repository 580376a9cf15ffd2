"""What is looked at more often before anything is said of it: sockets that seem sound, or come up now and then."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Rig
from auditra.core.model.verdict import Verdict
from auditra.core.plan.plugs import LEAST_PLUGS, times_plugged
from auditra.core.simulate.rig_fault import FillsUp, RigFault
from auditra.core.simulate.trait import Trait
from auditra.core.simulate.traits.data import Flaky, SlowOnceReconnected
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.run_left import run_left
from tests.support.audits import galley
from tests.support.benches import HONEST, Onlooker, session_with

CLAIMS = ("A1 data 5 Gb/s", "A2 data 5 Gb/s")


def audited(*traits: Trait, faults: tuple[RigFault, ...] = (), seed: int = 1, rig: Rig | None = None) -> AuditSession:
    session, model = session_with(*CLAIMS, rig=rig), replace(HONEST, traits=traits)
    with open_simulated_bench(
        session.judged.audit, model=model, faults=faults, seed=seed, over_sockets=False
    ) as bench:  # fmt: skip
        for _ in run_left(session, bench, Onlooker()):
            pass
    return session


def verdicts(session: AuditSession) -> dict[str, ClaimVerdict]:
    return {str(each.claim): each for each in session.judged.judgement.claims}


@pytest.mark.usefixtures("quick")
def test_no_socket_is_called_sound_that_was_plugged_into_only_once() -> None:
    for verdict in verdicts(audited()).values():
        assert verdict.verdict is Verdict.HOLDS


@pytest.mark.usefixtures("quick")
def test_what_stays_plugged_in_from_trial_to_trial_counts_as_one_plug() -> None:
    records = audited().judged.audit.trials
    stayed = [each for each in records if not each.taken.of(Quantity.APPEARED)]
    assert stayed
    assert all(times_plugged(records[: records.index(each)], str(each.trial.port)) >= LEAST_PLUGS for each in stayed)
    assert all(times_plugged(records, port) >= LEAST_PLUGS for port in ("A1", "A2"))


@pytest.mark.usefixtures("quick")
@pytest.mark.parametrize("seed", [1, 3, 4])
def test_gear_that_comes_up_now_and_then_is_plugged_in_until_it_is_decided(seed: int) -> None:
    found = verdicts(audited(Flaky("A2", 0.8), seed=seed))
    assert found["A2 data 5 Gb/s"].verdict.accuses
    assert found["A1 data 5 Gb/s"].verdict is Verdict.HOLDS


@pytest.mark.parametrize("gigabytes", [0.8, 1.4, 2.2])
def test_a_drive_whose_cache_is_full_accuses_no_socket(gigabytes: float) -> None:
    session = audited(faults=(FillsUp("fast-ssd", gigabytes * 1e9, 0.3), FillsUp("film-ssd", gigabytes * 1e9, 0.3)))
    assert not any(each.verdict.accuses or each.condition for each in verdicts(session).values())


def test_drives_too_slow_for_a_promise_still_show_what_makes_it_worse() -> None:
    """The claim itself cannot be shown here; that all data falls when the hub is plugged in again can."""
    slow = replace(galley().drives[0], read_bps=1.6e9, write_bps=1.6e9)
    session = audited(SlowOnceReconnected(480e6), rig=replace(galley(), drives=(slow,), cards=(), readers=()))
    assert all(each.verdict is not Verdict.HOLDS for each in verdicts(session).values())
    kinds = {each.kind for each in session.judged.judgement.findings}
    assert {"state or order", "rig limit"} <= kinds
    assert "device part" not in kinds
