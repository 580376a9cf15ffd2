"""The log of an audit in the order of time, and the times between its events."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtRaised, EventNoted, EvidenceKept, NoteWritten
from auditra.core.model.event import EventKind
from auditra.core.model.trial import Outcome


class SpanKind(StrEnum):
    """What a time between two events says."""

    TO_PICTURE = "time to picture"
    TO_FAILURE = "time to failure"
    TO_RECOVERY = "time to recovery"
    WITHOUT_PICTURE = "time without picture"


@dataclass(frozen=True)
class Span:
    """The time between two events at one port, in seconds."""

    kind: SpanKind
    port: str | None
    seconds: float
    until: datetime
    trial: str | None = None


@dataclass(frozen=True)
class TrialMark:
    """A trial that began, or ended with an outcome."""

    trial: str
    outcome: Outcome | None = None
    begins: bool = False


Happening = EventNoted | NoteWritten | DoubtRaised | EvidenceKept | TrialMark
"""What can stand on a timeline."""


@dataclass(frozen=True)
class TimelineEntry:
    """One thing that happened, with the times that end with it."""

    at: datetime
    what: Happening
    spans: tuple[Span, ...] = ()


_BEGINS = {
    SpanKind.TO_PICTURE: (EventKind.CONNECTED,),
    SpanKind.TO_FAILURE: (EventKind.CONNECTED, EventKind.RECOVERED, EventKind.PICTURE_BACK),
    SpanKind.TO_RECOVERY: (EventKind.CRASH,),
    SpanKind.WITHOUT_PICTURE: (EventKind.PICTURE_LOST,),
}
"""The events after which each time counts: the newest of them."""
_ENDS = {
    EventKind.PICTURE: SpanKind.TO_PICTURE,
    EventKind.CRASH: SpanKind.TO_FAILURE,
    EventKind.PICTURE_LOST: SpanKind.TO_FAILURE,
    EventKind.RECOVERED: SpanKind.TO_RECOVERY,
    EventKind.PICTURE_BACK: SpanKind.WITHOUT_PICTURE,
}
"""The time that ends with an event."""
_BREAKS = frozenset({EventKind.REMOVED})
"""What was connected before this is connected no more."""


def timeline_of(audit: Audit) -> tuple[TimelineEntry, ...]:
    """Everything with a moment, oldest first: what the reviewer noted, and when trials began."""
    doubts = [doubt.raised for doubt in audit.doubts]
    written: list[EventNoted | NoteWritten | DoubtRaised | EvidenceKept] = [
        *audit.events,
        *audit.notes,
        *doubts,
        *audit.evidence,
    ]
    noted = [(each.moment, each) for each in written if isinstance(each.moment, datetime)]
    begun = [
        (record.begun_at, TrialMark(record.trial.id, record.outcome, begins=True))
        for record in audit.trials
        if record.begun_at is not None
    ]
    entries: list[tuple[datetime, Happening]] = [*noted, *begun]
    ordered = sorted(entries, key=lambda entry: entry[0])
    spans: dict[int, list[Span]] = {}
    events = [event for _, event in ordered if isinstance(event, EventNoted)]
    for event, span in _spans(events):
        spans.setdefault(id(event), []).append(span)
    return tuple(TimelineEntry(at, what, tuple(spans.get(id(what), ()))) for at, what in ordered)


def spans_of(audit: Audit) -> tuple[Span, ...]:
    """The times between events of the log, in the order in which they ended."""
    return tuple(span for entry in timeline_of(audit) for span in entry.spans)


def _spans(events: Iterable[EventNoted]) -> Iterator[tuple[EventNoted, Span]]:
    """Times at each port by itself; an event of the whole device counts for its ports too."""
    by_port: dict[str | None, dict[str, EventNoted]] = {}
    for event in events:
        port = event.port if isinstance(event.port, str) else None
        latest = by_port.setdefault(port, {})
        if event.what in _BREAKS:
            latest.clear()
        kind = _ENDS.get(EventKind(event.what)) if event.what in set(EventKind) else None
        if kind is not None and (span := _span(kind, event, port, latest, by_port.get(None, {}))) is not None:
            yield event, span
        latest[event.what] = event


def _span(kind: SpanKind, event: EventNoted, port: str | None, *latest: dict[str, EventNoted]) -> Span | None:
    begun = [known[begin] for known in latest for begin in _BEGINS[kind] if begin in known]
    moments = [each.moment for each in begun if isinstance(each.moment, datetime)]
    if not moments or not isinstance(event.moment, datetime):
        return None
    trial = event.trial if isinstance(event.trial, str) else None
    return Span(kind, port, (event.moment - max(moments)).total_seconds(), event.moment, trial)
