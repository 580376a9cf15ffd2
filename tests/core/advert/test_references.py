"""What a sentence says by pointing back to those before it, and what it says of a condition that was named."""

from __future__ import annotations

import pytest

from auditra.core.advert.reader import read_text


def claims(text: str) -> list[str]:
    return [each.sentence for each in read_text(text).proposals]


@pytest.mark.parametrize(
    ("reference", "sockets"),
    [
        ("The fourth", ["A4"]),
        ("The last one", ["A4"]),
        ("The other", ["A4"]),
        ("The rest", ["A4"]),
        ("Socket 2", ["A2"]),
        ("Sockets 2 and 4", ["A2", "A4"]),
        ("Ports 2 to 4", ["A2", "A3", "A4"]),
    ],
)
def test_sockets_are_named_by_those_before_them(reference: str, sockets: list[str]) -> None:
    text = f"Hub. Three of the four USB-A sockets run at 5 Gb/s. {reference} gives 12 W."
    assert claims(text)[3:] == [f"{port} gives 12 W" for port in sockets]


@pytest.mark.parametrize(
    "text",
    [
        "Hub. It has four USB-A sockets. The other half is style.",
        "Hub. The second gives 12 W.",
        "Hub. Four USB-A sockets. Socket 7 gives 12 W.",
    ],
)
def test_a_reference_to_nothing_names_no_socket(text: str) -> None:
    assert not any(claim.startswith(("A7", "A5", "C")) for claim in claims(text))


@pytest.mark.parametrize(
    ("before", "behind", "wanted"),
    [
        ("with a display", "else", "without display"),
        ("without a display", "otherwise", "with display"),
        ("without the network", "else", "with network"),
        ("while the network is in use", "else", "without network"),
        ("with the supply", "else", "without supply"),
        ("when used alone", "otherwise", ""),
        ("while the fan turns", "else", ""),
    ],
)
def test_an_else_is_the_opposite_of_what_was_said(before: str, behind: str, wanted: str) -> None:
    """In the same sentence, and behind a semicolon."""
    for joint in (", ", "; "):
        second = claims(f"Hub. USB-C 1: 15 W {before}{joint}{behind} 7.5 W.")[1]
        assert second == f"C1 gives 7.5 W {wanted}".rstrip()


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        (
            "Hub. It works without its power supply. Then each of two USB-A sockets feeds 0.5 A; with it, 1.5 A.",
            ["A1 feeds 0.5 A without supply", "A2 feeds 0.5 A without supply", "A1 feeds 1.5 A with supply",
             "A2 feeds 1.5 A with supply"],
        ),
        (
            "Dock. With the 90 W supply the laptop gets 60 W; with the 150 W supply, 100 W.",
            ["UP charges host 60 W with 90 W supply", "UP charges host 100 W with 150 W supply"],
        ),
        (
            "Dock. HDMI: 4K at 60 Hz; at 120 Hz on USB4 hosts.",
            ["H1 shows 3840x2160@60", "H1 shows 3840x2160@120 on USB4 hosts"],
        ),
        (
            "Hub. Two USB-A sockets, 5 Gb/s. One USB-C socket, ditto.",
            ["A1 data 5 Gb/s", "A2 data 5 Gb/s", "C1 data 5 Gb/s"],
        ),
    ],
)  # fmt: skip
def test_a_condition_a_mode_and_a_rate_go_on(text: str, wanted: list[str]) -> None:
    assert claims(text) == wanted


def test_what_was_said_of_another_line_is_not_carried_over() -> None:
    text = "Hub.\nWithout its power supply it stays dark.\n\nUSB-A 1: 0.9 A, 5 Gb/s"
    assert claims(text) == ["A1 data 5 Gb/s", "A1 feeds 0.9 A"]


def test_the_others_are_those_of_the_same_device() -> None:
    text = (
        "Kit.\nHub: three USB-A sockets. One USB-A gives 12 W.\nDock: two USB-A sockets, 5 Gb/s. The other gives 7.5 W."
    )
    assert not any(claim.startswith("dock:A3") for claim in claims(text))
