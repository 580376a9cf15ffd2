"""A score profile: what each kind of promise weighs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal


@dataclass(frozen=True)
class Profile:
    """Weights by the opening words of a kind; `other` for a kind that is not named."""

    name: str
    weights: Mapping[str, Decimal]
    other: Decimal = Decimal(1)

    def weight(self, words: str) -> Decimal:
        return self.weights.get(words, self.other)
