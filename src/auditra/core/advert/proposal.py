"""What comes of reading a seller's text: claims that it seems to make, and what nothing was taken from."""

from __future__ import annotations

from dataclasses import dataclass

MAX_TEXT_LENGTH = 100_000


@dataclass(frozen=True)
class Proposal:
    """A claim that a text seems to make. `sure` is 0 to 1: how often such a claim was right.

    `unclear` has what was assumed, for a reviewer to look at before it is taken.
    """

    sentence: str
    quoted: str
    sure: float
    unclear: tuple[str, ...] = ()


@dataclass(frozen=True)
class ReadText:
    """What was read: proposals in order, and the phrases from which nothing was taken."""

    proposals: tuple[Proposal, ...]
    left_over: tuple[str, ...]
