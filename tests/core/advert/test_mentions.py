"""The tables of the reader: what each pattern finds in a phrase, and what it leaves alone."""

from __future__ import annotations

import pytest

from auditra.core.advert.mentions import Mention, What, count_of, mentions, plain


def found(text: str, *whats: What) -> list[Mention]:
    return [each for each in mentions(plain(text)) if each.what in whats]


def values(text: str, what: What) -> list[str]:
    return [each.value for each in found(text, what)]


@pytest.mark.parametrize(
    ("text", "connectors"),
    [
        ("2 x USB-A and one USB-C", ["usb-a", "usb-c"]),
        ("Type-A sockets", ["usb-a"]),
        ("USB Type C port", ["usb-c"]),
        ("USB-C hub with HDMI", ["hdmi"]),
        ("USB-C to HDMI adapter", ["hdmi"]),
        ("HDMI cable", []),
        ("SD and microSD", ["sd", "microsd"]),
        ("TF slot", ["microsd"]),
        ("DP 1.4, VGA", ["displayport", "vga"]),
        ("RJ45, LAN, Ethernet", ["rj45", "rj45", "rj45"]),
        ("3.5 mm audio jack", ["3.5 mm"]),
        ("C1 and A2", ["usb-c", "usb-a"]),
        ("vitamin c1 and a2", []),
        ("DC plug", []),
    ],
)
def test_connectors(text: str, connectors: list[str]) -> None:
    assert values(text, What.SOCKET) == connectors


@pytest.mark.parametrize(
    ("text", "rates"),
    [
        ("5Gbps", ["5 Gb/s"]),
        ("5 Gbit/s", ["5 Gb/s"]),
        ("480 Mb/s", ["480 Mb/s"]),
        ("10G", ["10 Gb/s"]),
        ("10g", []),
        ("2,5 Gb/s", ["2.5 Gb/s"]),
        ("2.5GbE", ["2.5 Gb/s"]),
        ("Gigabit", ["1 Gb/s"]),
        ("10/100/1000", ["1 Gb/s"]),
        ("RJ45 gigabit", ["1 Gb/s"]),
        ("USB 3.2 Gen 2x2", ["USB 3.2 Gen 2x2"]),
        ("104 MB/s", []),
        ("62 g", []),
    ],
)
def test_rates(text: str, rates: list[str]) -> None:
    assert values(text, What.RATE) == rates


@pytest.mark.parametrize(
    ("text", "modes"),
    [
        ("4K@60Hz", ["3840x2160@60"]),
        ("4K 60", ["3840x2160@60"]),
        ("4K60", ["3840x2160@60"]),
        ("UHD at 30 Hz", ["3840x2160@30"]),
        ("3840×2160/60", ["3840x2160@60"]),
        ("2560 x 1440 @ 144 Hz", ["2560x1440@144"]),
        ("1080p 60Hz", ["1920x1080@60"]),
        ("8K 60Hz, 4K 120Hz", ["7680x4320@60", "3840x2160@120"]),
        ("4K HDMI (30Hz)", ["3840x2160@30"]),
        ("4K", []),
        ("120 x 55 x 16 mm", []),
    ],
)
def test_modes(text: str, modes: list[str]) -> None:
    assert values(text, What.MODE) == modes


@pytest.mark.parametrize(
    ("text", "what", "wanted"),
    [
        ("100W", What.WATTS, ["100"]),
        ("22,5 W", What.WATTS, ["22.5"]),
        ("20V/5A", What.VOLTS_AMPERES, ["100"]),
        ("5-20V/5A", What.VOLTS_AMPERES, ["100"]),
        ("9 V 3 A", What.VOLTS_AMPERES, ["27"]),
        ("900 mA", What.AMPERES, ["0.9"]),
        ("Cat 6A", What.AMPERES, []),
        ("104MB/s", What.BYTE_RATE, ["104"]),
        ("104 Mb/s", What.BYTE_RATE, []),
        ("UHS-II", What.BUS, ["UHS-II"]),
        ("UHS 3", What.BUS, ["UHS-III"]),
        ("15 cm", What.LENGTH, ["15 cm"]),
        ("1,5 m", What.LENGTH, ["1.5 m"]),
        ("3.5 mm jack", What.LENGTH, []),
        ("95 g", What.MASS, ["95 g"]),
        ("11 x 4.5 x 1.2 cm", What.SIZE, ["11 x 4.5 x 1.2 cm"]),
        ("45 °C", What.CELSIUS, ["45"]),
        ("2 TB", What.BYTES, ["2 TB"]),
        ("9000 bytes", What.BYTES, ["9000 B"]),
        ("300 ohm", What.OHM, ["300"]),
        ("2 seconds", What.SECONDS, ["2"]),
        ("10-bit", What.DEPTH, ["10"]),
        ("4:2:0", What.CHROMA, ["4:2:0"]),
        ("189 EUR (2026-02-20)", What.PRICE, ["189 EUR at 2026-02-20"]),
    ],
)
def test_other_figures(text: str, what: What, wanted: list[str]) -> None:
    assert values(text, what) == wanted


@pytest.mark.parametrize(
    ("text", "hedged"),
    [("up to 100 W", True), ("100 W max", True), ("max. 100 W", True), ("jusqu'à 100 W", True), ("100 W", False)],
)
def test_up_to_stands_before_or_behind(text: str, hedged: bool) -> None:
    (figure,) = found(text, What.WATTS)
    assert figure.hedged is hedged


@pytest.mark.parametrize(
    ("text", "word"),
    [
        ("power only", "no data"), ("no video", "no video"), ("driver-free", "without driver"),
        ("Aluminiumgehaeuse", "aluminium"), ("E-marker", "marked"), ("PD 100 W", "input"), ("your laptop", "host"),
        ("each", "each"), ("in total", "total"), ("jumbo frames", "frames"), ("plug and play", "without driver"),
    ],
)  # fmt: skip
def test_words_that_mean_something(text: str, word: str) -> None:
    assert word in values(text, What.WORD)


def test_signs_that_stand_for_others_keep_every_place() -> None:
    text = "４K×６０\u00a0–\u202fHz″"
    assert plain(text) == '4Kx60 - Hz"'
    assert len(plain(text)) == len(text)


def test_counts_in_words_of_several_languages() -> None:
    assert [count_of(each) for each in ("two", "Four", "trois", "vier", "7", "dual")] == [2, 4, 3, 4, 7, 2]
