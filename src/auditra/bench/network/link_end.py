"""One end of the link under trial, as it is told to the other end and noted beside the rate."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.host.snapshot import NetworkInterface
from auditra.core.quantities.display import bit_rate

_MAX_MBPS = 1_000_000
"""IEEE 802.3 has nothing faster yet than 800 Gb/s."""
_MAX_MTU = 1 << 20
_DUPLEX = ("full", "half")


@dataclass(frozen=True)
class LinkEnd:
    """None is what the kernel does not say."""

    speed_mbps: int | None = None
    duplex: str | None = None
    wireless: bool = False
    mtu_bytes: int | None = None

    @classmethod
    def of(cls, interface: NetworkInterface | None) -> LinkEnd:
        if interface is None:
            return cls()
        duplex = interface.duplex if interface.duplex in _DUPLEX else None
        return cls(interface.speed_mbps, duplex, interface.wireless, interface.mtu_bytes)

    @classmethod
    def told(cls, message: object) -> LinkEnd:
        """What the other end said of itself; what makes no sense is unknown."""
        if not isinstance(message, dict):
            return cls()
        speed, duplex, mtu = message.get("speed_mbps"), message.get("duplex"), message.get("mtu_bytes")
        return cls(
            speed if type(speed) is int and 0 < speed <= _MAX_MBPS else None,
            duplex if duplex in _DUPLEX else None,
            message.get("wireless") is True,
            mtu if type(mtu) is int and 0 < mtu <= _MAX_MTU else None,
        )

    @property
    def words(self) -> str:
        rate = "link rate unknown" if self.speed_mbps is None else bit_rate(self.speed_mbps * 1e6)
        return f"{rate}{f' {self.duplex} duplex' if self.duplex else ''}{', wireless' if self.wireless else ''}"
