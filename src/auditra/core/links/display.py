"""Display modes as people write them: ``3840x2160@30``."""

from __future__ import annotations

import re
from dataclasses import dataclass

from auditra.core.errors import QuantityError

_MODE = re.compile(r"(\d{2,5})\s*[x×]\s*(\d{2,5})\s*@\s*(\d{1,3}(?:\.\d{1,3})?)\s*(?:Hz)?")


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
    """The mode in a reading's words; None where it is none."""
    match = _MODE.fullmatch(text.strip()) if text is not None else None
    return Mode(int(match[1]), int(match[2]), float(match[3])) if match is not None else None


def parse_mode(text: str) -> Mode:
    """The mode that a person typed. Raises: QuantityError when it is none."""
    match = _MODE.fullmatch(text.strip())
    if match is None:
        raise QuantityError(f'"{text}"', why="this is not a display mode", do="Write it as 3840x2160@60")
    return Mode(int(match[1]), int(match[2]), float(match[3]))
