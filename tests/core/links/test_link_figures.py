"""Names, ceilings and limits of links, and what goes over them together, against figures from their standards."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from auditra.core.errors import AmbiguousName, AuditraError, QuantityError
from auditra.core.links.carriage import Answer, Picture, carries
from auditra.core.links.chain import Stage, chain_of
from auditra.core.links.charging import cable_allows, cable_needed, steps_of_source
from auditra.core.links.copper import AtCurrent, drop_in, loop_ohm, thinnest_gauge, wire_ohm
from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.ethernet import cable_for, frame_bytes, least_category, tcp_ceiling_bps
from auditra.core.links.picture_links import (
    HDMI_CHARACTER_RATE_LINKS,
    HDMI_FIXED_RATE_LINKS,
    PICTURE_LINKS,
    Chroma,
    find_picture_link,
)
from auditra.core.links.timings import cta_timing
from auditra.core.links.usb import LINKS, Transfer, find_link, packets_a_frame, slowest_usb_link
from auditra.core.links.usb_c import find_way, plain_way
from tests.support.vectors import vectors

VECTORS = vectors("link_figures")
MODES = st.builds(Mode, st.integers(640, 7680), st.integers(480, 4320), st.sampled_from([24.0, 30.0, 60.0, 120.0]))


@pytest.mark.parametrize(("name", "link"), VECTORS["usb names"])
def test_every_name_of_a_usb_link_is_one_link_or_is_asked(name: str, link: str | None) -> None:
    if link is None:
        with pytest.raises(AmbiguousName) as asked:
            find_link(name)
        assert len(asked.value.candidates) > 1
    else:
        assert find_link(name).name == link


@pytest.mark.parametrize("link", LINKS)
def test_a_canonical_name_finds_its_own_link(link: object) -> None:
    assert find_link(getattr(link, "name", "")) is link


@pytest.mark.parametrize(("name", "bytes_a_second"), VECTORS["usb ceilings"])
def test_usb_ceilings(name: str, bytes_a_second: float) -> None:
    link = find_link(name)
    ceiling = link.bulk_ceiling_bps if link.rate_bps < 1e9 else link.ceiling_bps
    assert ceiling / 8 == pytest.approx(bytes_a_second, rel=1e-9)
    assert link.bulk_ceiling_bps <= link.ceiling_bps


@pytest.mark.parametrize(("transfer", "high_speed", "packets"), VECTORS["packets a frame"])
def test_packets_a_frame(transfer: str, high_speed: bool, packets: int) -> None:
    assert packets_a_frame(Transfer[transfer], high_speed=high_speed) == packets


@pytest.mark.parametrize(("name", "gbps"), VECTORS["picture payload"])
def test_what_a_display_link_carries(name: str, gbps: float) -> None:
    assert find_picture_link(name).payload_bps / 1e9 == pytest.approx(gbps, abs=0.005)


@pytest.mark.parametrize("name", VECTORS["ambiguous pictures"])
def test_a_version_that_allows_many_rates_is_asked(name: str) -> None:
    with pytest.raises(AmbiguousName):
        find_picture_link(name)


@pytest.mark.parametrize(("way", "modes", "depth", "chroma", "data_bps", "answer"), VECTORS["carries"])
def test_carries(way: str, modes: list[str], depth: int, chroma: str, data_bps: float, answer: str) -> None:
    colour = next(each for each in Chroma if each.words == chroma)
    pictures = [Picture(parse_mode(mode), depth, colour) for mode in modes]
    carriage = carries(find_way(way), pictures, data_bps)
    assert carriage.in_words == answer
    assert carriage.sum


@given(MODES, st.sampled_from(PICTURE_LINKS), st.sampled_from([8, 10, 12]))
def test_what_is_carried_fits_and_less_is_carried_too(mode: Mode, link: object, depth: int) -> None:
    way = plain_way(link)  # type: ignore[arg-type]
    answer = carries(way, [Picture(mode, depth)])
    if answer.answer is Answer.YES:
        assert answer.takes_bps <= answer.has_bps
        assert (
            carries(way, [Picture(Mode(mode.width, mode.height, mode.refresh_hz / 2), depth)]).answer is not Answer.NO
        )
    assert (answer.answer is Answer.ONLY_WITH) == bool(answer.only_with)


@given(st.text(max_size=40))
def test_any_name_finds_a_way_or_our_error(name: str) -> None:
    try:
        assert find_way(name).arrangements
    except AuditraError as error:
        assert error.do


@pytest.mark.parametrize(("gauge", "ohm"), VECTORS["ohm per km"])
def test_copper(gauge: int, ohm: float) -> None:
    assert wire_ohm(gauge, 1000.0) == pytest.approx(ohm, rel=0.01)


def test_a_drop_goes_there_and_back_and_grows_with_heat() -> None:
    cold, warm = drop_in(24, 1.0, 5.0), drop_in(24, 1.0, 5.0, 60.0)
    assert cold.volts == pytest.approx(5.0 * 2 * wire_ohm(24, 1.0))
    assert cold.watts == pytest.approx(5.0 * cold.volts)
    assert warm.volts == pytest.approx(cold.volts * (1 + 0.00393 * 40))
    gauge = thinnest_gauge(1.2, 5.0, 0.75)
    assert gauge is not None
    assert drop_in(gauge, 1.2, 5.0).volts <= 0.75 < drop_in(gauge + 1, 1.2, 5.0).volts


def test_ground_may_be_another_wire() -> None:
    assert drop_in(24, 1.0, 3.0, ground_awg=20).ohm == pytest.approx(wire_ohm(24, 1.0) + wire_ohm(20, 1.0))
    assert drop_in(24, 1.0, 3.0, ground_awg=24) == drop_in(24, 1.0, 3.0)


@given(st.floats(0.001, 2), st.floats(4, 21), st.lists(st.floats(0, 5), min_size=2, max_size=6, unique=True))
def test_a_loop_is_worked_out_of_what_it_loses(ohm: float, open_v: float, amperes: list[float]) -> None:
    assume(max(amperes) - min(amperes) > 0.01)
    readings = [AtCurrent(open_v - ohm * each, each) for each in amperes]
    assert loop_ohm(readings) == pytest.approx(ohm, rel=1e-6, abs=1e-9)


@pytest.mark.parametrize("readings", [[], [AtCurrent(5, 1)], [AtCurrent(5, 1), AtCurrent(4.9, 1)]])
def test_one_current_has_no_slope(readings: list[AtCurrent]) -> None:
    with pytest.raises(ValueError, match="different currents"):
        loop_ohm(readings)


@given(st.floats(1e4, 77.5e9))
def test_the_slowest_link_carries_it_and_no_slower_one_does(payload_bps: float) -> None:
    link = slowest_usb_link(payload_bps)
    assert link is not None
    assert link.bulk_ceiling_bps >= payload_bps
    assert all(each.bulk_ceiling_bps < payload_bps for each in LINKS if each.rate_bps < link.rate_bps)


@pytest.mark.parametrize(("mode", "depth", "chroma", "mcsc"), VECTORS["character rates"])
def test_characters_of_hdmi(mode: str, depth: int, chroma: str, mcsc: float) -> None:
    timing = cta_timing(parse_mode(mode))
    assert timing is not None
    colour = next(each for each in Chroma if each.words == chroma)
    with_clock, fixed = HDMI_CHARACTER_RATE_LINKS[2], HDMI_FIXED_RATE_LINKS[0]
    assert with_clock.character_rate_hz(timing.pixel_clock_hz, colour, depth) == pytest.approx(mcsc * 1e6)
    assert fixed.character_rate_hz(timing.pixel_clock_hz, colour, depth) is None


@pytest.mark.parametrize(("typed", "mode"), VECTORS["modes by name"])
def test_modes_by_the_names_on_boxes(typed: str, mode: str | None) -> None:
    if mode is None:
        with pytest.raises(QuantityError, match="3840x2160@60"):
            parse_mode(typed)
    else:
        assert str(parse_mode(typed)) == mode


def test_copper_is_not_asked_outside_what_it_is_known_for() -> None:
    for ask in (lambda: wire_ohm(4, 1.0), lambda: wire_ohm(24, 1.0, 400.0), lambda: steps_of_source(300.0)):
        with pytest.raises(ValueError, match=r"outside|no wire"):
            ask()


@pytest.mark.parametrize(("rate", "mtu", "stamps", "ipv6", "vlan", "goodput"), VECTORS["tcp"])
def test_tcp_over_each_kind_of_frame(
    rate: float, mtu: int, stamps: bool, ipv6: bool, vlan: bool, goodput: float
) -> None:
    assert tcp_ceiling_bps(rate, mtu, time_stamps=stamps, ipv6=ipv6, vlan=vlan) == pytest.approx(goodput, rel=1e-6)


def test_frames() -> None:
    assert (frame_bytes(1500), frame_bytes(1500, vlan=True), frame_bytes(9000)) == (1518, 1522, 9018)


@pytest.mark.parametrize(("category", "length", "rate", "will_do"), VECTORS["cable reach"])
def test_network_cables_by_standard(category: str, length: float, rate: float, will_do: bool) -> None:
    answer = cable_for(category, length, rate)
    assert answer.will_do is will_do
    assert category in answer.why


def test_the_lowest_category_that_will_do() -> None:
    assert [least_category(50, rate) for rate in (1e9, 5e9, 10e9)] == ["5", "5e", "6"]
    assert least_category(120, 1e9) is None


@pytest.mark.parametrize(("watts", "steps"), VECTORS["source steps"])
def test_what_a_source_of_so_many_watts_must_offer(watts: float, steps: list[list[float]]) -> None:
    assert [[each.volts, each.amperes] for each in steps_of_source(watts)] == steps


def test_what_a_cable_allows() -> None:
    assert [cable_allows(*each).watts for each in ((None, None), (20.0, 5.0), (50.0, 5.0), (50.0, 3.0))] == [
        60.0, 100.0, 240.0, 60.0,
    ]  # fmt: skip
    assert [cable_needed(watts) for watts in (60, 100, 140)] == [
        "any C to C cable", "a cable marked 5 A", "a cable marked 50 V 5 A",
    ]  # fmt: skip
    with pytest.raises(ValueError, match="more than any"):
        cable_needed(300)


def test_a_chain_is_as_wide_as_its_narrowest_part_and_names_it() -> None:
    chain = chain_of([Stage("socket", 9.7e9), Stage("hub", 4e9), Stage("drive", 8.4e9), Stage("lead", 4e9)])
    assert chain.ceiling_bps == 4e9
    assert [stage.name for stage in chain.limiting] == ["hub", "lead"]


@pytest.mark.parametrize("name", ["", "hdmi", "usb-c", "displayport 99", "usb 9"])
def test_what_is_no_link_is_refused_with_what_to_write(name: str) -> None:
    with pytest.raises(QuantityError, match="Write"):
        find_way(name)


@given(MODES, st.sampled_from(["5.4", "8.1", "13.5"]), st.floats(1e8, 9e9))
def test_fast_data_beside_a_picture_leaves_it_two_lanes(mode: Mode, lane: str, data_bps: float) -> None:
    way = find_way(f"usb-c {lane} + gen 2x1")
    alone, beside = carries(way, [Picture(mode)]), carries(way, [Picture(mode)], data_bps)
    worse = [Answer.YES, Answer.ONLY_WITH, Answer.NO]
    assert worse.index(beside.answer) >= worse.index(alone.answer)
    if beside.answer is not Answer.NO and data_bps > 480e6:
        assert "two lanes" in beside.sum[0]


@given(st.lists(MODES, min_size=1, max_size=3))
def test_a_tunnel_shares_one_budget_between_pictures_and_data(modes: list[Mode]) -> None:
    way = find_way("USB4 40 Gb/s")
    pictures = [Picture(mode) for mode in modes]
    answer = carries(way, pictures)
    if answer.answer is not Answer.NO:
        assert answer.takes_bps <= 0.9 * 40e9
        assert carries(way, pictures, 40e9).answer is Answer.NO


@given(st.integers(10, 40), st.floats(0.05, 20), st.floats(0.1, 5))
def test_thicker_shorter_or_less_current_never_drops_more(gauge: int, length_m: float, amperes: float) -> None:
    drop = drop_in(gauge, length_m, amperes).volts
    assert drop_in(gauge, length_m / 2, amperes).volts <= drop
    assert drop_in(gauge, length_m, amperes / 2).volts <= drop
    if gauge > 10:
        assert drop_in(gauge - 1, length_m, amperes).volts < drop
