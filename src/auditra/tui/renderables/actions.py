"""What an action did, in words: for the log, and for what was undone."""

from __future__ import annotations

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import (
    ClaimDropped,
    ClaimEdited,
    ClaimMade,
    DoubtEnded,
    DoubtRaised,
    EvidenceKept,
    Fact,
    NoteWritten,
    RemarkAnswered,
    TrialBegun,
)
from auditra.core.judge.judgement import Judgement
from auditra.core.procedures.identity import identity_of
from auditra.core.sanitize import sanitize

MAX_WORDS = 60
_EDITS = ("claim", "quote", "words")
"""What an edit of a claim is recorded as; a quote was recorded as words up to 0.7."""


def action_in_words(action: str, first: Fact, audit: Audit, judgement: Judgement) -> str:
    """``trial A1 write and read back``, ``new claim "A1 feeds 0.9 A"``, ``rename A1``; never an internal id."""
    match first:
        case TrialBegun(trial):
            planned = judgement.sheet.trial(identity_of(trial))
            return f"trial {trial.id}, {sanitize(planned.title, MAX_WORDS) if planned else _place(trial.port)}"
        case NoteWritten(text):
            return f'note "{sanitize(text, MAX_WORDS)}"'
        case ClaimMade(_, sentence):
            return f'new claim "{sanitize(sentence, MAX_WORDS)}"'
        case ClaimEdited(_, sentence) if _named(action) in _EDITS:
            return f'edit of "{sanitize(sentence, MAX_WORDS)}"'
        case ClaimDropped():
            return "dropping a claim"
        case DoubtRaised(_, question):
            return f'doubt "{sanitize(question, MAX_WORDS)}"'
        case DoubtEnded():
            return "closing a doubt"
        case RemarkAnswered(_, note):
            return f'answer "{sanitize(note, MAX_WORDS)}"'
        case EvidenceKept(_, name):
            return f"file {sanitize(name, MAX_WORDS)}"
        case _:
            return _named(action)


def _named(action: str) -> str:
    """Actions on the device are named for what they do, with their number in the journal behind."""
    words, _, number = action.rpartition(" ")
    return sanitize(words if number.isdecimal() and words else action, MAX_WORDS)


def _place(port: str | None) -> str:
    return "direct" if port is None else sanitize(port, 20)
