"""What a practice hides: a trait of the device, which claims it breaks, and whether the rig at hand can show it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Hidden:
    """One trait. Claims are named by their sentences.

    Whether the rig reaches it is worked out by the maker, from the physics of what is on the bench.
    """

    name: str
    words: str
    """What it does, for one who may know."""
    breaks: frozenset[str] = frozenset()
    """Claims that it breaks as they stand."""
    breaks_at_times: frozenset[str] = frozenset()
    """Claims that it breaks only under circumstances; else they are kept."""
    causes: frozenset[str] = frozenset()
    """Kinds of finding that name it rightly; none where a verdict says all."""
    unstated: frozenset[str] = frozenset()
    """Kinds of finding of which one must show it, where no claim speaks of it."""
    is_reachable: bool = True

    @property
    def touched(self) -> frozenset[str]:
        """Every claim that it bears on."""
        return self.breaks | self.breaks_at_times
