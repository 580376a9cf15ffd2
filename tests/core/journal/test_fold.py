"""The audit is a fold over its facts; taking back is a fact too."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import InputError
from auditra.core.journal.facts import (
    ClaimDropped,
    ClaimEdited,
    ClaimMade,
    DeviceNoted,
    Entry,
    Fact,
    NoteWritten,
    RigNoted,
    TrialPlanned,
    TrialSkipped,
    Undone,
)
from auditra.core.journal.fold import AuditFold, fold_audit
from auditra.core.model.noted import NOT_NOTED, in_words
from auditra.core.model.source import Source
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.run import trial_of
from tests.support.audits import BEGIN, HUB, audit_of, entries, facts_of_trial, galley, planned, rates

MADE = entries([DeviceNoted(HUB), RigNoted(galley()), ClaimMade("claim1", "A1 data 5 Gb/s")])


def after(*actions: tuple[str, tuple[Fact, ...]]) -> list[Entry]:
    """The made audit, then these actions."""
    kept = list(MADE)
    for action, facts in actions:
        kept += [
            Entry(len(kept) + n, BEGIN + timedelta(minutes=1), action, fact) for n, fact in enumerate(facts, start=1)
        ]
    return kept


TRIAL = facts_of_trial(audit_of("A1 data 5 Gb/s"), "A1/", *rates("A1", 450))


def test_a_trial_stands_with_its_readings_and_outcome() -> None:
    audit = fold_audit("test", after(("T1", TRIAL)))
    assert audit.trials[0].outcome is Outcome.COMPLETE
    assert len(audit.trials[0].readings) == 3
    assert audit.undoable == ("T1",)


def test_an_undone_trial_does_not_count_but_its_plugs_still_stand() -> None:
    audit = fold_audit("test", after(("T1", TRIAL), ("undo 9", (Undone("T1"),))))
    assert audit.trials == ()
    assert audit.last_setup is not None
    assert audit.begun_trials == 1
    assert audit.undoable == ()


def test_an_undoing_that_is_undone_has_no_effect() -> None:
    audit = fold_audit("test", after(("T1", TRIAL), ("u1", (Undone("T1"),)), ("u2", (Undone("u1"),))))
    assert len(audit.trials) == 1


def test_a_trial_cut_off_keeps_its_readings_and_has_no_outcome() -> None:
    audit = fold_audit("test", after(("T1", TRIAL[:-1])))
    assert audit.trials[0].outcome is None
    assert len(audit.trials[0].readings) == 3


def test_the_sheet_an_audit_was_made_from_cannot_be_taken_back() -> None:
    assert fold_audit("test", MADE).undoable == ()


def test_a_journal_without_a_device_is_refused_in_words() -> None:
    with pytest.raises(InputError, match="names no device"):
        fold_audit("test", MADE[1:])


def test_absent_is_not_none() -> None:
    assert HUB.variant is NOT_NOTED
    assert (in_words(HUB.variant), in_words(None), in_words("B")) == ("not noted", "none", "B")


def actions_in_force(kept: list[Entry]) -> dict[str, bool]:
    """What counts, worked out from the newest action to the oldest."""
    in_force = dict.fromkeys((entry.action for entry in kept), True)
    for entry in reversed(kept):
        if isinstance(entry.fact, Undone) and in_force[entry.action]:
            in_force[entry.fact.action] = False
    return in_force


@given(st.lists(st.integers(0, 9), max_size=8))
def test_any_undoing_leaves_a_fold_that_never_loses_what_was_not_undone(targets: list[int]) -> None:
    notes = [(f"n{n}", (NoteWritten(f"note {n}"),)) for n in range(5)]
    undoings: list[tuple[str, tuple[Fact, ...]]] = []
    for n, target in enumerate(targets):
        known = [name for name, _ in notes] + [name for name, _ in undoings]
        undoings.append((f"u{n}", (Undone(known[target % len(known)]),)))
    kept = after(*notes, *undoings)
    in_force = actions_in_force(kept)
    named = {fact.action for entry in kept if isinstance(fact := entry.fact, Undone)}
    audit = fold_audit("test", kept)
    assert all(in_force[name] for name, _ in notes if name not in named)
    assert len(audit.notes) == sum(in_force[name] for name, _ in notes)
    by_and_by = AuditFold("test")
    for n, entry in enumerate(kept):
        by_and_by.add([entry])
        if n >= len(MADE):
            assert by_and_by.audit() == fold_audit("test", kept[: n + 1])


def test_a_mended_claim_keeps_its_trials_and_a_dropped_one_is_gone_until_that_is_undone() -> None:
    mending = ("claim 1", (ClaimEdited("claim1", "A1 data 10 Gb/s", Source("manual")),))
    dropping = ("drop 2", (ClaimDropped("claim1"),))
    mended = fold_audit("a", after(("T1", TRIAL), mending))
    assert (str(mended.claims[0]), mended.claims[0].source.kind) == ("A1 data 10 Gb/s", "manual")
    assert mended.trials[0].trial.claims == ("claim1",)
    dropped = fold_audit("a", after(("T1", TRIAL), mending, dropping))
    assert dropped.claims == ()
    assert dropped.undoable == ("T1", "claim 1", "drop 2")
    back = fold_audit("a", after(("T1", TRIAL), mending, dropping, ("undo 3", (Undone("drop 2"),))))
    assert [str(each) for each in back.claims] == ["A1 data 10 Gb/s"]


def test_a_sentence_that_the_language_does_not_read_is_kept_with_the_reason_until_it_is_edited_or_dropped() -> None:
    odd = ("claim 2", (ClaimMade("claim2", "A1 hums in B flat", Source("box")),))
    audit = fold_audit("a", after(odd))
    assert [str(each) for each in audit.claims] == ["A1 data 5 Gb/s"]
    assert (audit.unreadable[0].sentence, audit.unreadable[0].source.kind) == ("A1 hums in B flat", "box")
    assert "column 4" in audit.unreadable[0].why
    edited = fold_audit("a", after(odd, ("claim 3", (ClaimEdited("claim2", "A1 feeds 0.9 A"),))))
    assert ([str(each) for each in edited.claims][1], edited.unreadable) == ("A1 feeds 0.9 A", ())
    assert fold_audit("a", after(odd, ("drop 3", (ClaimDropped("claim2"),)))).unreadable == ()


def test_two_trials_of_one_id_both_keep_their_readings() -> None:
    audit = fold_audit("test", after(("T1", TRIAL), ("T1 again", TRIAL)))
    assert [len(record.readings) for record in audit.trials] == [3, 3]


def test_of_a_device_noted_twice_the_later_counts_and_can_be_taken_back() -> None:
    better = replace(HUB, revision="B")
    audit = fold_audit("a", after(("known 1", (DeviceNoted(better),))))
    assert audit.device == better
    assert audit.devices == (better,)
    assert audit.undoable == ("known 1",)
    assert fold_audit("a", after(("known 1", (DeviceNoted(better),)), ("undo", (Undone("known 1"),)))).device == HUB


def test_a_later_rig_replaces_the_first_and_can_be_undone() -> None:
    begun = entries([DeviceNoted(HUB), RigNoted(galley())])
    smaller = replace(galley(), name="smaller")
    later = [*begun, Entry(3, BEGIN, "rig 3", RigNoted(smaller))]
    assert fold_audit("a", later).rig.name == "smaller"
    assert fold_audit("a", later).undoable == ("rig 3",)
    undone = fold_audit("a", [*later, Entry(4, BEGIN, "undo 4", Undone("rig 3"))])
    assert undone.rig.name == "galley"
    assert undone.undoable == ()


def test_the_later_word_about_a_trial_counts() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    trial = trial_of(planned(audit, "A1/storage"), audit, "live bench")
    facts: list[Fact] = [DeviceNoted(HUB), RigNoted(galley()), ClaimMade("claim1", "A1 data 5 Gb/s")]
    skipped = entries([*facts, TrialSkipped(trial, "no time")])
    assert fold_audit("a", skipped).skipped == (TrialSkipped(trial, "no time"),)
    wanted = fold_audit("a", [*skipped, Entry(5, BEGIN, "plan 5", TrialPlanned(trial))])
    assert wanted.skipped == ()
    assert wanted.own_trials == (TrialPlanned(trial),)
