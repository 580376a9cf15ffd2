"""Keys that come while a screen opens or closes wait until it is there: hands are quicker than a layout."""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Awaitable, Callable

from textual import events

MAX_WAITING = 256
"""More keys than anybody types while a screen opens; what comes beyond is a cat on the keyboard."""
MAX_WAIT_S = 1.0
"""A screen that is not there by then does not hold the keys up any longer."""


class KeyQueue:
    """Gives keys on at once, or in order once nothing holds them back any more."""

    def __init__(self, give_on: Callable[[events.Event], Awaitable[None]]) -> None:
        self._give_on = give_on
        self._waiting: deque[events.Event] = deque()
        self._held: dict[int, float] = {}
        """What is waited for, and since when."""
        self._count = 0

    def hold(self) -> int:
        """Give on no key until this is released; its number."""
        self._count += 1
        self._held[self._count] = time.monotonic()
        return self._count

    async def release(self, hold: int) -> None:
        self._held.pop(hold, None)
        await self.give()

    async def put(self, event: events.Event) -> None:
        if len(self._waiting) < MAX_WAITING:
            self._waiting.append(event)
        await self.give()

    async def give(self) -> None:
        """Give on what waits, unless something still holds it back."""
        oldest = time.monotonic() - MAX_WAIT_S
        self._held = {hold: since for hold, since in self._held.items() if since > oldest}
        while self._waiting and not self._held:
            await self._give_on(self._waiting.popleft())
