"""What a repeat of a trial is known by, worked out of the trial; and that in words."""

from __future__ import annotations

from typing import Protocol

from auditra.core.decide.circumstance_text import circumstance_text
from auditra.core.model.circumstance import Running
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import DIRECT, TrialIdentity
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.trial_profile import planned_circumstances


class AnyTrial(Protocol):
    """A trial, planned or done."""

    @property
    def procedure(self) -> str: ...
    @property
    def claims(self) -> tuple[str, ...]: ...
    @property
    def setup(self) -> SetUp: ...
    @property
    def gear(self) -> str: ...
    @property
    def port(self) -> str | None: ...


def identity_of(trial: AnyTrial) -> TrialIdentity:
    """The identity of a trial.

    A trial of looking is known by its claims: to correct the sentence of a claim does not undo what was seen.
    """
    procedure, circumstances = procedure_of(trial.procedure), planned_circumstances(trial.setup)
    at = (_named(trial, trial.port),) if trial.port is not None else ()
    if procedure.by_eye:
        return TrialIdentity(trial.procedure, at, (), circumstances, trial.claims)
    if not procedure.all_at_once:
        return TrialIdentity(trial.procedure, at, (trial.gear,), circumstances)
    there = trial.setup.members
    ports = {plugged.socket for plugged in there}
    others = frozenset(
        each for each in circumstances if not (isinstance(each, Running) and each.claim.partition(" ")[0] in ports)
    )  # what its members do is under trial
    return TrialIdentity(
        trial.procedure, tuple(_named(trial, each.socket) for each in there), tuple(each.gear for each in there), others
    )


def _named(trial: AnyTrial, port: str) -> str:
    """The port; of another device of a kit with that device before it, as claims name it."""
    return port if trial.setup.device == DEVICE else f"{trial.setup.device}:{port}"


def identity_text(identity: TrialIdentity) -> str:
    """In words, for people and for files: ``A1/storage/fast-ssd/after 45 min of full load on laptop``."""
    what = "" if len(identity.at) > 1 else "+".join((*identity.gear, *identity.claims))
    special = sorted(map(circumstance_text, identity.circumstances))
    parts = ("+".join(identity.at) or DIRECT, procedure_of(identity.procedure).name, what, " ".join(special))
    return "/".join(filter(None, parts))
