"""Pictures of the reviewer's for a report: the right way up, no larger than a page, without what a camera adds."""

from __future__ import annotations

import base64
from collections.abc import Callable
from io import BytesIO

from auditra.core.errors import AuditraError

MAX_SIDE = 1400
MAX_PIXELS = 60_000_000
"""Larger than any camera of a bench gives; a picture that unfolds to more is left out."""
Keeper = Callable[[str], bytes]
"""The bytes of a piece of evidence by its SHA-256. Raises: StoreError."""


def page_picture(sha256: str, evidence: Keeper) -> bytes:
    """A picture as JPEG without place or serial number in it; empty where it cannot be read."""
    from PIL import Image, ImageOps, UnidentifiedImageError  # loaded once there is a picture

    try:
        with Image.open(BytesIO(evidence(sha256)), formats=("JPEG", "PNG", "WEBP")) as opened:
            if opened.width * opened.height > MAX_PIXELS:
                return b""
            upright = ImageOps.exif_transpose(opened).convert("RGB")
            upright.thumbnail((MAX_SIDE, MAX_SIDE))
            out = BytesIO()
            upright.save(out, "JPEG", quality=82, optimize=True)
            return out.getvalue()
    except (AuditraError, OSError, ValueError, SyntaxError, UnidentifiedImageError, Image.DecompressionBombError):
        return b""


def data_uri(jpeg: bytes) -> str:
    """A picture inside a page; empty for none."""
    return f"data:image/jpeg;base64,{base64.b64encode(jpeg).decode()}" if jpeg else ""
