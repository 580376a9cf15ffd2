"""Score profiles as TOML: weights, what conditions and drawbacks cost, and from where on which words are used."""

from __future__ import annotations

from decimal import Decimal
from typing import Annotated, Any

from pydantic import BeforeValidator, Field, WithJsonSchema

from auditra.core.claims.language import promise_kinds
from auditra.core.judge.finding import Role
from auditra.core.judge.reasoning.reasons import all_causes
from auditra.core.model.circumstance import Aspect
from auditra.core.model.profile import MAX_WEIGHT, Limits, Profile
from auditra.documents.nouns import Sheet, Words
from auditra.documents.toml_lines import Locator, load_toml, toml_text, validate

MAX_ROWS = 200
_IN_USE = f"{Aspect.RUNNING}: "


def _up_to(most: Decimal) -> BeforeValidator:
    def read(value: object) -> Decimal:
        if isinstance(value, bool) or not isinstance(value, int | float | str):
            raise ValueError("expected a number")
        try:
            number = Decimal(str(value))
        except ArithmeticError:
            raise ValueError("expected a number") from None
        if not (number.is_finite() and 0 <= number <= most):
            raise ValueError(f"expected a number from 0 to {most}")
        return number

    return BeforeValidator(read)


_AS_WRITTEN = WithJsonSchema({"type": ["number", "string"]})
_Weight = Annotated[Decimal, _up_to(MAX_WEIGHT), _AS_WRITTEN]
_Share = Annotated[Decimal, _up_to(Decimal(1)), _AS_WRITTEN]
_Points = Annotated[Decimal, _up_to(Decimal(100)), _AS_WRITTEN]
_ROWS: Any = Field(default_factory=dict, max_length=MAX_ROWS)


class _LimitsTable(Sheet):
    danger_cap: _Points = Limits.danger_cap
    decided: _Share = Limits.decided
    recommended: _Points = Limits.recommended
    not_recommended: _Points = Limits.not_recommended


class _ProfileFile(Sheet):
    name: Words
    about: Words = ""
    other: _Weight = Decimal(1)
    other_condition: _Share = Profile.other_condition
    other_drawback: _Points = Profile.other_drawback
    weights: dict[str, _Weight] = _ROWS
    conditions: dict[str, _Share] = _ROWS
    drawbacks: dict[str, _Points] = _ROWS
    limits: _LimitsTable = _LimitsTable()


def profile_schema() -> dict[str, Any]:
    """The JSON Schema of a profile."""
    return _ProfileFile.model_json_schema()


def read_profile(text: str, file: str) -> Profile:
    """A profile. Raises: SheetError with the line and key of a number that is none, or of a name that nothing has."""
    locate = Locator(text, file)
    sheet = validate(_ProfileFile, load_toml(text, locate), locate)
    kinds = {kind.words for kind in promise_kinds()}
    _require_known("weights", sheet.weights, kinds, "kind of promise", locate)
    in_use = {f"{_IN_USE}{words}" for words in kinds}
    _require_known("conditions", sheet.conditions, {*map(str, Aspect), *in_use}, "aspect of a set-up", locate)
    drawbacks = {cause.id for cause in all_causes() if cause.role is Role.UNSTATED}
    _require_known("drawbacks", sheet.drawbacks, drawbacks, "drawback", locate)
    if sheet.limits.not_recommended > sheet.limits.recommended:
        raise locate.error(("limits", "not_recommended"), "it is above what is recommended", "")
    return Profile(
        name=sheet.name, weights=sheet.weights, other=sheet.other, drawbacks=sheet.drawbacks, about=sheet.about,
        conditions=sheet.conditions, other_condition=sheet.other_condition, other_drawback=sheet.other_drawback,
        limits=Limits(**dict(sheet.limits)),
    )  # fmt: skip


def write_profile(profile: Profile) -> str:
    """A profile file that reads as this profile; numbers are written exactly."""
    top = {
        "name": profile.name, **({"about": profile.about} if profile.about else {}), "other": str(profile.other),
        "other_condition": str(profile.other_condition), "other_drawback": str(profile.other_drawback),
    }  # fmt: skip
    tables = {"weights": profile.weights, "conditions": profile.conditions, "drawbacks": profile.drawbacks}
    rows = {key: {name: str(number) for name, number in table.items()} for key, table in tables.items()}
    return toml_text({**top, **rows, "limits": {key: str(number) for key, number in vars(profile.limits).items()}})


def _require_known(table: str, rows: dict[str, Decimal], known: set[str], what: str, locate: Locator) -> None:
    for key in rows:
        if key not in known:
            near = ", ".join(sorted(known)[:60])
            raise locate.error((table, key), f"there is no {what} of this name", key, do=f"Names: {near}")
