"""What USB descriptors say, as a file."""

from __future__ import annotations

from pydantic import BaseModel

from auditra.core.decode.usb_descriptors import Descriptors


class UsbFile(BaseModel):
    """What USB descriptors say. Numbers are those of the standard, in the units of their names."""

    format: str = "auditra decode usb"
    version: int = 1
    descriptors: Descriptors
