"""Paired ratios: ours and the reference turn about in one run, since a shared machine's absolute times say little."""

from __future__ import annotations

import statistics
from collections.abc import Callable, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Pairs:
    """What each side took or did, pair by pair."""

    reference: tuple[float, ...]
    ours: tuple[float, ...]

    @property
    def ratios(self) -> list[float]:
        return sorted(ours / reference for reference, ours in zip(self.reference, self.ours, strict=True))

    def told(self, what: str, unit: str, factor: float = 1.0, aim: str = "") -> str:
        """``start: reference 412 ms, ours 610 ms, ratio 1.48 [1.41 .. 1.60]``."""
        one, other = (statistics.median(side) * factor for side in (self.reference, self.ours))
        ratios = self.ratios
        spread = f"{statistics.median(ratios):.2f} [{ratios[0]:.2f} .. {ratios[-1]:.2f}] of {len(ratios)} pairs"
        goal = f" ({aim})" if aim else ""
        return f"{what}: reference {one:.4g} {unit}, ours {other:.4g} {unit}, ratio {spread}{goal}"


def take_pairs(reference: Callable[[], float], ours: Callable[[], float], pairs: int = 7) -> Pairs:
    """Both sides turn about."""
    taken: list[tuple[float, float]] = [(reference(), ours()) for _ in range(pairs)]
    return Pairs(tuple(one for one, _ in taken), tuple(other for _, other in taken))


def p95(values: Sequence[float]) -> float:
    return sorted(values)[int(0.95 * (len(values) - 1))]
