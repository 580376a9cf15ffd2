"""What a display says of itself, all blocks together: a value, and what follows from it."""

from __future__ import annotations

from dataclasses import dataclass, field

from auditra.core.decode.display.cta import CtaExtension
from auditra.core.decode.display.displayid import DisplayIdSection
from auditra.core.decode.display.modes import merged
from auditra.core.decode.display.timing import DisplayTiming
from auditra.core.decode.problem import DAMAGE, Problem

RGB, YCBCR_444, YCBCR_422, YCBCR_420 = COLOUR_FORMATS = ("RGB", "YCbCr 4:4:4", "YCbCr 4:2:2", "YCbCr 4:2:0")
_DEPTHS = (6, 8, 10, 12, 14, 16)


@dataclass(frozen=True)
class Ranges:
    """Between which rates a display runs: vertical in Hz, horizontal in kHz."""

    least_hz: int
    most_hz: int
    least_khz: int
    most_khz: int
    most_pixel_clock_khz: int | None
    formula: str


@dataclass(frozen=True)
class Chromaticity:
    """Where red, green, blue and white lie, x and y of CIE 1931."""

    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]


@dataclass(frozen=True)
class Edid:
    """A display's description, as far as it could be read, and what is wrong with the rest."""

    version: str = ""
    maker: str = ""
    """Three letters, as registered with the UEFI Forum's PNP ids."""
    product: int | None = None
    serial: int | None = None
    serial_text: str = ""
    name: str = ""
    texts: tuple[str, ...] = ()
    year: int | None = None
    """In which it was made."""
    model_year: int | None = None
    week: int | None = None
    digital: bool = False
    interface: str = ""
    depth_bits: int | None = None
    width_cm: int | None = None
    height_cm: int | None = None
    gamma: float | None = None
    chromaticity: Chromaticity | None = None
    srgb: bool = False
    base_colour_formats: tuple[str, ...] = ()
    """What the base block says of colour; `colour_formats` has all."""
    continuous: bool = False
    """Takes any rate within its ranges."""
    ranges: Ranges | None = None
    timings: tuple[DisplayTiming, ...] = ()
    """Every timing of all blocks, in order, those of the base block first."""
    cta: tuple[CtaExtension, ...] = ()
    displayid: tuple[DisplayIdSection, ...] = ()
    extension_tags: tuple[int, ...] = ()
    is_readable: bool = True
    """Its base block is one, whole, and of a version that is known; without that nothing of it is heeded."""
    problems: tuple[Problem, ...] = field(default=())

    @property
    def is_whole(self) -> bool:
        """Whether all of it was read: what is missing from one that was cut or damaged may just not have been read."""
        return self.is_readable and not any(problem.code in DAMAGE for problem in self.problems)

    @property
    def preferred(self) -> DisplayTiming | None:
        """The mode that the display declares as preferred, or None."""
        return next((timing for timing in self.timings if timing.preferred), None)

    @property
    def native(self) -> tuple[DisplayTiming, ...]:
        """Timings that are said to be the panel's own."""
        return tuple(timing for timing in self.timings if timing.native)

    @property
    def modes(self) -> tuple[DisplayTiming, ...]:
        """Each size and rate once, the best first: the largest picture, then the highest rate."""
        return merged(self.timings)

    @property
    def adaptive(self) -> tuple[int, int | None] | None:
        """Between which rates it follows its source, in Hz, and None for "up to the mode's own"; None for not told."""
        for section in self.displayid:
            if section.adaptive is not None and section.adaptive.seamless:
                return section.adaptive.least_hz, section.adaptive.most_hz
        for each in self.cta:
            forum = each.hdmi_forum
            if forum is not None and forum.vrr_least_hz is not None:
                return forum.vrr_least_hz, forum.vrr_most_hz
        own = next((each.own_refresh for each in self.cta if each.own_refresh is not None), None)
        return None if own is None else (own.least_hz, own.most_hz)

    @property
    def hdr(self) -> bool:
        """Takes a picture of more than the standard range."""
        functions = (name for each in self.cta if each.hdr is not None for name in each.hdr.transfer_functions)
        return any(name != "SDR" for name in functions)

    @property
    def depths_bits(self) -> tuple[int, ...]:
        """Bits a sample that it says it takes, in order. Every digital display takes 8 unless it says less."""
        found = {depth for each in self.cta if each.hdmi for depth in each.hdmi.depths_bits}
        found |= {depth for each in self.displayid if each.interface for depth in each.interface.rgb_bits}
        if self.depth_bits is not None:
            found |= {depth for depth in _DEPTHS if min(8, self.depth_bits) <= depth <= self.depth_bits}
        if self.cta or (self.digital and self.depth_bits is None and not found):
            found.add(8)
        return tuple(sorted(found))

    @property
    def colour_formats(self) -> tuple[str, ...]:
        """In which forms it takes colour, in any of its modes."""
        found = set(self.base_colour_formats)
        for each in self.cta:
            found |= {RGB, *({YCBCR_444} if each.ycbcr_444 else ()), *({YCBCR_422} if each.ycbcr_422 else ())}
        for interface in (each.interface for each in self.displayid if each.interface is not None):
            told = (interface.rgb_bits, interface.ycbcr_444_bits, interface.ycbcr_422_bits, interface.ycbcr_420_bits)
            found |= {name for name, depths in zip(COLOUR_FORMATS, told, strict=True) if depths}
        if any(timing.chroma_420_only or timing.chroma_420_too for timing in self.timings):
            found.add(YCBCR_420)
        return tuple(name for name in COLOUR_FORMATS if name in found)
