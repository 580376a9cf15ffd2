"""Practice devices: what a reviewer gets, and what stands behind the bench."""

from __future__ import annotations

import dataclasses

from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.bench.simulated.practice import describe_faults, facts_of_practice, name_of_practice, practice_of
from auditra.core.journal.facts import ClaimMade, DeviceNoted, NoteWritten, RigNoted
from auditra.core.simulate.practice.practice import make_practice
from auditra.workflows.audits.audit_session import AuditSession
from tests.support.audits import HUB, PROFILE
from tests.support.benches import MemoryJournal, Onlooker

SEEDS = st.integers(0, 100_000)


@settings(max_examples=40, deadline=None)
@given(SEEDS)
def test_what_a_reviewer_gets_is_the_box_and_never_the_truth(seed: int) -> None:
    facts, practice = facts_of_practice(seed), make_practice(seed)
    device = next(fact.device for fact in facts if isinstance(fact, DeviceNoted))
    assert practice_of(device) == practice
    assert [fact.sentence for fact in facts if isinstance(fact, ClaimMade)] == list(practice.promises)
    assert next(fact.rig for fact in facts if isinstance(fact, RigNoted)) == practice.rig
    (box,) = (fact.text for fact in facts if isinstance(fact, NoteWritten))
    assert box.endswith(practice.box_text)
    assert not any(hidden.words in box for hidden in practice.hidden)


@settings(max_examples=40, deadline=None)
@given(SEEDS)
def test_everything_that_is_hidden_is_about_a_claim_of_the_box_and_is_told(seed: int) -> None:
    practice = make_practice(seed)
    lines = list(describe_faults(seed))
    assert all(hidden.touched <= set(practice.promises) for hidden in practice.hidden)
    assert all(any(hidden.words in line for line in lines) for hidden in practice.hidden)
    assert practice.is_innocent == ("the device keeps every promise" in lines)
    assert all(fault.words for fault in practice.faults)


def test_another_device_is_no_practice() -> None:
    assert practice_of(HUB) is None
    assert practice_of(dataclasses.replace(HUB, model="P17")) is None, "another maker"
    assert name_of_practice(17) == "practice-17"


def test_the_bench_finds_what_a_practice_hides_by_its_device_alone() -> None:
    seed = next(seed for seed in range(500) if any(h.name == "lower class" for h in make_practice(seed).hidden))
    session = AuditSession(name_of_practice(seed), MemoryJournal(facts_of_practice(seed)), PROFILE)
    broken = {sentence for hidden in make_practice(seed).hidden for sentence in hidden.breaks}
    with open_simulated_bench(session.judged.audit, seed=seed, over_sockets=False) as bench:
        while to_do := session.judged.judgement.to_do:
            session.run(to_do[0], bench, Onlooker())
    accused = {str(each.claim) for each in session.judged.judgement.claims if each.verdict.accuses}
    assert accused
    assert accused <= broken
