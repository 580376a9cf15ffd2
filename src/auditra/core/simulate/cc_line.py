"""A CC line with messages on it, as a logic analyser would capture it: for practice, and to try the decoder against.

Source: USB PD R3.1, 5.3 to 5.8: symbols, ordered sets, preamble, biphase mark coding.
"""

from __future__ import annotations

import random
import zlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from auditra.core.decode.power_delivery.messages import Start

_SYMBOLS = ("11110", "01001", "10100", "10101", "01010", "01011", "01110", "01111",
            "10010", "10011", "10110", "10111", "11010", "11011", "11100", "11101")  # fmt: skip
_K_CODES = {"S1": "11000", "S2": "10001", "S3": "00110", "R1": "00111", "R2": "11001", "EOP": "01101"}
_ORDERED_SETS = {
    Start.PORT: "S1 S1 S1 S2", Start.NEAR_PLUG: "S1 S1 S3 S3", Start.FAR_PLUG: "S1 S3 S1 S3",
    Start.NEAR_DEBUG: "S1 R2 R2 S3", Start.FAR_DEBUG: "S1 R2 S3 S2", Start.HARD_RESET: "R1 R1 R1 R2",
    Start.CABLE_RESET: "R1 S1 R1 S3",
}  # fmt: skip
_PREAMBLE_BITS = 64
_SWING_V, _EDGE_S, _REST_AFTER_S = 1.125, 0.4e-6, 5e-6
_UNITS_NS = ((1000, "us"), (1, "ns"))


@dataclass(frozen=True)
class Sent:
    """A message on the line: its bytes from the header on, without the CRC; a reset has none."""

    at_s: float
    start: Start
    body: bytes = b""


def bits_of(sent: Sent) -> str:
    """As they go over the wire, the lowest bit of each symbol first."""
    codes = [_K_CODES[name] for name in _ORDERED_SETS[sent.start].split()]
    if not sent.start.is_reset:
        data = sent.body + zlib.crc32(sent.body).to_bytes(4, "little")
        codes += [_SYMBOLS[half] for byte in data for half in (byte & 15, byte >> 4)]
        codes.append(_K_CODES["EOP"])
    return "01" * (_PREAMBLE_BITS // 2) + "".join(code[::-1] for code in codes)


def edges_of(
    sent: Iterable[Sent], *, bit_rate_bps: float = 300_000, jitter_s: float = 0.0, seed: int = 0
) -> list[float]:
    """Moments at which the line changes; the line rests low before, and after, every message."""
    chance = random.Random(seed)
    edges: list[float] = []
    for each in sent:
        at, own = each.at_s, []
        for bit in bits_of(each):
            own.append(at)
            if bit == "1":
                own.append(at + 0.5 / bit_rate_bps)
            at += 1 / bit_rate_bps
        own.append(at)
        if len(own) % 2:
            own.append(at + 1 / bit_rate_bps)  # let go, and held low
        edges += [edge + chance.uniform(-jitter_s, jitter_s) for edge in own]
    return edges


def as_vcd(wires: dict[str, Sequence[float]], *, tick_ns: int = 1) -> Iterator[str]:
    """A value change dump of wires that begin low, line by line. Source: IEEE 1364-2005, 18.2."""
    count, unit = next((tick_ns // size, unit) for size, unit in _UNITS_NS if tick_ns % size == 0)
    yield f"$timescale {count} {unit} $end\n$scope module line $end\n"
    codes = {name: chr(33 + n) for n, name in enumerate(wires)}
    yield from (f"$var wire 1 {code} {name} $end\n" for name, code in codes.items())
    yield "$upscope $end\n$enddefinitions $end\n#0\n$dumpvars\n"
    yield from (f"0{code}\n" for code in codes.values())
    yield "$end\n"
    changes = sorted(
        (round(edge * 1e9 / tick_ns), codes[name], 1 - n % 2) for name, edges in wires.items()
        for n, edge in enumerate(edges)
    )  # fmt: skip
    for before, (tick, code, level) in pairwise([(-1, "", 0), *changes]):
        yield (f"#{tick}\n" if tick != before[0] else "") + f"{level}{code}\n"


def samples_of(
    edges: Sequence[float],
    *,
    sample_hz: float,
    until_s: float,
    rest_v: float = 1.7,
    noise_v: float = 0.0,
    seed: int = 0,
) -> Iterator[tuple[float, float]]:
    """Times and volts: driven between 0 and 1.125 V while something is sent, at rest where the termination puts it,
    with edges of 0.4 us. Source: USB PD R3.1, table 5-29 (vSwing, tRise and tFall of 0.3 us at least)."""
    chance = random.Random(seed)
    level, at, volts = 0, 0, rest_v
    step = _SWING_V / (_EDGE_S * sample_hz)
    for sample in range(int(until_s * sample_hz)):
        now = sample / sample_hz
        while at < len(edges) and edges[at] <= now:
            level, at = 1 - level, at + 1
        is_sent = (at > 0 and now - edges[at - 1] < _REST_AFTER_S) or (
            at < len(edges) and edges[at] - now < _REST_AFTER_S
        )
        target = (_SWING_V if level else 0.0) if is_sent else rest_v
        volts += max(-step, min(step, target - volts))
        yield now, volts + chance.gauss(0.0, noise_v)
