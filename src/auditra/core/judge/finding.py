"""A finding is a value: what happens, to what, by which trials, how sure. Its words are made when it is shown."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from auditra.core.judge.reasoning.inquiry import Inquiry


class Role(StrEnum):
    """What a finding is for, the gravest first."""

    DANGER = "danger"
    """Somebody may lose data or get hurt: it stands first, and caps the score."""
    CAUSE = "cause"
    """Why a claim fails, or seems to."""
    CONTENTION = "contention"
    """What one port loses while another is in use."""
    RIG_LIMIT = "rig limit"
    """A part of the rig that could not have shown more: it says nothing against the device."""
    CONTRADICTION = "contradiction"
    """Two witnesses, or a promise and a print, that cannot both be right."""
    CHANCE = "chance"
    """A difference or a miss that says nothing."""
    UNSTATED = "unstated"
    """A drawback that no claim speaks of: it costs points by itself."""


class Sureness(StrEnum):
    """How sure a finding is, by a stated rule."""

    SURE = "95 % sure"
    """The interval of the figures, or of the counts, decides it; a separation was seen twice on a side, and what is
    said of the device on two hosts, or beside a like port that works."""
    LIKELY = "likely"
    """One explanation is left, but it was seen only once on a side, or depends on a record that was not measured."""


@dataclass(frozen=True, kw_only=True)
class Finding(ABC):
    """What was found, with its readings' figures in the fields of its kind."""

    ports: tuple[str, ...] = ()
    trials: tuple[str, ...] = ()
    claims: tuple[str, ...] = ()
    """The ids of the claims that it explains."""
    sure: Sureness = Sureness.SURE
    points: Decimal = Decimal(0)
    """What it costs: nothing where a claim has lost the points already."""

    kind: ClassVar[str]
    """The id of its cause."""
    role: ClassVar[Role]
    settles: ClassVar[bool] = False
    """It explains its claims by figures of its own: what is just left over by elimination says less."""

    @property
    @abstractmethod
    def sentence(self) -> str:
        """What happens, in words."""

    @property
    def subject(self) -> str:
        """The part, port or circumstance that it names; its ports where it names nothing else."""
        return " and ".join(self.ports)

    @property
    def box_line(self) -> str:
        """What an honest box would say of it."""
        return f"{', '.join(self.ports) or 'body'} {self.sentence}"

    @property
    def arithmetic(self) -> str:
        """The sum behind it; empty for none."""
        return ""

    @property
    def cleared(self) -> tuple[str, ...]:
        """Who else was suspected, and what cleared each."""
        return ()


@dataclass(frozen=True)
class Cause:
    """One explanation that readings can show: a row, in a file of its own."""

    id: str
    source: str
    """Where its reasoning is written."""
    needs: str
    """What must have been recorded for it to be found."""
    find: Callable[[Inquiry], Iterable[Finding]]
    role: Role = Role.CAUSE
