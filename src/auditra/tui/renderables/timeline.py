"""The log of an audit as lines: when, where, what, and the times that came out of it."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from textual.content import Content

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtRaised, EventNoted, EvidenceKept, NoteWritten
from auditra.core.judge.timeline import Happening, Span, TimelineEntry, TrialMark, timeline_of
from auditra.core.model.event import EventKind
from auditra.core.model.setup import MINUTE_S
from auditra.core.quantities.display import byte_size
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut
from auditra.tui.theme import Palette

_SORTS = {True: "opinion", False: "finding"}
_ALARMING = frozenset({EventKind.CRASH, EventKind.PICTURE_LOST})


def timeline_lines(audit: Audit, titles: Mapping[str, str], width: int, palette: Palette) -> list[Content]:
    """Everything with a moment, newest first; `titles` are those of the trials, by their ids."""
    entries = timeline_of(audit)
    day: datetime | None = None
    lines: list[Content] = []
    for entry in reversed(entries):
        if day is not None and entry.at.date() != day.date():
            lines.append(Content.styled(f"{day:%Y-%m-%d} and after", palette.quiet))
        day = entry.at
        lines += _lines_of(entry, titles, width, palette)
    return lines


def _lines_of(entry: TimelineEntry, titles: Mapping[str, str], width: int, palette: Palette) -> list[Content]:
    """What happened, with the times that end with it beside it, or below where there is no room."""
    words, place = _words_of(entry.what, titles)
    style = palette.quiet if isinstance(entry.what, TrialMark) else palette.ink
    if isinstance(entry.what, EventNoted) and entry.what.what in _ALARMING:
        style = palette.broken
    head = f"{entry.at:%H:%M:%S}  {sanitize(place, 8):5} "
    words = cut(sanitize(words, 120), max(8, width - len(head)))
    spans = "; ".join(map(span_in_words, entry.spans))
    line = Content.assemble((head, palette.quiet), (words, style))
    if not spans:
        return [line]
    if line.cell_length + len(spans) + 3 <= width:
        return [Content.assemble(line, (f"   {spans}", palette.accent))]
    return [line, Content.styled(" " * len(head) + cut(spans, max(8, width - len(head))), palette.accent)]


def _words_of(what: Happening, titles: Mapping[str, str]) -> tuple[str, str]:
    """What happened, and at which port."""
    match what:
        case TrialMark(trial, outcome):
            return f"{trial} {titles.get(trial, '')}: {outcome or 'under way'}".replace(" :", ":"), ""
        case NoteWritten(text, port):
            sort = _SORTS[what.is_opinion] if isinstance(what.is_opinion, bool) else "note"
            return f"{sort}: {text}", port or ""
        case EvidenceKept(_, name, size):
            return f"file {name}, {byte_size(size)}", ""
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
