"""USB descriptors: what a device says that it is, what it draws, and how its interfaces and endpoints are laid out.

Source: USB 2.0, 9.6 "Standard USB Descriptor Definitions"; USB 3.2, 9.6; hubs: USB 2.0, 11.23 and USB 3.2, 10.15.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from enum import IntEnum

from auditra.core.decode.bits import bit, bits, u16, version_of
from auditra.core.decode.problem import Code, Problem, Problems
from auditra.core.decode.usb_capabilities import Capabilities, decode_capabilities

MAX_BYTES = 1 << 16
"""More than any device has; a configuration alone can be no longer."""
_SUPERSPEED_VERSION = 0x0300
_POWER_STEP_MA, _SUPERSPEED_POWER_STEP_MA = 2, 8
_MAX_PIECES = 8192


class Kind(IntEnum):
    """Descriptor types. Source: USB 3.2, table 9-6; hubs: USB 2.0, 11.23.2.1 and USB 3.2, 10.15.2.1."""

    DEVICE = 1
    CONFIGURATION = 2
    STRING = 3
    INTERFACE = 4
    ENDPOINT = 5
    QUALIFIER = 6
    OTHER_SPEED = 7
    ASSOCIATION = 11
    CAPABILITIES = 15
    CAPABILITY = 16
    HUB = 0x29
    SUPERSPEED_HUB = 0x2A
    COMPANION = 48
    ISOCHRONOUS_COMPANION = 49


_MIN_BYTES: dict[int, int] = {
    Kind.DEVICE: 18, Kind.CONFIGURATION: 9, Kind.OTHER_SPEED: 9, Kind.INTERFACE: 9, Kind.ENDPOINT: 7,
    Kind.ASSOCIATION: 8, Kind.COMPANION: 6, Kind.HUB: 7, Kind.SUPERSPEED_HUB: 12, Kind.CAPABILITIES: 5,
}  # fmt: skip
_EXACT_BYTES: dict[int, int] = {
    Kind.DEVICE: 18, Kind.CONFIGURATION: 9, Kind.OTHER_SPEED: 9, Kind.INTERFACE: 9, Kind.ASSOCIATION: 8,
    Kind.COMPANION: 6,
}  # fmt: skip
"""Those that no class makes longer; an endpoint of sound has two bytes more (Audio 1.0, 4.6.1.1)."""
_ENDS_CONFIGURATION = frozenset({
    Kind.DEVICE, Kind.CONFIGURATION, Kind.OTHER_SPEED, Kind.QUALIFIER, Kind.CAPABILITIES, Kind.HUB,
    Kind.SUPERSPEED_HUB,
})  # fmt: skip
_TRANSFERS = ("control", "isochronous", "bulk", "interrupt")


@dataclass(frozen=True)
class Companion:
    """What an endpoint does besides at SuperSpeed. Source: USB 3.2, 9.6.7."""

    max_burst: int
    """Packets in one burst: 1 to 16."""
    streams: int
    bytes_per_interval: int


@dataclass(frozen=True)
class Endpoint:
    """One end of a pipe. Source: USB 2.0, 9.6.6; `interval` as it stands, in frames or as a power of two."""

    number: int
    direction: str
    transfer: str
    max_packet_bytes: int
    transactions: int
    """Packets a microframe, for periodic endpoints at high speed."""
    interval: int
    companion: Companion | None = None


@dataclass(frozen=True)
class Interface:
    """One function, or one alternate setting of it. Codes as of the class tables of USB-IF."""

    number: int
    alternate: int
    class_code: int
    subclass_code: int
    protocol_code: int
    endpoint_count: int
    endpoints: tuple[Endpoint, ...] = ()


@dataclass(frozen=True)
class Association:
    """Interfaces that are one function. Source: USB 3.2, 9.6.4."""

    first_interface: int
    interface_count: int
    class_code: int
    subclass_code: int
    protocol_code: int


@dataclass(frozen=True)
class Configuration:
    """One way of running a device, with what it may draw then."""

    value: int
    self_powered: bool
    remote_wakeup: bool
    max_power_ma: int
    interface_count: int
    total_bytes: int
    interfaces: tuple[Interface, ...] = ()
    associations: tuple[Association, ...] = ()


@dataclass(frozen=True)
class DeviceDescriptor:
    """What the device is. `usb_version` is what it claims at this speed, not its speed."""

    usb_version: str
    class_code: int
    subclass_code: int
    protocol_code: int
    max_packet_bytes: int
    vid: int
    pid: int
    release: str
    configuration_count: int

    @property
    def is_superspeed(self) -> bool:
        return int(self.usb_version.partition(".")[0], 16) >= _SUPERSPEED_VERSION >> 8


@dataclass(frozen=True)
class HubDescriptor:
    """A hub's ports. `ready_ms`: from power on until power is good; `own_current_ma` is what its electronics draw."""

    superspeed: bool
    port_count: int
    switches_each_port: bool
    guards_each_port: bool
    is_compound: bool
    ready_ms: int
    own_current_ma: int


