"""What a socket may be for."""

from __future__ import annotations

from enum import StrEnum


class Capability(StrEnum):
    """What a socket may be for; every claim is about one of these."""

    DATA = "data"
    PICTURE = "picture"
    POWER_IN = "power in"
    POWER_OUT = "power out"
    OTHER = "other"
