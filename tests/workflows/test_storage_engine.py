"""The storage engine finds every kind of wrong byte, and its traces tell the rate."""

from __future__ import annotations

import mmap

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.workflows.trials.doors import Progress
from auditra.workflows.trials.measure.blocks import BLOCK_BYTES, STAMP_PITCH_BYTES, Pattern, count_wrong_bytes
from auditra.workflows.trials.measure.memory import same_bytes
from auditra.workflows.trials.measure.rates import RateTrace
from tests.support.benches import Onlooker

PATTERN = Pattern()


def block(offset: int = 0, turn: int = 1) -> memoryview:
    kept = mmap.mmap(-1, BLOCK_BYTES)
    kept[:] = bytes(PATTERN.stamped(offset, turn))
    return memoryview(kept)


def test_what_was_written_compares_equal() -> None:
    found = block()
    assert count_wrong_bytes(PATTERN.stamped(0, 1), found) == 0


@given(st.integers(0, BLOCK_BYTES - 1), st.integers(1, 255))
def test_one_wrong_byte_anywhere_is_found(at: int, flip: int) -> None:
    found = block()
    found[at] ^= flip
    assert count_wrong_bytes(PATTERN.stamped(0, 1), found) == 1


@pytest.mark.parametrize(("offset", "turn"), [(BLOCK_BYTES, 1), (0, 2)])
def test_a_block_from_another_place_or_an_older_pass_is_found(offset: int, turn: int) -> None:
    found = block()
    assert count_wrong_bytes(PATTERN.stamped(offset, turn), found) >= BLOCK_BYTES // STAMP_PITCH_BYTES


@given(st.binary(min_size=1, max_size=300), st.binary(min_size=1, max_size=300))
def test_comparing_memory_agrees_with_comparing_bytes(one: bytes, other: bytes) -> None:
    assert same_bytes(memoryview(bytearray(one)), memoryview(bytearray(other))) == (one == other)


class SteppedClock:
    """A clock that is moved by hand."""

    def __init__(self) -> None:
        self.now = 0.0

    def now_s(self) -> float:
        return self.now

    def sleep(self, seconds: float) -> None:
        self.now += seconds


def test_a_steady_stream_makes_a_flat_trace_of_ten_samples_a_second() -> None:
    clock, onlooker = SteppedClock(), Onlooker()
    trace = RateTrace(clock, onlooker.progress, origin_s=0.0)  # type: ignore[arg-type]
    trace.start()
    for _ in range(100):
        clock.sleep(0.0101)
        trace.passed(1 << 20, "writing")
    rates = trace.trace().values
    assert len(rates) == 10
    assert all(rate == pytest.approx(8 * (1 << 20) / 0.0101) for rate in rates)
    assert [isinstance(sample, Progress) and sample.restarts_trace for sample in onlooker.samples] == [True] + 9 * [
        False
    ]
