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
        ("【Charging】87 W", "\nCharging: 87 W"),
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
