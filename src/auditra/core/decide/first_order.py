"""A temperature that settles: the first-order curve through a trace, its plateau and time constant with uncertainty."""

from __future__ import annotations

import math
from dataclasses import dataclass

from auditra.core.decide.estimates import student_factor
from auditra.core.model.reading import Trace

MIN_POINTS = 8
"""Fewer points leave too few degrees of freedom for three parameters."""
STEADY_K, STEADY_WITHIN_S = 0.5, 600.0
"""Steady: under half a kelvin in ten minutes."""
_PARAMETERS = 3
_MAX_POINTS = 600
"""A longer trace is thinned out: neighbours that are a second apart say the same."""
_SEEN_TIME_CONSTANTS = 0.7
"""Below so many time constants a curve is as good as straight, and its plateau anybody's guess."""


@dataclass(frozen=True)
class FirstOrder:
    """``plateau - (plateau - start) exp(-t / tau)``; values in the trace's unit, times in seconds, U for 95 %."""

    start: float
    plateau: float
    plateau_expanded: float
    tau_s: float
    tau_expanded_s: float
    seen_s: float
    """How long the trace is."""

    def at(self, time_s: float) -> float:
        """The fitted value at a time since the trace began."""
        return self.plateau - (self.plateau - self.start) * math.exp(-time_s / self.tau_s)

    @property
    def is_steady(self) -> bool:
        """Whether it moves by less than half a kelvin in the ten minutes that follow the trace."""
        return abs(self.at(self.seen_s + STEADY_WITHIN_S) - self.at(self.seen_s)) < STEADY_K


def fit_first_order(trace: Trace) -> FirstOrder | None:
    """The curve of a body that warms or cools towards a plateau; None where the trace is too short to show one.

    Least squares in the plateau, the step and the logarithm of the time constant; neighbours that scatter alike (a
    sensor that lags) count as fewer points. Source: Newton's law of cooling; JCGM 100:2008, G.3 (Student), H.3 (fits).
    """
    import numpy
    from scipy.optimize import curve_fit

    step = max(1, len(trace.values) // _MAX_POINTS)
    time_s = numpy.asarray(trace.time_s[::step], dtype=float)
    values = numpy.asarray(trace.values[::step], dtype=float)
    if len(values) < MIN_POINTS or time_s[-1] <= time_s[0] or not numpy.all(numpy.isfinite(values)):
        return None
    time_s = time_s - time_s[0]
    seen_s = float(time_s[-1])

    def curve(t: numpy.ndarray, plateau: float, step_k: float, log_tau: float) -> numpy.ndarray:
        return plateau - step_k * numpy.exp(-t / math.exp(log_tau))

    first, last = float(values[0]), float(values[-1])
    guess = (last, last - first, math.log(seen_s / 3))
    bounds = ((-300.0, -1e3, math.log(seen_s / 1e3)), (1e4, 1e3, math.log(seen_s * 20)))
    try:
        found, covariance = curve_fit(curve, time_s, values, p0=guess, bounds=bounds)
    except (RuntimeError, ValueError):
        return None
    plateau, step_k, log_tau = (float(each) for each in found)
    variances = [float(each) for each in numpy.diag(covariance)]
    tau_s = math.exp(log_tau)
    if seen_s < _SEEN_TIME_CONSTANTS * tau_s or not all(map(math.isfinite, variances)):
        return None
    factor = student_factor(len(values) - _PARAMETERS) * math.sqrt(_inflation(values - curve(time_s, *found)))
    return FirstOrder(
        plateau - step_k, plateau, factor * math.sqrt(variances[0]), tau_s, factor * math.sqrt(variances[2]) * tau_s,
        seen_s,
    )  # fmt: skip


def _inflation(residuals: object) -> float:
    """How many neighbours count as one: (1 + r) / (1 - r) for a correlation r from one to the next (AR(1)).

    What a fit leaves is less correlated than what was there, by about a parameter a point; that is added again.
    """
    import numpy

    left = numpy.asarray(residuals)
    power = float(numpy.dot(left, left))
    r = float(numpy.dot(left[1:], left[:-1])) / power if power > 0 else 0.0
    r = min(0.95, max(0.0, r + _PARAMETERS / len(left)))
    return (1 + r) / (1 - r)
