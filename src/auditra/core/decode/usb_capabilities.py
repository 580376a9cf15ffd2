"""The binary device object store: what a USB device could do, whatever link it made.

Source: USB 3.2, 9.6.2 "Binary Device Object Store (BOS)"; billboard: USB Billboard Device Class 1.2.2, 3.1.6.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field

from auditra.core.decode.bits import bit, bits, u16, u32, version_of
from auditra.core.decode.problem import Code, Problem, Problems

_HEADER_BYTES = 5
_STORE, _CAPABILITY = 15, 16
_MAX_CAPABILITIES = 255
_WENT_ASTRAY = frozenset({Code.LENGTH, Code.ORDER})
_EXPONENTS = (1, 10**3, 10**6, 10**9)
_SPEEDS = ((0, 1.5), (1, 12.0), (2, 480.0), (3, 5000.0))
_LANES_MBPS, _TWO = (5000.0, 10_000.0, 20_000.0), 2
"""Gen 1 and Gen 2 of USB 3.2, section 3.2, and what a Gen 3 lane carries."""
_MODE_STATES = ("error", "not tried", "failed", "entered")
_BILLBOARD_MODES_AT = 44


@dataclass(frozen=True)
class Usb2Extension:
    """What a device does on USB 2.0 lines besides. Source: USB 3.2, 9.6.2.1."""

    link_power_management: bool


@dataclass(frozen=True)
class SuperSpeed:
    """The speeds that a device has, in Mb/s. Latencies in microseconds. Source: USB 3.2, 9.6.2.2."""

    speeds_mbps: tuple[float, ...]
    full_function_mbps: float | None
    latency_tolerance: bool
    u1_latency_us: int
    u2_latency_us: int


@dataclass(frozen=True)
class Sublink:
    """One speed of one direction, a lane. Source: USB 3.2, table 9-19."""

    id: int
    lane_mbps: float
    transmits: bool
    symmetric: bool
    plus: bool
    """Speaks SuperSpeedPlus, and not SuperSpeed alone."""


@dataclass(frozen=True)
class SuperSpeedPlus:
    """Speeds above 5 Gb/s. `lanes` is the fewest with which everything works. Source: USB 3.2, 9.6.2.5."""

    sublinks: tuple[Sublink, ...]
    lanes: int

    @property
    def most_mbps(self) -> float:
        return max((each.lane_mbps for each in self.sublinks), default=0.0) * max(1, self.lanes)


@dataclass(frozen=True)
class AlternateModeStatus:
    """One mode of a billboard."""

    svid: int
    mode: int
    state: str
    """error, not tried, failed or entered."""


@dataclass(frozen=True)
class Billboard:
    """Modes that a device has other than USB, and what became of each."""

    preferred: int
    vconn_power_mw: int | None
    """None where it needs none."""
    modes: tuple[AlternateModeStatus, ...]


@dataclass(frozen=True)
class Capabilities:
    """What could be read of a BOS, and what is wrong with the rest."""

    usb2_extension: Usb2Extension | None = None
    superspeed: SuperSpeed | None = None
    superspeed_plus: SuperSpeedPlus | None = None
    container_id: str | None = None
    """Equal for all functions of one product; None where it has none."""
    platforms: tuple[str, ...] = ()
    billboard: Billboard | None = None
    billboard_version: str | None = None
    other_kinds: tuple[int, ...] = ()
    problems: tuple[Problem, ...] = ()

    @property
    def most_mbps(self) -> float | None:
        """The fastest link that it says it can make; None where it does not say."""
        plus = self.superspeed_plus.most_mbps if self.superspeed_plus else 0.0
        plain = max(self.superspeed.speeds_mbps, default=0.0) if self.superspeed else 0.0
        return max(plus, plain) or None


def decode_capabilities(data: bytes, at: int = 0) -> tuple[Capabilities, int]:
    """The capabilities that begin at a place, and the place behind them. Never raises."""
    found = _Found()
    begun, end = _extent(data, at, found.problems)
    pieces = list(_pieces(data, begun, end, found.problems))
    if begun < len(data) and len(pieces) != (count := data[at + 4]):
        found.problems.add(at + 4, Code.COUNT, f"{count} capabilities are declared, {len(pieces)} are there")
    if any(problem.code in _WENT_ASTRAY for problem in found.problems) and pieces:
        pieces.pop()  # the capability before a misfit may be the damaged one
    for place, piece in pieces:
        found.take(place, piece)
    return found.all(), end


def _extent(data: bytes, at: int, problems: Problems) -> tuple[int, int]:
    """Where the capabilities begin and end by their header; nothing is between where it is none."""
    left = len(data) - at
    if left < _HEADER_BYTES:
        problems.add(at, Code.SHORT, f"{max(0, left)} bytes where {_HEADER_BYTES} belong")
        return len(data), len(data)
    if data[at] != _HEADER_BYTES or data[at + 1] != _STORE:
        words = f"header length {data[at]} and type {data[at + 1]}; expected {_HEADER_BYTES} and {_STORE}"
        problems.add(at, Code.ORDER, f"{words}. Not decoded")
        return len(data), len(data)
    total = u16(data, at + 2)
    if total < _HEADER_BYTES:
        problems.add(at + 2, Code.LENGTH, f"total length {total} is shorter than the header")
    if total > left:
        problems.add(at + 2, Code.SHORT, f"{total} bytes are declared, {left} are there")
    return at + _HEADER_BYTES, at + min(max(total, _HEADER_BYTES), left)


@dataclass
class _Found:
    """What has been read so far."""

    problems: Problems = field(default_factory=Problems)
    read: dict[str, object] = field(default_factory=dict)
    platforms: list[str] = field(default_factory=list)
    others: list[int] = field(default_factory=list)

    def take(self, place: int, piece: bytes) -> None:
        """One capability; of two of a kind, the first."""
        kind, belong = piece[2], _bytes_of(piece)
        if len(piece) < belong:
            self.problems.add(place, Code.SHORT, f"capability {kind} has {len(piece)} bytes, expected {belong}")
        elif kind in _FIXED_BYTES and len(piece) > belong:
            self.problems.add(place, Code.LENGTH, f"capability {kind} has {len(piece)} bytes, expected {belong}")
        elif kind == _PLATFORM:
            self.platforms.append(_uuid(piece))
        elif kind not in _DECODERS:
            self.others.append(kind)
        elif (name := _DECODERS[kind][0]) in self.read:
            self.problems.add(place, Code.ORDER, f"duplicate capability {kind}")
        else:
            self.read[name] = _DECODERS[kind][1](piece, place, self.problems)

    def all(self) -> Capabilities:
        read = dict(self.read)
        if isinstance(board := read.get("billboard"), tuple):
            read["billboard"], read["billboard_version"] = board
        more = {"platforms": tuple(self.platforms), "other_kinds": tuple(self.others)}
        return Capabilities(**read, **more, problems=tuple(self.problems))  # type: ignore[arg-type]


def _pieces(data: bytes, at: int, end: int, problems: Problems) -> Iterator[tuple[int, bytes]]:
    for _ in range(_MAX_CAPABILITIES):
        if at >= end:
            return
        length = data[at]
        if length < 3:
            problems.add(at, Code.LENGTH, f"a capability of {length} bytes: nothing behind it can be found")
            return
        if at + length > end:
            problems.add(at, Code.SHORT, f"a capability of {length} bytes, of which {end - at} are there")
            return
        if data[at + 1] != _CAPABILITY:
            problems.add(
                at + 1, Code.ORDER, f"descriptor type {data[at + 1]} inside the capabilities; the rest is not decoded"
            )
            return
        yield at, data[at : at + length]
        at += length


def _usb2_extension(piece: bytes, _: int, __: Problems) -> Usb2Extension:
    return Usb2Extension(bit(u32(piece, 3), 1))


def _superspeed(piece: bytes, at: int, problems: Problems) -> SuperSpeed:
    told = u16(piece, 4)
    speeds = tuple(mbps for place, mbps in _SPEEDS if bit(told, place))
    lowest = dict(_SPEEDS).get(piece[6])
    if lowest is None:
        problems.add(at + 6, Code.RESERVED, f"{piece[6]} is no speed")
    return SuperSpeed(speeds, lowest, bit(piece[3], 1), piece[7], u16(piece, 8))


def _superspeed_plus(piece: bytes, at: int, problems: Problems) -> SuperSpeedPlus:
    sublinks = []
    for place in range(12, len(piece), 4):
        sublink = _sublink(u32(piece, place))
        if sublink.lane_mbps in _LANES_MBPS:
            sublinks.append(sublink)
        else:
            problems.add(at + place, Code.RESERVED, f"invalid lane rate {sublink.lane_mbps:g} Mb/s")
    lanes = bits(u16(piece, 8), 11, 8)
    if lanes not in (1, 2):
        problems.add(at + 8, Code.RESERVED, f"invalid lane count {lanes}; expected 1 or 2")
    return SuperSpeedPlus(tuple(sublinks), lanes if lanes == _TWO else 1)


def _sublink(word: int) -> Sublink:
    mbps = bits(word, 31, 16) * _EXPONENTS[bits(word, 5, 4)] / 1e6
    return Sublink(bits(word, 3, 0), mbps, bit(word, 7), not bit(word, 6), bits(word, 15, 14) == 1)


def _container(piece: bytes, _: int, __: Problems) -> str | None:
    return _uuid(piece) if any(piece[4:20]) else None


def _uuid(piece: bytes) -> str:
    return str(uuid.UUID(bytes_le=bytes(piece[4:20])))


def _billboard(piece: bytes, at: int, problems: Problems) -> tuple[Billboard, str | None]:
    count, preferred, vconn = piece[4], piece[5], u16(piece, 6)
    fits = max(0, (len(piece) - _BILLBOARD_MODES_AT) // 4)
    if fits < count:
        problems.add(at + 4, Code.COUNT, f"{count} modes are declared, {fits} are there")
    modes = tuple(
        AlternateModeStatus(u16(piece, place), piece[place + 2], _state(piece, n))
        for n in range(min(count, fits))
        for place in (_BILLBOARD_MODES_AT + 4 * n,)
    )
    version = version_of(u16(piece, 40)) if len(piece) >= _BILLBOARD_MODES_AT else None
    power = None if bit(vconn, 15) else _VCONN_MW.get(bits(vconn, 2, 0))
    return Billboard(preferred, power, modes), version


_VCONN_MW = {0: 1000, 1: 1500, 2: 2000, 3: 3000, 4: 4000, 5: 5000, 6: 6000}


def _state(piece: bytes, mode: int) -> str:
    """Two bits a mode from byte 8. Source: USB Billboard Device Class 1.2.2, table 3-3 (bmConfigured)."""
    if mode >= 128:
        return _MODE_STATES[0]
    return _MODE_STATES[piece[8 + mode // 4] >> 2 * (mode % 4) & 3]


_PLATFORM = 5
_DECODERS = {
    2: ("usb2_extension", _usb2_extension), 3: ("superspeed", _superspeed), 4: ("container_id", _container),
    10: ("superspeed_plus", _superspeed_plus), 13: ("billboard", _billboard),
}  # fmt: skip
_MIN_BYTES = {2: 7, 3: 10, 4: 20, 5: 20, 10: 16, 13: 44}
"""Source: USB 3.2, 9.6.2, sizes of each capability."""
_FIXED_BYTES = frozenset({2, 3, 4, 10})
_SUPERSPEED_PLUS = 10


def _bytes_of(piece: bytes) -> int:
    """How long it has to be at least; that of SuperSpeedPlus follows from how many speeds it counts."""
    kind = piece[2]
    if kind == _SUPERSPEED_PLUS and len(piece) >= _MIN_BYTES[kind]:
        return 12 + 4 * (bits(u32(piece, 4), 4, 0) + 1)
    return _MIN_BYTES.get(kind, 3)
