"""The doors to network peers: streams, what is counted of them, and who opens them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol, runtime_checkable


class NetworkStream(Protocol):
    """TCP streams to a peer; each call returns how much arrived since the last one, about as much as was asked."""

    def send(self, count: int) -> int: ...

    def receive(self, count: int) -> int: ...

    def close(self) -> None: ...


@dataclass(frozen=True)
class NetworkAccount:
    """What was counted of one direction: payload that arrived, and bytes on the wire of the port's own interface.

    `busy_percent` is of the processors of the busier end, `lost_percent` what other machines took of them. None means
    that it is not known. `remarks` describe the transfer.
    """

    interface: str
    moved_bytes: int
    wire_bytes: int | None
    remarks: tuple[str, ...] = ()
    busy_percent: float | None = None
    lost_percent: float | None = None


@dataclass(frozen=True)
class PacketSizes:
    """The largest packet that went there and back whole, and the largest that each end is set to; in bytes, None where
    it is not known.
    """

    whole_bytes: int | None
    this_end_bytes: int | None = None
    far_end_bytes: int | None = None


class RoundTrips(Protocol):
    """Round trips in seconds, and the share of the packets that did not come back."""

    @property
    def median_s(self) -> float | None: ...

    @property
    def loss_percent(self) -> float: ...


@runtime_checkable
class CountedStream(NetworkStream, Protocol):
    """Streams whose bytes are counted at both ends and on the wire."""

    def account(self) -> NetworkAccount:
        """Ends a direction. Raises: BenchError where none was begun."""
        ...

    def delays(self) -> RoundTrips:
        """Raises: BenchError."""
        ...

    def packets(self) -> PacketSizes:
        """Raises: BenchError."""
        ...


class NetworkPeers(Protocol):
    """Opens streams to peers of the rig."""

    def serves(self, peer: str) -> bool:
        """Whether it can be reached by this bench at all."""
        ...

    def ask_interface(self, peer: str) -> str:
        """The interface that the person names, where none was seen to come; empty where there is none."""
        ...

    def connect(self, peer: str, interface: str = "", streams: int = 1) -> NetworkStream:
        """Over that interface of the host. Raises: BenchError when the peer does not answer."""
        ...
