"""Does a way carry these pictures together with this data? Yes, no, or only with something given up, with the sum."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import Enum

from auditra.core.links.display import Mode
from auditra.core.links.picture_links import SCRAMBLED_ABOVE_HZ, Chroma, PictureLink
from auditra.core.links.timings import Timing, cta_timing, reduced_blanking_2_timing, reduced_blanking_timing
from auditra.core.links.usb_c import Arrangement, Way, most_for_pictures

COMPRESSED_BITS_A_PIXEL = 8.0
"""To how much a picture is compressed where nothing else is said. Source: VESA DSC 1.2a, 1 (visually lossless at 8)."""
NEAR = 0.05
"""How close to the limit an answer hangs on what was assumed: blanking, and what error correction really takes."""


@dataclass(frozen=True)
class Picture:
    """One picture to be carried. What is None is free: it is taken as good as it can be had."""

    mode: Mode
    depth_bits: int = 8
    chroma: Chroma = Chroma.FULL
    compressed_bits_a_pixel: float | None = None
    """Set where it is compressed from the outset."""

    def __str__(self) -> str:
        squeezed = (
            f", compressed to {self.compressed_bits_a_pixel:g} bit a pixel" if self.compressed_bits_a_pixel else ""
        )
        return f"{self.mode} {self.depth_bits} bit {self.chroma.words}{squeezed}"


class Answer(Enum):
    """The three answers."""

    YES = "yes"
    ONLY_WITH = "only with"
    NO = "no"


class _Blanking(Enum):
    """How a picture is timed: as its standard has it, or with the least blanking that VESA defines."""

    USUAL = "usual"
    LEAST = "least"


@dataclass(frozen=True)
class Carriage:
    """The answer: what has to be given up, what is taken and what there is (bits per second), and the sum in lines."""

    answer: Answer
    only_with: tuple[str, ...]
    takes_bps: float
    has_bps: float
    sum: tuple[str, ...]
    near: bool = False
    """The answer hangs on a few per cent."""

    @property
    def in_words(self) -> str:
        words = f"only with {' and '.join(self.only_with)}" if self.answer is Answer.ONLY_WITH else self.answer.value
        return f"{words} (near the limit)" if self.near else words


def carries(way: Way, pictures: Sequence[Picture], data_bps: float = 0.0) -> Carriage:
    """Whether a way carries the pictures and so much data payload at once, giving up as little as it can."""
    tried = [_try(way, asked, blanking, data_bps) for asked, blanking in _givings_up(pictures)]
    found = next((each for each in tried if each.answer is not Answer.NO), None)
    return found or _closest(tried)


def _closest(tried: list[Carriage]) -> Carriage:
    """Of what all fails, the one that lacks least, so that the sum shows how far off it is."""
    return min(tried, key=lambda each: each.takes_bps - each.has_bps)


def _givings_up(pictures: Sequence[Picture]) -> Iterator[tuple[tuple[_Eased, ...], _Blanking]]:
    """Ways to ask for less, least loss first; each with what was given up. Without pictures, there is nothing to."""
    for step in _STEPS if pictures else (_Step(),):
        eased = tuple(_ease(picture, step) for picture in pictures)
        if step == _Step() or any(given_up for _, given_up in eased):
            yield eased, _Blanking.USUAL
        if pictures:
            yield tuple((picture, (*given_up, "less blanking")) for picture, given_up in eased), _Blanking.LEAST


@dataclass(frozen=True)
class _Step:
    """What a picture gives up; what it has no more of, it cannot give."""

    compression: bool = False
    chroma: Chroma = Chroma.FULL
    depth_bits: int | None = None


_STEPS = (
    _Step(), _Step(compression=True), _Step(chroma=Chroma.HALF), _Step(depth_bits=8), _Step(chroma=Chroma.QUARTER),
    _Step(chroma=Chroma.QUARTER, depth_bits=8),
)  # fmt: skip
_Eased = tuple[Picture, tuple[str, ...]]


def _ease(picture: Picture, step: _Step) -> _Eased:
    given_up: list[str] = []
    if step.compression and picture.compressed_bits_a_pixel is None:
        picture = replace(picture, compressed_bits_a_pixel=COMPRESSED_BITS_A_PIXEL)
        given_up.append(f"compression to {COMPRESSED_BITS_A_PIXEL:g} bit a pixel")
    if step.chroma.samples_a_pixel < picture.chroma.samples_a_pixel:
        picture = replace(picture, chroma=step.chroma)
        given_up.append(f"less colour ({step.chroma.words})")
    if step.depth_bits is not None and step.depth_bits < picture.depth_bits:
        picture = replace(picture, depth_bits=step.depth_bits)
        given_up.append(f"less depth ({step.depth_bits} bit)")
    return picture, tuple(given_up)


def _try(way: Way, asked: tuple[_Eased, ...], blanking: _Blanking, data_bps: float) -> Carriage:
    """The arrangement that carries it with most spare, or that lacks least."""
    pictures = tuple(picture for picture, _ in asked)
    given_up = tuple(dict.fromkeys(words for _, each in asked for words in each))
    answers = [_weigh(arrangement, pictures, given_up, blanking, data_bps) for arrangement in way.arrangements]
    good = [each for each in answers if each.answer is not Answer.NO]
    return good[0] if good else _closest(answers)


def _weigh(
    arrangement: Arrangement,
    pictures: tuple[Picture, ...],
    given_up: tuple[str, ...],
    blanking: _Blanking,
    data_bps: float,
) -> Carriage:
    link = arrangement.picture
    lines = [arrangement.words]
    takes, has, fits = 0.0, 0.0, True
    if pictures and link is None:
        return Carriage(Answer.NO, (), sum(map(_least_bps, pictures)), 0.0, (*lines, "it carries no picture"))
    if pictures and link is not None:
        compressed = any(each.compressed_bits_a_pixel for each in pictures)
        takes = sum(_line(lines, picture, link, blanking) for picture in pictures)
        has = min(link.payload_for(len(pictures), compressed=compressed), most_for_pictures(arrangement))
        lines.append(_has_line(link, has, len(pictures), compressed=compressed))
        fits = takes <= has and (not compressed or link.compresses)
        if compressed and not link.compresses:
            lines.append("this link defines no compression")
    margins = [has - takes] if pictures else []
    if data_bps:
        left = arrangement.data_bps - (takes if arrangement.budget_bps is not None else 0.0)
        lines.append(f"data: {data_bps / 1e9:.3g} Gb/s of payload needed, {max(left, 0.0) / 1e9:.3g} Gb/s left")
        fits = fits and data_bps <= left
        margins.append(left - data_bps)
        takes, has = (takes, has) if margins[0] < margins[-1] and pictures else (data_bps, max(left, 0.0))
    near = bool(margins) and any(abs(margin) <= NEAR * max(takes, has) for margin in margins)
    answer = Answer.NO if not fits else Answer.ONLY_WITH if given_up else Answer.YES
    return Carriage(answer, given_up if fits else (), takes, has, tuple(lines), near)


def _least_bps(picture: Picture) -> float:
    return picture.mode.pixels_a_second * picture.chroma.bits_a_pixel(picture.depth_bits)


def _line(lines: list[str], picture: Picture, link: PictureLink, blanking: _Blanking) -> float:
    """What a picture takes, written down as a product."""
    timing = timing_for(picture.mode, link, least=blanking is _Blanking.LEAST)
    bits = picture.compressed_bits_a_pixel or link.bits_a_pixel(picture.chroma, picture.depth_bits)
    takes = timing.bit_rate_bps(bits)
    total = f"{timing.total_width} x {timing.total_height} x {timing.refresh_hz:.5g} Hz"
    lines.append(f"{picture}: {total} ({timing.source}) x {bits:g} bit = {takes / 1e9:.2f} Gb/s")
    characters = link.character_rate_hz(timing.pixel_clock_hz, picture.chroma, picture.depth_bits)
    if characters is not None:
        scrambled = "scrambled" if characters > SCRAMBLED_ABOVE_HZ else "not scrambled"
        lines.append(f"TMDS character rate {characters / 1e6:.5g} Mcsc per channel, {scrambled}")
    return takes


def _has_line(link: PictureLink, has: float, pictures: int, *, compressed: bool) -> str:
    extra = (["one slot of 64 for headers"] if pictures > 1 and link.coding.streams < 1 else []) + (
        ["2.4 % for error correction"] if compressed and link.coding.compressed < 1 else []
    )
    less = f", less {' and '.join(extra)}: {has / 1e9:.2f} Gb/s" if extra else ""
    shared = f"; pictures may take {has / 1e9:.2f} Gb/s of it" if not extra and has < link.payload_bps - 1 else ""
    return f"{link.name}: {link.sum()}{less}{shared}"


def timing_for(mode: Mode, link: PictureLink, *, least: bool = False) -> Timing:
    """The timing that is assumed until a display's own description is read.

    As CTA-861 lists it where it does; else with reduced blanking. The least blanking is version 2 over DisplayPort, and
    version 1 over HDMI, whose displays seldom know the other.
    """
    listed = cta_timing(mode)
    if not least and listed is not None:
        return listed
    return reduced_blanking_timing(mode) if link.is_hdmi or not least else reduced_blanking_2_timing(mode)