@dataclass(frozen=True)
class Descriptors:
    """All that could be read, in order, and what is wrong with the rest."""

    device: DeviceDescriptor | None = None
    configurations: tuple[Configuration, ...] = ()
    hubs: tuple[HubDescriptor, ...] = ()
    capabilities: Capabilities | None = None
    problems: tuple[Problem, ...] = ()


@dataclass(frozen=True)
class _Piece:
    """One descriptor in the stream."""

    offset: int
    kind: int
    data: bytes


def decode_descriptors(data: bytes) -> Descriptors:
    """Device, configurations, hub and capability descriptors, one after the other, as the kernel keeps them.

    Never raises. Lengths are never trusted beyond the bytes that are there; one of 0 or 1 ends the reading.
    """
    found = _Found()
    if len(data) > MAX_BYTES:
        found.problems.add(MAX_BYTES, Code.LONG, f"{len(data)} bytes, of which {MAX_BYTES} were read")
        data = data[:MAX_BYTES]
    for piece in _pieces(data, found.problems):
        found.take(piece, data)
        found.until = piece.offset + len(piece.data)
    return found.all()


def _pieces(data: bytes, problems: Problems) -> Iterator[_Piece]:
    at = 0
    for _ in range(_MAX_PIECES):
        if at >= len(data):
            return
        length = data[at]
        if length < 2:
            problems.add(at, Code.LENGTH, f"a descriptor of {length} bytes: nothing behind it can be found")
            return
        kind = data[at + 1] if at + 1 < len(data) else 0
        if at + length > len(data):
            problems.add(at, Code.SHORT, f"a descriptor of {length} bytes, of which {len(data) - at} are there")
        yield _Piece(at, kind, data[at : at + length])
        at += length
    problems.add(at, Code.LONG, f"more than {_MAX_PIECES} descriptors")


