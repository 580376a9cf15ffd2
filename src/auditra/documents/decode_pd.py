"""The power conversation of a log, as a file."""

from __future__ import annotations

from pydantic import BaseModel

from auditra.core.decode.power_delivery.conversation import Conversation


class PowerFile(BaseModel):
    """The power conversation of a log."""

    format: str = "auditra decode pd"
    version: int = 1
    conversation: Conversation
