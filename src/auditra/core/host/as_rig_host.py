"""A host of the rig from what the machine reports about itself: its sockets, its system, what each socket can do."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.host.limits import DISPLAYPORT_SVID
from auditra.core.host.snapshot import HubPort, Snapshot, TypeCPort, UsbDevice
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Host, HostSocket

_PICTURE_SOCKETS = {"HDMI": ("H", "hdmi"), "DP": ("D", "displayport"), "VGA": ("V", "vga")}
"""The kernel's names of display connectors (drm_connector_enum_list), with our letter and connector. Panels of the
machine itself (eDP, LVDS, DSI) are no sockets."""
_LEAST_USB_BPS = 480e6
"""Every USB socket of a host since 2000 carries high speed (USB 2.0, section 7.1)."""


def host_from(snapshot: Snapshot, host_id: str, name: str = "") -> Host:
    """A host as it reports itself; what it does not report is not noted."""
    words = snapshot.host.words
    return Host(
        host_id, name or words, tuple(_sockets(snapshot)), system=snapshot.host.system or NOT_NOTED,
        variant=words if snapshot.host.model else NOT_NOTED,
    )  # fmt: skip


def filled_in(host: Host, snapshot: Snapshot) -> Host:
    """A host with what it reports where nothing is noted; what the reviewer noted stays. Sockets that it has none of
    its sort are added."""
    reported = host_from(snapshot, host.id)
    sorts = {socket.connector for socket in host.sockets}
    new = (socket for socket in reported.sockets if socket.connector not in sorts)
    ids = {socket.id for socket in host.sockets}
    added = tuple(socket for socket in new if socket.id not in ids)
    return replace(
        host,
        sockets=(*(_with_report(socket, reported) for socket in host.sockets), *added),
        system=reported.system if host.system is NOT_NOTED else host.system,
        variant=reported.variant if host.variant is NOT_NOTED else host.variant,
    )


def _with_report(socket: HostSocket, reported: Host) -> HostSocket:
    """The watts that a socket of this id reports, where none are noted."""
    same = reported.socket(socket.id)
    if same is None or same.connector != socket.connector or socket.gives_w is not NOT_NOTED:
        return socket
    return replace(socket, gives_w=same.gives_w)


def _sockets(snapshot: Snapshot) -> Iterator[HostSocket]:
    for number, port in enumerate(snapshot.type_c, start=1):
        yield _c_socket(f"C{number}", port, snapshot)
    for number, bps in enumerate(_a_sockets(snapshot), start=1):
        yield HostSocket(f"A{number}", "usb-a", bps)
    yield from _picture_sockets(snapshot)
    wired = [each for each in snapshot.network if not (each.virtual or each.usb or each.name.startswith("wl"))]
    for number, interface in enumerate((each for each in wired if each.speed_mbps), start=1):
        yield HostSocket(f"LAN{number}" if number > 1 else "LAN", "rj45", (interface.speed_mbps or 0) * 1e6)


def _c_socket(socket_id: str, port: TypeCPort, snapshot: Snapshot) -> HostSocket:
    pictures = any(mode.svid == DISPLAYPORT_SVID for mode in port.modes) or any(
        display.type_c == port.name for display in snapshot.displays
    )
    gives = port.offer.most_w if port.offer is not None else None
    return HostSocket(
        socket_id, "usb-c", _rate_at(port, snapshot), display=pictures, gives_w=NOT_NOTED if gives is None else gives
    )


def _rate_at(port: TypeCPort, snapshot: Snapshot) -> float:
    """The fastest bus that reaches a C socket; of a host with one router, the router's rate over both lanes."""
    hubs = [hub for hub in snapshot.usb if hub.is_root and any(each.type_c == port.name or each.name in port.usb_ports
                                                               for each in hub.ports)]  # fmt: skip
    return max((_rate_of(hub) for hub in hubs), default=_fastest_root(snapshot))


def _fastest_root(snapshot: Snapshot) -> float:
    return max((_rate_of(hub) for hub in snapshot.usb if hub.is_root), default=_LEAST_USB_BPS)


def _rate_of(hub: UsbDevice) -> float:
    return max((hub.speed_mbps or 0.0) * 1e6, _LEAST_USB_BPS)


def _a_sockets(snapshot: Snapshot) -> Iterator[float]:
    """Sockets that things are plugged into and that are no C sockets; of the two halves of one, the faster."""
    seen: set[str] = set()
    roots = sorted((hub for hub in snapshot.usb if hub.is_root), key=_rate_of, reverse=True)
    for hub in roots:
        for port in hub.ports:
            if _is_plain_socket(port) and not {port.name, port.location or port.name} & seen:
                yield _rate_of(hub)
            seen |= {each for each in (port.name, port.peer, port.location) if each}


def _is_plain_socket(port: HubPort) -> bool:
    return port.connect_type == "hotplug" and port.type_c is None


def _picture_sockets(snapshot: Snapshot) -> Iterator[HostSocket]:
    counts: dict[str, int] = {}
    for display in snapshot.displays:
        sort = display.name.partition("-")[2] if display.name.startswith("card") else display.name
        found = next((each for name, each in _PICTURE_SOCKETS.items() if sort.startswith(name)), None)
        if found is not None and display.type_c is None:
            letter, connector = found
            counts[letter] = counts.get(letter, 0) + 1
            yield HostSocket(f"{letter}{counts[letter]}", connector, 0.0, display=True)
