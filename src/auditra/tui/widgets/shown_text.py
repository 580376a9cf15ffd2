"""Text on the screen: no character in it steers the terminal, and only what changed is painted again."""

from __future__ import annotations

import re
from typing import Any

from textual.content import Content
from textual.geometry import Region
from textual.strip import Strip
from textual.style import Style
from textual.visual import Visual, VisualType, visualize
from textual.widgets import Digits, Static

_HARMFUL = re.compile(
    "[\x00-\x09\x0b-\x1f\x7f-\x9f\u00ad\u0600-\u0605\u061c\u06dd\u070f\u08e2\u180e\u200b-\u200f\u2028-\u202e\u2060-\u206f"
    "\ufeff\ufff9-\ufffb\ud800-\udfff\U00013430-\U0001343f\U0001bca0-\U0001bca3\U0001d173-\U0001d17a\U000e0001-\U000e007f]"
)
"""Unicode 15, general categories Cc (but for the line break), Cf, Cs, Zl and Zp."""
MAX_KEPT = 48
"""Texts that one place of the screen keeps as they are painted."""
_STANDS_FOR_IT = "\N{REPLACEMENT CHARACTER}"


def shown(content: Content) -> Content:
    """The same with such characters replaced one for one, so that styles stay where they are."""
    if _HARMFUL.search(content.plain) is None:
        return content
    return Content(_HARMFUL.sub(_STANDS_FOR_IT, content.plain), spans=list(content.spans))


class ShownText(Static):
    """A Static whose text is shown, never obeyed.

    The screen is laid out again only where its height changes, and of its lines only those that differ are painted:
    a key must not cost a whole screen.
    """

    _made_of: tuple[VisualType, int, Style] | None = None
    _made: list[Strip] = []  # noqa: RUF012 (never changed in place)

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self._kept: dict[tuple[object, ...], list[Strip]] = {}

    def update(self, content: VisualType = "", *, layout: bool = True) -> None:
        if isinstance(content, str):
            content = Content(content)
        if isinstance(content, Content):
            content = shown(content)
            before = self.content
            if isinstance(before, Content) and before.plain == content.plain and before.spans == content.spans:
                return
        if not (layout and self.is_mounted and self.size.height and self._keeps_height(content)):
            super().update(content, layout=layout)
            return
        lines, waiting = self._lines(), (set(self._dirty_regions), set(self._repaint_regions))
        super().update(content, layout=False)
        now = self._lines()
        if len(lines) == len(now):
            self._dirty_only(lines, now, *waiting)

    def render_line(self, y: int) -> Strip:
        lines = self._lines()
        return lines[y] if y < len(lines) else Strip.blank(self.content_size.width, self.visual_style.rich_style)

    def _keeps_height(self, content: VisualType) -> bool:
        """A box of a fixed size keeps it; one that is as high as its text does so only where that has as many lines."""
        if not self.styles.auto_dimensions:
            return True
        if self.styles.is_auto_width:
            return False
        height = visualize(self, content, markup=False).get_height(self.styles.get_rules(), self.content_size.width)
        return height == self.content_size.height

    def _lines(self) -> list[Strip]:
        """The text as it is painted, made once."""
        made_of = (self.content, self.content_size.width, self.visual_style)
        if self._made_of is None or self._made_of[0] is not made_of[0] or self._made_of[1:] != made_of[1:]:
            self._made_of, self._made = made_of, self._make(*made_of)
        return self._made

    def _make(self, content: VisualType, width: int, style: Style) -> list[Strip]:
        """Texts come again, as one walks to and fro: those of late are kept as they are painted."""
        if not width:
            return []
        if not isinstance(content, Content):
            return Visual.to_strips(self, self.visual, width, None, style)
        key = (content.plain, tuple(content.spans), width, style)
        if key not in self._kept:
            if len(self._kept) >= MAX_KEPT:
                del self._kept[next(iter(self._kept))]
            self._kept[key] = Visual.to_strips(self, self.visual, width, None, style)
        return self._kept[key]

    def _dirty_only(self, before: list[Strip], now: list[Strip], dirty: set[Region], to_repaint: set[Region]) -> None:
        """Only the lines that differ are painted, and what waited to be painted before that."""
        differ = [n for n, (one, other) in enumerate(zip(before, now, strict=True)) if one != other]
        self._dirty_regions.clear()
        self._repaint_regions.clear()
        self._dirty_regions.update(dirty)
        self._repaint_regions.update(to_repaint)
        if differ:
            self.refresh(*(Region(0, n, self.content_size.width, 1) for n in differ))


class BigNumber(Digits):
    """Large figures in a box of a fixed size, so that another number lays nothing out."""

    def show(self, value: str) -> None:
        if value != self.value:
            self._value = value
            self.refresh()
