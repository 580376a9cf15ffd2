"""Which sockets a text names, how many, and which numbers they get."""

from __future__ import annotations

import pytest

from auditra.core.advert.numbering import MAX_SOCKETS, Numbers
from auditra.core.advert.sockets import Socket, sockets


def found(text: str) -> list[tuple[str, int | None]]:
    return [(socket.letter, socket.count) for socket in sockets(text) if not socket.is_plug]


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("2 x USB-A and one USB-C socket", [("A", 2), ("C", 1)]),
        ("Type-A sockets", [("A", None)]),
        ("USB Type C port", [("C", None)]),
        ("SD and microSD", [("S", None), ("M", None)]),
        ("TF slot", [("M", None)]),
        ("DP 1.4, VGA", [("D", None), ("V", None)]),
        ("Three 5 Gbps USB-A ports", [("A", 3)]),
        ("3 porte USB-A da 5 Gbps", [("A", 3)]),
        ("USB-A 4 Stück, 10 Gbit/s", [("A", 4)]),
        ("USB-A x 2 (10 Gb/s)", [("A", 2)]),
        ("2 pcs (USB-A), 10 Gb/s", [("A", 2)]),
        ("half a dozen USB-A sockets", [("A", 6)]),
        ("4 USB-A (USB 2.0, 480 Mb/s)", [("A", 4)]),
        ("both HDMI outputs", [("H", 2)]),
        ("USB-A 1, 2: 10 Gb/s", [("A", 2)]),
        ("C1 and A2", [("C", 1), ("A", 1)]),
        ("vitamin c1 and a2", []),
        ("4 HDMI leads", []),
        ("16 HDMI sockets", [("H", None)]),
    ],
)
def test_classes_and_counts(text: str, wanted: list[tuple[str, int | None]]) -> None:
    assert found(text) == wanted


@pytest.mark.parametrize("text", ["a USB-C plug", "USB-C to HDMI", "turns a USB-A socket into a network", "HDMI input"])
def test_plugs_and_sockets_of_the_host_are_no_sockets(text: str) -> None:
    assert sockets(text)[0].is_plug


def test_numbers_that_the_seller_gave_are_kept() -> None:
    assert [socket.ids for socket in sockets("A1-A3 and C2")] == [(1, 2, 3), (2,)]


def test_sockets_get_numbers_in_the_order_of_their_promises() -> None:
    numbers = Numbers()
    assert numbers.of(Socket(0, 0, "A", 2), "data") == ["A1", "A2"]
    assert numbers.of(Socket(0, 0, "A", 1), "data") == ["A3"]
    assert numbers.of(Socket(0, 0, "A"), "gives") == ["A1", "A2", "A3"]
    assert list(numbers.all_of("CA")) == ["A1", "A2", "A3"]


def test_a_part_of_counted_sockets_makes_no_new_ones() -> None:
    numbers = Numbers()
    numbers.declare("A", 3)
    assert numbers.of(Socket(0, 0, "A", 3), "data") == ["A1", "A2", "A3"]
    assert numbers.of(Socket(0, 0, "A", 1, is_part=True), "data") == []
    assert numbers.ids("A") == ["A1", "A2", "A3"]


def test_a_label_stays_with_its_sockets() -> None:
    numbers = Numbers()
    numbers.of(Socket(0, 0, "C", 1, label="left"), "data")
    assert numbers.of(Socket(0, 0, "C", 1, label="right"), "data") == ["C2"]
    assert numbers.of(Socket(0, 0, "C", 1, label="left"), "gives") == ["C1"]


def test_no_text_makes_sockets_without_end() -> None:
    numbers = Numbers()
    assert len(numbers.of(Socket(0, 0, "A", 99), "data")) == MAX_SOCKETS


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("three quick USB-A doors", [("A", 3)]),
        ("three watts USB-A", [("A", None)]),
        ("three of the four USB-A sockets", [("A", 3)]),
        ("4 sockets, all USB-A", [("A", 4)]),
        ("the two at the back are USB-A", [("A", 2)]),
        ("two at the front (USB-C and more)", [("C", None)]),
        ("every USB-A socket (there are four)", [("A", 4)]),
        ("USB-C sockets with 15 W each (two of them)", [("C", 2)]),
        ("USB-A: four sockets", [("A", 4)]),
        ("2 HDMI outputs / 2 HDMI-Ausgänge", [("H", 2)]),
        ("3 A-type sockets", [("A", 3)]),
        ("HDMI A + B", [("H", 2)]),
        ("each USB-A drive socket", [("A", None)]),
        ("USBC 5 gbps", [("C", None)]),
        ("C1, and A up to 18 W", [("C", 1), ("A", None)]),
        ("A metre of wire", []),
        ("Adapter A7 and hub C2", []),
    ],
)
def test_more_ways_to_count_and_to_name(text: str, wanted: list[tuple[str, int | None]]) -> None:
    assert found(text) == wanted


@pytest.mark.parametrize(
    "text",
    [
        "USB-C (rear, host)", "USB-C (upstream)", "USB-C to the computer", "USB-C for the laptop", "connects by USB-C",
        "USB-C power", "a USB-C lead",
    ],
)  # fmt: skip
def test_sockets_that_lead_to_the_host_or_carry_no_more_than_power_are_plugs(text: str) -> None:
    assert [socket.is_plug for socket in sockets(text)] == [True]


def test_slots_for_cards_of_other_kinds_stand_beside_those_for_plain_ones() -> None:
    numbers = Numbers()
    assert numbers.of(sockets("CFexpress slot")[0], "cards") == ["S1"]
    assert numbers.of(sockets("SD slot")[0], "cards") == ["S2"]
    assert numbers.of(sockets("CFexpress slot")[0], "reads") == ["S1"]
    assert numbers.of(sockets("SD slot")[0], "reads") == ["S2"]
    assert numbers.of(sockets("CF slot")[0], "cards") == ["S3"]


def test_what_is_at_the_front_is_not_at_the_back() -> None:
    numbers = Numbers()
    back = numbers.of(Socket(0, 0, "A", 3, label="back"), "data")
    front = numbers.of(Socket(0, 0, "A", 1, label="front"), "gives")
    assert (back, front) == (["A1", "A2", "A3"], ["A4"])
    assert numbers.of(Socket(0, 0, "A", label="front"), "data") == front
    assert numbers.of(Socket(0, 0, "A", 3, label="back"), "gives") == back


def test_a_place_takes_those_that_were_counted_before_others_are_made() -> None:
    numbers = Numbers()
    numbers.declare("A", 4)
    numbers.of(Socket(0, 0, "A", 3, label="rear"), "data")
    assert numbers.of(Socket(0, 0, "A", 1, label="front"), "gives") == ["A4"]
    assert numbers.ids("A") == ["A1", "A2", "A3", "A4"]
