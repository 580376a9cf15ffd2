"""Tables: what counts, what is a condition, what is a device of its own."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.reader import read_text


def claims(text: str) -> list[str]:
    return [each.sentence for each in read_text(text).proposals]


ROWS = (("HDMI", "2", "4K 60 Hz"), ("USB-A", "3", "10 Gb/s"), ("USB-C", "1", "20 Gb/s"))
TOLD = [
    "H1 shows 3840x2160@60", "H2 shows 3840x2160@60", "A1 data 10 Gb/s", "A2 data 10 Gb/s", "A3 data 10 Gb/s",
    "C1 data 20 Gb/s",
]  # fmt: skip


@pytest.mark.parametrize("joint", ["\t", " | ", "   "])
@pytest.mark.parametrize("head", ["Number", "Qty", "How many", "Count", "Pieces"])
def test_a_column_counts_the_sockets_of_its_row(joint: str, head: str) -> None:
    lines = [joint.join(row) for row in (("Connection", head, "What it does"), *ROWS)]
    assert claims("\n".join(lines)) == TOLD


def test_a_table_without_heads_may_count_too() -> None:
    assert claims("\n".join("\t".join(row) for row in ROWS)) == TOLD


@given(st.permutations(ROWS))
def test_the_order_of_its_rows_changes_nothing(rows: list[tuple[str, str, str]]) -> None:
    lines = ["Connection | Number | What", *(" | ".join(row) for row in rows)]
    assert sorted(claims("\n".join(lines))) == sorted(TOLD)


@pytest.mark.parametrize("corner", ["", "Specification", "Feature", "Model"])
def test_a_column_for_each_model_is_a_device_of_its_own(corner: str) -> None:
    text = (
        f"| {corner} | Fen 5 | Fen 8 |\n| HDMI | 4K 30 Hz | 2 x 4K 60 Hz |\n| USB-A 5 Gb/s | 1 | 2 |\n"
        "| Weight | 80 g | 90 g |"
    )
    assert claims(text) == [
        "fen5:H1 shows 3840x2160@30", "fen8:H1 shows 3840x2160@60", "fen8:H2 shows 3840x2160@60", "fen5:A1 data 5 Gb/s",
        "fen8:A1 data 5 Gb/s", "fen8:A2 data 5 Gb/s", "fen5:body weighs 80 g", "fen8:body weighs 90 g",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("heads", "words"),
    [
        (("USB4 host", "USB-C 10 Gb/s host"), ("on USB4 host", "on USB-C 10 Gb/s host")),
        (("Windows", "macOS"), ("on Windows", "on macOS")),
        (("with supply", "without supply"), ("with supply", "without supply")),
    ],
)
def test_a_column_may_be_a_condition(heads: tuple[str, str], words: tuple[str, str]) -> None:
    text = f"| | {heads[0]} | {heads[1]} |\n| HDMI 1 | 4K 60 Hz | 4K 30 Hz |\n| Network | 2.5 Gb/s | 1 Gb/s |"
    assert claims(text) == [
        f"H1 shows 3840x2160@60 {words[0]}", f"H1 shows 3840x2160@30 {words[1]}", f"N1 links 2.5 Gb/s {words[0]}",
        f"N1 links 1 Gb/s {words[1]}",
    ]  # fmt: skip


def test_what_sockets_give_beside_others() -> None:
    text = "Charger\nSocket | one in use | two in use\nC1 | 65 W | 45 W\nA | 18 W | 12 W\nTotal | | 57 W"
    assert claims(text) == [
        "C1 gives 65 W without others", "C1 gives 45 W with two in use", "A1 gives 18 W without others",
        "A1 gives 12 W with two in use", "C1+A1 share 57 W with two in use",
    ]  # fmt: skip


def test_a_lead_for_each_row_has_its_length() -> None:
    text = "Leads (C to C)\n0.5 m | 40 Gb/s | 240 W\n2 m | 480 Mb/s | no picture"
    assert claims(text) == [
        "lead05m:body length 50 cm", "lead05m:body carries 40 Gb/s", "lead05m:body carries 240 W",
        "lead2m:body length 2 m", "lead2m:body carries 480 Mb/s", "lead2m:body no display",
    ]  # fmt: skip


PLAIN_ROWS = {"HD-100": "3 x USB-A 5 Gb/s, 60 W to the laptop", "HD-200": "2 x USB-C 10 Gb/s, 85 W to the laptop"}


@given(st.permutations(list(PLAIN_ROWS)))
def test_a_row_for_each_device_of_a_family_tells_them_apart_in_any_order(order: list[str]) -> None:
    told = set(claims("\n".join(f"{name}   EUR 59   {PLAIN_ROWS[name]}" for name in order)))
    assert {"hd100:A1 data 5 Gb/s", "hd100:A3 data 5 Gb/s", "hd100:UP charges host 60 W"} < told
    assert {"hd200:C1 data 10 Gb/s", "hd200:C2 data 10 Gb/s", "hd200:UP charges host 85 W"} < told
    assert all(each.startswith(("hd100:", "hd200:")) for each in told)


@pytest.mark.parametrize("none", ["-", "none", "no", "n/a"])
def test_a_cell_that_says_none_promises_nothing(none: str) -> None:
    rows = ("Model\tHR-41\tHR-42", "USB-A 5 Gb/s\t2\t1", f"USB-C 5 Gb/s\t{none}\t1")
    assert [each for each in claims("\n".join(rows)) if ":C" in each] == ["hr42:C1 data 5 Gb/s"]


@pytest.mark.parametrize(("left", "right"), [("front", "back"), ("left", "right"), ("front", "rear")])
def test_columns_for_two_sides_of_one_device_are_no_models(left: str, right: str) -> None:
    table = f"| | {left} | {right} |\n|---|---|---|\n| USB-C 20 Gb/s | 1 | 1 |\n| USB-A 10 Gb/s | 1 | 2 |"
    assert claims(table) == [*(f"C{n} data 20 Gb/s" for n in (1, 2)), *(f"A{n} data 10 Gb/s" for n in (1, 2, 3))]
