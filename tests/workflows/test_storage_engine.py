"""The storage engine finds every kind of wrong byte, and its traces tell the rate."""

from __future__ import annotations

import mmap

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.workflows.trials.doors import Progress
from auditra.workflows.trials.measure.blocks import BLOCK_BYTES, STAMP_PITCH_BYTES, Pattern, count_wrong_bytes
from auditra.workflows.trials.measure.memory import same_bytes
from auditra.workflows.trials.measure.rates import SAMPLE_S, RateTrace
from auditra.workflows.trials.measure.storage import mover_of
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


class Answering:
    """A stand-in that says what its blocks are stamped with, at a rate of its own."""

    note = ""

    def __init__(self, clock: SteppedClock, rate_bps: float, lags: int = 0) -> None:
        self._clock, self._rate_bps, self._lags = clock, rate_bps, lags

    def write_stamp(self, offset: int, size: int, turn: int) -> None:
        self._clock.sleep(size * 8 / self._rate_bps)

    def read_stamp(self, offset: int, size: int) -> tuple[int, int, int]:
        return offset, 2 - self._lags, 3

    def write(self, offset: int, block: memoryview) -> None: ...
    def read_into(self, offset: int, block: memoryview) -> None: ...
    def flush(self) -> None: ...
    def close(self) -> None: ...


@given(st.integers(1, 3000), st.floats(1e8, 4e10))
def test_a_stand_in_moves_every_block_once_in_pieces_that_a_sample_has_many_of(blocks: int, rate_bps: float) -> None:
    clock, size = SteppedClock(), blocks * BLOCK_BYTES
    target = Answering(clock, rate_bps)
    mover = mover_of(target, clock)  # type: ignore[arg-type]
    came_to = 0
    for offset, count in mover.pieces(size):
        assert offset == came_to
        assert count == BLOCK_BYTES or count * 8 / rate_bps < SAMPLE_S / 4
        mover.write(offset, count, 1)
        came_to += count
    assert came_to == size == sum(count for _, count in mover.pieces_written(size))


@pytest.mark.parametrize(("lags", "wrong"), [(0, 3), (1, 8 * BLOCK_BYTES)])
def test_what_a_stand_in_kept_from_an_earlier_pass_is_all_wrong(lags: int, wrong: int) -> None:
    clock = SteppedClock()
    reader = mover_of(Answering(clock, 1e9, lags), clock).reader(turn=2)  # type: ignore[arg-type]
    reader.make_ready()
    reader.read(0, 8 * BLOCK_BYTES)
    reader.compare(0, 8 * BLOCK_BYTES)
    assert reader.finish() == wrong
