"""Forms of the log: a note with its photo, a doubt, a photo by itself."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EvidenceKept, Fact
from auditra.core.judge.reasoning.reasons import all_causes
from auditra.documents.typed_noun import FieldRefused
from auditra.tui.forms.form import Form, FormField, Texts, fixed
from auditra.tui.forms.gear import Saving
from auditra.workflows.audits.log_events import TOPICS, about_of, facts_of_doubt, facts_of_note

KeepPhoto = Callable[[str, str], EvidenceKept]
"""A file by its path, with what it is about: its bytes are on disk once this returns."""
Moment = Callable[[], datetime]
"""The bench's time, when the form is saved."""
_OPINION, _FINDING = "opinion", "finding"


def note_form(port: str | None, keep: KeepPhoto, now: Moment, saving: Saving) -> Form:
    """A remark about a port or the device: an opinion, or a finding that anybody could check."""

    def facts(_: Audit, texts: Texts) -> tuple[Fact, ...]:
        standing = texts["standing"].strip()
        if standing not in ("", _OPINION, _FINDING):
            raise FieldRefused("standing", "it is", f'"{standing[:20]}" is neither opinion nor finding')
        photo = keep(texts["photo"], about_of(port)) if texts["photo"].strip() else None
        is_opinion = None if not standing else standing == _OPINION
        return facts_of_note(texts["text"], port, texts["about"], now(), is_opinion=is_opinion, photo=photo)

    fields = (
        FormField("text", "note", required=True, hint="what you see, hear or feel"),
        FormField("about", "about", choices=fixed(*TOPICS), hint="or any other word"),
        FormField("standing", "it is", choices=fixed(_FINDING, _OPINION),
                  hint="a finding can be checked by anybody; an opinion is shown as one, and decides nothing"),
        FormField("photo", "photo", hint="the path of a picture that shows it"),
    )  # fmt: skip
    intro = f"A note about {port or 'the device'}. It is in the journal and in the report."
    return Form("Note", intro, fields, saving(facts, "note", "The note is recorded."), f"note {port}")


def doubt_form(port: str | None, now: Moment, saving: Saving) -> Form:
    """A question, with the cause that it suspects."""
    kinds = tuple(sorted(cause.id for cause in all_causes()))

    def facts(audit: Audit, texts: Texts) -> tuple[Fact, ...]:
        suspect = texts["suspect"].strip()
        if suspect and suspect not in kinds:
            raise FieldRefused("suspect", "suspected cause", f'"{suspect[:30]}" is no cause that Auditra knows')
        return facts_of_doubt(audit, texts["question"], port, suspect, texts["about"], now())

    fields = (
        FormField("question", "question", required=True, example="is the lead too slow?"),
        FormField("suspect", "suspected cause", choices=fixed(*kinds), hint="left empty, the doubt stays open"),
        FormField("about", "what it is about", example="lead AC-2", hint="a lead, a host, a port, what else is in use"),
    )
    intro = f"A doubt about {port or 'the device'}. Stage 6 says what the trials answer."
    return Form("Doubt", intro, fields, saving(facts, "doubt", "The doubt is noted."), f"doubt {port}")


def photo_form(port: str | None, keep: KeepPhoto, now: Moment, saving: Saving) -> Form:
    """A picture of a port or the device."""

    def facts(_: Audit, texts: Texts) -> tuple[Fact, ...]:
        if not texts["photo"].strip():
            raise InputError("the photo", why="no file is named", do="Write the path of a picture")
        return (replace(keep(texts["photo"], about_of(port)), moment=now()),)

    fields = (FormField("photo", "photo", required=True, hint="the path of a picture, or of another file"),)
    intro = f"A photo of {port or 'the device'}, kept by its SHA-256."
    return Form("Photo", intro, fields, saving(facts, "photo", "The photo is kept."), f"photo {port}")
