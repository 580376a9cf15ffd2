"""A line on which something is typed, with offers of what may come next.

It completes by itself: keys come faster than a screen could answer, and each must find what the one before it left.
"""

from __future__ import annotations

from collections.abc import Callable

from textual import events
from textual.widgets import Input

from auditra.tui.messages import OfferTurned

Offers = tuple[str, tuple[str, ...]]
"""The part of a text that stays, and what may follow it."""


def _no_offers(text: str) -> Offers:
    return text, ()


class TypingLine(Input):
    """Tab takes the offer that stands out, up and down turn to another."""

    def __init__(self, id: str, max_length: int) -> None:
        super().__init__(id=id, max_length=max_length, select_on_focus=False)
        self.offers_for: Callable[[str], Offers] = _no_offers
        self.turn = 0

    def put(self, text: str) -> None:
        """Other text on the line."""
        self.value, self.turn = text, 0
        self.cursor_position = len(text)

    async def _on_key(self, event: events.Key) -> None:
        """Not by bindings: those are looked up after the keys behind this one were typed already."""
        if event.key == "tab":
            self._take_offer()
        elif event.key in ("up", "down"):
            self._turn_offer(1 if event.key == "down" else -1)
        else:
            await super()._on_key(event)
            return
        event.stop()
        event.prevent_default()

    def _take_offer(self) -> None:
        keep, offers = self.offers_for(self.value)
        if offers:
            gap = "" if not keep or keep.endswith(" ") else " "
            self.put(f"{keep}{gap}{offers[self.turn % len(offers)].rstrip()} ")

    def _turn_offer(self, step: int) -> None:
        _, offers = self.offers_for(self.value)
        if offers:
            self.turn = (self.turn + step) % len(offers)
            self.post_message(OfferTurned())
