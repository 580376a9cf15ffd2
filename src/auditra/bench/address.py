"""Where an instrument or a peer answers: host and port, as the rig has them."""

from __future__ import annotations


def host_and_port(address: str) -> tuple[str, int] | None:
    """Of ``host:port``, an IPv6 address in brackets; None for what is not that."""
    host, _, port = address.rpartition(":")
    if not host or not port.isdecimal() or not 0 < int(port[:6]) < 65536:
        return None
    return host.removeprefix("[").removesuffix("]"), int(port)
