"""Displays' descriptions: every mode with its exact rate, what else is told, and what is wrong with it."""

from __future__ import annotations

import time
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.display.comparison import DAMAGED, compare_displays
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.display.timing import Source
from auditra.core.decode.display.video_codes import KNOWN_CODES, timing_of_code
from auditra.core.decode.problem import Code
from auditra.core.links.display import Mode
from auditra.core.links.timings import cta_timing
from auditra.core.simulate import display_description as made
from tests.support.vectors import vectors

UHD = made.detailed(3840, 2160, 594_000, 560, 90)
BASE = made.base(UHD, made.text(0xFC, "projector"), made.ranges(24, 75, 15, 160, 600), extensions=1, depth=10)
RICH = made.cta(
    made.video(97, 96, 95, 16, 31, 5, 4), made.block_of(1, bytes((0x09, 0x07, 0x07))), made.block_of(4, b"\x01\0\0"),
    made.hdmi(most_mhz=300, codes=(1, 3)),
    made.hdmi_forum(most_mhz=600, fixed=6, vrr=(48, 120), compresses=6, deep_420=3),
    made.extended(5, b"\xe0\x80"), made.hdr(), made.extended(15, b"\x03"), made.extended(13, bytes((97,))),
    timings=[made.detailed(1920, 540, 74_250, 280, 22, interlaced=True)],
)  # fmt: skip
WHOLE = BASE + RICH


def codes(data: bytes) -> list[Code]:
    return [each.code for each in decode_edid(data).problems]


def test_a_display_with_everything() -> None:
    found = decode_edid(WHOLE)
    assert (found.version, found.maker, found.name, found.interface, found.depth_bits) == (
        "1.4", "ATD", "projector", "DisplayPort", 10,
    )  # fmt: skip
    assert found.problems == ()
    assert (found.year, found.width_cm, found.height_cm) == (2026, 60, 34)
    assert found.ranges is not None
    assert (found.ranges.least_hz, found.ranges.most_hz, found.ranges.most_pixel_clock_khz) == (24, 75, 600_000)
    assert found.preferred is not None
    assert (found.preferred.name, found.preferred.pixel_clock_khz) == ("3840x2160@60", 594_000)
    assert found.native[0].name == "3840x2160@60"
    assert found.hdr
    assert found.adaptive == (48, 120)
    assert found.depths_bits == (8, 10, 12)


def test_every_mode_stands_once_with_where_it_came_from() -> None:
    found = decode_edid(WHOLE)
    names = [each.name for each in found.modes]
    assert names[:3] == ["3840x2160@60", "3840x2160@50", "3840x2160@30"]
    assert len(set(names)) == len(names)
    assert "1920x1080i@60" in names
    by_name = {each.name: each for each in found.modes}
    assert by_name["3840x2160@24"].source is Source.HDMI_CODE
    assert by_name["3840x2160@60"].chroma_420_too
    assert by_name["3840x2160@50"].chroma_420_too
    assert not by_name["3840x2160@30"].chroma_420_too


def test_what_hdmi_says_of_itself() -> None:
    (extension,) = decode_edid(WHOLE).cta
    assert extension.hdmi is not None
    assert (extension.hdmi.physical_address, extension.hdmi.most_tmds_khz) == ("1.0.0.0", 300_000)
    forum = extension.hdmi_forum
    assert forum is not None
    assert (forum.most_character_khz, forum.fixed_rate_lanes, forum.fixed_rate_mbps_a_lane) == (600_000, 4, 12_000)
    assert (forum.compresses, forum.depths_420_bits, forum.control_channel) == (True, (10, 12), True)
    assert extension.colorimetries == ("BT.2020 cYCC", "BT.2020 YCC", "BT.2020 RGB", "DCI-P3")
    assert extension.hdr is not None
    assert extension.hdr.transfer_functions == ("SDR", "SMPTE ST 2084")
    assert extension.hdr.most_cd_m2 == pytest.approx(50 * 2 ** (138 / 32), abs=0.01)
    assert [(each.name, each.channels, each.rates_hz) for each in extension.audio] == [
        ("LPCM", 2, (32_000, 44_100, 48_000))
    ]  # fmt: skip
    assert extension.speakers == ("front left and right",)
    assert extension.preferred_codes == (97,)


