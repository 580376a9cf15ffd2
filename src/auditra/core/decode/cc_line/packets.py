"""Bits to packets: ordered sets, symbols of five bits, the end of a packet.

Source: USB PD R3.1, 5.3 (symbols of five bits, table 5-1), 5.4 (ordered sets: three of four K-codes will do), 5.6
(packets, tables 5-2 to 5-9). Every symbol is sent with its lowest bit first.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import product
from types import MappingProxyType

import numpy as np
import numpy.typing as npt

from auditra.core.decode.cc_line.biphase import FASTEST_BPS, SLOWEST_BPS, Bits, Bursts, Indices
from auditra.core.decode.power_delivery.messages import MAX_MESSAGE_LENGTH, Start
from auditra.core.decode.problem import Code, Problem, Problems

_SYMBOLS = (
    0b11110, 0b01001, 0b10100, 0b10101, 0b01010, 0b01011, 0b01110, 0b01111,
    0b10010, 0b10011, 0b10110, 0b10111, 0b11010, 0b11011, 0b11100, 0b11101,
)  # fmt: skip
_SYNC_1, _SYNC_2, _SYNC_3, _RST_1, _RST_2, _EOP = 1, 2, 3, 4, 5, 6
_K_CODES = {0b11000: _SYNC_1, 0b10001: _SYNC_2, 0b00110: _SYNC_3, 0b00111: _RST_1, 0b11001: _RST_2, 0b01101: _EOP}
_ORDERED_SETS: Mapping[Start, tuple[int, int, int, int]] = MappingProxyType({
    Start.PORT: (_SYNC_1, _SYNC_1, _SYNC_1, _SYNC_2),
    Start.NEAR_PLUG: (_SYNC_1, _SYNC_1, _SYNC_3, _SYNC_3),
    Start.FAR_PLUG: (_SYNC_1, _SYNC_3, _SYNC_1, _SYNC_3),
    Start.NEAR_DEBUG: (_SYNC_1, _RST_2, _RST_2, _SYNC_3),
    Start.FAR_DEBUG: (_SYNC_1, _RST_2, _SYNC_3, _SYNC_2),
    Start.HARD_RESET: (_RST_1, _RST_1, _RST_1, _RST_2),
    Start.CABLE_RESET: (_RST_1, _SYNC_1, _RST_1, _SYNC_3),
})  # fmt: skip
_STARTS = tuple(_ORDERED_SETS)
_SET_BITS, _SYMBOL_BITS, _ENOUGH = 20, 5, 3
_LOOK_BITS = 160
"""How far into a burst its ordered set may begin: behind the 64 bits of a preamble, and what noise may put
before it."""
_LEAST_PREAMBLE_BITS = 6
"""Fewer alternating bits before an ordered set are none: the capture may begin in the middle of a preamble."""
_LEAST_BURST_BITS = 24
"""A burst that is shorter is noise, and no packet that was torn."""
_MOST_SYMBOLS = 2 * MAX_MESSAGE_LENGTH + 2
_IS_EOP, _IS_NO_CODE, _IS_K_CODE = 16, 32, 17


def _nibbles() -> Bits:
    table = np.full(32, _IS_NO_CODE, dtype=np.uint8)
    for code in _K_CODES:
        table[code] = _IS_K_CODE
    table[0b01101] = _IS_EOP
    for value, symbol in enumerate(_SYMBOLS):
        table[symbol] = value
    return table


def _sets() -> tuple[npt.NDArray[np.int8], npt.NDArray[np.bool_]]:
    """By four codes of three bits: which ordered set they are, or -1; and whether all four are right."""
    which, exact = np.full(4096, -1, dtype=np.int8), np.zeros(4096, dtype=bool)
    for codes in product(range(8), repeat=4):
        right = [sum(a == b for a, b in zip(codes, each, strict=True)) for each in _ORDERED_SETS.values()]
        if max(right) >= _ENOUGH and right.count(max(right)) == 1:
            key = codes[0] | codes[1] << 3 | codes[2] << 6 | codes[3] << 9
            which[key], exact[key] = right.index(max(right)), max(right) == len(codes)
    return which, exact


_NIBBLES, (_WHICH_SET, _IS_EXACT) = _nibbles(), _sets()
_CODES = np.zeros(32, dtype=np.int64)
_CODES[list(_K_CODES)] = list(_K_CODES.values())


@dataclass(frozen=True)
class Packet:
    """What was sent between two pauses. Times are seconds from the beginning of the capture.

    `start` is None where no ordered set can be made out; `data` are the bytes from the header on, with the CRC.
    """

    start_s: float
    end_s: float
    start: Start | None
    data: bytes = b""
    bit_rate_bps: float = 0.0
    problems: tuple[Problem, ...] = ()
    """Their offsets are bytes of the packet."""


def packets_of(bursts: Bursts) -> Iterator[Packet]:
    """In order of time; bursts that are too short for any packet are left out."""
    if not len(bursts):
        return
    windows = _windows(bursts.bits)
    begins, sets, exact = _ordered_sets(bursts, windows)
    symbols = _NIBBLES[windows]
    for burst in range(len(bursts)):
        first, end = int(bursts.first_bit[burst]), bursts.end_of(burst)
        if begins[burst] < 0:
            if end - first >= _LEAST_BURST_BITS:
                yield _unknown(bursts, burst, end - first)
            continue
        yield _packet(bursts, burst, int(begins[burst]), end, _STARTS[sets[burst]], bool(exact[burst]), symbols)


def _windows(bits: Bits) -> npt.NDArray[np.uint8]:
    """The symbol that begins at each bit, as its five bits from there on."""
    padded = np.concatenate((bits, np.zeros(_SET_BITS + _SYMBOL_BITS, dtype=np.uint8)))
    count = len(bits) + _SET_BITS
    found = padded[:count].copy()
    for n in range(1, _SYMBOL_BITS):
        found |= padded[n : n + count] << n
    return found


def _ordered_sets(bursts: Bursts, windows: Bits) -> tuple[Indices, npt.NDArray[np.int8], npt.NDArray[np.bool_]]:
    """Where each burst has its ordered set: the first that is whole, else the first of which three parts are right."""
    codes = _CODES[windows]
    count = len(bursts.bits)
    key = codes[:count].copy()
    for n in range(1, 4):
        key |= codes[_SYMBOL_BITS * n : _SYMBOL_BITS * n + count] << 3 * n
    which, exact = _WHICH_SET[key], _IS_EXACT[key]
    begins = np.full(len(bursts), -1, dtype=np.int64)
    for candidates in (np.flatnonzero((which >= 0) & ~exact), np.flatnonzero(exact)):
        candidates = candidates[_follows_preamble(bursts, candidates)]
        if not len(candidates):
            continue
        place = np.searchsorted(candidates, bursts.first_bit[:-1])
        place[place == len(candidates)] = len(candidates) - 1
        first = candidates[place]
        inside = (first >= bursts.first_bit[:-1]) & (first + _SET_BITS - 2 <= bursts.first_bit[1:])
        inside &= first - bursts.first_bit[:-1] <= _LOOK_BITS
        begins[inside] = first[inside]
    found = np.maximum(begins, 0)
    return begins, which[found], exact[found]


def _follows_preamble(bursts: Bursts, places: Indices) -> npt.NDArray[np.bool_]:
    """Whether bits that alternate, and end with a 1, stand before a place. Source: USB PD R3.1, 5.6.1.1 (preamble)."""
    good = np.ones(len(places), dtype=bool)
    for n in range(1, _LEAST_PREAMBLE_BITS + 1):
        at = places - n
        good &= (at >= 0) & (bursts.bits[np.maximum(at, 0)] == n % 2)
    return good


def _unknown(bursts: Bursts, burst: int, count: int) -> Packet:
    words = (
        f"{count} bits without an ordered set: noise, a packet of which the beginning is missing, or two that collided"
    )
    return Packet(
        float(bursts.starts_s[burst]), float(bursts.ends_s[burst]), None, b"", 1 / float(bursts.bit_s[burst]),
        (Problem(0, Code.ORDER, words),),
    )  # fmt: skip


def _packet(bursts: Bursts, burst: int, begin: int, end: int, start: Start, is_exact: bool, symbols: Bits) -> Packet:
    problems = Problems()
    rate_bps = 1 / float(bursts.bit_s[burst])
    if not is_exact:
        problems.add(0, Code.RESERVED, f"one of the four codes of {start} is wrong")
    data, last = b"", begin + _SET_BITS
    if not start.is_reset:
        data, last = _payload(symbols[begin + _SET_BITS : end : _SYMBOL_BITS], problems)
        last = begin + _SET_BITS + _SYMBOL_BITS * last
    lost = int(bursts.lost[min(last, end)] - bursts.lost[begin])
    if lost:
        words = f"{lost} bits have no edge at their beginning: noise, or two that spoke at once"
        problems.add(0, Code.CONTRADICTION, words)
    if not SLOWEST_BPS * 0.99 <= rate_bps <= FASTEST_BPS * 1.01:
        problems.add(0, Code.RESERVED, f"{rate_bps / 1000:.0f} kb/s, where 270 to 330 are allowed")
    return Packet(
        float(bursts.starts_s[burst]), float(bursts.ends_s[burst]), start, data, rate_bps, tuple(problems)
    )  # fmt: skip


def _payload(symbols: Bits, problems: Problems) -> tuple[bytes, int]:
    """The bytes before the end of the packet, low half first; and how many symbols were looked at."""
    looked = symbols[:_MOST_SYMBOLS]
    ends = np.flatnonzero(looked == _IS_EOP)
    count = int(ends[0]) if len(ends) else len(looked)
    nibbles = looked[:count]
    wrong = np.flatnonzero(nibbles >= _IS_EOP)
    if not len(ends):
        # what stands behind the last whole byte may be the line that was let go
        problems.add(count // 2, Code.SHORT if len(symbols) <= _MOST_SYMBOLS else Code.LONG, "no end of packet")
    if len(wrong):
        words = f"{len(wrong)} symbols that are no data"
        problems.add(int(wrong[0]) // 2, Code.CHECKSUM, words)
        count = int(wrong[0])
    elif count % 2 and len(ends):
        problems.add(count // 2, Code.LENGTH, "half a byte before the end of packet")
    whole = nibbles[: count // 2 * 2]
    return (whole[::2] | whole[1::2] << 4).tobytes(), len(looked) if not len(ends) else int(ends[0]) + 1
