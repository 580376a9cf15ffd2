"""A host of the rig from its own report: what it says is taken, what it does not say is not guessed."""

from __future__ import annotations

from auditra.core.host.as_rig_host import filled_in, host_from
from auditra.core.host.snapshot import (
    AlternateMode,
    DisplayConnector,
    HubPort,
    Maker,
    NetworkInterface,
    PowerObject,
    PowerOffer,
    Snapshot,
    TypeCPort,
    UsbDevice,
)
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Host, HostSocket

_FAST = UsbDevice(
    "usb2", None, 20_000.0, 0x1D6B, 3, port_count=3,
    ports=(
        HubPort("usb2-port1", 1, peer="usb1-port1", connect_type="hotplug", type_c="port0"),
        HubPort("usb2-port2", 2, peer="usb1-port2", connect_type="hotplug"),
        HubPort("usb2-port3", 3, connect_type="hardwired"),
    ),
)  # fmt: skip
_SLOW = UsbDevice(
    "usb1", None, 480.0, 0x1D6B, 2, port_count=3,
    ports=(
        HubPort("usb1-port1", 1, peer="usb2-port1", connect_type="hotplug", type_c="port0"),
        HubPort("usb1-port2", 2, peer="usb2-port2", connect_type="hotplug"),
        HubPort("usb1-port4", 4, connect_type="hotplug"),
    ),
)  # fmt: skip
MACHINE = Snapshot(
    Maker("Wherry", "W-14", system="Linux 6.1"),
    usb=(_SLOW, _FAST),
    type_c=(TypeCPort("port0", modes=(AlternateMode("dp", 0xFF01),)),),
    displays=(
        DisplayConnector("card0-HDMI-A-1", "connected"), DisplayConnector("card0-eDP-1", "connected"),
        DisplayConnector("card0-DP-1", "disconnected", type_c="port0"),
    ),
    network=(
        NetworkInterface("lan0", "up", 2500), NetworkInterface("wlan0", "up", 866), NetworkInterface("lan1", "down"),
    ),
)  # fmt: skip


def test_every_socket_that_is_reported_is_there_once_and_nothing_else() -> None:
    host = host_from(MACHINE, "this-machine")
    assert [(each.id, each.connector, each.data_bps, each.display) for each in host.sockets] == [
        ("C1", "usb-c", 20e9, True), ("A1", "usb-a", 20e9, False), ("A2", "usb-a", 480e6, False),
        ("H1", "hdmi", 0.0, True), ("LAN", "rj45", 2.5e9, False),
    ]  # fmt: skip
    assert (host.name, host.system, host.variant) == ("Wherry W-14", "Linux 6.1", "Wherry W-14")


def test_a_host_that_reports_nothing_has_no_sockets() -> None:
    host = host_from(Snapshot(), "this-machine")
    assert host.sockets == ()
    assert (host.system, host.variant) == (NOT_NOTED, NOT_NOTED)


def test_what_the_reviewer_noted_stays_and_the_rest_is_filled_in() -> None:
    offer = PowerOffer("source", gives=(PowerObject(1, "fixed", voltage_mv=5000, current_ma=3000),))
    machine = Snapshot(MACHINE.host, MACHINE.usb, (TypeCPort("port0", offer=offer),))
    own = Host("laptop", "laptop", (HostSocket("C1", "usb-c", 40e9),), system="my own words")
    filled = filled_in(own, machine)
    assert filled.system == "my own words"
    assert filled.variant == "Wherry W-14"
    assert filled.sockets[0].data_bps == 40e9
    assert filled.sockets[0].gives_w == offer.most_w
    assert [each.id for each in filled.sockets] == ["C1", "A1", "A2"]
    assert filled_in(filled, machine) == filled