@pytest.mark.parametrize("vector", vectors("display_timings")["codes"], ids=lambda vector: f"code {vector[0]}")
def test_video_codes(vector: list[Any]) -> None:
    code, name, clock = vector
    timing = timing_of_code(code)
    assert timing is not None
    assert (timing.name, timing.pixel_clock_khz) == (name, clock)


def test_every_code_gives_one_of_the_rates_that_there_are() -> None:
    for code in sorted(KNOWN_CODES):
        timing = timing_of_code(code)
        assert timing is not None
        rate = timing.refresh_millihz / 1000
        nearest = min((24, 25, 30, 48, 50, 60, 100, 120, 200, 240), key=lambda hz: abs(hz - rate))
        assert rate == pytest.approx(nearest, rel=0.0035), code
    assert set(range(1, 128)) | set(range(193, 220)) == KNOWN_CODES


def test_video_codes_and_the_links_of_the_calculator_agree() -> None:
    agreed = 0
    for code in KNOWN_CODES:
        timing = timing_of_code(code)
        assert timing is not None
        listed = cta_timing(Mode(timing.width, timing.height, round(timing.refresh_millihz / 1000)))
        if listed is None or timing.interlaced or timing.width == 640:
            continue
        assert timing.pixel_clock_khz == listed.pixel_clock_hz / 1000, timing.name
        agreed += 1
    assert agreed >= 25


def test_the_old_ways_of_naming_a_mode() -> None:
    old = made.base(UHD, established=b"\x20\x08\x80", standard=bytes((0xD1, 0xC0, 0x81, 0x80, 0x61, 0x40)))
    names = {each.name for each in decode_edid(old).timings}
    assert {"640x480@59.94", "1024x768@60", "1152x870@75.06", "1920x1080@60", "1280x1024@60"} <= names
    three = made.base(UHD, bytes((0, 0, 0, 0xF8, 0, 1)) + bytes.fromhex("1b2108000000000000000000"))
    assert "1440x900@60" in {each.name for each in decode_edid(three).timings} or decode_edid(three).timings
    many = made.base(UHD, bytes((0, 0, 0, 0xF7, 0, 10)) + bytes.fromhex("000000000200") + bytes(6))
    assert "1920x1200@60" in {each.name for each in decode_edid(many).timings}


def test_ranges_beyond_a_byte() -> None:
    fast = decode_edid(made.base(UHD, made.ranges(48, 480, 30, 300, 2000))).ranges
    assert fast is not None
    assert (fast.most_hz, fast.most_khz) == (480, 300)


def test_displayid_inside_and_by_itself() -> None:
    blocks = (
        made.displayid_block(0x22, made.type_7(2560, 1440, 586_590, 160, 87)),
        made.displayid_block(0x25, bytes((0, 0, 0, 0xFF, 0xFF, 0x08, 48, 144, 0x80))),
        made.displayid_block(0x26, bytes((0x06, 0x06, 0x01, 0x01, 0))),
        made.displayid_block(0x23, bytes((97, 16)), revision=0x40),
    )
    inside = made.base(UHD, extensions=1) + made.displayid(*blocks)
    found = decode_edid(inside)
    assert found.problems == ()
    assert found.adaptive == (48, 144)
    assert found.preferred is not None
    assert (found.preferred.name, found.preferred.pixel_clock_khz) == ("2560x1440@141.2", 586_590)
    assert found.displayid[0].interface is not None
    assert found.displayid[0].interface.rgb_bits == (8, 10)
    alone = decode_edid(made.displayid(*blocks)[1:])
    assert alone.version == "DisplayID 2.0"
    assert [each.name for each in alone.timings] == ["2560x1440@141.2", "3840x2160@60", "1920x1080@60"]


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", Code.SHORT), (WHOLE[:60], Code.SHORT), (BASE, Code.COUNT), (WHOLE + bytes(128), Code.COUNT),
        (bytes(128), Code.ORDER), (BASE[:127] + bytes((BASE[127] ^ 1,)) + RICH, Code.CHECKSUM),
        (BASE + RICH[:127] + b"\0", Code.CHECKSUM), (WHOLE[:200], Code.SHORT),
        (BASE + made.closed(bytes((2, 3, 200, 0))), Code.LENGTH),
        (BASE + made.closed(bytes((2, 3, 10, 0, 0x5F, 1))), Code.SHORT),
        (BASE + made.cta(made.video(192, 255)), Code.RESERVED),
        (made.base(extensions=0), Code.CONTRADICTION),
        (made.base(UHD, made.ranges(90, 60, 15, 80, 300)), Code.CONTRADICTION),
        (BASE + made.displayid(made.displayid_block(0x22, b"")[:2] + b"\xff"), Code.SHORT),
        (WHOLE * 200, Code.LONG),
    ],
)  # fmt: skip
def test_what_is_wrong_is_told_and_never_fatal(data: bytes, code: Code) -> None:
    assert code in codes(data)


