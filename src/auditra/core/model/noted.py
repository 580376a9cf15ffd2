"""Three states of anything a reviewer may write down: not noted, none, or a value. Absent never means none."""

from __future__ import annotations

from enum import Enum
from typing import Final, TypeAlias, TypeVar


class NotNoted(Enum):
    """The state of something that has not been recorded yet."""

    NOT_NOTED = "not noted"

    def __str__(self) -> str:
        return self.value


NOT_NOTED: Final = NotNoted.NOT_NOTED

T = TypeVar("T")
Noted: TypeAlias = T | NotNoted | None
"""A value; None where there is known to be none; NOT_NOTED where it is not known."""


def in_words(value: object) -> str:
    """``not noted``, ``none``, or the value."""
    return "none" if value is None else str(value)
