"""A seller's text as it was meant: slips of scanning and typing, markup, number words, and broken lines."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.spelling import plain


@pytest.mark.parametrize(
    ("written", "meant"),
    [
        ("4-in-l hub, HDMI 4K@3OHz, l00W", "4-in-1 hub, HDMI 4K@30Hz, 100W"),
        ("Cord : l5 crn", "Cord : 15 cm"),
        ("U5B-A lO Gbps", "USB-A 10 Gbps"),
        ("only I of them", "only I of them"),
        ("four hundred and eighty megabits", "480 megabits"),
        ("sixty watts and twenty-two grams", "60 watts and 22 grams"),
        ("one hundred reasons", "one hundred reasons"),
        ("Alluminium boddy, no drviers neded", "Aluminium body, no drivers needed"),
        ("sports table, spread lengths", "sports table, spread lengths"),
        ("5 gpbs", "5 Gbps"),
        ("<b>5&nbsp;Gb/s</b><br>HDMI", "5 Gb/s\nHDMI"),
        ("a < b and 5 > 4", "a < b and 5 > 4"),
        ("2xUSB3.0 HDMI4K", "2 x USB3.0 HDMI 4K"),
        ("12 mΩ", "12 mohm"),
        ("【Charging】87 W", "\ncharging: 87 W"),
        ("【USB-C Out】15 W", "\nUSB-C Out: 15 W"),
    ],
)
def test_slips_are_corrected_and_plain_words_left_alone(written: str, meant: str) -> None:
    assert plain(written).text == meant


@pytest.mark.parametrize(
    ("lines", "joined"),
    [
        ("USB-A sockets run at 5\nGb/s", "USB-A sockets run at 5 Gb/s"),
        ("carries data and\npower", "carries data and power"),
        ("USB-A: 5 Gb/s\nHDMI: 4K", "USB-A: 5 Gb/s\nHDMI: 4K"),
        ("in,USB-C,in\nout,USB-A,5 Gb/s", "in,USB-C,in\nout,USB-A,5 Gb/s"),
        ("| A1 | 5 W |\n| A2 | 6 W |", "| A1 | 5 W |\n| A2 | 6 W |"),
    ],
)
def test_only_lines_that_were_broken_for_their_width_run_on(lines: str, joined: str) -> None:
    assert plain(lines).text == joined


def test_an_object_is_read_as_keys_and_values() -> None:
    assert plain('{"USB-A": {"count": 3, "rate": "5 Gb/s"}, "weight": "60 g"}').text == (
        "3 x USB-A rate: 5 Gb/s\nweight: 60 g"
    )
    assert plain('{"USB-A": ').text == '{"USB-A": '


def test_signs_that_stand_for_others_keep_every_place() -> None:
    text = "４K×６０\u00a0–\u202fHz″"
    assert plain(text).text == '4Kx60 - Hz"'
    assert plain(text).span(0, 5) == (0, 5)


def test_what_was_corrected_is_known_by_its_place() -> None:
    meant = plain("HDMI 4K at 3O Hz, USB-A")
    assert [meant.text[place] for place in meant.corrected] == ["3"]
    assert plain("HDMI 4K at 30 Hz, USB-A").corrected == ()


@given(st.text(max_size=400))
def test_every_character_has_a_place_in_the_original(text: str) -> None:
    meant = plain(text)
    assert len(meant.origin) == len(meant.text) + 1
    assert all(0 <= place <= len(text) for place in meant.origin)
    assert list(meant.origin) == sorted(meant.origin)
    assert meant.span(0, len(meant.text))[1] == len(text)


@pytest.mark.parametrize(
    ("written", "meant"),
    [
        ("USB-A (SGb/s)", "USB-A (5Gb/s)"),
        ("l x HDMI", "1 x HDMI"),
        ("USB 3.2 Genl", "USB 3.2 Gen1"),
        ("DATA: 10 Gbls", "DATA: 10 Gb/s"),
        ("RJ4S 1OOO Mb/s", "RJ45 1000 Mb/s"),
        ("3 ports with 10 gbs", "3 ports with 10 Gbps"),
        ("HDMI 4K@30Hz,3 usb-a", "HDMI 4K@30Hz,3 usb-a"),
        ("show 4k each,3 usb-a ports", "show 4k each, 3 usb-a ports"),
        ("20cmcable", "20cm cable"),
        ("aluminiumcase, nodriver", "aluminium case, no driver"),
        ("85Wtolaptop", "85W to laptop"),
        ("USB-C 10Gbps*2", "USB-C 10Gbps x2"),
        ("sixty times per second", "60 times per second"),
        ("20V⎓5A", "20V=5A"),
        ("data: a x2 5g", "data: A x2 5G"),
        ("weight 5g", "weight 5g"),
        ("It weighs 5 g", "It weighs 5 g"),
    ],
)
def test_more_slips_of_scanners_and_keyboards(written: str, meant: str) -> None:
    assert plain(written).text == meant


def test_a_star_and_a_digit_count_only_where_they_are_no_footnote() -> None:
    assert plain("HDMI(4K60)*2").text == "HDMI(4K60) x2"
    noted = "HDMI 4K60*1\n*1 with compression"
    assert plain(noted).text == noted


def test_a_list_that_denies_says_no() -> None:
    assert plain("✓ jack\n✗ Calls\n✗ no app").text.split("\n") == ["", " jack", "", "no Calls", "", "no  app"]


def test_what_stands_in_brackets_on_a_line_of_its_own_belongs_to_the_line_before() -> None:
    assert plain("2 x USB-A\n(5 Gb/s)\nHDMI").text == "2 x USB-A (5 Gb/s)\nHDMI"
