"""What a kernel says of a TCP connection: whatever it gives is read, and what it does not give is unknown."""

from __future__ import annotations

import struct

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.network.tcp_info import SIZE, decode_tcp_info


def test_an_older_kernel_says_less_of_a_connection() -> None:
    data = bytearray(SIZE)
    struct.pack_into("=I", data, 68, 2_500)
    struct.pack_into("=Q", data, 120, 1 << 40)
    whole, older = decode_tcp_info(bytes(data)), decode_tcp_info(bytes(data[:104]))
    assert (whole.rtt_s, whole.acknowledged_bytes) == (0.0025, 1 << 40)
    assert (older.rtt_s, older.acknowledged_bytes, older.retransmitted_segments) == (0.0025, None, 0)


@given(st.binary(max_size=SIZE))
def test_any_bytes_give_figures_that_are_known_or_not(data: bytes) -> None:
    told = decode_tcp_info(data)
    assert (told.acknowledged_bytes is None) == (len(data) < 128)
    assert (told.path_mtu_bytes is None) == (len(data) < 64)
