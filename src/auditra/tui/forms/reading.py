"""The form of a typed reading: any quantity, at any port, from any instrument."""

from __future__ import annotations

from datetime import datetime

from auditra.core.decide.instrument_error import instruments_of
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import DIRECT, Trial
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of
from auditra.documents.typed_noun import FieldRefused
from auditra.tui.forms.form import Form, FormField, Texts, fixed
from auditra.tui.forms.gear import Saving
from auditra.workflows.audits.typed_readings import (
    SIGNS,
    WITNESSES,
    Doubtful,
    TypedReading,
    example_of,
    facts_of_reading,
)
from auditra.workflows.trials.run import trial_of

_INTRO = (
    "A value that you read yourself. Its grade is that of the witness: an instrument of the rig with a known error "
    "decides most, the eye least. Repeats: 64.1 W; 63.9 W; 64.0 W. Over time: 0 min: 24.1 C; 10 min: 31.5 C."
)
_NEW = "the trial that is set out"
_MAX_TRIALS = 40
_SPOTS = ("case", "room")


def reading_form(
    audit: Audit, planned: PlannedTrial | None, port: str | None, bench: str, now: datetime, saving: Saving
) -> Form:
    """A reading of the trial that is set out, or of one that was run."""
    asked: set[tuple[str, ...]] = set()

    def facts(newest: Audit, texts: Texts) -> tuple[Fact, ...]:
        trial, is_new = _trial(newest, planned, texts["trial"].strip(), bench)
        typed = TypedReading(
            texts["quantity"], texts["at"].strip(), texts["value"], texts["witness"], texts["note"], texts["behind"],
            texts["end"], now,
        )  # fmt: skip
        return _recorded(newest, trial, typed, is_new, asked)

    recent = [record.trial for record in reversed(audit.trials)][:_MAX_TRIALS]
    of_port = [trial for trial in recent if port in (trial.port, *(each.socket for each in trial.setup.plugged))]
    trials = (*((_NEW,) if planned is not None else ()), *(f"{each.id} {each.place}" for each in [*of_port, *recent]))
    at = planned.place if planned is not None else port or DIRECT
    likely = _likely(planned)
    spots = (*(each.id for each in audit.device.ports()), DIRECT, *_SPOTS)
    made = (
        FormField("trial", "trial", trials[0] if trials else "", "what the value belongs to", required=True,
                  choices=fixed(*dict.fromkeys(trials))),
        FormField("at", "port or spot", at, "a port, direct, case, room", required=True, choices=fixed(*spots)),
        FormField("quantity", "quantity", likely, "any words are a quantity too, with a unit in the value",
                  required=True, choices=fixed(*(each.value for each in Quantity), *SIGNS)),
        FormField("value", "value", "", "with its unit; yes or no; 7 of 10", example_of(likely), required=True),
        FormField("witness", "read from", "another screen", "an instrument of the rig, or who reported it",
                  required=True, choices=fixed(*(each.name for each in instruments_of(audit.rig.in_use)), *WITNESSES)),
        FormField("behind", "load behind it", "", "the current that was drawn while a voltage was read", "0.9 A"),
        FormField("end", "end of the lead", "", "near the host, or far from it", choices=fixed("near", "far")),
        FormField("note", "note"),
    )  # fmt: skip
    save = saving(facts, "reading", "The reading is recorded.")
    return Form("Reading", _INTRO, made, save, "reading")


def _likely(planned: PlannedTrial | None) -> str:
    """What a trial of this procedure mostly yields."""
    typed = procedure_of(planned.procedure).typed if planned is not None else ()
    return typed[-1].quantity.value if typed else ""


def _recorded(
    audit: Audit, trial: Trial, typed: TypedReading, is_new: bool, asked: set[tuple[str, ...]]
) -> tuple[Fact, ...]:
    """A doubtful value is asked about once; saved again unchanged, it is confirmed."""
    if not typed.at:
        raise FieldRefused("at", "port or spot", "it needs a value")
    key = (trial.id, typed.quantity, typed.at, typed.text)
    try:
        return facts_of_reading(audit, trial, typed, is_new=is_new, confirmed=key in asked)
    except Doubtful as error:
        asked.add(key)
        raise FieldRefused("value", "value", error.why, error.do) from error
    except InputError as error:
        field = {"quantity": "quantity", "end": "end", "instrument": "witness"}.get(error.what, "value")
        raise FieldRefused(field, error.what, error.why, error.do) from error


def _trial(audit: Audit, planned: PlannedTrial | None, typed: str, bench: str) -> tuple[Trial, bool]:
    """The trial that was named, and whether it begins with this reading. Raises: FieldRefused."""
    if typed == _NEW and planned is not None:
        return trial_of(planned, audit, bench), True
    name = typed.partition(" ")[0]
    found = next((record.trial for record in audit.trials if record.trial.id == name), None)
    if found is None:
        raise FieldRefused("trial", "trial", f'there is no trial "{name[:20]}"', "Choose one that is offered")
    return found, False
