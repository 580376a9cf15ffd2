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


@pytest.mark.parametrize("thing", ["repeater", "booster", "amplifier"])
@pytest.mark.parametrize("without", ["without", "without it"])
def test_what_a_thing_does_is_no_promise_for_when_it_is_away(thing: str, without: str) -> None:
    text = f"Extension, A to A. A socket: 5 Gb/s with the {thing} powered, 480 Mb/s {without}."
    assert claims(text) == [f"A1 data 5 Gb/s with {thing} powered", f"A1 data 480 Mb/s with no {thing}"]


def test_a_charger_that_is_away_is_a_supply_that_is_away() -> None:
    text = "Hub. With a charger: each A socket 7.5 W; without one: 4.5 W."
    assert claims(text) == ["A1 gives 7.5 W with charger", "A1 gives 4.5 W without supply"]


@pytest.mark.parametrize("last", ["3 and 4", "3, 4", "3 to 4"])
def test_numbers_alone_are_of_the_sockets_that_were_numbered(last: str) -> None:
    told = claims(f"Hub. A sockets 1 and 2 charge at 12 W; {last} give 4.5 W.")
    assert told == ["A1 gives 12 W", "A2 gives 12 W", "A3 gives 4.5 W", "A4 gives 4.5 W"]


@pytest.mark.parametrize("colour", ["black", "white", "rear"])
def test_the_ones_are_of_the_class_that_was_named_last(colour: str) -> None:
    told = claims(
        f"Dock. Drives go into the two blue USB-A sockets (10 Gb/s), a mouse into the two {colour} ones (480 Mb/s)."
    )
    assert told == [f"A{n} data {'10 Gb/s' if n < 3 else '480 Mb/s'}" for n in (1, 2, 3, 4)]


@pytest.mark.parametrize("number", [2, 3, 4, 7])
def test_how_many_there_are_may_be_said_last(number: int) -> None:
    told = claims(f"Output of each USB-A: 5 V, 1.5 A. A hub with {number} USB-A.")
    assert told == [f"A{n} feeds 1.5 A" for n in range(1, number + 1)]
