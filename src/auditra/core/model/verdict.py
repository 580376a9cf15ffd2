"""Verdicts: how what was shown compares with what was promised."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from enum import Enum


class Verdict(Enum):
    """A verdict with its mark and its word; they are never apart."""

    HOLDS = ("=", "holds")
    HOLDS_IF = ("=*", "holds if")
    SHORT = ("<", "short")
    BROKEN = ("x", "broken")
    TOO_CLOSE = ("~", "too close")
    UNPROVEN = ("?", "unproven")
    OPEN = (".", "open")

    def __init__(self, mark: str, word: str) -> None:
        self.mark, self.word = mark, word

    @property
    def decided(self) -> bool:
        return self in (Verdict.HOLDS, Verdict.HOLDS_IF, Verdict.SHORT, Verdict.BROKEN)

    @property
    def accuses(self) -> bool:
        """Says that the device does not keep its word."""
        return self in (Verdict.SHORT, Verdict.BROKEN)


UNSTATED_MARK = "!"


@dataclass(frozen=True)
class Part:
    """One part of a decision, such as the link or the payload: what was shown, and the sum behind it.

    `credit` is the share of the promise that was shown, 0 to 1; None while nothing is decided.
    """

    name: str
    verdict: Verdict
    shown: str
    arithmetic: str = ""
    credit: Decimal | None = None
    gap: bool = False
    """It was neither claimed by itself nor measured: it is listed, and decides nothing."""
    low: bool = False
    """It is clearly below what was promised, and nothing known explains it."""
    excused: bool = False
    """It is clearly below what was promised, and something other than the device is known to explain it."""
