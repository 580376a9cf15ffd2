"""Display timings and display links against figures of the standards, and what must hold of any mode."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.picture_links import (
    DISPLAYPORT_LINKS,
    HDMI_CHARACTER_RATE_LINKS,
    HDMI_FIXED_RATE_LINKS,
    Chroma,
)
from auditra.core.links.timings import Timing, cta_timing, reduced_blanking_2_timing, reduced_blanking_timing
from tests.support.vectors import vectors

VECTORS = vectors("timings")
LINKS = {link.name: link for link in (*DISPLAYPORT_LINKS, *HDMI_FIXED_RATE_LINKS, *HDMI_CHARACTER_RATE_LINKS)}
modes = st.builds(
    Mode,
    st.integers(80, 960).map(lambda cells: cells * 8),
    st.integers(480, 4320),
    st.sampled_from([24.0, 50.0, 60.0, 144.0]),
)


def figures(timing: Timing) -> tuple[int, int, float]:
    return timing.total_width, timing.total_height, timing.pixel_clock_hz


@pytest.mark.parametrize(("mode", "width", "height", "clock_hz"), VECTORS["reduced_blanking"])
def test_reduced_blanking(mode: str, width: int, height: int, clock_hz: float) -> None:
    assert figures(reduced_blanking_timing(parse_mode(mode))) == (width, height, clock_hz)


@pytest.mark.parametrize(("mode", "width", "height", "clock_hz"), VECTORS["reduced_blanking_2"])
def test_reduced_blanking_version_2(mode: str, width: int, height: int, clock_hz: float) -> None:
    found = reduced_blanking_2_timing(parse_mode(mode))
    assert figures(found)[:2] == (width, height)
    assert found.pixel_clock_hz == pytest.approx(clock_hz, abs=1000)


@pytest.mark.parametrize(("mode", "width", "height", "clock_hz"), VECTORS["cta"])
def test_what_the_list_has_is_timed_as_listed(mode: str, width: int, height: int, clock_hz: float) -> None:
    timing = cta_timing(parse_mode(mode))
    assert timing is not None
    assert figures(timing) == (width, height, clock_hz)


def test_a_rate_a_thousandth_below_is_the_listed_one_slowed_down_and_others_are_not_listed() -> None:
    slower = cta_timing(parse_mode("3840x2160@59.94"))
    assert slower is not None
    assert slower.pixel_clock_hz == pytest.approx(594e6 * 59.94 / 60)
    assert cta_timing(parse_mode("2560x1440@144")) is None
    assert cta_timing(parse_mode("3840x2160@58")) is None


@given(modes)
def test_less_blanking_never_takes_more_and_no_timing_is_faster_than_asked(mode: Mode) -> None:
    one, two = reduced_blanking_timing(mode), reduced_blanking_2_timing(mode)
    assert two.pixel_clock_hz <= one.pixel_clock_hz + 250_000
    for timing in (one, two):
        asked_hz = mode.refresh_hz * timing.total_width * timing.total_height
        assert asked_hz - 250_000 < timing.pixel_clock_hz <= asked_hz + 1e-3
        assert asked_hz > mode.pixels_a_second


@pytest.mark.parametrize(("name", "gbps"), VECTORS["payload_gbps"])
def test_payload_after_coding(name: str, gbps: float) -> None:
    assert LINKS[name].payload_bps == pytest.approx(gbps * 1e9, rel=1e-6)


def test_two_lanes_carry_half_and_less_colour_takes_less() -> None:
    link = LINKS["DisplayPort 8.1 Gb/s a lane"]
    assert link.over(2).payload_bps == link.payload_bps / 2
    assert [chroma.bits_a_pixel(10) for chroma in Chroma] == [30, 20, 15]


def test_a_large_picture_fits_four_lanes_and_not_two_of_the_same_rate() -> None:
    timing = cta_timing(parse_mode("3840x2160@60"))
    assert timing is not None
    needs = timing.bit_rate_bps(Chroma.FULL.bits_a_pixel(8))
    link = LINKS["DisplayPort 5.4 Gb/s a lane"]
    assert link.over(2).payload_bps < needs <= link.payload_bps
