"""How busy the processors were, and how much of them others took. Source: Linux, proc_stat(5)."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

PROC_STAT = Path("/proc/stat")
_IDLE, _WAITING, _STEAL = 3, 4, 7


@dataclass(frozen=True)
class Ticks:
    """Since the machine started, over all processors."""

    total: int
    idle: int
    steal: int


def ticks(proc: Path = PROC_STAT) -> Ticks | None:
    try:
        columns = [int(word) for word in proc.read_text(encoding="ascii").splitlines()[0].split()[1:9]]
    except (OSError, ValueError, IndexError):
        return None
    if len(columns) <= _STEAL:
        return None
    return Ticks(sum(columns), columns[_IDLE] + columns[_WAITING], columns[_STEAL])


@dataclass(frozen=True)
class Load:
    """Of all processors over a while, in per cent: how busy they were, and how much others took of them."""

    busy_percent: float
    lost_percent: float


def load_between(before: Ticks | None, after: Ticks | None) -> Load | None:
    """None where the machine does not say."""
    if before is None or after is None or after.total <= before.total:
        return None
    passed = after.total - before.total
    idle, lost = after.idle - before.idle, after.steal - before.steal
    return Load(100 * min(1.0, max(0.0, 1 - idle / passed)), 100 * min(1.0, max(0.0, lost / passed)))
