"""Display modes as people write them: ``3840x2160@30``."""

from __future__ import annotations

import re
from dataclasses import dataclass

from auditra.core.errors import QuantityError

_RATE = r"([0-9]{1,3}(?:\.[0-9]{1,3})?)\s*(?:Hz)?"
_MODE = re.compile(rf"([0-9]{{2,5}})\s*[x×]\s*([0-9]{{2,5}})\s*@\s*{_RATE}", re.IGNORECASE)
_SIZES = {
    "720p": (1280, 720), "hd": (1280, 720), "1080p": (1920, 1080), "full hd": (1920, 1080), "fhd": (1920, 1080),
    "1440p": (2560, 1440), "qhd": (2560, 1440), "wqhd": (2560, 1440), "2160p": (3840, 2160), "4k": (3840, 2160),
    "uhd": (3840, 2160), "4k uhd": (3840, 2160), "5k": (5120, 2880), "4320p": (7680, 4320), "8k": (7680, 4320),
    "8k uhd": (7680, 4320),
}  # fmt: skip
"""Sizes by the names that stand on boxes. 4K is what CTA calls UHD: displays of 4,096 pixels are written with them."""
_NAMED = re.compile(rf"({'|'.join(sorted(_SIZES, key=len, reverse=True))})\s*(?:@\s*)?{_RATE}", re.IGNORECASE)


@dataclass(frozen=True)
class Mode:
    """What a display shows: visible pixels and pictures a second."""

    width: int
    height: int
    refresh_hz: float

    def __str__(self) -> str:
        return f"{self.width}x{self.height}@{self.refresh_hz:g}"

    @property
    def pixels_a_second(self) -> float:
        return self.width * self.height * self.refresh_hz

    def covers(self, other: Mode) -> bool:
        """At least as many pixels each way, at least as often. 59.94 counts as 60 (CTA-861-H, 4.1)."""
        slack = 1000 / 1001 - 1e-6
        return self.width >= other.width and self.height >= other.height and self.refresh_hz >= other.refresh_hz * slack


def mode_of(text: str | None) -> Mode | None:
    """The mode in a reading's words, as ``3840x2160@60`` or ``4K@60Hz``; None where it is none."""
    words = text.strip() if text is not None else ""
    if match := _MODE.fullmatch(words):
        return Mode(int(match[1]), int(match[2]), float(match[3]))
    if named := _NAMED.fullmatch(words):
        return Mode(*_SIZES[named[1].lower()], float(named[2]))
    return None


def parse_mode(text: str) -> Mode:
    """The mode that a person typed. Raises: QuantityError when it is none."""
    mode = mode_of(text)
    if mode is None:
        raise QuantityError(f'"{text}"', why="this is not a display mode", do="Write it as 3840x2160@60")
    return mode
