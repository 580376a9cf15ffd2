"""The log of an audit as lines: when, where, what, and the times that came out of it."""

from __future__ import annotations

from datetime import datetime

from textual.content import Content

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtRaised, EventNoted, EvidenceKept, NoteWritten
from auditra.core.judge.timeline import Happening, Span, TimelineEntry, TrialMark, timeline_of
from auditra.core.model.event import EventKind
from auditra.core.model.setup import MINUTE_S
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut
from auditra.tui.theme import Palette

_ALARMING = frozenset({EventKind.CRASH, EventKind.PICTURE_LOST})


def timeline_lines(audit: Audit, width: int, palette: Palette) -> list[Content]:
    """Everything with a moment, newest first."""
    entries = timeline_of(audit)
    day: datetime | None = None
    lines: list[Content] = []
    for entry in reversed(entries):
        if day is not None and entry.at.date() != day.date():
            lines.append(Content.styled(f"{day:%Y-%m-%d} and after", palette.quiet))
        day = entry.at
        lines.append(_line(entry, width, palette))
    return lines


def _line(entry: TimelineEntry, width: int, palette: Palette) -> Content:
    words, place = _words_of(entry.what)
    style = palette.quiet if isinstance(entry.what, TrialMark) else palette.ink
    if isinstance(entry.what, EventNoted) and entry.what.what in _ALARMING:
        style = palette.broken
    spans = "; ".join(map(span_in_words, entry.spans))
    tail = f"   {spans}" if spans else ""
    head = f"{entry.at:%H:%M:%S}  {sanitize(place, 8):8} "
    return Content.assemble(
        (head, palette.quiet), (cut(sanitize(words, 120), max(8, width - len(head) - len(tail))), style),
        (tail, palette.accent),
    )  # fmt: skip


def _words_of(what: Happening) -> tuple[str, str]:
    """What happened, and at which port."""
    match what:
        case TrialMark(trial, outcome):
            return f"{trial} {outcome or 'under way'}", ""
        case NoteWritten(text, port):
            return f"note: {text}", port or ""
        case EvidenceKept(_, name):
            return f"file {name}", ""
        case DoubtRaised(_, question):
            return f"doubt: {question}", what.port if isinstance(what.port, str) else ""
        case EventNoted(kind, thing):
            return " ".join(filter(None, (kind, thing))), what.port if isinstance(what.port, str) else ""


def span_in_words(span: Span) -> str:
    """``time to picture 6.4 s``."""
    seconds = span.seconds
    if seconds < MINUTE_S:
        return f"{span.kind} {seconds:.1f} s"
    return f"{span.kind} {int(seconds // MINUTE_S)} min {seconds % MINUTE_S:.0f} s"
