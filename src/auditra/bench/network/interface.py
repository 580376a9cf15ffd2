"""Which interface a connection uses, what passed it, and how its link stands. Source: Linux, proc_pid_net(5), sysfs."""

from __future__ import annotations

import fcntl
import socket
import struct
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

PROC_NET_DEV, SYS_NET = Path("/proc/net/dev"), Path("/sys/class/net")
_SIOCGIFADDR = 0x8915
_RECEIVED, _SENT = 0, 8
"""Columns of bytes in /proc/net/dev."""


@dataclass(frozen=True)
class Counted:
    """Bytes that passed an interface since it came up, headers and all."""

    sent_bytes: int
    received_bytes: int


@dataclass(frozen=True)
class LinkState:
    """One interface. None is what the kernel does not say."""

    name: str
    rate_bps: float | None = None
    is_full_duplex: bool | None = None
    mtu_bytes: int | None = None
    is_wireless: bool = False

    def as_message(self) -> dict[str, Any]:
        return asdict(self)


def counted(name: str, proc: Path = PROC_NET_DEV) -> Counted | None:
    """None for an interface that is not there."""
    try:
        lines = proc.read_text(encoding="ascii", errors="replace").splitlines()
    except OSError:
        return None
    for line in lines:
        head, colon, rest = line.partition(":")
        if colon and head.strip() == name:
            columns = rest.split()
            return Counted(int(columns[_SENT]), int(columns[_RECEIVED])) if len(columns) > _SENT else None
    return None


def link_state(name: str, sys: Path = SYS_NET) -> LinkState:
    """What the kernel says of an interface."""
    home = sys / name
    speed, duplex, mtu = (_attribute(home / each) for each in ("speed", "duplex", "mtu"))
    return LinkState(
        name,
        rate_bps=int(speed) * 1e6 if speed.isdecimal() and int(speed) > 0 else None,
        is_full_duplex={"full": True, "half": False}.get(duplex),
        mtu_bytes=int(mtu) if mtu.isdecimal() else None,
        is_wireless=(home / "wireless").exists() or (home / "phy80211").exists(),
    )


def interface_of(address: str) -> str:
    """The interface that has an address; empty where none has, such as in another namespace."""
    for _, name in socket.if_nameindex():
        if address in _addresses(name):
            return name
    return ""


def _addresses(name: str) -> set[str]:
    found = set()
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            answer = fcntl.ioctl(asked.fileno(), _SIOCGIFADDR, struct.pack("256s", name[:15].encode()))
            found.add(socket.inet_ntoa(answer[20:24]))
        except OSError:
            pass
    for line in _lines(Path("/proc/net/if_inet6")):
        columns = line.split()
        if len(columns) > 5 and columns[5] == name:
            found.add(socket.inet_ntop(socket.AF_INET6, bytes.fromhex(columns[0])))
    return found


def _lines(path: Path) -> list[str]:
    try:
        return path.read_text(encoding="ascii", errors="replace").splitlines()
    except OSError:
        return []


def _attribute(path: Path) -> str:
    try:
        return path.read_text(encoding="ascii", errors="replace").strip()
    except OSError:
        return ""
