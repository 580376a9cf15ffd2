"""Numbers with units in the spellings of sellers, how firmly they are promised, and modes of pixels and hertz."""

from __future__ import annotations

import pytest

from auditra.core.advert.figures import Figure, figures
from auditra.core.advert.units import Dim


def of(text: str, dim: Dim) -> list[Figure]:
    return [figure for figure in figures(text) if figure.dim is dim]


@pytest.mark.parametrize(
    ("text", "rates"),
    [
        ("5Gbps", ["5 Gb/s"]),
        ("5 Gbit/s", ["5 Gb/s"]),
        ("480 Mb/s", ["480 Mb/s"]),
        ("10G", ["10 Gb/s"]),
        ("2,5 Gb/s", ["2.5 Gb/s"]),
        ("2.5GbE", ["2.5 Gb/s"]),
        ("5 gigabits per second", ["5 Gb/s"]),
        ("104 MB/s", []),
        ("62 g", []),
    ],
)
def test_rates(text: str, rates: list[str]) -> None:
    assert [figure.text for figure in of(text, Dim.RATE)] == rates


@pytest.mark.parametrize(
    ("text", "modes"),
    [
        ("4K@60Hz", ["3840x2160@60"]),
        ("4K 60", ["3840x2160@60"]),
        ("4K60.", ["3840x2160@60"]),
        ("UHD at 30 Hz", ["3840x2160@30"]),
        ("3840x2160/60", ["3840x2160@60"]),
        ("60 Hz at 3840 x 2160", ["3840x2160@60"]),
        ("2560 x 1440 @ 144 Hz", ["2560x1440@144"]),
        ("1080p 60Hz", ["1920x1080@60"]),
        ("8K 60Hz, 4K 120Hz", ["7680x4320@60", "3840x2160@120"]),
        ("3840 x 2160 at 60 Hz, with the network 30 Hz", ["3840x2160@60", "3840x2160@30"]),
        ("4K", []),
        ("120 x 55 x 16 mm", []),
        ("4K, 60 W", []),
    ],
)
def test_modes(text: str, modes: list[str]) -> None:
    assert [figure.text for figure in of(text, Dim.MODE)] == modes


@pytest.mark.parametrize(
    ("text", "dim", "wanted"),
    [
        ("100W", Dim.WATTS, ["100 W"]),
        ("22,5 W", Dim.WATTS, ["22.5 W"]),
        ("sixty", Dim.WATTS, []),
        ("900 mA", Dim.AMPERES, ["0.9 A"]),
        ("Cat 6A", Dim.AMPERES, []),
        ("104MB/s", Dim.BYTE_RATE, ["104 MB/s"]),
        ("104 Mb/s", Dim.BYTE_RATE, []),
        ("UHS-II", Dim.BUS, ["UHS-II"]),
        ("15 cm", Dim.LENGTH, ["15 cm"]),
        ("1,5 m", Dim.LENGTH, ["1.5 m"]),
        ("95 g", Dim.MASS, ["95 g"]),
        ("11 x 4.5 x 1.2 cm", Dim.BOX, ["11 x 4.5 x 1.2 cm"]),
        ("2 TB", Dim.BYTES, ["2 TB"]),
        ("7-in-1", Dim.IN_ONE, ["7"]),
        ("four in one", Dim.IN_ONE, ["4"]),
        ("189 EUR", Dim.MONEY, ["189 EUR"]),
        ("2026-02-20", Dim.DAY, ["2026-02-20"]),
    ],
)
def test_other_figures(text: str, dim: Dim, wanted: list[str]) -> None:
    assert [figure.text for figure in of(text, dim)] == wanted


@pytest.mark.parametrize(
    ("text", "hedge"),
    [
        ("up to 100 W", "up to"), ("100 W max", "up to"), ("max. 100 W", "up to"), ("jusqu'à 100 W", "up to"),
        ("100 W or less", "up to"), ("at least 100 W", "at least"), ("100 W or more", "at least"),
        ("roughly 100 W", "about"), ("100 W", ""), ("max resolution, and 100 W", ""),
    ],
)  # fmt: skip
def test_how_firmly_it_is_promised_stands_before_or_behind(text: str, hedge: str) -> None:
    (figure,) = of(text, Dim.WATTS)
    assert figure.hedge == hedge


@pytest.mark.parametrize("text", ["not 60 W", "instead of 60 W", "faster than 60 W"])
def test_what_is_denied_or_compared_with_is_known(text: str) -> None:
    assert of(text, Dim.WATTS)[0].negated


def test_each_behind_a_figure_is_known() -> None:
    assert [figure.each for figure in of("4.5 W each, 60 W in total", Dim.WATTS)] == [True, False]


@pytest.mark.parametrize(
    ("text", "dim", "wanted"),
    [
        ("3840 x 2160 at 60 frames a second", Dim.MODE, ["3840x2160@60"]),
        ("3840 by 2160 pixels 60 times per second", Dim.MODE, ["3840x2160@60"]),
        ("3,840 x 2,160 at 60 Hz", Dim.MODE, ["3840x2160@60"]),
        ("RJ45 Gigabit", Dim.RATE, ["1 Gb/s"]),
        ("NET: 108 G", Dim.RATE, []),
        ("NET: 108 G", Dim.MASS, ["108 g"]),
        ("3 A-type sockets", Dim.AMPERES, []),
        ("2 in 1 out", Dim.IN_ONE, []),
    ],
)
def test_figures_that_look_like_others(text: str, dim: Dim, wanted: list[str]) -> None:
    assert [figure.text for figure in of(text, dim)] == wanted


@pytest.mark.parametrize(
    ("text", "negated"),
    [
        ("5 A won't be offered", True), ("5 A less than the charger gives", True), ("no hotter than 5 A", False),
        ("never more than 5 A", False), ("5 A is not a problem", False),
    ],
)  # fmt: skip
def test_what_is_denied_behind_a_figure_and_what_is_a_limit(text: str, negated: bool) -> None:
    assert of(text, Dim.AMPERES)[0].negated is negated
