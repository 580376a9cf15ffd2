"""What bytes of a description mean by its version, and what it says only where it says it."""

from __future__ import annotations

import pytest

from auditra.core.decode.display.comparison import compare_displays
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.problem import Code
from auditra.core.simulate import display_description as made

UHD = made.detailed(3840, 2160, 594_000, 560, 90)
NAME = made.text(0xFC, "projector")


def changed(block: bytes, **places: int) -> bytes:
    """A block with bytes changed, by their places as `at_17=34`, and adding up again."""
    data = bytearray(block)
    for place, value in places.items():
        data[int(place.removeprefix("at_"))] = value
    return made.closed(bytes(data))


def of(block: bytes, *extensions: bytes) -> Edid:
    return decode_edid(block + b"".join(extensions))


def codes(edid: Edid) -> list[Code]:
    return [each.code for each in edid.problems]


OLD = {"at_19": 3, "at_20": 0x80}
"""The same base block as of version 1.3."""


@pytest.mark.parametrize(
    ("places", "preferred", "native"),
    [
        ({}, True, True), ({"at_24": 0x04}, True, False), ({**OLD}, True, False), ({**OLD, "at_24": 0}, True, False),
        ({**OLD, "at_19": 2}, True, False), ({**OLD, "at_19": 2, "at_24": 0}, False, False),
    ],
)  # fmt: skip
def test_the_first_detailed_timing_is_preferred_and_native_by_version_and_bit(
    places: dict[str, int], preferred: bool, native: bool
) -> None:
    found = of(changed(made.base(UHD, NAME), **places))
    assert ((found.preferred is not None), bool(found.native)) == (preferred, native)


def test_without_a_detailed_timing_nothing_is_preferred_or_native() -> None:
    found = of(made.base(NAME, established=b"\x21\x08\x00"))
    assert (found.preferred, found.native) == (None, ())
    assert len(found.modes) == 3
    second = of(made.base(NAME, UHD))
    assert (second.preferred, second.native, len(second.modes)) == (None, (), 1)


def test_as_many_detailed_timings_are_native_as_the_extension_counts() -> None:
    more = made.cta(made.video(16), timings=[made.detailed(1920, 1080, 148_500, 280, 45)], native=2)
    plain = changed(made.base(UHD, NAME, extensions=1), at_24=0x04)
    assert [each.name for each in of(plain, more).native] == ["3840x2160@60", "1920x1080@60"]
    assert [each.name for each in of(plain, made.cta(made.video(0x90, 4), native=0)).native] == ["1920x1080@60"]


@pytest.mark.parametrize(
    ("week", "revision", "year", "model_year"), [(12, 4, 2026, None), (255, 4, None, 2026), (255, 3, 2026, None)]
)
def test_a_year_is_of_making_or_of_the_model(
    week: int, revision: int, year: int | None, model_year: int | None
) -> None:
    found = of(changed(made.base(UHD), at_16=week, at_19=revision))
    assert (found.year, found.model_year) == (year, model_year)
    assert (Code.RESERVED in codes(found)) == (week == 255 and revision == 3)


@pytest.mark.parametrize(
    ("revision", "offsets", "most_hz", "most_khz", "flagged"),
    [(4, 0x0A, 480, 300, False), (3, 0x0A, 225, 45, True), (4, 0, 225, 45, False), (4, 0x01, 225, 45, True)],
)
def test_offsets_of_ranges_are_known_since_1_4(
    revision: int, offsets: int, most_hz: int, most_khz: int, flagged: bool
) -> None:
    told = bytearray(made.ranges(48, 225, 30, 45, 600))
    told[4] = offsets
    found = of(changed(made.base(UHD, bytes(told)), at_19=revision))
    assert found.ranges is not None
    assert (found.ranges.most_hz, found.ranges.most_khz) == (most_hz, most_khz)
    assert (Code.RESERVED in codes(found)) == flagged


@pytest.mark.parametrize("version", [0, 2, 255])
def test_another_version_is_told_and_nothing_of_it_is_read(version: int) -> None:
    found = of(changed(made.base(UHD, NAME), at_18=version))
    assert (found.is_readable, found.modes, found.name, codes(found)) == (False, (), "", [Code.RESERVED])


def test_version_2_is_no_displayid_though_both_begin_alike() -> None:
    two = bytes((0x20, 0x40)) + bytes(range(253))
    two += bytes((-sum(two) % 256,))
    found = decode_edid(two)
    assert (found.is_readable, found.version, codes(found)) == (False, "", [Code.RESERVED])


@pytest.mark.parametrize(
    ("features", "flags", "formats"),
    [
        (0x06, None, ("RGB",)), (0x0E, None, ("RGB", "YCbCr 4:4:4")),
        (0x1E, None, ("RGB", "YCbCr 4:4:4", "YCbCr 4:2:2")),
        (0x06, 0x10, ("RGB", "YCbCr 4:2:2")),
    ],
)  # fmt: skip
def test_forms_of_colour(features: int, flags: int | None, formats: tuple[str, ...]) -> None:
    base = changed(made.base(UHD, extensions=flags is not None), at_24=features)
    more = () if flags is None else (made.cta(made.video(16), traits=flags, native=0),)
    assert of(base, *more).colour_formats == formats


