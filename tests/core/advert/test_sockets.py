"""Which sockets a text names, how many, and which numbers they get."""

from __future__ import annotations

import pytest

from auditra.core.advert.sockets import MAX_SOCKETS, Numbers, Socket, sockets


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
