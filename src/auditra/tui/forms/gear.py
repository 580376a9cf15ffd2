"""Forms for parts of the rig: any kind, new, copied or as it is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.core.model.rig import Part, Rig
from auditra.documents.typed_noun import noun_from
from auditra.tui.forms.form import Choices, Form, Texts, fields_of_noun, fixed
from auditra.workflows.audits.rig_edits import KIND_OF_PART, PART_KINDS, free_id, part_added, part_edited

Saving = Callable[[Callable[[Audit, Texts], tuple[Fact, ...]], str, str], Callable[[Texts], str]]
"""Makes what a form does when it is saved: facts, the name of the action, what is said."""
_INTRO = (
    "Figures are what the part can do at most, from its label, its data sheet or your own measurement. "
    "Leave empty what is not known; write none where there is none."
)


def new_part(rig: Rig, kind: str, saving: Saving, speaks: Sequence[str] = ()) -> Form:
    """A part that the rig does not have yet."""
    return _form(rig, PART_KINDS[kind], None, f"New {kind}", f"gear new {kind}", _adding(kind, saving), speaks)


def copied_part(rig: Rig, part: Part, saving: Saving, speaks: Sequence[str] = ()) -> Form:
    """A part like another, with a short name of its own."""
    kind = KIND_OF_PART[type(part)]
    draft = f"gear copy {part.id}"
    form = _form(rig, type(part), part, f"Copy of {_name(part)}", draft, _adding(kind, saving), speaks)
    own = tuple(
        field if field.key != "id" else type(field)(**{**vars(field), "value": free_id(rig, part.id)})
        for field in form.fields
        if field.key not in ("serial", "photo", "calibrated")
    )
    return Form(form.title, form.intro, own, form.save, form.draft)


def edited_part(rig: Rig, part: Part, saving: Saving, speaks: Sequence[str] = ()) -> Form:
    """A part as it is, to be put otherwise."""

    def facts(audit: Audit, texts: Texts) -> tuple[Fact, ...]:
        return part_edited(audit, part.id, _read(type(part), texts))

    name = _name(part)
    save = saving(facts, f"edit {part.id}", f"{name} is edited.")
    return _form(rig, type(part), part, f"Edit {name}", f"gear edit {part.id}", save, speaks)


def _adding(kind: str, saving: Saving) -> Callable[[Texts], str]:
    def facts(audit: Audit, texts: Texts) -> tuple[Fact, ...]:
        return part_added(audit, _read(PART_KINDS[kind], texts))

    return saving(facts, f"new {kind}", f"The {kind} is added.")


def _form(
    rig: Rig, noun: type[Part], part: Part | None, title: str, draft: str, save: Callable[[Texts], str],
    speaks: Sequence[str],
) -> Form:  # fmt: skip
    return Form(title, _INTRO, fields_of_noun(noun, part, choices=_choices(rig, speaks)), save, draft)


def _choices(rig: Rig, speaks: Sequence[str]) -> dict[str, Choices]:
    return {"reader": fixed(*(reader.id for reader in rig.readers)), "speaks": fixed(*speaks)}


def _read(noun: type[Any], texts: Texts) -> Part:
    part: Part = noun_from(noun, texts)
    return part


def _name(part: Part) -> str:
    return str(getattr(part, "name", "") or part.id)
