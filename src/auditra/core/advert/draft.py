"""A text under correction: what is replaced keeps its place in the original."""

from __future__ import annotations

import re
from collections.abc import Callable

from auditra.core.advert.phrases import needed_words


class Draft:
    """A text under correction."""

    def __init__(self, text: str) -> None:
        self.text, self.origin = text, list(range(len(text) + 1))
        self.corrected: set[int] = set()
        """Places of the original."""
        self._lowered = "", ""

    def correct(self, pattern: re.Pattern[str], write: Callable[[re.Match[str]], str]) -> None:
        """Replace what was a slip, and remember where."""
        before = self.text, self.origin
        self.replace(pattern, write)
        if self.text != before[0]:
            changed = (match for match in pattern.finditer(before[0]) if write(match) != match[0])
            self.corrected |= {before[1][match.start()] for match in changed}

    def replace(self, pattern: re.Pattern[str], write: Callable[[re.Match[str]], str]) -> None:
        needed = needed_words(pattern.pattern)
        if needed and not all(word in self._small() for word in needed):
            return
        parts: list[str] = []
        origin: list[int] = []
        last = 0
        for match in pattern.finditer(self.text):
            start, end = match.span()
            words = write(match)
            parts += (self.text[last:start], words)
            origin += self.origin[last:start]
            origin += [self.origin[min(start + n, max(start, end - 1))] for n in range(len(words))]
            last = end
        if last:
            self.text = "".join((*parts, self.text[last:]))
            self.origin = origin + self.origin[last:]

    def _small(self) -> str:
        """The text written small, as often as it has changed."""
        if self._lowered[0] is not self.text:
            self._lowered = self.text, self.text.lower()
        return self._lowered[1]
