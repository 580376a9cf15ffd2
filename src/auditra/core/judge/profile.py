"""A score profile: what each kind of promise weighs, and what each drawback costs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal


@dataclass(frozen=True)
class Profile:
    """Weights by the opening words of a kind, costs by the id of a cause; `other` for what is not named."""

    name: str
    weights: Mapping[str, Decimal]
    other: Decimal = Decimal(1)
    drawbacks: Mapping[str, Decimal] = field(default_factory=dict)

    def weight(self, words: str) -> Decimal:
        return self.weights.get(words, self.other)

    def drawback(self, cause: str) -> Decimal:
        """The points that an unstated drawback costs."""
        return self.drawbacks.get(cause, self.other)
