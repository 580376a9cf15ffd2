"""What is wrong with bytes that were decoded: a finding, never an end."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

MAX_PROBLEMS = 100
"""A longer list is of no use."""


class Code(StrEnum):
    """What kind of thing is wrong; programs may rely on these words."""

    SHORT = "short"
    """It ends before it should."""
    LENGTH = "length"
    """A length that cannot be, so that nothing behind it can be found."""
    COUNT = "count"
    """A count, or a total length, that does not fit what is there."""
    ORDER = "order"
    """Something stands where it has no place."""
    RESERVED = "reserved"
    """A value that the standard keeps for later."""
    LONG = "long"
    """There is more than such a thing may have; the rest was not looked at."""
    CHECKSUM = "checksum"
    CONTRADICTION = "contradiction"
    """Two things that cannot both be so."""


DAMAGE = frozenset({Code.SHORT, Code.LENGTH, Code.COUNT, Code.CHECKSUM})
"""Problems that bytes have which were cut or changed on their way."""


@dataclass(frozen=True)
class Problem:
    """One thing that is wrong, at a byte counted from the first as 0."""

    offset: int
    code: Code
    words: str


class Problems:
    """Gathers what is wrong, up to as many as are worth telling."""

    def __init__(self) -> None:
        self._found: list[Problem] = []

    def add(self, offset: int, code: Code, words: str) -> None:
        if len(self._found) < MAX_PROBLEMS:
            self._found.append(Problem(offset, code, words))

    def __iter__(self) -> Iterator[Problem]:
        return iter(self._found)
