"""How deep a run sheet goes: what a reviewer in a hurry does, what is usual, and everything."""

from __future__ import annotations

from enum import StrEnum


class Depth(StrEnum):
    """The three sheets; each has all trials of the one before it."""

    QUICK = "quick"
    FULL = "full"
    FORENSIC = "forensic"

    @property
    def words(self) -> str:
        """What it has, in a sentence."""
        return _WORDS[self]

    @property
    def includes(self) -> tuple[Depth, ...]:
        """The depths whose trials it has."""
        every = tuple(Depth)
        return every[: every.index(self) + 1]


_WORDS = {
    Depth.QUICK: "each claim once, as promised",
    Depth.FULL: "and beside what else may matter, as much as possible at once",
    Depth.FORENSIC: "and each of that by itself, and every two together for one claim of each kind",
}