@dataclass
class _Found:
    """What has been read of a stream so far."""

    problems: Problems = field(default_factory=Problems)
    device: DeviceDescriptor | None = None
    configurations: list[Configuration] = field(default_factory=list)
    interfaces: list[Interface] = field(default_factory=list)
    endpoints: list[Endpoint] = field(default_factory=list)
    associations: list[Association] = field(default_factory=list)
    hubs: list[HubDescriptor] = field(default_factory=list)
    capabilities: Capabilities | None = None
    skip_until: int = 0
    last: int = 0
    begun: int = 0
    ended: bool = True
    """The last configuration is whole; what comes now is not its own."""
    until: int = 0

    def take(self, piece: _Piece, whole: bytes) -> None:
        if piece.offset < self.skip_until:
            return
        least = _MIN_BYTES.get(piece.kind, 2)
        if len(piece.data) < least:
            self.problems.add(piece.offset, Code.SHORT, f"{len(piece.data)} bytes where {least} belong")
            return
        exact = _EXACT_BYTES.get(piece.kind)
        if exact is not None and len(piece.data) > exact:
            self.problems.add(piece.offset, Code.LENGTH, f"{len(piece.data)} bytes where {exact} belong")
        if piece.kind in _ENDS_CONFIGURATION:
            self.end_configuration(piece.offset)
        reader = _READERS.get(piece.kind)
        if reader is not None:
            reader(self, piece, whole)
        self.last = piece.kind

    def take_device(self, piece: _Piece, _: bytes) -> None:
        data = piece.data
        if self.device is not None:
            self.problems.add(piece.offset, Code.ORDER, "a second device descriptor")
            return
        version = u16(data, 2)
        packet = data[7]
        if version >= _SUPERSPEED_VERSION:
            packet = 1 << min(packet, 15)
        self.device = DeviceDescriptor(
            version_of(version), data[4], data[5], data[6], packet, u16(data, 8), u16(data, 10),
            version_of(u16(data, 12)), data[17],
        )  # fmt: skip

    def take_configuration(self, piece: _Piece, _: bytes) -> None:
        data = piece.data
        superspeed = self.device is not None and self.device.is_superspeed
        step = _SUPERSPEED_POWER_STEP_MA if superspeed else _POWER_STEP_MA
        self.begun, self.ended = piece.offset, False
        self.configurations.append(
            Configuration(data[5], bit(data[7], 6), bit(data[7], 5), data[8] * step, data[4], u16(data, 2))
        )

    def take_interface(self, piece: _Piece, _: bytes) -> None:
        if not self.configurations:
            self.problems.add(piece.offset, Code.ORDER, "an interface before any configuration")
            return
        self.end_interface()
        data = piece.data
        self.interfaces.append(Interface(data[2], data[3], data[5], data[6], data[7], data[4]))

    def take_endpoint(self, piece: _Piece, _: bytes) -> None:
        if not self.interfaces:
            self.problems.add(piece.offset, Code.ORDER, "an endpoint before any interface")
            return
        data = piece.data
        size = u16(data, 4)
        self.endpoints.append(
            Endpoint(
                bits(data[2], 3, 0),
                "in" if bit(data[2], 7) else "out",
                _TRANSFERS[bits(data[3], 1, 0)],
                bits(size, 10, 0),
                bits(size, 12, 11) + 1,
                data[6],
            )
        )

    def take_companion(self, piece: _Piece, _: bytes) -> None:
        if not self.endpoints or self.last != Kind.ENDPOINT:
            self.problems.add(piece.offset, Code.ORDER, "a companion with no endpoint before it")
            return
        data, endpoint = piece.data, self.endpoints[-1]
        streams = 1 << bits(data[3], 4, 0) if endpoint.transfer == "bulk" and bits(data[3], 4, 0) else 0
        if data[2] > 15:
            self.problems.add(piece.offset + 2, Code.RESERVED, f"a burst of {data[2] + 1} packets; 16 are the most")
        companion = Companion(min(data[2], 15) + 1, streams, u16(data, 4))
        self.endpoints[-1] = replace(endpoint, companion=companion)

    def take_association(self, piece: _Piece, _: bytes) -> None:
        data = piece.data
        self.associations.append(Association(data[2], data[3], data[4], data[5], data[6]))

    def take_hub(self, piece: _Piece, _: bytes) -> None:
        data, superspeed = piece.data, piece.kind == Kind.SUPERSPEED_HUB
        traits = u16(data, 3)
        self.hubs.append(
            HubDescriptor(
                superspeed,
                data[2],
                bits(traits, 1, 0) == 1,
                bits(traits, 4, 3) == 1,
                bit(traits, 2),
                data[5] * 2,
                data[6] * (4 if superspeed else 1),
            )
        )

    def take_capabilities(self, piece: _Piece, whole: bytes) -> None:
        """The header and all that it counts; its decoder says where it ends."""
        if self.capabilities is not None:
            self.problems.add(piece.offset, Code.ORDER, "a second list of capabilities")
            return
        self.capabilities, self.skip_until = decode_capabilities(whole, piece.offset)
        for problem in self.capabilities.problems:
            self.problems.add(problem.offset, problem.code, problem.words)

    def end_interface(self) -> None:
        """What came since the last interface is its own."""
        if self.interfaces:
            last = self.interfaces[-1]
            self.interfaces[-1] = replace(last, endpoints=tuple(self.endpoints))
            if last.endpoint_count != len(self.endpoints):
                words = f"interface {last.number} has {len(self.endpoints)} endpoints and says {last.endpoint_count}"
                self.problems.add(self.begun, Code.COUNT, words)
        self.endpoints = []

    def end_configuration(self, at: int) -> None:
        self.end_interface()
        if self.configurations and not self.ended:
            self.ended = True
            last = self.configurations[-1]
            numbers = {interface.number for interface in self.interfaces}
            if len(numbers) != last.interface_count:
                words = f"configuration {last.value} has {len(numbers)} interfaces and says {last.interface_count}"
                self.problems.add(self.begun, Code.COUNT, words)
            if last.total_bytes != at - self.begun:
                words = f"configuration {last.value} has {at - self.begun} bytes but declares {last.total_bytes}"
                self.problems.add(self.begun + 2, Code.COUNT, words)
            self.configurations[-1] = replace(
                last, interfaces=tuple(self.interfaces), associations=tuple(self.associations)
            )
        self.interfaces, self.associations = [], []

    def all(self) -> Descriptors:
        self.end_configuration(self.until)
        counted = self.device.configuration_count if self.device is not None else len(self.configurations)
        if counted != len(self.configurations):
            words = f"the device says {counted} configurations, {len(self.configurations)} are there"
            self.problems.add(0, Code.COUNT, words)
        return Descriptors(
            self.device, tuple(self.configurations), tuple(self.hubs), self.capabilities, tuple(self.problems)
        )


_READERS: dict[int, Callable[[_Found, _Piece, bytes], None]] = {
    Kind.DEVICE: _Found.take_device, Kind.CONFIGURATION: _Found.take_configuration,
    Kind.OTHER_SPEED: _Found.take_configuration, Kind.INTERFACE: _Found.take_interface,
    Kind.ENDPOINT: _Found.take_endpoint, Kind.COMPANION: _Found.take_companion,
    Kind.ASSOCIATION: _Found.take_association, Kind.HUB: _Found.take_hub, Kind.SUPERSPEED_HUB: _Found.take_hub,
    Kind.CAPABILITIES: _Found.take_capabilities,
}  # fmt: skip
