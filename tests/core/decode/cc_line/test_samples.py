"""Sampled voltages of a CC line become the same messages."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.cc_line.capture import is_capture, read_capture
from auditra.core.decode.cc_line.samples import edges_of_samples
from auditra.core.simulate.cc_line import edges_of, samples_of
from tests.core.decode.cc_line.test_capture import SENT, TALK, sent_again

FIRST = TALK[:2]


def table(heading: str, scale: float, comma: bool, **how: float) -> bytes:
    rows = samples_of(edges_of(FIRST), sample_hz=4e6, until_s=0.0035, seed=3, **how)
    text = heading + "".join(f"{at:.9f};{volts * scale:.4f}\n" for at, volts in rows)
    return (text.replace(".", ",") if comma else text).encode()


@pytest.mark.parametrize(
    ("heading", "scale", "comma"),
    [("time (s);CC1 (V)\n", 1.0, False), ("t/s;CC1/mV\n", 1000.0, False), ("Zeit (s);CC1 (V)\n", 1.0, True)],
)
@pytest.mark.parametrize("rest_v", [0.41, 0.92, 1.68])
def test_volts_become_messages(heading: str, scale: float, comma: bool, rest_v: float) -> None:
    data = table(heading, scale, comma, rest_v=rest_v, noise_v=0.02)
    assert is_capture(data[: 1 << 16])
    told = read_capture([data])
    assert sent_again(told) == SENT[:2]
    assert told.wire == "CC1"


def test_rows_that_are_none_are_named_and_left_out() -> None:
    data = table("time (s);CC1 (V)\n", 1.0, False).replace(b"\n0.000500", b"\noverload\n0.000500")
    told = read_capture([data])
    assert sent_again(told) == SENT[:2]
    assert "overload" in told.problems[0].words


def test_a_log_of_messages_is_no_table_of_volts() -> None:
    assert not is_capture(b"0.002 SOP 61 41 2c 91 01 00\n0.004 SOP 82 10 c2 09 27 40\n0.005 SOP a3 03\n")
    assert not is_capture(b"nothing in here is a table\n")
    slow = b"time (s);bus (V)\n" + b"".join(b"%d;%d.2\n" % (n, n % 2 * 4) for n in range(3000))
    assert not is_capture(slow)


@given(st.lists(st.floats(allow_nan=True, allow_infinity=True), max_size=60))
def test_any_values_are_survived(values: list[float]) -> None:
    volts = np.array(values, dtype=np.float64)
    edges = edges_of_samples(np.arange(len(volts), dtype=np.float64), volts)
    assert (np.diff(edges) >= 0).all()
