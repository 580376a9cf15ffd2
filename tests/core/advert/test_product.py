"""What a text sells: a box, a lead, a kit, several models, or nothing."""

from __future__ import annotations

import pytest

from auditra.core.advert.product import product_of
from auditra.core.advert.several_devices import part_at


@pytest.mark.parametrize(
    ("text", "is_lead"),
    [
        ("Flat C-to-C cable, 1 m, 10 Gb/s", True),
        ("USB-C to USB-C, 1.8 m, 100 W, nylon braid", True),
        ("Ladekabel USB-C auf USB-C, 2 m", True),
        ("USB extension cable 3 metres, plug A to socket A", True),
        ("Network cable Cat 8, 5 m, RJ45 plugs", True),
        ("USB-C to HDMI adapter with a cable of 15 cm", False),
        ("Hub with a captive cable and 3 x USB-A", False),
    ],
)
def test_a_lead_is_known_from_a_box_with_a_lead(text: str, is_lead: bool) -> None:
    assert product_of(text).is_lead is is_lead


@pytest.mark.parametrize(
    ("text", "is_charger"),
    [
        ("65 W wall charger with two sockets", True),
        ("GaN charger 100 W", True),
        ("You plug a screen and a charger into one socket", False),
        ("Hub for your charger and a screen", False),
    ],
)
def test_a_charger_that_is_only_spoken_of_is_not_sold(text: str, is_charger: bool) -> None:
    assert product_of(text).is_charger is is_charger


@pytest.mark.parametrize(
    "text",
    [
        "USB-C leads (86) Hubs (40) Docks (27)\nLength 1.2 m [33] 1.8 m [24]\nPower 60 W [44]",
        "Which dock do I need? One with 100 W.",
        "Your order 77-01 has been packed. Box 1 of 2 (0.9 kg).",
        "How we test: a load of 140 W, a peer of 10 Gb/s.",
    ],
)
def test_a_text_that_sells_nothing_is_known(text: str) -> None:
    assert product_of(text).is_nothing


def test_one_such_word_further_down_does_not_hide_a_product() -> None:
    text = f"Hub with 3 x USB-A, 5 Gb/s.{' It is very good.' * 12} Add to cart."
    assert not product_of(text).is_nothing
    assert product_of(f"{text} Sort by price.").is_nothing


def test_the_parts_of_a_kit_and_where_they_begin() -> None:
    text = "A kit of two.\nSender: USB-C, 10 Gb/s\nReceiver: HDMI, 4K at 60 Hz"
    parts = product_of(text).devices
    assert parts == {"sender": "sender", "receiver": "receiver"}
    assert part_at("Receiver: HDMI", parts) == "receiver"
    assert part_at("HDMI", parts) == ""


def test_models_of_one_family_and_no_models_among_keys() -> None:
    text = "Two models.\nPlain One: 5 Gb/s, 60 W\nPlain Two: 10 Gb/s, 90 W"
    assert product_of(text).devices == {"plain one": "one", "plain two": "two"}
    assert product_of("Two sockets.\nPower: 5 W, 10 W\nData: 5 Gb/s, 10 Gb/s").devices == {}


@pytest.mark.parametrize(
    ("text", "is_lead"),
    [
        ("HDMI to HDMI\n3 m\n4K 120 Hz", True),
        ("Plug: USB-C\nSocket: USB-C\nLength: 1 m\nVoltage drop: under 250 mV at 3 A", True),
        ("At 3 A the Osier loses 210 mV over its 2 m.", True),
        ("Braided wire, C to C", True),
        ("The Glede brings calm: one cable for all, and an HDMI output", False),
        ("Drive case for one drive, with two leads (C to C and C to A)", False),
        ("The Marlet has a 30 cm lead and four A sockets", False),
    ],
)
def test_a_lead_by_its_plugs_its_keys_and_what_it_loses(text: str, is_lead: bool) -> None:
    assert product_of(text).is_lead is is_lead


def test_a_family_that_is_told_of_in_sentences() -> None:
    text = "We make two docks. The Withy S has one HDMI output. The Withy L adds a second."
    assert product_of(text).devices == {"withy s": "s", "withy l": "l"}
    assert not product_of("We make two docks. The Withy S has one HDMI output. The Fen L is another.").devices


@pytest.mark.parametrize(
    "text",
    [
        "THE ALDERMAN STORY. Two brothers soldered a hub with 4 ports. Today 60 people work here.",
        "Dear Mr Amble, thank you for your order. Your dock with 100 W leaves us today.",
        "For the press: turnover rose to 41 million EUR. Docks with 4 ports, 9,000 a week.",
    ],
)
def test_stories_letters_and_news_sell_nothing(text: str) -> None:
    assert product_of(text).is_nothing


@pytest.mark.parametrize(
    "text", ["Cable, 2 m. Bent 20,000 times in our lab.", "Our bench says 9 Gb/s. Adapter, 10 Gb/s."]
)
def test_a_maker_may_speak_of_his_own_bench(text: str) -> None:
    assert not product_of(text).is_nothing
