"""Captures of a CC line: what was sent comes back, and damage never becomes a message."""

from __future__ import annotations

import random
from collections.abc import Sequence

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.decode.cc_line.biphase import bursts_of
from auditra.core.decode.cc_line.capture import Captured, is_capture, read_capture
from auditra.core.decode.power_delivery.messages import Start
from auditra.core.simulate.cc_line import Sent, as_vcd, bits_of, edges_of

OFFER = bytes.fromhex("61412c9101002cd102002cc10300f4410600")
TALK = (
    Sent(0.0010, Start.NEAR_PLUG, bytes.fromhex("8f1001a000ff")),
    Sent(0.0020, Start.PORT, OFFER),
    Sent(0.0034, Start.PORT, bytes.fromhex("4100")),
    Sent(0.0050, Start.PORT, bytes.fromhex("8210c2092740")),
    Sent(0.0059, Start.PORT, bytes.fromhex("4101")),
    Sent(0.0070, Start.PORT, bytes.fromhex("a303")),
    Sent(0.0080, Start.PORT, bytes.fromhex("a605")),
)


def text_of(edges: Sequence[float], *, tick_ns: int = 10) -> bytes:
    return "".join(as_vcd({"CC1": edges}, tick_ns=tick_ns)).encode()


def read(data: bytes, size: int = 1 << 18, wire: str = "") -> Captured:
    return read_capture((data[at : at + size] for at in range(0, len(data), size)), wire)


def sent_again(captured: Captured) -> list[tuple[Start | None, str]]:
    """Start and bytes of each sound packet, without the CRC."""
    return [(each.start, each.data[:-8]) for each in captured.heard if each.is_sound]


SENT = [(each.start, each.body.hex()) for each in TALK]


@pytest.mark.parametrize("bit_rate_bps", [270_000, 300_000, 330_000])
@pytest.mark.parametrize("tick_ns", [1, 10, 250])
@pytest.mark.parametrize("jitter_s", [0.0, 0.15e-6])
def test_what_was_sent_comes_back(bit_rate_bps: float, tick_ns: int, jitter_s: float) -> None:
    told = read(text_of(edges_of(TALK, bit_rate_bps=bit_rate_bps, jitter_s=jitter_s), tick_ns=tick_ns))
    assert sent_again(told) == SENT
    assert told.problems == ()
    assert all(each.problems == () for each in told.heard)
    assert told.heard[0].bit_rate_bps == pytest.approx(bit_rate_bps, rel=0.01)
    assert told.heard[1].start_s == pytest.approx(0.002, abs=1e-6)


def test_the_conversation_follows() -> None:
    told = read(text_of(edges_of(TALK))).conversation
    assert told.contract is not None
    assert told.contract.words == "20 V 4.5 A (90 W), object 4"
    assert told.messages == len(TALK)
    assert told.faults == ()


@pytest.mark.parametrize("start", list(Start))
def test_every_ordered_set_is_known(start: Start) -> None:
    sent = Sent(0.001, start, b"" if start.is_reset else bytes.fromhex("4100"))
    told = read(text_of(edges_of([sent])))
    assert [(each.start, each.is_sound) for each in told.heard] == [(start, True)]


def test_messages_that_draw_no_answer_are_counted() -> None:
    told = read(text_of(edges_of(TALK)))
    assert [each.answered for each in told.heard] == [False, True, None, True, None, False, False]
    assert told.unanswered == 3


def test_an_answer_that_comes_too_late_is_none() -> None:
    late = (Sent(0.001, Start.PORT, OFFER), Sent(0.0055, Start.PORT, bytes.fromhex("4100")))
    assert [each.answered for each in read(text_of(edges_of(late))).heard] == [False, None]


def test_an_answer_with_another_number_is_none() -> None:
    other = (Sent(0.001, Start.PORT, OFFER), Sent(0.0024, Start.PORT, bytes.fromhex("4102")))
    assert [each.answered for each in read(text_of(edges_of(other))).heard] == [False, None]


@pytest.mark.parametrize("size", [1, 7, 64, 4096])
def test_pieces_of_any_size_are_the_same_file(size: int) -> None:
    data = text_of(edges_of(TALK))
    assert read(data, size) == read(data)


def two_wires() -> bytes:
    return "".join(as_vcd({"CC1": edges_of(TALK), "CC2": [0.001, 0.0023, 0.0061]})).encode()


def test_the_wire_that_speaks_is_taken() -> None:
    told = read(two_wires())
    assert (told.wire, told.wires) == ("CC1", ("CC1", "CC2"))
    assert sent_again(told) == SENT


def test_a_wire_can_be_chosen() -> None:
    assert read(two_wires(), wire="CC2").packets == 0
    assert read(two_wires(), wire="other").wire == ""


LAYOUTS = {
    "carriage returns": lambda text: text.replace(b"\n", b"\r\n"),
    "one line": lambda text: text.replace(b"\n", b" "),
    "blank lines": lambda text: text.replace(b"\n#", b"\n\n \n#"),
    "vectors": lambda text: text.replace(b"\n1!", b"\nb1 !").replace(b"\n0!", b"\nb0 !"),
    "comments": lambda text: text.replace(b"\n#1", b"\n$comment a #7 1! $end\n#1", 3),
    "identifier": lambda text: (
        text.replace(b" ! CC1", b" #1 CC1").replace(b"\n1!", b"\n1#1").replace(b"\n0!", b"\n0#1")
    ),
    "real beside it": lambda text: text.replace(b"$upscope", b"$var real 1 % volts $end\n$upscope").replace(
        b"\n1!", b"\nr1.125 %\n1!"
    ),
    "bit of a range": lambda text: text.replace(b"CC1 $end", b"CC1 [0] $end"),
}


