"""How often each verdict was given, group by group: a bar as long as the group is large, and the counts beside it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from textual.content import Content

from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut, fill
from auditra.tui.theme import Palette

Groups = Sequence[tuple[str, Counter[str]]]
_NAME, _NAME_WHERE_NARROW, _SHORTEST_NAME, _NARROW_BELOW = 26, 18, 8, 100
_GAP, _SHORTEST_BAR, _WIDEST_BAR, _A_CELL = 3, 8, 60, "━"


class CountsLayout:
    """The same columns for all groups: only verdicts that were given have one."""

    def __init__(self, groups: Groups, width: int, palette: Palette) -> None:
        self._palette, self._width = palette, width
        totals = [counts.total() for _, counts in groups]
        self._largest = max(totals, default=1)
        self._figure = len(str(self._largest))
        self._verdicts = [verdict for verdict in Verdict if any(counts[verdict.word] for _, counts in groups)]
        columns = sum(self._column(verdict) for verdict in self._verdicts)
        besides = width - columns - self._figure - 2
        wanted = _NAME if width >= _NARROW_BELOW else _NAME_WHERE_NARROW
        self._name = max(_SHORTEST_NAME, min(wanted, besides))
        room = min(_WIDEST_BAR, besides - self._name - 2)
        self._bar_room = room if room >= _SHORTEST_BAR else 0

    def legend(self) -> Content:
        """What the marks say."""
        words = [
            Content.styled(f"{verdict.mark} {verdict.word}", self._palette.of(verdict)) for verdict in self._verdicts
        ]
        return Content("   ").join(words)

    def line(self, name: str, counts: Counter[str]) -> Content:
        """One group; in a window that has no room for all its verdicts, the last ones are cut."""
        line = Content.assemble(
            (fill(cut(sanitize(name, 60), self._name - 2) or "not named", self._name), self._palette.ink),
            (f"{counts.total():>{self._figure}}  ", self._palette.accent),
            self._bar(counts), *(self._count(verdict, counts[verdict.word]) for verdict in self._verdicts),
        )  # fmt: skip
        return line.truncate(self._width)

    def _column(self, verdict: Verdict) -> int:
        return len(verdict.mark) + self._figure + _GAP

    def _count(self, verdict: Verdict, count: int) -> Content:
        text = f"{verdict.mark} {count}" if count else ""
        return Content.styled(text.ljust(self._column(verdict)), self._palette.of(verdict))

    def _bar(self, counts: Counter[str]) -> Content:
        """Each verdict has its share of the cells; what is rounded off goes where most of it was cut."""
        if not self._bar_room:
            return Content("")
        cells = max(1, round(self._bar_room * counts.total() / self._largest))
        given = [verdict for verdict in self._verdicts if counts[verdict.word]]
        shares = [cells * counts[verdict.word] / counts.total() for verdict in given]
        whole = [int(share) for share in shares]
        by_loss = sorted(range(len(given)), key=lambda each: whole[each] - shares[each])
        for index in by_loss[: cells - sum(whole)]:
            whole[index] += 1
        parts = [(_A_CELL * count, self._palette.of(verdict)) for verdict, count in zip(given, whole, strict=True)]
        return Content.assemble(*parts, " " * (self._bar_room - cells + 2))
