"""What the reviewer notes with hands on the gear, as facts: events with their moments, notes, doubts and photos.

Times between events come out as readings of the trial that the events belong to.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from datetime import datetime

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtRaised, EventNoted, EvidenceKept, Fact, NoteWritten, ReadingTaken
from auditra.core.judge.timeline import Span, SpanKind, timeline_of
from auditra.core.model.device import BODY
from auditra.core.model.event import EventKind
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.sanitize import sanitize

THE_LOG = "the log"
HAND_ERROR_S = 0.5
"""How late a key may be pressed after something was seen or done. An estimate of our own, and a generous one."""
KIT = "kit"
"""What a note is about that lists what somebody wants to plug in."""
TOPICS = ("build", "finish", "strain relief", "fit", "layout", "repair", "manual", "sound", "heat")
"""What remarks are about most; any other words are a topic too."""
_QUANTITIES = {
    SpanKind.TO_PICTURE: Quantity.TIME_TO_APPEAR, SpanKind.TO_FAILURE: Quantity.TIME_TO_FAILURE,
    SpanKind.TO_RECOVERY: Quantity.TIME_TO_RECOVERY, SpanKind.WITHOUT_PICTURE: Quantity.DROPPED_OUT,
}  # fmt: skip


def facts_of_event(audit: Audit, kind: EventKind, port: str | None, now: datetime, words: str = "") -> tuple[Fact, ...]:
    """An event at a port, or of the whole device, with the times that end with it."""
    trial = trial_at(audit, port)
    event = EventNoted(kind, sanitize(words, 120), port or NOT_NOTED, trial or NOT_NOTED, now)
    after = timeline_of(replace(audit, events=(*audit.events, event)))
    spans = next((entry.spans for entry in reversed(after) if entry.what is event), ())
    return (event, *map(ReadingTaken, _readings(trial, port, spans)))


def trial_at(audit: Audit, port: str | None) -> str | None:
    """The trial that an event at a port belongs to: the newest one, where its set-up has something there."""
    if not audit.trials:
        return None
    newest = audit.trials[-1].trial
    there = {newest.port, *(each.socket for each in newest.setup.plugged)}
    return newest.id if port is None or port in there else None


def facts_of_note(
    text: str, port: str | None, about: str, now: datetime, *, is_opinion: bool | None, photo: EvidenceKept | None
) -> tuple[Fact, ...]:
    """A remark, with the photo that shows it, its bytes kept already. Raises: InputError."""
    words = " ".join(text.split())
    if not words:
        raise InputError("the note", why="it is empty", do="Write something down, or leave")
    note = NoteWritten(
        sanitize(words, 1000), port, sanitize(about.strip(), 40) or NOT_NOTED,
        NOT_NOTED if is_opinion is None else is_opinion, (photo.sha256,) if photo is not None else (),
        now,
    )  # fmt: skip
    return (note,) if photo is None else (note, photo)


def facts_of_kit(text: str, now: datetime) -> tuple[Fact, ...]:
    """What somebody wants to plug in, as it was typed and read already."""
    return (NoteWritten(sanitize(" ".join(text.split()), 400), None, KIT, moment=now),)


def kit_of(audit: Audit) -> str:
    """The kit that was typed last; empty for none."""
    return next((note.text for note in reversed(audit.notes) if note.about == KIT), "")


def facts_of_doubt(
    audit: Audit, question: str, port: str | None, suspect: str, about: str, now: datetime
) -> tuple[Fact, ...]:
    """A doubt, with what it suspects. Raises: InputError."""
    words = " ".join(question.split())
    if not words:
        raise InputError("the doubt", why="it has no words", do="Type a question first")
    return (
        DoubtRaised(
            f"D{audit.entries + 1}", sanitize(words, 400), port=port or NOT_NOTED,
            suspect=suspect.strip() or NOT_NOTED, about=sanitize(about.strip(), 80) or NOT_NOTED, moment=now,
        ),
    )  # fmt: skip


def about_of(port: str | None) -> str:
    """What a file is about, as evidence has it."""
    return f"port {port}" if port not in (None, BODY) else "device"


def _readings(trial: str | None, port: str | None, spans: Iterable[Span]) -> Iterator[Reading]:
    """Of a port, in the trial that the event belongs to."""
    for span in spans:
        if trial is not None and port is not None:
            yield Reading(
                trial, _QUANTITIES[span.kind], port, THE_LOG, Grade.SEEN, Number((span.seconds,)), error=HAND_ERROR_S,
                moment=span.until,
            )  # fmt: skip
