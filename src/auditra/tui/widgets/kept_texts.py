"""Texts of an audit that are looked at again and again, made once for as long as nothing about it changes."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from textual.content import Content

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.device import Port
from auditra.tui.renderables.socket_card import socket_card
from auditra.tui.theme import Palette

Made = TypeVar("Made")


class KeptTexts:
    """What was made of one state of an audit in one palette; forgotten with the first of another."""

    def __init__(self) -> None:
        self._judged: JudgedAudit | None = None
        self._palette: Palette | None = None
        self._made: dict[tuple[object, ...], object] = {}

    def once(self, key: tuple[object, ...], judged: JudgedAudit, palette: Palette, make: Callable[[], Made]) -> Made:
        """What `make` makes, made once for a key."""
        key = (*key, judged.judgement.is_explained)
        if self._judged is not judged or self._palette is not palette:
            self._judged, self._palette, self._made = judged, palette, {}
        if key not in self._made:
            self._made[key] = make()
        return self._made[key]  # type: ignore[return-value]

    def card(self, port: Port | None, judged: JudgedAudit, palette: Palette, width: int) -> Content:
        """The card of a socket, as high as the highest: turning to another one lays nothing out."""
        if port is None:
            return Content("")

        def all_cards() -> dict[str, Content]:
            ports = judged.audit.device.ports()
            return equally_high(
                {each.id: socket_card(each, judged.audit, judged.judgement, palette) for each in ports}, width
            )

        return self.once(("cards", width), judged, palette, all_cards).get(port.id, Content(""))


def equally_high(texts: dict[str, Content], width: int) -> dict[str, Content]:
    """Texts of one place, each with so many empty lines behind it that all are as high as the highest."""
    heights = {name: text.get_height({}, width) if width else 1 for name, text in texts.items()}
    highest = max(heights.values(), default=0)
    return {name: text + Content("\n" * (highest - heights[name])) for name, text in texts.items()}
