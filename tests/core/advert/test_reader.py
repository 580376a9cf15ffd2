"""Reading what sellers write, against the corpus: how much is right, how much is found, and that nothing breaks it."""

from __future__ import annotations

import time
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.mentions import mentions, plain
from auditra.core.advert.reader import MAX_TEXT_LENGTH, read_text
from auditra.core.claims.language import parse_claim
from auditra.core.errors import InputError

CORPUS = Path(__file__).parents[2] / "corpus"


def texts(name: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = tomllib.loads((CORPUS / f"{name}.toml").read_text())["text"]
    return found


def precision_and_recall(name: str) -> tuple[float, float]:
    right = extra = missed = 0
    for text in texts(name):
        wanted = set(text["claims"])
        found = {each.sentence for each in read_text(text["text"]).proposals}
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
    [("read_while_building", 0.98, 0.97), ("read_later", 0.97, 0.98), ("set_aside", 0.92, 0.87)],
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


def test_what_is_understood_whole_is_surer_than_what_stands_among_strange_words() -> None:
    plain_words = read_text("USB-A 5 Gb/s").proposals[0]
    strange = read_text("USB-A sockets of remarkable vivacity, attaining in favourable weather 5 Gb/s").proposals
    assert plain_words.sure > 0.8
    assert all(each.sure < plain_words.sure for each in strange)


def test_what_is_unclear_is_said_with_each_proposal() -> None:
    two = read_text("USB-A and HDMI, 5 Gbps, remarkable vivacity").proposals[0]
    assert "its socket was named earlier" in two.unclear
    strange = read_text("USB-A with remarkable vivacity 5 Gbps beside HDMI").proposals[0]
    assert strange.unclear == (
        "its figures could be of hdmi or usb-a", "not understood: remarkable, vivacity, beside"
    )  # fmt: skip
    assert read_text("USB-A 5 Gb/s").proposals[0].unclear == ()


@pytest.mark.parametrize(
    "text", ["4K/60 HDMI, plenty", "10 GB/s on USB-A", "20 W when two phones charge on USB-C", "HDMI 90 times better"]
)
def test_a_figure_is_no_number_of_sockets_and_no_unit_or_condition_is_guessed(text: str) -> None:
    assert len(read_text(text).proposals) <= 1
    assert all("data" not in each.sentence and "gives" not in each.sentence for each in read_text(text).proposals)


def test_what_was_not_understood_stays_visible() -> None:
    read = read_text("Elegant. Perfect for travel! 2 USB-A ports, 5 Gbps. Vintage charm.")
    assert read.left_over == ("Elegant", "Perfect for travel", "Vintage charm")
    assert [each.sentence for each in read.proposals] == ["A1 data 5 Gb/s", "A2 data 5 Gb/s"]


def test_an_unclear_figure_makes_no_claim() -> None:
    for text in ("4K HDMI", "2 USB 3.1 ports", "HDMI 2.1", "100 watts of fun", "fast charging"):
        assert read_text(text).proposals == ()


@given(st.text(max_size=300))
def test_any_text_is_read_and_quoted_as_it_stands(text: str) -> None:
    read = read_text(text)
    assert all(each.quoted in text for each in read.proposals)
    assert len(plain(text)) == len(text)
    assert all(0 <= each.start < each.end <= len(text) for each in mentions(plain(text)))


@given(st.sampled_from(texts("read_while_building")), st.data())
def test_a_damaged_text_breaks_nothing(text: dict[str, Any], data: st.DataObject) -> None:
    whole = text["text"]
    at = data.draw(st.integers(0, len(whole)))
    damaged = whole[:at] + data.draw(st.text(max_size=4)) + whole[at + data.draw(st.integers(0, 3)) :]
    for each in read_text(damaged).proposals:
        assert parse_claim(each.sentence, claim_id="c")


@pytest.mark.parametrize(
    "part", ["9", "a ", " ", "(x", "4K ", "1,1,", "on laptop, ", "supply ", "5 Gb/s USB-A, ", "\n"]
)
def test_hostile_text_takes_bounded_time(part: str) -> None:
    text = (part * 10_000)[:10_000]
    begun = time.process_time()
    read_text(text)
    assert time.process_time() - begun < 10


def test_a_text_that_is_too_long_is_refused() -> None:
    with pytest.raises(InputError, match="longer than"):
        read_text("x" * (MAX_TEXT_LENGTH + 1))
