"""How a link stands to what its two ends could do."""

from __future__ import annotations

from enum import StrEnum


class LinkAnswer(StrEnum):
    """The values are what journals hold; versions before 0.8 wrote sentences, which are still read."""

    BEST = "best"
    """At the best rate that both ends support."""
    SLOWER = "slower"
    """Below what both ends support."""
    UNKNOWN = "unknown"
    """One end does not say what it supports."""

    @classmethod
    def _missing_(cls, value: object) -> LinkAnswer | None:
        return _BEFORE_0_8.get(str(value))


_BEFORE_0_8 = {
    "as fast as both could": LinkAnswer.BEST,
    "slower than both could": LinkAnswer.SLOWER,
    "cannot tell": LinkAnswer.UNKNOWN,
}
LINK_ANSWER_TEXT = {
    LinkAnswer.BEST: "at the best rate both ends support",
    LinkAnswer.SLOWER: "below what both ends support",
    LinkAnswer.UNKNOWN: "best rate unknown",
}