@pytest.mark.parametrize(("depth", "depths"), [(0x95, (6,)), (0xA5, (8,)), (0xB5, (8, 10)), (0x85, (8,)), (0x05, ())])
def test_depths_as_far_as_they_are_told(depth: int, depths: tuple[int, ...]) -> None:
    """An analogue display says none."""
    assert of(changed(made.base(UHD), at_20=depth)).depths_bits == depths


def test_deep_colour_of_444_and_a_makers_own_range_of_refresh() -> None:
    deep = bytearray(made.hdmi(deep=(10,)))
    deep[6] |= 1 << 3
    own = made.block_of(3, bytes.fromhex("1a0000") + bytes((1, 1, 48, 144, 0)))
    found = of(made.base(UHD, extensions=1), made.cta(bytes(deep), own))
    assert found.cta[0].hdmi is not None
    assert found.cta[0].hdmi.deep_ycbcr_444
    assert found.adaptive == (48, 144)
    senseless = made.block_of(3, bytes.fromhex("1a0000") + bytes((1, 1, 144, 48, 0)))
    assert of(made.base(UHD, extensions=1), made.cta(senseless)).adaptive is None


def test_the_map_of_420_counts_codes_that_are_kept_for_later() -> None:
    one = made.cta(made.video(96, 128, 97, 16), made.extended(15, b"\x04"))
    two = made.cta(made.video(96, 255), made.video(97), made.extended(15, b"\x04"))
    for extension in (one, two):
        modes = of(made.base(UHD, extensions=1), extension).modes
        assert [each.name for each in modes if each.chroma_420_too] == ["3840x2160@60"]


def test_rates_a_thousandth_apart_are_two_modes() -> None:
    film = made.detailed(3840, 2160, 296_700, 1660, 90)
    found = of(made.base(film, extensions=1), made.cta(made.video(93)))
    assert [each.name for each in found.modes] == ["3840x2160@24", "3840x2160@23.98"]


def test_a_size_and_rate_alone_is_the_exact_timing_nearest_to_it() -> None:
    usual = made.detailed(1920, 1200, 154_000, 160, 35)
    assert [each.name for each in of(made.base(usual, standard=b"\xd1\x00")).modes] == ["1920x1200@59.95"]
    assert [each.name for each in of(made.base(UHD, standard=b"\xd1\x00")).modes] == ["3840x2160@60", "1920x1200@60"]


def test_a_code_for_420_alone_hides_no_timing_of_full_colour() -> None:
    only = made.cta(made.extended(14, bytes((97, 96))))
    best, other = of(made.base(UHD, extensions=1), only).modes
    assert (best.chroma_420_only, best.chroma_420_too) == (False, True)
    assert (other.chroma_420_only, other.chroma_420_too) == (True, False)
    code_first = made.cta(made.extended(14, bytes((97,))), made.video(97))
    assert not of(made.base(NAME, extensions=1), code_first).modes[0].chroma_420_only


def override(count: int) -> bytes:
    return made.extended(0x78, bytes((count,)))


def test_an_override_counts_the_extensions_anew() -> None:
    blocks = (made.cta(override(2), made.video(16)), made.cta(made.video(97)))
    found = of(made.base(NAME, extensions=1), *blocks)
    assert (found.problems[1:], len(found.modes), found.cta[0].declared_extensions) == ((), 2, 2)
    assert Code.COUNT in codes(of(made.base(NAME, extensions=1), made.cta(override(2))))


def test_blocks_that_are_not_declared_come_twice_or_are_of_an_unknown_kind() -> None:
    more = made.cta(made.video(97))
    undeclared = of(made.base(NAME), more)
    assert (undeclared.modes, Code.COUNT in codes(undeclared)) == ((), True)
    twice = of(made.base(NAME, extensions=2), more, more)
    assert (len(twice.cta), Code.ORDER in codes(twice)) == (1, True)
    unknown = of(made.base(NAME, extensions=1), made.closed(b"\x55" + bytes(126)))
    assert (unknown.extension_tags, Code.RESERVED in codes(unknown)) == ((0x55,), True)


def test_blanking_that_an_adapter_wrote_anew_is_said() -> None:
    other = bytearray(UHD)
    other[8], other[9], other[17] = 100, 40, 0x1E
    direct, through = of(made.base(UHD, NAME)), of(made.base(bytes(other), NAME))
    assert direct.preferred is not None
    assert direct.preferred.blanking is not None
    assert (direct.preferred.blanking.front_porch_pixels, direct.preferred.blanking.sync_lines) == (48, 6)
    assert [each.sentence for each in compare_displays(direct, through)] == [
        "changed: 3840x2160@60: front porch 48 px and 3 lines direct, 100 px and 3 lines here",
        "changed: 3840x2160@60: sync pulse 32 px and 6 lines direct, 40 px and 6 lines here",
        "changed: 3840x2160@60: sync polarity +h -v direct, +h +v here",
    ]
