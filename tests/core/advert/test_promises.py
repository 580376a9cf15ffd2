"""In which sentence a figure is promised: its hedge, its unit in any spelling, of one socket or of all at once."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.reader import read_text


def claims(text: str) -> list[str]:
    return [each.sentence for each in read_text(text).proposals]


HEDGES = {
    "": "", "up to ": "up to ", "at most ": "up to ", "no more than ": "up to ", "at least ": "at least ",
    "not less than ": "at least ", "about ": "about ", "approx. ": "about ",
}  # fmt: skip
FIGURES = {
    "USB-C 1 gives {}15 W": "C1 gives {}15 W", "USB-C 1: {}15 watts": "C1 gives {}15 W",
    "Charges your laptop with {}65 W": "UP charges host {}65 W", "Network: {}2.5 Gbit/s": "N1 links {}2.5 Gb/s",
    "USB-A 1: {}5 gigabits per second": "A1 data {}5 Gb/s", "SD: {}90 MB/s": "S1 cards {}90 MB/s",
    "It weighs {}60 g": "body weighs {}60 g", "Draws {}12 W": "body uses {}12 W",
}  # fmt: skip


@given(st.sampled_from(sorted(HEDGES)), st.sampled_from(sorted(FIGURES)))
def test_how_firmly_it_is_promised_is_kept(hedge: str, figure: str) -> None:
    assert claims(f"Dock. {figure.format(hedge)}.") == [FIGURES[figure].format(HEDGES[hedge])]


@given(
    st.sampled_from(("15 W", "15W", "15 watts", "15 Watt", "fifteen watts", "15-watt")),
    st.sampled_from(("20 cm", "20cm", "0.2 m", "200 mm", "twenty centimetres", "20 centimeters")),
)
def test_a_unit_in_any_spelling_says_the_same(power: str, length: str) -> None:
    found = claims(f"Hub. USB-C 1 gives {power}. Its lead is {length} long.")
    assert found[0] == "C1 gives 15 W"
    assert found[1] in ("UP length 20 cm", "UP length 0.2 m", "UP length 200 mm")


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("2 USB-C sockets, 20 W each alone, 10 W each together.",
         ["C1 gives 20 W without others", "C2 gives 20 W without others", "C1+C2 give 10 W each"]),
        ("2 USB-C sockets: 15 W each, 20 W together.", ["C1 gives 15 W", "C2 gives 15 W", "C1+C2 share 20 W"]),
        ("3 USB-C sockets. Two USB-C at once: 50 W each.", ["C1+C2 give 50 W each"]),
        ("2 x HDMI: 4K 60 Hz (single), 4K 30 Hz (dual).",
         ["H1|H2 show 3840x2160@60 each", "H1+H2 show 3840x2160@30 each"]),
        ("HDMI and DisplayPort: one shows 4K at 60 Hz and the other 4K at 30 Hz.",
         ["H1 shows 3840x2160@60", "D1 shows 3840x2160@30"]),
        ("Sockets 1 to 3 charge only, 2.4 A, at once. All USB-A.",
         ["A1 no data", "A2 no data", "A3 no data", "A1+A2+A3 feed 2.4 A each"]),
    ],
)  # fmt: skip
def test_at_once_is_said_of_the_figure_that_it_stands_beside(text: str, wanted: list[str]) -> None:
    assert claims(f"Hub. {text}") == wanted


def test_two_figures_of_both_at_once_stand_among_others() -> None:
    text = "Charger. C1/C2: 65 W (single), 45 W + 20 W (both)."
    assert claims(text) == ["C1 gives 45 W while C2 gives 20 W", "C1 gives 65 W", "C2 gives 65 W"]


@pytest.mark.parametrize("sentence", ["With 120 W power supply.", "A 120 W power supply is included."])
def test_what_comes_along_is_told_in_a_sentence_of_its_own(sentence: str) -> None:
    assert claims(f"Dock. HDMI: 4K at 60 Hz. {sentence}") == [
        "H1 shows 3840x2160@60",
        "body comes with 120 W power supply",
    ]


def test_a_footnote_of_a_supply_is_a_condition() -> None:
    assert claims("Dock\nHDMI: 4K at 60 Hz*\n* With power supply") == ["H1 shows 3840x2160@60 with supply"]


@given(st.sampled_from(sorted(FIGURES)), st.sampled_from(sorted(FIGURES)))
def test_two_promises_do_not_disturb_one_another(one: str, other: str) -> None:
    """Each on a line of its own, in either order."""
    wanted = sorted({FIGURES[one].format(""), FIGURES[other].format("")})
    assert sorted(set(claims(f"Dock\n{one.format('')}\n{other.format('')}"))) == wanted


def test_a_network_and_a_slot_that_are_told_of_twice_are_one() -> None:
    lines = ("Network: 2.5 Gb/s", "SD: 90 MB/s", "2.5 Gb/s network", "SD slot, 90 MB/s")
    assert claims("Dock\n" + "\n".join(lines)) == ["N1 links 2.5 Gb/s", "S1 cards 90 MB/s"]
