"""A score profile: what each kind of promise weighs, what each condition and drawback costs, and where words begin."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from auditra.core.model.circumstance import Circumstance, Either, Running

_ALL, _HALF = Decimal(1), Decimal("0.5")
MAX_WEIGHT = Decimal(1000)
"""Far more than any kind weighs beside another."""


@dataclass(frozen=True)
class Limits:
    """Where a score is capped, and from where on which words are used of it."""

    danger_cap: Decimal = Decimal(20)
    """The most that a device can score which may lose data or hurt somebody."""
    decided: Decimal = _HALF
    """The share of the weight that must be decided before anything is recommended or advised against."""
    recommended: Decimal = Decimal(80)
    """Recommended from this score on."""
    not_recommended: Decimal = Decimal(50)
    """Advised against below this score."""


@dataclass(frozen=True)
class Profile:
    """Weights by the opening words of a kind, costs of conditions by what they are about, costs of drawbacks by the id
    of their cause; `other`, `other_condition` and `other_drawback` for what is not named."""

    name: str
    weights: Mapping[str, Decimal]
    other: Decimal = _ALL
    drawbacks: Mapping[str, Decimal] = field(default_factory=dict)
    about: str = ""
    """Whom it is made for, in a sentence."""
    conditions: Mapping[str, Decimal] = field(default_factory=dict)
    """The share of use that a condition takes away, 0 to 1, by the name of its aspect; what is in use at the same time
    can be named with its kind too: ``also in use: shows``."""
    other_condition: Decimal = _HALF
    other_drawback: Decimal = _ALL
    limits: Limits = Limits()

    def weight(self, words: str) -> Decimal:
        return self.weights.get(words, self.other)

    def drawback(self, cause: str) -> Decimal:
        """The points that an unstated drawback costs."""
        return self.drawbacks.get(cause, self.other_drawback)

    def use_left(self, unless: Iterable[Circumstance]) -> Decimal:
        """The share of use that is left of what holds unless all of these come together, 0 to 1.

        They are taken as independent: two that both have to be there take away the product of their shares.
        """
        lost = _ALL
        for each in unless:
            lost *= self._lost_to(each)
        return _ALL - lost

    def _lost_to(self, circumstance: Circumstance) -> Decimal:
        if isinstance(circumstance, Either):
            kept = _ALL
            for each in circumstance.things:
                kept *= _ALL - self._lost_to(each)
            return _ALL - kept
        aspect = circumstance.aspect.value
        if isinstance(circumstance, Running):
            kinds = [words for words in self._kinds_in_use if f" {words} " in f" {circumstance.claim} "]
            if kinds:
                return self.conditions[f"{aspect}: {max(kinds, key=len)}"]
        return self.conditions.get(aspect, self.other_condition)

    @property
    def _kinds_in_use(self) -> tuple[str, ...]:
        return tuple(key.partition(": ")[2] for key in self.conditions if ": " in key)
