"""What a reviewer notes with hands on the gear: each with its moment, on the chosen port."""

from __future__ import annotations

from enum import StrEnum


class EventKind(StrEnum):
    """What happened. An event of other words is kept too; these have a key, and times between them are worked out."""

    CONNECTED = "connected"
    REMOVED = "removed"
    CHIME = "chime heard"
    PICTURE = "picture appeared"
    PICTURE_LOST = "picture lost"
    PICTURE_BACK = "picture back"
    ARRANGEMENT_LOST = "arrangement lost"
    CRASH = "crash"
    RECOVERED = "recovered"
    WARM = "feels warm"