@pytest.mark.parametrize("layout", LAYOUTS)
def test_any_layout_of_the_standard_is_read(layout: str) -> None:
    told = read(LAYOUTS[layout](text_of(edges_of(TALK))))
    assert sent_again(told) == SENT
    assert told.wires[:1] == ("CC1",)


def test_glitches_are_left_out_and_counted() -> None:
    chance, edges = random.Random(4), edges_of(TALK)
    pulses = [(at + 0.7e-6, at + 0.8e-6) for at in chance.sample(edges[:-1], 25)]
    told = read(text_of(sorted((*edges, *(edge for pulse in pulses for edge in pulse)))))
    assert sent_again(told) == SENT
    assert told.glitches == 50


def test_noise_between_messages_is_no_message() -> None:
    chance = random.Random(7)
    noise = sorted(chance.uniform(0.0090, 0.0112) for _ in range(160))
    told = read(text_of([*edges_of(TALK), *noise]))
    assert sent_again(told) == SENT
    assert all(not each.is_sound for each in told.heard[len(TALK) :])


def test_a_beginning_that_is_missing_costs_that_message_alone() -> None:
    edges = edges_of(TALK)
    cut = [edge for edge in edges if edge > 0.0021 + 0.0003]  # in the middle of the offer
    told = read(text_of(cut))
    assert sent_again(told) == SENT[2:]
    assert next(each.start for each in told.heard) is None


def test_part_of_a_preamble_is_enough() -> None:
    edges = edges_of(TALK[1:])
    assert sent_again(read(text_of(edges[41:]))) == SENT[1:]


def test_an_end_that_is_missing_is_told() -> None:
    edges = edges_of(TALK[:2])
    told = read(text_of(edges[:-60]))
    assert sent_again(told) == SENT[:1]
    assert any("no end of packet" in each.words for each in told.heard[1].problems)


def test_one_wrong_code_of_an_ordered_set_is_told_and_forgiven() -> None:
    """Source: USB PD R3.1, 5.4: three of the four are enough."""
    bits = bits_of(TALK[1])
    changed = bits[:64] + "00110"[::-1] + bits[69:]  # Sync-3 where a Sync-1 belongs
    at, edges = 0.001, []
    for bit in changed:
        edges += [at, at + 0.5 / 300_000] if bit == "1" else [at]
        at += 1 / 300_000
    told = read(text_of([*edges, at]))
    assert sent_again(told) == [SENT[1]]
    assert "one of the four codes of SOP is wrong" in told.heard[0].problems[0].words


def test_a_changed_bit_is_damage() -> None:
    edges = edges_of(TALK[1:2])
    middle = len(edges) * 2 // 3
    told = read(text_of([*edges[:middle], *edges[middle + 1 :]]))
    assert sent_again(told) == []
    assert told.heard[0].problems
    assert told.conversation.offered == ()


def test_a_rate_that_is_not_allowed_is_told() -> None:
    told = read(text_of(edges_of(TALK, bit_rate_bps=345_000)))
    assert "345 kb/s" in told.heard[0].problems[0].words


@given(st.binary(max_size=400))
def test_any_bytes_are_survived(data: bytes) -> None:
    read(b"$timescale 1 ns $end $var wire 1 ! CC1 $end $enddefinitions $end\n" + data, size=64)


@settings(max_examples=60)
@given(st.lists(st.floats(0, 0.02, allow_nan=False), max_size=300))
def test_edges_at_random_are_no_sound_message(moments: list[float]) -> None:
    assert read(text_of(sorted(set(moments)))).sound == 0


@settings(max_examples=40)
@given(st.integers(0, 400), st.integers(1, 400))
def test_no_cut_invents_a_message(first: int, count: int) -> None:
    edges = edges_of(TALK)
    cut = [*edges[:first], *edges[first + count :]]
    assert set(sent_again(read(text_of(cut)))) <= set(SENT)


def test_times_that_go_back_are_told() -> None:
    told = read(text_of(edges_of(TALK)) + b"#5\n1!\n#6\n0!\n")
    assert "go back in time" in told.problems[0].words
    assert sent_again(told) == SENT


def test_a_file_that_stops_in_its_header_is_told() -> None:
    told = read(b"$timescale 1 ns $end\n$var wire 1 ! CC1 $end\n")
    assert "$enddefinitions" in told.problems[0].words


def test_names_that_steer_a_terminal_are_inert() -> None:
    data = text_of(edges_of(TALK[:1])).replace(b" CC1 ", b" C\x1b[2JC ")
    assert "\x1b" not in read(data).wire


def test_a_capture_is_known_by_its_first_word() -> None:
    assert is_capture(b"\n$date today $end")
    assert is_capture(b"$timescale 1ns $end")
    assert not is_capture(b"0.000 SOP 41 00")
    assert not is_capture(b"$5 a piece")


@pytest.mark.parametrize("edges", [0, 1])
def test_nothing_is_made_of_no_edges(edges: int) -> None:
    assert len(bursts_of(np.zeros(edges))) == 0
