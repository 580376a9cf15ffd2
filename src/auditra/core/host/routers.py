"""USB4 and Thunderbolt as a host reports them: routers with their ports, retimers and domains."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class RouterPort:
    """A socket of a router: which kind of link it has, and which C socket it is."""

    number: int
    link: str | None = None
    """usb4, tbt or none, as the kernel says it."""
    type_c: str | None = None


@dataclass(frozen=True)
class Router:
    """A USB4 or Thunderbolt router. Rates are of one lane of its link towards the host, seen from it: it receives what
    the host sends. Source: Linux, Documentation/ABI (sysfs-bus-thunderbolt, rx_lanes).
    """

    name: str
    device_name: str = ""
    vendor_name: str = ""
    generation: int | None = None
    rx_mbps_a_lane: float | None = None
    tx_mbps_a_lane: float | None = None
    rx_lanes: int | None = None
    tx_lanes: int | None = None
    authorized: bool | None = None
    ports: tuple[RouterPort, ...] = ()

    @property
    def to_it_mbps(self) -> float | None:
        """What the host can send to it, over all lanes."""
        return _over_lanes(self.rx_mbps_a_lane, self.rx_lanes)

    @property
    def from_it_mbps(self) -> float | None:
        """What it can send to the host, over all lanes."""
        return _over_lanes(self.tx_mbps_a_lane, self.tx_lanes)


def _over_lanes(mbps_a_lane: float | None, lanes: int | None) -> float | None:
    return mbps_a_lane * lanes if mbps_a_lane and lanes else None


@dataclass(frozen=True)
class Retimer:
    """What repairs the signal behind a router's port: on the board, or in a cable that is plugged in there."""

    name: str
    router: str
    vendor: int | None = None
    device: int | None = None
    firmware: str | None = None


@dataclass(frozen=True)
class RouterDomain:
    """One USB4 or Thunderbolt controller, and what has to be asked before a device may work on it."""

    name: str
    security: str | None = None
    guards_memory: bool | None = None
    """Devices reach only the memory that is meant for them (IOMMU)."""
