"""How near the fitted plateau and the fitted ohms come to the truth, and how often the interval holds it."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass

from auditra.core.decide.first_order import fit_first_order
from auditra.core.decide.line import Pair, fit_line
from auditra.core.model.reading import Trace

TIME_CONSTANTS, SENSOR_K, NEAR_K = 2.0, 0.2, 1.0
METER_SHARE, NEAR_SHARE, LOADS_A = 0.01, 0.03, (0.5, 1.0, 2.0, 3.0)
LEAST_COVERED, MOST_OFF = 0.94, 0.01


@dataclass(frozen=True)
class Fitted:
    """The share of fits that came near enough, and of those whose interval holds the truth."""

    near: float
    covered: float

    @property
    def is_as_promised(self) -> bool:
        return self.near >= 1 - MOST_OFF and self.covered >= LEAST_COVERED


def plateaus(fits: int, seed: int = 0) -> Fitted:
    """A case that warms for two time constants, read to a tenth of a degree by a sensor that scatters."""
    dice, near, covered = random.Random(seed), 0, 0
    for _ in range(fits):
        tau_s, plateau, start = dice.uniform(300, 1500), dice.uniform(35, 70), dice.uniform(18, 28)
        points = dice.choice((60, 120, 300))
        time_s = tuple(n * TIME_CONSTANTS * tau_s / (points - 1) for n in range(points))
        values = tuple(
            round(plateau - (plateau - start) * math.exp(-t / tau_s) + dice.gauss(0, SENSOR_K), 1) for t in time_s
        )
        fit = fit_first_order(Trace(time_s, values))
        if fit is not None:
            near += abs(fit.plateau - plateau) <= NEAR_K
            covered += abs(fit.plateau - plateau) <= fit.plateau_expanded
    return Fitted(near / fits, covered / fits)


def resistances(fits: int, seed: int = 0) -> Fitted:
    """Drops at four loads, each meter off by its own share of at most 1 %, with a last digit of a millivolt."""
    dice, near, covered = random.Random(seed), 0, 0
    for _ in range(fits):
        ohm = dice.uniform(0.05, 0.4)
        volts_off, amperes_off = (1 + dice.uniform(-METER_SHARE, METER_SHARE) for _ in range(2))
        pairs = [
            Pair(a * amperes_off, round(a * ohm * volts_off + dice.gauss(0, 2e-4), 3), METER_SHARE, METER_SHARE)
            for a in LOADS_A
        ]
        line = fit_line(pairs)
        if line is not None:
            near += abs(line.slope / ohm - 1) <= NEAR_SHARE
            covered += abs(line.slope - ohm) <= line.slope_expanded
    return Fitted(near / fits, covered / fits)
