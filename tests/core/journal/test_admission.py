"""Facts beside the trials are checked against what was said before them."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.admission import Known
from auditra.core.journal.facts import (
    ClaimDropped,
    ClaimEdited,
    ClaimMade,
    DeviceNoted,
    DoubtEnd,
    DoubtEnded,
    DoubtRaised,
    Entry,
    EventNoted,
    EvidenceKept,
    Fact,
    NoteWritten,
    RigNoted,
    TrialPlanned,
    TrialSkipped,
    Undone,
)
from auditra.core.journal.fold import fold_audit
from auditra.core.model.device import Face, Port
from auditra.workflows.trials.run import trial_of
from tests.support.audits import BEGIN, HUB, audit_of, entries, facts_of_trial, galley, planned, rates

SAID: tuple[Fact, ...] = (
    DeviceNoted(HUB), RigNoted(galley()), ClaimMade("claim1", "A1 data 5 Gb/s"), DoubtRaised("D1", "Does it get hot?"),
)  # fmt: skip
TWINS = replace(HUB, faces=(*HUB.faces, Face("top", (Port("A1", "usb-a"),))))
LEAD = galley().leads[0]


def taken(known: Known, *facts: Fact, action: str = "later") -> Known:
    """What is known after more facts that are right."""
    for fact in facts:
        assert known.problems(fact) == ()
        known.take(Entry(known.fold.count + 1, BEGIN, action, fact))
    return known


def known() -> Known:
    """What is known after a few facts that are right."""
    return taken(Known("a"), *SAID, action="made")


@pytest.mark.parametrize(
    ("fact", "told"),
    [
        (DoubtRaised("D1", "again"), "another doubt"),
        (DoubtEnded("D9", DoubtEnd.REFUTED), "no doubt"),
        (EvidenceKept("abc", "photo.jpg", 10), "64 digits"),
        (Undone("T9"), "no action"),
        (NoteWritten("x", "Z9"), "no device has a port"),
        (ClaimMade("claim1", "A1 no data"), "another claim"),
        (ClaimMade("claim2", "A1 sings"), "column"),
        (ClaimMade("claim3", "Z9 no data"), "no port Z9"),
        (ClaimMade("claim4", "A1 no data", device="other"), 'no device "other"'),
        (DeviceNoted(TWINS), "two ports have the id A1"),
        (ClaimEdited("claim9", "A1 data 5 Gb/s"), "no claim"),
        (ClaimEdited("claim1", "A1 sings"), "column"),
        (ClaimEdited("claim1", "Z9 no data"), "no port Z9"),
        (ClaimDropped("claim9"), "no claim"),
        (ClaimMade("claim5", "A1 data 5 Gb/s while A1 data 5 Gb/s"), "the promise itself"),
        (ClaimMade("claim6", "far:A1 data 5 Gb/s"), 'no device "far"'),
        (ClaimMade("claim7", "A1 shares 5 W"), "joined by"),
        (RigNoted(replace(galley(), leads=(LEAD, LEAD))), "two parts"),
    ],
)
def test_what_does_not_fit_is_told(fact: Fact, told: str) -> None:
    assert any(told in problem for problem in known().problems(fact))


def test_what_fits_is_kept_beside_the_trials() -> None:
    ended = DoubtEnded("D1", DoubtEnd.CONFIRMED, "the soak shows it", ("T27",))
    facts = (*SAID, EventNoted("chime", "laptop"), EvidenceKept("0" * 64, "photo.jpg", 10), ended)
    audit = fold_audit("a", entries(facts))
    assert audit.doubts[0].ended == ended
    assert audit.events[0].what == "chime"
    assert audit.evidence[0].name == "photo.jpg"


def test_a_claim_may_be_edited_and_dropped_and_the_device_known_better() -> None:
    better = DeviceNoted(replace(HUB, revision="B"))
    taken(known(), ClaimEdited("claim1", "A1 data 10 Gb/s"), ClaimDropped("claim1", "read wrongly"), better)


def test_once_trials_were_done_another_revision_is_another_audit() -> None:
    device = replace(HUB, revision="B")
    found = taken(Known("a"), DeviceNoted(device), RigNoted(galley()), ClaimMade("claim1", "A1 data 5 Gb/s"))
    taken(found, DeviceNoted(replace(HUB, revision="C")), DeviceNoted(device))
    taken(found, *facts_of_trial(audit_of("A1 data 5 Gb/s"), "A1/", *rates("A1", 450)))
    taken(found, DeviceNoted(replace(device, firmware="1.2")))
    assert "another audit" in found.problems(DeviceNoted(replace(HUB, revision="C")))[0]


def test_what_was_undone_is_not_known() -> None:
    """A socket that was added, and whose adding was undone, is not there."""
    wider = replace(HUB, faces=(*HUB.faces, Face("top", (Port("A9", "usb-a"),))))
    found = taken(known(), DeviceNoted(wider), action="socket 5")
    taken(found, NoteWritten("loose", "A9"), NoteWritten("scratched", "body"))
    taken(found, Undone("socket 5"))
    assert "no device has a port A9" in found.problems(NoteWritten("loose", "A9"))[0]


def test_a_part_that_trials_were_run_with_is_retired_and_not_removed() -> None:
    trial = facts_of_trial(audit_of("A1 data 5 Gb/s"), "A1/storage", *rates("A1", 440))
    after = taken(known(), *trial)
    without = replace(galley(), drives=galley().drives[1:])
    used = galley().drives[0].id
    assert after.problems(RigNoted(without)) == (f"trials were run with {used}: retire it instead of removing it",)
    assert after.problems(RigNoted(replace(galley(), retired=(used,)))) == ()
    assert known().problems(RigNoted(without)) == ()


def test_a_trial_that_is_wanted_or_skipped_names_what_is_there() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    trial = trial_of(planned(audit, "A1/storage"), audit, "live bench")
    for fact in (TrialPlanned(trial), TrialSkipped(trial, "no time")):
        assert known().problems(fact) == ()
        assert known().problems(replace(fact, trial=replace(trial, port="Z9"))) == ("no device has a port Z9",)