def test_names_with_escape_codes_do_nothing() -> None:
    found = decode_edid(made.base(UHD, made.text(0xFC, "\x1b[2Jred")))
    assert "\x1b" not in found.name


def test_two_hundred_and_fifty_six_blocks_take_no_time() -> None:
    whole = made.base(UHD, extensions=255) + RICH * 255
    begun = time.process_time()
    found = decode_edid(whole)
    assert time.process_time() - begun < 1.0
    assert len(found.cta) == 1  # the same block counts once


def through(**changes: object) -> Edid:
    """The same display as an adapter passes it on."""
    poor = made.base(UHD, made.text(0xFC, "projector"), made.ranges(24, 75, 15, 160, 600), extensions=1) + made.cta(
        made.video(95, 16, 31, 5, 4), made.hdmi(most_mhz=300, deep=()), made.block_of(1, bytes((0x09, 0x07, 0x07)))
    )  # fmt: skip
    return replace(decode_edid(poor), **changes)  # type: ignore[arg-type]


def test_what_an_adapter_took_away_is_said() -> None:
    told = [each.sentence for each in compare_displays(decode_edid(WHOLE), through())]
    assert "taken away: depth 10 bit, 12 bit" in told
    assert "taken away: hdr SDR, SMPTE ST 2084" in told
    assert "taken away: variable refresh, 48 to 120 Hz" in told
    assert "taken away: chroma 4:2:0" in told
    assert any(line.startswith("taken away: modes 3840x2160@50") for line in told)
    assert "changed: fixed-rate link (Mb/s) 48000 to unknown" in told


def test_what_an_adapter_added_or_changed_is_said() -> None:
    told = [each.sentence for each in compare_displays(through(), decode_edid(WHOLE))]
    assert "added: depth 10 bit, 12 bit" in told
    assert any(line.startswith("added: modes") for line in told)
    renamed = compare_displays(through(), through(name="another"))
    assert [each.sentence for each in renamed] == ["changed: name projector to another"]


def test_a_display_and_itself_differ_in_nothing() -> None:
    assert compare_displays(decode_edid(WHOLE), decode_edid(WHOLE)) == ()


@given(st.binary(max_size=600))
def test_any_bytes_give_a_value(data: bytes) -> None:
    found = decode_edid(data)
    assert all(each.is_possible for each in found.timings)
    assert found.modes is not None


@given(st.data())
def test_damaged_descriptions_give_what_is_left(data: st.DataObject) -> None:
    whole = bytearray(WHOLE + made.displayid(made.displayid_block(0x22, made.type_7(2560, 1440, 586_590, 160, 87))))
    for _ in range(data.draw(st.integers(1, 5))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    found = decode_edid(bytes(whole[: data.draw(st.integers(0, len(whole)))]))
    assert all(0 <= each.offset <= len(whole) for each in found.problems)
    assert found.native is not None
    assert [change.kind for change in compare_displays(found, found)] == ([] if found.is_whole else [DAMAGED])
