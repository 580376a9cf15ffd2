"""Reading what sellers write, against the corpus: how much is right, how much is found, and that nothing breaks it."""

from __future__ import annotations

import time
import tomllib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.proposal import MAX_TEXT_LENGTH
from auditra.core.advert.reader import read_text
from auditra.core.advert.sureness import CARRIED, CORRECTED, MAYBE_CONDITION, OWN_WORDS
from auditra.core.claims.language import parse_claim
from auditra.core.errors import InputError

CORPUS = Path(__file__).parents[2] / "corpus"
INDEPENDENT = (
    "USB-A: 3 x 5 Gb/s", "HDMI: 4K at 60 Hz", "Weight: 85 g", "Network: 2.5 Gb/s", "Cord: 18 cm",
    "Power to laptop: 85 W",
)  # fmt: skip
SAY_NOTHING = ("Perfect for travel", "Loved by 18,000 desks", "Designed to be seen", "Elegant and quiet", "New in 2026")


def texts(name: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = tomllib.loads((CORPUS / f"{name}.toml").read_text())["text"]
    return found


def claims(text: str) -> list[str]:
    return [each.sentence for each in read_text(text).proposals]


def in_one_order(claim: str) -> str:
    """With the sockets of a group in one order, which says the same."""
    ports, _, rest = claim.partition(" ")
    joint = "|" if "|" in ports else "+"
    return f"{joint.join(sorted(ports.split(joint)))} {rest}"


def precision_and_recall(name: str) -> tuple[float, float]:
    right = extra = missed = 0
    for text in texts(name):
        wanted = {in_one_order(claim) for claim in text["claims"]}
        found = {in_one_order(claim) for claim in claims(text["text"])}
        right, extra, missed = right + len(wanted & found), extra + len(found - wanted), missed + len(wanted - found)
    return right / (right + extra), right / (right + missed)


def test_the_corpus_has_ninety_texts_a_third_of_them_set_aside_and_their_claims_can_be_read() -> None:
    building, aside = texts("read_while_building"), texts("set_aside")
    assert len(building) + len(aside) >= 90
    assert len(aside) * 3 >= len(building) + len(aside)
    for text in (*building, *aside):
        for claim in text["claims"]:
            assert str(parse_claim(claim, claim_id="c")) == claim, text["id"]


@pytest.mark.parametrize(
    ("name", "precision", "recall"),
    [
        ("read_while_building", 0.96, 0.96),
        ("read_later", 0.98, 0.97),
        ("other_styles", 0.985, 0.97),
        ("read_once_first", 0.99, 0.99),
        ("set_aside", 0.88, 0.83),
    ],
)
def test_no_change_reads_worse_than_what_was_reached(name: str, precision: float, recall: float) -> None:
    """Floors at what the rules reach today; the aim for the part set aside is 0.95 and 0.9."""
    found = precision_and_recall(name)
    assert found[0] >= precision
    assert found[1] >= recall


def test_every_proposal_has_its_words_and_how_sure_it_is() -> None:
    for text in texts("read_while_building"):
        for each in read_text(text["text"]).proposals:
            assert each.quoted in text["text"]
            assert 0 < each.sure <= 1
            assert str(parse_claim(each.sentence, claim_id="c")) == each.sentence


@pytest.mark.parametrize(
    ("text", "assumed"),
    [
        ("Hub. 3 x USB-A, 5 Gb/s.", ()),
        ("Hub. 3 x USB-A. All of them run at 5 Gb/s.", (CARRIED,)),
        ("Hub. 3 x USB-A and 2 x USB-C. All of them run at 5 Gb/s.", (CARRIED,)),
        ("Hub. 3 x U5B-A, 5 Gb/s.", (CORRECTED,)),
        ("Hub. 3 x USB-A, 5 Gb/s while the fan turns.", (OWN_WORDS,)),
        ("Hub. 3 x USB-A, 5 Gb/s, but it depends.", (MAYBE_CONDITION,)),
    ],
)
def test_what_was_assumed_is_said_and_makes_it_less_sure(text: str, assumed: tuple[str, ...]) -> None:
    plainly = read_text("Hub. 3 x USB-A, 5 Gb/s.").proposals[0].sure
    for each in read_text(text).proposals:
        assert each.unclear == assumed
        assert each.sure < plainly or not assumed


def test_a_surer_proposal_is_more_often_right() -> None:
    """Over every text that was not written to widen the rules: docs/reading.md has the table."""
    right: dict[bool, list[bool]] = {True: [], False: []}
    for name in ("read_while_building", "read_later", "set_aside"):
        for text in texts(name):
            wanted = {in_one_order(claim) for claim in text["claims"]}
            for each in read_text(text["text"]).proposals:
                right[each.sure >= 0.8].append(in_one_order(each.sentence) in wanted)
    sure, unsure = (sum(values) / len(values) for values in (right[True], right[False]))
    assert sure > unsure + 0.1
    assert sure >= 0.9


def test_what_was_not_understood_stays_visible() -> None:
    read = read_text("Elegant. Perfect for travel! 2 USB-A ports, 5 Gbps. Vintage charm.")
    assert read.left_over == ("Elegant", "Perfect for travel!", "Vintage charm")
    assert [each.sentence for each in read.proposals] == ["A1 data 5 Gb/s", "A2 data 5 Gb/s"]


@given(st.permutations(INDEPENDENT))
def test_the_order_of_independent_lines_changes_nothing(lines: list[str]) -> None:
    assert sorted(claims("Hub\n" + "\n".join(lines))) == sorted(claims("Hub\n" + "\n".join(INDEPENDENT)))
    assert len(claims("Hub\n" + "\n".join(lines))) == 8


@given(st.sampled_from(SAY_NOTHING), st.integers(0, len(INDEPENDENT)))
def test_a_line_that_promises_nothing_changes_nothing(line: str, at: int) -> None:
    lines = ["Hub", *INDEPENDENT[:at], line, *INDEPENDENT[at:]]
    assert claims("\n".join(lines)) == claims("\n".join(("Hub", *INDEPENDENT)))


@given(
    st.sampled_from(("5 Gb/s", "5Gbps", "5 Gbit/s", "5 gigabits per second", "5 GBPS", "five gigabits per second")),
    st.sampled_from(("3 x USB-A", "three USB-A sockets", "USB-A x 3", "3x Type-A", "USB-A (3)", "３ × USB-A")),
    st.sampled_from((": ", " at ", ", ", " with ", " - ")),
)
def test_however_it_is_spelled_it_says_the_same(rate: str, sockets: str, between: str) -> None:
    assert claims(f"Hub. {sockets}{between}{rate}") == ["A1 data 5 Gb/s", "A2 data 5 Gb/s", "A3 data 5 Gb/s"]


@given(st.text(max_size=300))
def test_any_text_is_read_and_quoted_as_it_stands(text: str) -> None:
    assert all(each.quoted in text for each in read_text(text).proposals)


@given(st.sampled_from((*texts("read_while_building"), *texts("other_styles"))), st.data())
def test_a_damaged_text_breaks_nothing(text: dict[str, Any], data: st.DataObject) -> None:
    whole = text["text"]
    at = data.draw(st.integers(0, len(whole)))
    damaged = whole[:at] + data.draw(st.text(max_size=4)) + whole[at + data.draw(st.integers(0, 3)) :]
    for each in read_text(damaged).proposals:
        assert parse_claim(each.sentence, claim_id="c")


@given(
    st.sampled_from((*texts("other_styles"), *texts("read_once_first"))), st.sampled_from(texts("read_later")),
    st.sampled_from((str.upper, str.lower, str.title, str)), st.data(),
)  # fmt: skip
def test_texts_that_run_into_one_another_break_nothing(
    one: dict[str, Any], other: dict[str, Any], written: Callable[[str], str], data: st.DataObject
) -> None:
    first, second = one["text"], other["text"]
    end, start = data.draw(st.integers(0, len(first))), data.draw(st.integers(0, len(second)))
    for each in read_text(written(first[:end] + second[start:])).proposals:
        assert parse_claim(each.sentence, claim_id="c")


@pytest.mark.parametrize(
    "text",
    [
        "USB EXTENSION, ACTIVE\nLENGTHS      5 FT       10 FT\nRATE         5 GB/S    480 MB/S",
        "USB-C CORD, THE GROUND WIRE BELOW 60 MOHM PER METRE.",
        "USB-C (front)\t1\t10 Gb/s, 20 W\nRear: LAN (2.5G); front: 2x USB-C (10G, 20 W + 15 W)",
    ],
)
def test_what_once_broke_the_reader_is_read(text: str) -> None:
    assert read_text(text).proposals or read_text(text).left_over


@pytest.mark.parametrize("part", [
    "9", "a ", " ", "(x", "4K ", "1,1,", "on laptop, ", "supply ", "5 Gb/s USB-A, ", "\n", "| a ", "x\n", "a, ",
    "USB-A ", "with a charger ", "1 x ", "<b", "&amp;", "C1+C2: ", "5 V 1 A ", "while a ", "{", ":", "a: 5 W\n", "one ",
    "a", "10, ", "**a", "USB hub 4 ports\n5 Gb/s. ", "- type: a\n  b: c\n", "80 + ", "reads 4, ", "(two A, one C) ",
    "the 2 m version, the 3 m one ",
])  # fmt: skip
def test_hostile_text_takes_bounded_time(part: str) -> None:
    """A hundred thousand characters in some seconds of a slow machine."""
    text = (part * MAX_TEXT_LENGTH)[:MAX_TEXT_LENGTH]
    begun = time.process_time()
    read_text(text)
    assert time.process_time() - begun < 12


def test_a_text_that_is_too_long_is_refused() -> None:
    with pytest.raises(InputError, match="longer than"):
        read_text("x" * (MAX_TEXT_LENGTH + 1))
