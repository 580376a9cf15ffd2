"""The power conversation of a log or of a captured CC line, as a file."""

from __future__ import annotations

from pydantic import BaseModel

from auditra.core.decode.cc_line.capture import Captured
from auditra.core.decode.power_delivery.conversation import Conversation


class PowerFile(BaseModel):
    """The power conversation of a log or of a capture."""

    format: str = "auditra decode pd"
    version: int = 1
    conversation: Conversation
    capture: Captured | None = None
    """Where it was read from a capture of a CC line: packets with their times, and what is wrong with the file."""
