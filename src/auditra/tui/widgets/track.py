"""The track: the stages of the work in order, the current one highlighted."""

from __future__ import annotations

from collections.abc import Sequence

from textual import events
from textual.content import Content
from textual.reactive import reactive
from textual.widget import Widget

from auditra.tui.messages import StageChosen
from auditra.tui.widgets.frame_lines import palette_of


class Track(Widget):
    """The stages of the work in order; a click chooses one."""

    DEFAULT_CSS = "Track { height: 1; background: $rule; }"
    stage: reactive[int] = reactive(1)

    def __init__(self, names: Sequence[str], stage: int) -> None:
        super().__init__()
        self._names = tuple(names)
        self.set_reactive(Track.stage, stage)

    def render(self) -> Content:
        palette = palette_of(self)
        parts: list[Content] = []
        for number, name, _, _ in self._spans():
            style = f"bold {palette.ground} on {palette.accent}" if number == self.stage else palette.ink
            parts.append(Content.styled(f" {number} {name} ", style))
        join = Content.styled("──" if self._roomy else "", palette.quiet)
        return join.join(parts)

    def on_click(self, event: events.Click) -> None:
        for number, _, start, end in self._spans():
            if start <= event.x < end:
                self.post_message(StageChosen(number))

    @property
    def _roomy(self) -> bool:
        return self.size.width >= 96

    def _spans(self) -> list[tuple[int, str, int, int]]:
        spans, x = [], 0
        for number, name in enumerate(self._names, start=1):
            end = x + len(name) + 4
            spans.append((number, name, x, end))
            x = end + (2 if self._roomy else 0)
        return spans
