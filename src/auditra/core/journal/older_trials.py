"""Trials as Auditra up to 0.7 wrote them: what a person had arranged stood in the trial's key alone."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.claims.claim import ARRANGED_KINDS
from auditra.core.claims.language import parse_claim
from auditra.core.errors import InputError
from auditra.core.model.trial import Trial

_PARTS_BEFORE_CONDITIONS = 3
"""``A1/storage/fast-ssd/without driver``: place, procedure and gear stand before the conditions of the claim."""


def with_what_was_arranged(trial: Trial) -> Trial:
    """The trial with the conditions of its key in its set-up; as it is, where it has no key or none in it.

    Nothing has written a key since the set-up has what was arranged, so no newer wording is ever read here.
    """
    parts = trial.key.split("/", _PARTS_BEFORE_CONDITIONS)
    if len(parts) <= _PARTS_BEFORE_CONDITIONS or trial.setup.arranged:
        return trial
    try:
        claim = parse_claim(f"{parts[0].split('+')[0]} data 5 Gb/s {parts[-1]}", claim_id="")
    except InputError:
        return trial
    arranged = tuple(str(condition) for condition in claim.conditions if condition.kind in ARRANGED_KINDS)
    return replace(trial, setup=replace(trial.setup, arranged=arranged)) if arranged else trial
