"""A line on which something is typed, with offers of what may come next."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual.binding import Binding, BindingType
from textual.message import Message
from textual.widgets import Input

from auditra.core.sanitize import sanitize
from auditra.tui.prompt import Offers, no_offers


class TypingLine(Input):
    """Tab accepts the highlighted offer, up and down highlight another."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter", "submit", "record"),
        Binding("tab", "accept_offer", "accept the suggestion"),
        Binding("down", "next_offer(1)", "other suggestions", key_display="↑↓"),
        Binding("up", "next_offer(-1)", "other suggestions", key_display="↑↓"),
    ]

    class OfferTurned(Message):
        """Another offer is highlighted."""

    def __init__(self, id: str, max_length: int) -> None:
        super().__init__(id=id, max_length=max_length, select_on_focus=False)
        self.offers_for: Callable[[str], Offers] = no_offers
        self.turn = 0

    def put(self, text: str) -> None:
        """Replace what is on the line."""
        self.value, self.turn = sanitize(text, self.max_length or len(text)), 0
        self.cursor_position = len(self.value)

    def action_accept_offer(self) -> None:
        keep, offers = self.offers_for(self.value)
        if offers:
            gap = "" if not keep or keep.endswith(" ") else " "
            self.put(f"{keep}{gap}{offers[self.turn % len(offers)].rstrip()} ")

    def action_next_offer(self, step: int) -> None:
        _, offers = self.offers_for(self.value)
        if offers:
            self.turn = (self.turn + step) % len(offers)
            self.post_message(self.OfferTurned())
