"""Two trials held against each other: everything that differs, and whether what is left is still a comparison."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.journal.fold import TrialRecord
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.setup import SetUp
from auditra.core.procedures.registry import procedure_of

_MUST_AGREE = ("host", "soaked_s", "protocol", "driver", "recorder", "workload", "file_bytes", "network")
"""What would be a second reason for a difference between a trial through the device and the same gear direct."""
_MAY_DIFFER = ("host_socket",)
"""What a device in between changes of itself: it has a socket of its own, and that may want another lead."""


@dataclass(frozen=True)
class Comparison:
    """A trial of a claim beside a direct one. `refused` says why it decides nothing; empty where it does."""

    claim: str
    trial: str
    direct: str
    differences: tuple[str, ...]
    refused: str = ""


def compare(claim: str, port: str, record: TrialRecord, direct: TrialRecord) -> Comparison:
    """What differs besides the device in between. Source: one thing at a time, or the cause stays unknown."""
    ours, theirs = record.trial.setup, direct.trial.setup
    refusing = [text for name in _MUST_AGREE if (text := _difference(name, ours, theirs))]
    mine, other = procedure_of(record.trial.procedure), procedure_of(direct.trial.procedure)
    if not mine.compares_with(other):
        refusing.append(f"procedure: {mine.id}, direct {other.id}")
    if record.path is not None and direct.path is not None:
        drives = record.path.drive_identity, direct.path.drive_identity
        refusing += [f"drive: {drives[0]}, direct {drives[1]}"] if drives[0] != drives[1] else []
    allowed = [text for name in _MAY_DIFFER if (text := _difference(name, ours, theirs))]
    leads = _lead_of(ours, ours.gear_at(port)), _lead_of(theirs, direct.trial.gear)
    allowed += [f"lead: {leads[0] or 'none'}, direct {leads[1] or 'none'}"] if leads[0] != leads[1] else []
    refused = f"more than the device differs: {'; '.join(refusing)}" if refusing else ""
    return Comparison(claim, record.trial.id, direct.trial.id, (*allowed, *refusing), refused)


def _difference(name: str, ours: SetUp, theirs: SetUp) -> str:
    """In words; empty where they agree, or where one side was not noted."""
    one, other = getattr(ours, name), getattr(theirs, name)
    if one == other or NOT_NOTED in (one, other):
        return ""
    words = name.removesuffix("_s").removesuffix("_bytes").replace("_", " ")
    return f"{words}: {one}, direct {other}"


def _lead_of(setup: SetUp, gear: str | None) -> str | None:
    return next((each.lead for each in setup.plugged if each.gear == gear), None)
