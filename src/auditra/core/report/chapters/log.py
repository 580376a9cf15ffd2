"""The log in the order of time; and the same as chapter markers, for those who filmed it."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from auditra.core.journal.facts import DoubtRaised, EventNoted, EvidenceKept, NoteWritten
from auditra.core.judge.timeline import Happening, TimelineEntry, TrialMark, timeline_of
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Paste, Ref, Said, Table, refs, said
from auditra.core.report.material import Material

MAX_LINES = 400


def _blocks(material: Material) -> Iterator[Block]:
    entries = timeline_of(material.judged.audit)
    noted = [entry for entry in entries if not isinstance(entry.what, TrialMark)][:MAX_LINES]
    if noted:
        rows = tuple(_row(entry, material) for entry in noted)
        yield Table(("when", "where", "what"), rows, (0.24, 0.1, 0.66))
    if entries:
        yield Heading("Chapter markers")
        begun = entries[0].at
        yield Paste(tuple(_marker(entry, begun, material) for entry in entries[:MAX_LINES]))


def _row(entry: TimelineEntry, material: Material) -> tuple[tuple[Said, ...], ...]:
    texts = f"{entry.at:%Y-%m-%d %H:%M:%S}", _place(entry.what), _words(entry, material)
    return tuple((said(text, _from(entry.what)),) for text in texts)


def _marker(entry: TimelineEntry, begun: datetime, material: Material) -> Said:
    seconds = int((entry.at - begun).total_seconds())
    clock = f"{seconds // 3600}:{seconds % 3600 // 60:02}:{seconds % 60:02}"
    return said(f"{clock} {_words(entry, material)}", _from(entry.what))


def _from(what: Happening) -> tuple[Ref, ...]:
    return refs(From.TRIAL, what.trial) if isinstance(what, TrialMark) else refs(From.TYPED, "log")


def _place(what: Happening) -> str:
    port = getattr(what, "port", None)
    return port if isinstance(port, str) else ""


def _words(entry: TimelineEntry, material: Material) -> str:
    match entry.what:
        case TrialMark(trial):
            return f"{trial} {material.titles.get(trial, '')}".strip()
        case NoteWritten(text):
            words = f"opinion: {text}" if entry.what.is_opinion is True else text
        case EvidenceKept(_, name):
            words = f"file {name}"
        case DoubtRaised(_, question):
            words = f"doubt: {question}"
        case EventNoted(kind, thing):
            words = " ".join(filter(None, (_place(entry.what), kind, thing)))
    spans = "; ".join(f"{span.kind} {span.seconds:.1f} s" for span in entry.spans)
    return f"{words} ({spans})" if spans else words


LOG = ChapterRule("log", 140, "The log", _blocks)
