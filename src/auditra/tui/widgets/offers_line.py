"""What may be typed next, on one line: Tab takes the highlighted one, a click takes any."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from rich.cells import cell_len
from textual import events
from textual.content import Content
from textual.message import Message

from auditra.tui.theme import Palette
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

_HEAD = "tab  "


class OffersLine(ShownText):
    """Reports which offer was clicked; its owner takes it."""

    class Taken(Message):
        """The offer with this number was clicked."""

        def __init__(self, turn: int) -> None:
            super().__init__()
            self.turn = turn

    _shown: tuple[str, ...] = ()
    _first = 0

    def offer(self, offers: Sequence[str], turn: int, width: int) -> None:
        """Show offers, one of them highlighted."""
        self._first, self._shown = in_sight(offers, turn, width)
        self.update(offers_line(self._shown, turn - self._first, width, palette_of(self)))

    def on_click(self, event: events.Click) -> None:
        x = cell_len(_HEAD)
        for index, offer in enumerate(self._shown):
            end = x + cell_len(offer) + 2
            if x <= event.x < end:
                self.post_message(self.Taken(self._first + index))
                return
            x = end


def in_sight(offers: Sequence[str], turn: int, width: int) -> tuple[int, tuple[str, ...]]:
    """The number of the first offer that is shown, and those from it that there is room for."""
    first = 0
    while first < turn and not _fits(offers[first : turn + 1], width):
        first += 1
    shown: list[str] = []
    for offer in offers[first:]:
        if shown and not _fits([*shown, offer], width):
            break
        shown.append(offer)
    return first, tuple(shown)


def _fits(offers: Sequence[str], width: int) -> bool:
    return sum(cell_len(offer) + 2 for offer in offers) <= width - cell_len(_HEAD)


def offers_line(offers: Iterable[str], chosen: int, width: int, palette: Palette) -> Content:
    """What may be typed next; tab accepts the highlighted one."""
    parts: list[tuple[str, str]] = [(_HEAD, f"bold {palette.accent}")]
    room = width - cell_len(_HEAD)
    for index, offer in enumerate(offers):
        text = f" {offer} "
        if cell_len(text) > room:
            break
        room -= cell_len(text)
        parts.append((text, f"bold {palette.ground} on {palette.accent}" if index == chosen else palette.ink))
    return Content.assemble(*parts) if len(parts) > 1 else Content("")
