"""Times between events of the log: each at its port, from the newest event that begins it."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.journal.facts import EventNoted
from auditra.core.judge.timeline import Span, SpanKind, TrialMark, spans_of, timeline_of
from auditra.core.model.event import EventKind
from tests.support.audits import BEGIN, audit_of, rates, with_trial


def spans(*log: tuple[float, str, str]) -> list[tuple[SpanKind, str | None, float]]:
    """The spans of events, each with its second, kind and port."""
    events = tuple(EventNoted(what, "", port, moment=BEGIN + timedelta(seconds=at)) for at, what, port in log)
    return [(span.kind, span.port, span.seconds) for span in spans_of(replace(audit_of(), events=events))]


def test_the_time_to_a_picture_counts_from_the_newest_connection() -> None:
    assert spans((0, "connected", "H1"), (5, "connected", "H1"), (11.5, "picture appeared", "H1")) == [
        (SpanKind.TO_PICTURE, "H1", 6.5)
    ]


def test_ports_are_apart() -> None:
    assert spans((0, "connected", "H1"), (4, "picture appeared", "D1")) == []


def test_what_was_removed_is_connected_no_more() -> None:
    assert spans((0, "connected", "H1"), (2, "removed", "H1"), (9, "picture appeared", "H1")) == []


def test_a_crash_ends_the_time_to_failure_and_begins_that_to_recovery() -> None:
    log = ((0, "connected", "A1"), (200, "crash", "A1"), (240, "recovered", "A1"), (300, "crash", "A1"))
    assert spans(*log) == [
        (SpanKind.TO_FAILURE, "A1", 200), (SpanKind.TO_RECOVERY, "A1", 40), (SpanKind.TO_FAILURE, "A1", 60),
    ]  # fmt: skip


def test_a_picture_that_comes_back_was_away_since_it_was_lost() -> None:
    assert spans((0, "connected", "H1"), (60, "picture lost", "H1"), (63, "picture back", "H1")) == [
        (SpanKind.TO_FAILURE, "H1", 60), (SpanKind.WITHOUT_PICTURE, "H1", 3),
    ]  # fmt: skip


def test_trials_stand_among_the_events() -> None:
    audit = with_trial(audit_of("A1 data 5 Gb/s"), "A1/storage", *rates("A1", 440))
    record = replace(audit.trials[0], begun_at=BEGIN + timedelta(seconds=5))
    early, late = (EventNoted(EventKind.CHIME, "", "A1", moment=BEGIN + timedelta(seconds=second)) for second in (1, 9))
    audit = replace(audit, trials=(record,), events=(late, early, EventNoted("usb added", "")))
    assert [entry.what for entry in timeline_of(audit)] == [early, TrialMark("T1", record.outcome, begins=True), late]


@given(st.lists(st.tuples(st.floats(0, 1e6), st.sampled_from([*EventKind]), st.sampled_from(["A1", "H1"]))))
def test_no_time_is_ever_negative(log: list[tuple[float, str, str]]) -> None:
    assert all(seconds >= 0 for _, _, seconds in spans(*log))
    assert all(isinstance(span, Span) for span in spans_of(audit_of()))
