"""Display timings: what a mode takes in pixels a second once its blanking is counted.

Three ways to time a mode: as CTA-861 lists it, and as VESA's reduced blanking, versions 1 and 2, computes it. Which one
a host and a display agree on, the display's own description tells; until that is read, an answer names what it assumed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from auditra.core.links.display import Mode

_MICROSECOND = 1e-6
_MIN_VERTICAL_BLANK_S = 460 * _MICROSECOND
"""The least blanking in time, of both versions. Source: VESA CVT 1.2, 5.4 and 5.5 (RB_MIN_V_BLANK)."""
_ONE_FRONT_PORCH, _ONE_BACK_PORCH, _ONE_ACROSS, _ONE_STEP_HZ = 3, 6, 160, 250_000
_TWO_FRONT_PORCH, _TWO_SYNC, _TWO_BACK_PORCH, _TWO_ACROSS, _TWO_STEP_HZ = 1, 8, 6, 80, 1_000
_SYNC_OF_SHAPE = (((4, 3), 4), ((16, 9), 5), ((16, 10), 6), ((5, 4), 7), ((15, 9), 7))
_SYNC_OF_OTHERS = 10
"""Lines of vertical sync by the shape of the picture. Source: VESA CVT 1.2, table 3-2 "Vertical Sync Duration"."""


@dataclass(frozen=True)
class Timing:
    """A mode with its blanking: pixels and lines in all, and the pixel clock."""

    mode: Mode
    total_width: int
    total_height: int
    pixel_clock_hz: float
    source: str

    @property
    def refresh_hz(self) -> float:
        """What the clock really gives, in pictures a second."""
        return self.pixel_clock_hz / (self.total_width * self.total_height)

    def bit_rate_bps(self, bits_a_pixel: float) -> float:
        """What a link must carry for it, blanking included, in bits per second."""
        return self.pixel_clock_hz * bits_a_pixel


_CTA = {
    (640, 480, 60): (800, 525, 25_200_000), (1280, 720, 50): (1980, 750, 74_250_000),
    (1280, 720, 60): (1650, 750, 74_250_000), (1920, 1080, 24): (2750, 1125, 74_250_000),
    (1920, 1080, 25): (2640, 1125, 74_250_000), (1920, 1080, 30): (2200, 1125, 74_250_000),
    (1920, 1080, 50): (2640, 1125, 148_500_000), (1920, 1080, 60): (2200, 1125, 148_500_000),
    (1920, 1080, 100): (2640, 1125, 297_000_000), (1920, 1080, 120): (2200, 1125, 297_000_000),
    (3840, 2160, 24): (5500, 2250, 297_000_000), (3840, 2160, 25): (5280, 2250, 297_000_000),
    (3840, 2160, 30): (4400, 2250, 297_000_000), (3840, 2160, 50): (5280, 2250, 594_000_000),
    (3840, 2160, 60): (4400, 2250, 594_000_000), (3840, 2160, 100): (5280, 2250, 1_188_000_000),
    (3840, 2160, 120): (4400, 2250, 1_188_000_000), (7680, 4320, 30): (9000, 4400, 1_188_000_000),
    (7680, 4320, 60): (9000, 4400, 2_376_000_000),
}  # fmt: skip
"""Totals and clock by picture. Source: CTA-861-H, table 1 "Video Format Timings"."""


def cta_timing(mode: Mode) -> Timing | None:
    """The timing that CTA-861 lists; None for a mode that it does not have. 59.94 is timed as 60 (CTA-861-H, 4.1)."""
    nearest = math.ceil(mode.refresh_hz - 1e-9)
    listed = _CTA.get((mode.width, mode.height, nearest))
    if listed is None or not Mode(mode.width, mode.height, mode.refresh_hz).covers(
        Mode(mode.width, mode.height, nearest)
    ):
        return None
    width, height, clock_hz = listed
    return Timing(mode, width, height, clock_hz * mode.refresh_hz / nearest, "CTA-861")


def reduced_blanking_timing(mode: Mode) -> Timing:
    """Reduced blanking, version 1. Source: VESA CVT 1.2, 5.4 "Reduced Blanking Timing Version 1"."""
    sync = next(
        (lines for (across, down), lines in _SYNC_OF_SHAPE if mode.width * down == mode.height * across),
        _SYNC_OF_OTHERS,
    )
    line_s = (1 / mode.refresh_hz - _MIN_VERTICAL_BLANK_S) / mode.height
    blank = max(math.floor(_MIN_VERTICAL_BLANK_S / line_s) + 1, _ONE_FRONT_PORCH + sync + _ONE_BACK_PORCH)
    width = _whole_cells(mode.width) + _ONE_ACROSS
    return _timed(mode, width, mode.height + blank, _ONE_STEP_HZ, "reduced blanking 1")


def reduced_blanking_2_timing(mode: Mode) -> Timing:
    """Reduced blanking, version 2. Source: VESA CVT 1.2, 5.5 "Reduced Blanking Timing Version 2"."""
    line_s = (1 / mode.refresh_hz - _MIN_VERTICAL_BLANK_S) / mode.height
    least = _TWO_FRONT_PORCH + _TWO_SYNC + _TWO_BACK_PORCH
    blank = max(math.floor(_MIN_VERTICAL_BLANK_S / line_s) + 1, least)
    return _timed(mode, mode.width + _TWO_ACROSS, mode.height + blank, _TWO_STEP_HZ, "reduced blanking 2")


def _whole_cells(pixels: int) -> int:
    """Version 1 counts across in cells of eight pixels. Source: VESA CVT 1.2, 5.2 (CELL_GRAN)."""
    return pixels // 8 * 8


def _timed(mode: Mode, width: int, height: int, step_hz: int, source: str) -> Timing:
    """The clock falls to the next step below what the refresh asks for."""
    clock_hz = step_hz * math.floor(mode.refresh_hz * width * height / step_hz + 1e-9)
    return Timing(mode, width, height, clock_hz, source)
