"""Trials of another host join this audit: renumbered, for our claims, once, with their evidence; or not at all."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from auditra.cli.composition import LibraryHandle, make_services
from auditra.core.errors import InputError
from auditra.core.journal.facts import ClaimMade, DeviceNoted, EvidenceKept, Fact, ReadingTaken, RigNoted
from auditra.core.model.rig import Rig
from auditra.store.exchange import export_audit
from auditra.workflows.audits.joining import evidence_of, trials_to_join
from tests.support.audits import BEGIN, HUB, audit_of, entries, facts_of_trial, galley, rates, with_trial

HERE = audit_of("A2 data 5 Gb/s", "A1 data 5 Gb/s")


def journal_there(*more: Fact, rig: Rig | None = None) -> list[Fact]:
    """A journal of the same device, with one trial of A1."""
    there = audit_of("A1 data 5 Gb/s", rig=rig)
    trial = facts_of_trial(there, "A1/storage", *rates("A1", 440))
    return [DeviceNoted(HUB), RigNoted(rig or galley()), ClaimMade("claim1", "A1 data 5 Gb/s"), *trial, *more]


def test_a_trial_gets_the_next_name_here_and_our_claims() -> None:
    one = with_trial(HERE, "A2/storage", *rates("A2", 430))
    kept = EvidenceKept("a" * 64, "host.json", 9, about="trial T1")
    (joined,) = trials_to_join(one, entries(journal_there(kept)))
    assert joined.trial == "T2"
    begun, *_ = joined.facts
    assert begun.trial.claims == ("claim2",)  # type: ignore[union-attr]
    assert {fact.reading.trial for fact in joined.facts if isinstance(fact, ReadingTaken)} == {"T2"}
    assert evidence_of([joined]) == (replace(kept, about="trial T2"),)


def test_a_trial_that_is_here_already_is_left_out() -> None:
    one = with_trial(HERE, "A1/storage", *rates("A1", 440))
    assert trials_to_join(one, entries(journal_there())) == ()


def test_another_device_or_gear_that_our_rig_lacks_is_refused() -> None:
    other = [DeviceNoted(replace(HUB, model="OP-7")), *journal_there()[1:]]
    with pytest.raises(InputError, match="another variant"):
        trials_to_join(HERE, entries(other))
    renamed = replace(galley(), drives=tuple(replace(each, id=f"my-{each.id}") for each in galley().drives))
    with pytest.raises(InputError, match="the rig has no my-"):
        trials_to_join(HERE, entries(journal_there(rig=renamed)))


def test_from_the_shell_and_the_services_the_trials_are_on_disk_once(tmp_path: Path) -> None:
    handle = LibraryHandle(tmp_path / "library")
    facts: list[Fact] = [DeviceNoted(HUB), RigNoted(galley()), ClaimMade("claim1", "A1 data 5 Gb/s")]
    handle.library.create("here", facts, BEGIN)
    export_audit("there", entries(journal_there()), tmp_path / "there", lambda: None)
    services = make_services(handle, pace=None)
    session = services.open_session("here")
    assert services.join(session, str(tmp_path / "there" / "facts.jsonl")) == ("T1",)
    assert services.join(session, str(tmp_path / "there")) == ()
    assert len(services.open_session("here").judged.audit.trials) == 1
    session.undo(services.clock)
    assert session.judged.audit.trials == ()
