"""Two trials compared, as JSON: everything that differs, and each quantity that both have with its ratio."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from auditra.core.decide.circumstance_text import circumstance_text
from auditra.core.decide.estimates import Estimate
from auditra.core.judge.comparison import Difference, Measured, TrialComparison


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, use_attribute_docstrings=True)


class DifferenceRecord(_Model):
    """One thing that differs; empty on a side where it was known to be absent."""

    aspect: str
    one: tuple[str, ...]
    other: tuple[str, ...]


class EstimateRecord(_Model):
    """A value with its expanded uncertainty (95 %), in the quantity's SI unit, and the repeats behind it."""

    value: float
    expanded: float
    repeats: int


class MeasuredRecord(_Model):
    """One quantity in both trials."""

    quantity: str
    one: EstimateRecord
    other: EstimateRecord
    ratio: float | None
    """The first to the second; null where the second is zero."""
    ratio_expanded: float | None
    is_real: bool
    """Whether they differ by more than their scatter and errors."""


class ComparisonFile(_Model):
    """Two trials side by side."""

    format: Literal["auditra comparison"] = "auditra comparison"
    version: Literal[1] = 1
    one: str
    other: str
    is_fair: bool
    why_not: str
    """Why it is no fair comparison; empty where it is one."""
    differences: tuple[DifferenceRecord, ...]
    measured: tuple[MeasuredRecord, ...]


def comparison_schema() -> dict[str, Any]:
    """The JSON Schema of a comparison."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | ComparisonFile.model_json_schema()


def comparison_file(found: TrialComparison) -> ComparisonFile:
    """The comparison of two trials."""
    return ComparisonFile(
        one=found.one,
        other=found.other,
        is_fair=found.is_fair,
        why_not=found.why_not,
        differences=tuple(map(_difference, found.differences)),
        measured=tuple(map(_measured, found.measured)),
    )


def _difference(difference: Difference) -> DifferenceRecord:
    one, other = (tuple(sorted(map(circumstance_text, side))) for side in (difference.one, difference.other))
    return DifferenceRecord(aspect=str(difference.aspect), one=one, other=other)


def _measured(measured: Measured) -> MeasuredRecord:
    return MeasuredRecord(
        quantity=measured.quantity,
        one=_estimate(measured.one),
        other=_estimate(measured.other),
        ratio=measured.ratio,
        ratio_expanded=measured.ratio_expanded,
        is_real=measured.is_real,
    )


def _estimate(estimate: Estimate) -> EstimateRecord:
    return EstimateRecord(value=estimate.value, expanded=estimate.expanded, repeats=estimate.repeats)
