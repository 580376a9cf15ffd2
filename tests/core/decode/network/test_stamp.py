"""Test packets for delay: their bytes are those of the standard, and any bytes may come back."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.network.stamp import decode_reflected, encode_reflected, encode_sent

MOMENTS_S = st.floats(0, 2e9, allow_nan=False)


def test_a_senders_packet_has_its_fields_where_the_standard_has_them() -> None:
    """RFC 8762, 4.2.1: number, timestamp, error estimate, 30 octets of zeros; RFC 5905, 6: 1970 is 2208988800."""
    packet = encode_sent(7, 0.5)
    assert packet == bytes.fromhex("00000007 83aa7e80 80000000 0001") + bytes(30)
    assert len(encode_sent(0, 0.0, size=100)) == 100


def test_a_reflected_packet_has_its_fields_where_the_standard_has_them() -> None:
    """RFC 8762, 4.3.1: own number and time, receive time, then the sender's number, time, error and time to live."""
    answer = encode_reflected(encode_sent(7, 0.5), 3, 1.0, 1.25, ttl=64)
    assert answer == bytes.fromhex(
        "00000003 83aa7e81 40000000 0001 0000 83aa7e81 00000000 00000007 83aa7e80 80000000 0001 0000 40 000000"
    )


@given(st.integers(0, 2**32 - 1), MOMENTS_S, MOMENTS_S, MOMENTS_S, st.integers(44, 300))
def test_what_is_reflected_comes_back_as_it_left(
    number: int, sent_s: float, received_s: float, returned_s: float, size: int
) -> None:
    answer = encode_reflected(encode_sent(number, sent_s, size), 0, received_s, returned_s)
    assert answer is not None
    assert len(answer) == size
    back = decode_reflected(answer)
    assert back is not None
    assert back.number == number
    for told, true in ((back.sent_s, sent_s), (back.received_s, received_s), (back.returned_s, returned_s)):
        assert abs(told - true) < 1e-6


@given(st.binary(max_size=300))
def test_any_bytes_give_a_packet_or_none(data: bytes) -> None:
    assert (decode_reflected(data) is None) == (len(data) < 44)
    assert (encode_reflected(data, 0, 0.0, 0.0) is None) == (len(data) < 44)
