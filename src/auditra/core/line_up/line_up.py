"""A line-up: the same work of several devices beside each other.

Like is compared with like: ports of one connector and one class, measured with the same gear on the same host. Where
gear or host differ, the row names both and has no winner. Values whose intervals (95 %) overlap are a tie.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import Enum

from auditra.core.claims.promise import Sense
from auditra.core.decide.estimates import Estimate
from auditra.core.errors import InputError
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.size import FEWEST, most_of
from auditra.core.model.verdict import Verdict
from auditra.core.quantities.display import Format


class Gap(Enum):
    """Why a cell is empty."""

    HAS_NONE = "has none"
    NOT_TRIED = "not tried"


@dataclass(frozen=True)
class Cell:
    """What one device shows of a row. `under` is with what it was measured; rows are fair where that is the same."""

    words: str
    value: Estimate | None = None
    verdict: Verdict | None = None
    port: str = ""
    under: str = ""
    claim: str = ""
    trials: tuple[str, ...] = ()


@dataclass(frozen=True)
class Row:
    """One piece of work with a cell a device. `classes` names what is alike about the ports."""

    title: str
    cells: tuple[Cell | Gap, ...]
    sense: Sense = Sense.AT_LEAST
    fmt: Format = Format("", 1.0, 1)
    of_whole: bool = False
    """Of the device as a whole, such as its price; not of ports."""

    @property
    def measured(self) -> tuple[tuple[int, Cell, Estimate], ...]:
        """The cells with a value, by the number of their device."""
        return tuple(
            (number, cell, cell.value)
            for number, cell in enumerate(self.cells)
            if isinstance(cell, Cell) and cell.value is not None
        )

    @property
    def differs(self) -> str:
        """In what the measurements differ besides the device; empty where nothing does."""
        unders = dict.fromkeys(cell.under for _, cell, _ in self.measured if cell.under)
        return " against ".join(unders) if len(unders) > 1 else ""

    @property
    def leaders(self) -> tuple[int, ...]:
        """The devices that are best, several where their difference is inside the scatter; none where the row is not
        fair, or only one device has a value."""
        measured = self.measured
        if len(measured) < FEWEST or self.differs or self.sense is Sense.SIZE:
            return ()
        sign = -1.0 if self.sense is Sense.AT_MOST else 1.0
        best = max(measured, key=lambda each: sign * each[2].value)[2]
        return tuple(number for number, _, value in measured if _overlap(value, best))

    @property
    def winner(self) -> int | None:
        """The one device that is clearly best; None for a tie, and where nothing can be compared."""
        leaders = self.leaders
        return leaders[0] if len(leaders) == 1 else None


def _overlap(one: Estimate, other: Estimate) -> bool:
    """Whether a difference is inside the scatter of both. Source: JCGM 100:2008, 5.1.2 (combined as squares)."""
    return abs(one.value - other.value) <= math.hypot(one.expanded, other.expanded)


@dataclass(frozen=True)
class Checked:
    """A superlative or comparison of a seller's, held against this line-up."""

    audit: int
    claim: str
    answer: str
    rows: tuple[str, ...] = ()
    """The titles of the rows that it was held against."""


@dataclass(frozen=True)
class LineUp:
    """Devices by number, with the rows that compare them."""

    audits: tuple[JudgedAudit, ...]
    rows: tuple[Row, ...]
    superlatives: tuple[Checked, ...] = ()
    differences: tuple[str, ...] = ()
    """In what the audits differ as a whole: profile, bench, day."""

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(judged.audit.device.name for judged in self.audits)

    @property
    def wins(self) -> tuple[int, ...]:
        """How many rows each device wins."""
        return tuple(sum(row.winner == number for row in self.rows) for number in range(len(self.audits)))


def require_enough(audits: Sequence[JudgedAudit]) -> None:
    """Raises: InputError for fewer than two, or more than there is room for: six devices, or a drawer of leads."""
    most = most_of(judged.audit.device.kind for judged in audits)
    if not FEWEST <= len(audits) <= most:
        why = f"{len(audits)} cannot be lined up"
        raise InputError("the line-up", why=why, do=f"Choose {FEWEST} to {most} audits")


def reason_of(row: Row, names: Sequence[str]) -> str:
    """Why a row has the winner that it has, or none."""
    measured = row.measured
    if not measured:
        return ""
    if row.differs:
        return f"not compared: {row.differs}"
    if len(measured) < FEWEST:
        return "nothing to compare it with"
    if row.sense is Sense.SIZE:
        return ""
    leaders = row.leaders
    if len(leaders) > 1:
        return f"a tie: {_named(leaders, names)} differ less than they scatter"
    best = next(value for number, _, value in measured if number == leaders[0])
    others = [value.value for number, _, value in measured if number != leaders[0]]
    second = min(others) if row.sense is Sense.AT_MOST else max(others)
    return f"{names[leaders[0]]}: {row.fmt.show(best.value)} against {row.fmt.show(second)}"


def _named(numbers: Iterable[int], names: Sequence[str]) -> str:
    return " and ".join(names[number] for number in numbers)
