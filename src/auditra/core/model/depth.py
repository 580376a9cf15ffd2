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

    @property
    def deeper(self) -> Depth:
        """The next one; the deepest is its own."""
        every = tuple(Depth)
        return every[min(every.index(self) + 1, len(every) - 1)]


_WORDS = {
    Depth.QUICK: "each claim once, as promised",
    Depth.FULL: "each claim once, then with what else may matter, as much of it at once as goes together",
    Depth.FORENSIC: "the full sheet, then all that may matter one by one, and for one claim of a kind every two of it",
}
