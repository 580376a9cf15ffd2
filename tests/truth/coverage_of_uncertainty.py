"""How often the true value lies within the stated uncertainty: 95 % is to be 95 % for few repeats too."""

from __future__ import annotations

import random

from auditra.core.decide.estimates import estimate
from auditra.core.model.reading import Grade, Number, Quantity, Reading

REPEATS = (2, 3, 5, 10)
LOWEST, HIGHEST = 0.94, 0.965
SAMPLES = 60_000


def coverage(repeats: int, error: float = 0.0, samples: int = SAMPLES, seed: int = 1) -> float:
    """The share of samples whose interval holds the truth. The scatter is 1; `error` is the instrument's limit."""
    dice, inside = random.Random(seed), 0
    for _ in range(samples):
        off = dice.uniform(-error, error)
        values = tuple(100.0 + off + dice.gauss(0, 1) for _ in range(repeats))
        y = estimate(Reading("T", Quantity.POWER, "A1", "x", Grade.MEASURED, Number(values), error=error))
        inside += y.low <= 100.0 <= y.high
    return inside / samples
