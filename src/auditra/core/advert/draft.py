"""A text under correction: what is replaced keeps its place in the original."""

from __future__ import annotations

import re
from collections.abc import Callable


class Draft:
    """A text under correction."""

    def __init__(self, text: str) -> None:
        self.text, self.origin = text, list(range(len(text) + 1))
        self.corrected: set[int] = set()
        """Places of the original."""

    def correct(self, pattern: re.Pattern[str], write: Callable[[re.Match[str]], str]) -> None:
        """Replace what was a slip, and remember where."""
        before = self.text, self.origin
        self.replace(pattern, write)
        if self.text != before[0]:
            changed = (match for match in pattern.finditer(before[0]) if write(match) != match[0])
            self.corrected |= {before[1][match.start()] for match in changed}

    def replace(self, pattern: re.Pattern[str], write: Callable[[re.Match[str]], str]) -> None:
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
