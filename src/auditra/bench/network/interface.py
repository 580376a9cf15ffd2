"""Which interface a connection uses. What the kernel says of one is read where the host's are (`bench/kernel`)."""

from __future__ import annotations

import fcntl
import socket
import struct

from auditra.bench.kernel.attributes import Attributes
from auditra.bench.kernel.other_classes import read_network
from auditra.bench.path import SYS
from auditra.core.host.snapshot import NetworkInterface

_SIOCGIFADDR = 0x8915
"""Source: Linux, netdevice(7)."""


def interface_named(name: str) -> NetworkInterface | None:
    """None for one that is not there."""
    return next((each for each in read_network(Attributes(SYS)) if each.name == name), None)


def interface_of(address: str) -> str:
    """The interface that has an IPv4 address; empty where none has, such as in another namespace."""
    return next((name for _, name in socket.if_nameindex() if _address_of(name) == address), "")


def _address_of(name: str) -> str:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            answer = fcntl.ioctl(asked.fileno(), _SIOCGIFADDR, struct.pack("256s", name[:15].encode()))
        except OSError:
            return ""
    return socket.inet_ntoa(answer[20:24])
