"""Pages that sell nothing draw no claim, and pages that sell are not taken for them."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from auditra.core.advert.other_pages import is_other_page
from auditra.core.advert.reader import read_text

_PAGES = [
    page["text"] for page in tomllib.loads(Path(__file__).with_name("pages_that_sell_nothing.toml").read_text())["page"]
]


@pytest.mark.parametrize("text", _PAGES)
def test_a_page_that_sells_nothing_draws_no_claim(text: str) -> None:
    read = read_text(text)
    assert read.proposals == ()
    assert read.left_over  # it is shown, and not lost


@pytest.mark.parametrize(
    "text",
    [
        "Hub or dock in one: four USB-A of 5 Gb/s, and 85 W for the laptop.",
        "A hub with four USB-A sockets, 5 Gb/s. A lead is included. A charger is not part of it.",
        "Please note: 4K at 60 Hz needs DisplayPort 1.4. The network socket manages 2.5 Gb/s.",
        "SAFETY. The strip switches off at over-current.\nDATA. Four USB-A sockets with 5 Gb/s.",
        "What you need on one lead: HDMI 4K at 60 Hz, two USB-A of 10 Gb/s, 100 W.",
        "How many screens do you have? This dock takes two, 4K at 60 Hz each, by HDMI and DisplayPort.",
        "USB 3.2 Gen 2 10 Gb/s: two USB-A. USB 2.0 480 Mb/s: two more. HDMI 2.0 18 Gb/s. USB4 40 Gb/s to the host.",
        "Warranty 2 years. Dock with two USB-C, 10 Gb/s and 15 W each.",
    ],
)
def test_a_page_that_sells_is_read(text: str) -> None:
    assert not is_other_page(text)


def test_one_word_of_such_pages_is_not_enough_further_down() -> None:
    hub = f"Hub with 3 x USB-A, 5 Gb/s.{' It is very good.' * 12}"
    assert not is_other_page(f"{hub} Sort by price.")
    assert is_other_page(f"{hub} Sort by price. Add to cart.")


def test_so_many_standards_with_a_rate_each_are_compared_and_not_sold() -> None:
    standards = (
        "USB 2.0 480 Mb/s",
        "USB 3.2 20 Gb/s",
        "HDMI 2.0 18 Gb/s",
        "HDMI 2.1 48 Gb/s",
        "DisplayPort 1.4 32.4 Gb/s",
    )
    assert is_other_page("; ".join(standards))
    assert not is_other_page("; ".join(standards[:3]))
