"""A form as a value: its fields, what may be typed in each, and what saving it does."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from auditra.documents.typed_noun import Shape, TypedField, as_typed, typed_fields

Texts = Mapping[str, str]
"""What is typed, by the keys of the fields."""
Choices = Callable[[Texts], tuple[str, ...]]


@dataclass(frozen=True)
class FormField:
    """One line of a form. `choices` may depend on what stands in the other fields."""

    key: str
    label: str
    value: str = ""
    hint: str = ""
    example: str = ""
    required: bool = False
    choices: Choices = lambda _: ()
    between: str = ""
    """What stands between several values, of which choices are for the last one; empty for a single value."""

    def offers(self, text: str, texts: Texts) -> tuple[str, tuple[str, ...]]:
        """The part of the text that stays, and what may follow it."""
        keep, gap, last = text.rpartition(self.between) if self.between else ("", "", text)
        begun, kept = last.strip(), f"{keep}{gap} " if gap else ""
        known = self.choices(texts)
        found = tuple(choice for choice in known if choice.casefold().startswith(begun.casefold()) and choice != begun)
        more = tuple(c for c in known if begun and begun.casefold() in c.casefold() and c not in found and c != begun)
        return kept, (*found, *more)


@dataclass(frozen=True)
class Form:
    """What is asked, and what saving does. `draft` is the name under which an unfinished one is kept."""

    title: str
    intro: str
    fields: tuple[FormField, ...]
    save: Callable[[Texts], str]
    """Records what was typed; what was done, in words. Raises: FieldRefused, AuditraError; then nothing is recorded."""
    draft: str


def fixed(*choices: str) -> Choices:
    """The same choices whatever else is typed."""
    return lambda _: choices


def fields_of_noun(
    noun: type[Any], value: Any = None, *, without: tuple[str, ...] = (), choices: Mapping[str, Choices] | None = None
) -> tuple[FormField, ...]:
    """The fields of a noun, with what a noun of that kind says already."""
    texts = as_typed(value, without) if value is not None else {}
    known = choices or {}
    return tuple(_field(field, texts.get(field.key, ""), known) for field in typed_fields(noun, without))


def _field(field: TypedField, text: str, choices: Mapping[str, Choices]) -> FormField:
    between = {Shape.LIST: ",", Shape.NOUNS: ";"}.get(field.shape, "")
    hints = [field.form, "commas between several" if field.shape is Shape.LIST else "",
             "none where there is none" if field.noted else ""]  # fmt: skip
    made = FormField(
        field.key, field.label, text, "; ".join(filter(None, hints)), field.example, field.required,
        fixed(*field.choices), between,
    )  # fmt: skip
    return replace(made, choices=choices[field.key]) if field.key in choices else made
