"""What links carry, against figures worked from the standards."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import QuantityError
from auditra.core.links.cards import BUS_BPS, slowest_bus_for
from auditra.core.links.charging import lowest_sink_v
from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.links.usb import LINKS, payload_ceiling_bps
from tests.support.vectors import vectors

VECTORS = vectors("links")


@pytest.mark.parametrize(("rate", "payload"), VECTORS["usb_payload_bps"])
def test_usb_payload_after_line_coding(rate: float, payload: float) -> None:
    assert payload_ceiling_bps(rate) == pytest.approx(payload, rel=1e-9)


def test_no_link_carries_more_than_it_signals() -> None:
    assert all(link.ceiling_bps <= link.rate_bps for link in LINKS)


@pytest.mark.parametrize(("rate", "mtu", "stamps", "goodput"), VECTORS["tcp_ceiling_bps"])
def test_tcp_ceiling(rate: float, mtu: int, stamps: bool, goodput: float) -> None:
    assert tcp_ceiling_bps(rate, mtu, time_stamps=stamps) == pytest.approx(goodput, rel=1e-6)


@given(st.integers(100, 9000), st.integers(100, 9000))
def test_larger_frames_never_carry_less(one: int, other: int) -> None:
    small, large = sorted((one, other))
    assert tcp_ceiling_bps(1e9, small) <= tcp_ceiling_bps(1e9, large) <= 1e9


@pytest.mark.parametrize(("bus", "rate"), VECTORS["card_bus"])
def test_card_buses(bus: str, rate: float) -> None:
    assert BUS_BPS[bus] == rate
    assert slowest_bus_for(rate) == bus


def test_5_v_may_fall_to_4_v_at_the_far_end() -> None:
    assert lowest_sink_v(5.0) == pytest.approx(4.0)


@given(st.integers(640, 9999), st.integers(480, 9999), st.integers(24, 240))
def test_a_mode_printed_is_read_again_and_covers_itself(width: int, height: int, refresh: int) -> None:
    mode = Mode(width, height, float(refresh))
    assert parse_mode(str(mode)) == mode
    assert mode.covers(mode)


def test_59_94_counts_as_60_but_50_does_not() -> None:
    asked = parse_mode("1920x1080@60")
    assert parse_mode("1920x1080@59.94").covers(asked)
    assert not parse_mode("1920x1080@50").covers(asked)


@pytest.mark.parametrize("text", ["4K", "3840x2160", "x@60", "3840x2160@", "3840x2160@60p"])
def test_what_is_no_mode_is_refused(text: str) -> None:
    with pytest.raises(QuantityError):
        parse_mode(text)
