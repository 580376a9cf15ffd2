"""A text cut into clauses, each with the words that stand over it."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.clauses import MAX_CLAUSE_LENGTH, MAX_CLAUSES, clauses
from auditra.core.advert.conditions import conditions


def cut(text: str) -> list[tuple[str, str, str]]:
    return [(each.over, each.column, text[each.start : each.end].strip()) for each in clauses(text)]


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("USB-A: 5 Gb/s", [("USB-A", "", "5 Gb/s")]),
        ("Weight = 60 g", [("Weight", "", "60 g")]),
        ("Cord ........ 15 cm", [("Cord", "", "15 cm")]),
        ("Does it charge? Yes, 60 W.", [("Does it charge", "", "Yes, 60 W.")]),
        ("One hub. Two leads.", [("", "", "One hub."), ("", "", "Two leads.")]),
        ("HDMI, max. resolution 4K. VGA.", [("", "", "HDMI, max. resolution 4K."), ("", "", "VGA.")]),
        ("HDMI 1.4 at 2.5 Gb/s.", [("", "", "HDMI 1.4 at 2.5 Gb/s.")]),
        ("SD 90 MB/s // LAN 1 Gb/s", [("", "", "SD 90 MB/s"), ("", "", "LAN 1 Gb/s")]),
        (
            "Socket | Data | Power\nC1 | 5 Gb/s | 15 W",
            [("C1", "Data", "5 Gb/s"), ("C1", "Power", "15 W")],
        ),
        ("kind,data,power\nUSB-A,5 Gb/s,4.5 W", [("USB-A", "data", "5 Gb/s"), ("USB-A", "power", "4.5 W")]),
    ],
)
def test_keys_sentences_and_tables(text: str, wanted: list[tuple[str, str, str]]) -> None:
    assert [each for each in cut(text) if each[2]] == wanted


@given(st.text(alphabet="aA1 .,;:|\n\t-=?x", max_size=300))
def test_clauses_are_in_order_and_within_bounds(text: str) -> None:
    found = clauses(text)
    assert len(found) <= MAX_CLAUSES + 300
    assert all(0 <= each.start <= each.end <= len(text) for each in found)
    assert [each.start for each in found] == sorted(each.start for each in found)


def test_an_endless_sentence_is_cut() -> None:
    text = "word, " * 2000
    assert max(each.end - each.start for each in clauses(text)) <= MAX_CLAUSE_LENGTH


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("5 W without a power supply", ["without supply"]),
        ("4K at 30 Hz with a display connected", ["with display"]),
        ("65 W when no screen is connected", ["without display"]),
        ("45 W used alone", ["without others"]),
        ("10 Gb/s on hosts with USB4", ["on hosts with USB4"]),
        ("on Linux 5.15", ["on Linux 5.15"]),
        ("85 W (charger of 100 W needed)", ["with 100 W charger"]),
        ("with Cat 6a", ["with Cat 6a"]),
        ("5 Gb/s while the fan turns", ["with fan turns"]),
        ("60 Hz on both at the same time", [""]),
        ("plain words", []),
    ],
)
def test_conditions_as_a_claim_writes_them(text: str, words: list[str]) -> None:
    assert [each.words for each in conditions(text)] == words
