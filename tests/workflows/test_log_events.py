"""The log as facts: an event belongs to the trial that it is about, and times between events become readings."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest

from auditra.core.errors import InputError
from auditra.core.host.snapshot import Snapshot, UsbDevice
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtRaised, EventNoted, EvidenceKept, LinkSeen, NoteWritten, ReadingTaken
from auditra.core.model.event import EventKind
from auditra.core.model.link_answer import LinkAnswer
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Grade, Quantity
from auditra.workflows.audits.log_events import facts_of_doubt, facts_of_event, facts_of_note, trial_at
from auditra.workflows.hosts.plug_watch import other_socket
from tests.support.audits import BEGIN, audit_of, rates, with_trial

AUDIT = with_trial(audit_of("A1 data 5 Gb/s", "H1 shows 3840x2160@30"), "A1/storage", *rates("A1", 440))


def logged(audit: Audit, kind: EventKind, port: str | None, second: float) -> tuple[Audit, tuple[object, ...]]:
    """The audit after an event, and the event's facts."""
    facts = facts_of_event(audit, kind, port, BEGIN + timedelta(seconds=second))
    event = facts[0]
    assert isinstance(event, EventNoted)
    return replace(audit, events=(*audit.events, event)), facts


def test_an_event_belongs_to_the_newest_trial_where_its_port_takes_part() -> None:
    assert trial_at(AUDIT, "A1") == "T1"
    assert trial_at(AUDIT, None) == "T1"
    assert trial_at(AUDIT, "H1") is None
    assert trial_at(audit_of(), "A1") is None
    _, (event,) = logged(AUDIT, EventKind.CHIME, "H1", 1)
    assert event == EventNoted("chime heard", "", "H1", NOT_NOTED, BEGIN + timedelta(seconds=1))


def test_times_between_events_are_readings_of_the_trial_as_good_as_a_hand_is() -> None:
    audit, _ = logged(AUDIT, EventKind.CONNECTED, "A1", 0)
    audit, facts = logged(audit, EventKind.CRASH, "A1", 90)
    (taken,) = [fact.reading for fact in facts if isinstance(fact, ReadingTaken)]
    assert (taken.trial, taken.at, taken.quantity, taken.grade) == ("T1", "A1", Quantity.TIME_TO_FAILURE, Grade.SEEN)
    assert (taken.values, taken.error) == ((90.0,), 0.5)
    audit, facts = logged(audit, EventKind.RECOVERED, "A1", 100)
    (taken,) = [fact.reading for fact in facts if isinstance(fact, ReadingTaken)]
    assert (taken.quantity, taken.values) == (Quantity.TIME_TO_RECOVERY, (10.0,))


def test_without_a_trial_there_is_an_event_and_no_reading() -> None:
    audit, _ = logged(AUDIT, EventKind.CONNECTED, "H1", 0)
    _, facts = logged(audit, EventKind.PICTURE, "H1", 6)
    assert [type(fact) for fact in facts] == [EventNoted]


def test_a_note_says_whether_it_is_an_opinion_and_names_its_photo() -> None:
    photo = EvidenceKept("a" * 64, "seam.jpg", 10)
    (note, kept) = facts_of_note(" the seam  gapes ", "A1", "build", BEGIN, is_opinion=True, photo=photo)
    assert note == NoteWritten("the seam gapes", "A1", "build", True, ("a" * 64,), BEGIN)
    assert kept is photo
    (plain,) = facts_of_note("fine", None, "", BEGIN, is_opinion=None, photo=None)
    assert plain == NoteWritten("fine", None, NOT_NOTED, NOT_NOTED, (), BEGIN)
    with pytest.raises(InputError):
        facts_of_note(" ", None, "", BEGIN, is_opinion=None, photo=None)


def test_a_doubt_has_its_suspect_and_its_moment() -> None:
    (doubt,) = facts_of_doubt(AUDIT, "is it the lead?", "A1", "rig part", "lead AC-1", BEGIN)
    assert isinstance(doubt, DoubtRaised)
    assert (doubt.question, doubt.port, doubt.suspect, doubt.about) == (
        "is it the lead?",
        "A1",
        "rig part",
        "lead AC-1",
    )
    with pytest.raises(InputError):
        facts_of_doubt(AUDIT, "", None, "", "", BEGIN)


def test_a_wrong_socket_is_caught_where_the_host_knows_the_right_one() -> None:
    links = (
        LinkSeen("T1", "A1", "2-1.1", 5e9, 5e9, 5e9, LinkAnswer.BEST),
        LinkSeen("T1", "A2", "2-1.2", 5e9, 5e9, 5e9, LinkAnswer.BEST),
    )
    audit = replace(AUDIT, trials=(replace(AUDIT.trials[0], links=links),))
    before = Snapshot()
    at_a2 = Snapshot(usb=(UsbDevice("2-1.2", "2-1", 5000.0, 1, 2),))
    assert other_socket(audit, "A1", before, at_a2) == "A2"
    assert other_socket(audit, "A2", before, at_a2) is None
    assert other_socket(audit, "A1", at_a2, at_a2) is None
    assert other_socket(audit, "A1", before, Snapshot(usb=(UsbDevice("9-9", None, 480.0, 1, 2),))) is None
