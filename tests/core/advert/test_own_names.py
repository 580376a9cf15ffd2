"""Names and numbers that a seller gives to sockets and then explains."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.reader import read_text

_TOLD = "{0}1: 100 W, 10 Gb/s. {0}2: 45 W, 10 Gb/s. {0}3: 20 W, 480 Mb/s. {0}1 and {0}2 are USB-C, {0}3 is USB-A."
_USUAL = "C1: 100 W, 10 Gb/s. C2: 45 W, 10 Gb/s. A1: 20 W, 480 Mb/s. C1 and C2 are USB-C, A1 is USB-A."


def claims(text: str) -> set[str]:
    return {each.sentence for each in read_text(f"Desk charger. {text}").proposals}


@given(letter=st.sampled_from("BEFGKLPQTUWXYZ"))
def test_a_made_up_name_is_read_as_the_socket_that_it_stands_for(letter: str) -> None:
    assert claims(_TOLD.format(letter)) == claims(_USUAL)


def test_a_run_of_names_is_explained_at_once() -> None:
    told = claims("P1-P3 are USB-A. P1: 12 W. P2: 12 W. P3: 7.5 W.")
    assert {"A1 gives 12 W", "A2 gives 12 W", "A3 gives 7.5 W"} <= told


def test_names_that_are_not_explained_stay_as_they_are() -> None:
    assert claims("P1: 100 W in.") == {"P1 takes 100 W"}


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("Slot 1 is for CFexpress, slots 2 and 3 for SD. 280 MB/s in slots 2 and 3.", {"S2", "S3"}),
        ("Slots 1 and 2 are for SD, slots 3 and 4 for microSD. 90 MB/s in slots 3 and 4.", {"M1", "M2"}),
        ("Slots 1 to 2 are for SD, slot 3 for microSD. 200 MB/s in slots 1 and 2.", {"S1", "S2"}),
    ],
)
def test_a_slot_by_number_is_that_of_its_kind(text: str, expected: set[str]) -> None:
    found = {
        each.sentence.split()[0] for each in read_text(f"Card reader. {text}").proposals if " MB/s" in each.sentence
    }
    assert found == expected
