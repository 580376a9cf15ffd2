"""What every kind of promise can do: be read, printed, proved by gear, and decided from readings."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import ClassVar, Self

from auditra.core.audit.reading import Quantity
from auditra.core.audit.rig import Gear
from auditra.core.audit.trial import Procedure
from auditra.core.audit.verdict import Part
from auditra.core.claims.words import Words
from auditra.core.judge.evidence import Evidence
from auditra.core.quantities import Format


@dataclass(frozen=True)
class Scale:
    """How the readings of a claim are shown on one scale: the quantities, the limit and the most the link carries."""

    quantities: tuple[Quantity, ...]
    limit: float
    ceiling: float | None = None
    ceiling_words: str = ""


class Promise(ABC):
    """One kind of promise. A kind is one file in kinds/, found by itself: a frozen dataclass under this class."""

    words: ClassVar[str]
    """The words that open its sentence, after the port."""
    example: ClassVar[str]
    procedure: ClassVar[Procedure]
    beside_display: ClassVar[bool] = False
    """It is promised whatever else runs, so it is tried with a display running too."""
    soaks: ClassVar[bool] = False
    """It is promised however long it has been at work, so it is tried after a long time at full load too."""

    @classmethod
    @abstractmethod
    def parse(cls, words: Words) -> Self:
        """Read what follows the opening words. Raises: ClaimError."""

    @abstractmethod
    def __str__(self) -> str:
        """The canonical sentence, without the port."""

    @property
    @abstractmethod
    def brief(self) -> str:
        """What stands on a tile of eleven cells."""

    @property
    def format(self) -> Format:
        """How values of the promised quantity are told; kinds without a number keep this one."""
        return Format("", 1.0, 0)

    @abstractmethod
    def scale(self) -> Scale | None:
        """The scale that readings grow on; None where there is no number to watch."""

    @abstractmethod
    def margin(self, gear: Gear) -> float | None:
        """How far a piece of gear reaches beyond the promise, as a ratio; None for gear of another kind.

        Below 1 it cannot prove the claim.
        """

    @abstractmethod
    def decide(self, taken: Evidence, direct: Evidence) -> tuple[Part, ...]:
        """The parts of the decision, from one trial's readings and the same gear's direct ones."""

    @property
    def target(self) -> float:
        """What a trial works towards, in the unit of the promise; 0 where it just measures."""
        return 0.0

    @property
    def upstream_bps(self) -> float:
        """The payload that it puts on the way to the host, in bits per second; 0 where that is nothing to speak of."""
        return 0.0

    @property
    def lacking(self) -> str:
        """What a rig that cannot prove this lacks."""
        return f"gear for {self.words}"
