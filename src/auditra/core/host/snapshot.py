"""A host's own word on everything that hangs on it, at one moment: a value that can be kept, printed and compared.

Names of fields are the names in the JSON of `auditra probe`: plain words and integers in the units that they say.
None means that the kernel does not say, or that it cannot be read; it never stands for nothing.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from auditra.core.decode.identity import Identity
from auditra.core.host.routers import Retimer, Router, RouterDomain


@dataclass(frozen=True)
class Flaw:
    """A file that could not be read as it should; everything else was."""

    path: str
    """Below the root."""
    why: str


@dataclass(frozen=True)
class Maker:
    """Which machine this is, in its maker's words."""

    maker: str = ""
    model: str = ""
    family: str = ""
    firmware: str = ""
    system: str = ""

    @property
    def words(self) -> str:
        return " ".join(filter(None, (self.maker, self.model))) or "this host"


@dataclass(frozen=True)
class HubPort:
    """A socket of a hub, by the kernel's name. `peer` is the other half, USB 2.0 or SuperSpeed, of the same socket."""

    name: str
    number: int
    device: str | None = None
    peer: str | None = None
    connect_type: str | None = None
    location: str | None = None
    type_c: str | None = None
    over_current_count: int | None = None


@dataclass(frozen=True)
class UsbFunction:
    """One interface of a device, with what drives it."""

    name: str
    class_code: int | None = None
    subclass_code: int | None = None
    protocol_code: int | None = None
    driver: str | None = None


@dataclass(frozen=True)
class UsbConfiguration:
    """One way of running a device, as its own descriptors say it, whether it runs so or not."""

    value: int
    max_power_ma: int
    self_powered: bool
    class_codes: tuple[int, ...] = ()
    """Of its interfaces, in their order."""


@dataclass(frozen=True)
class UsbDevice:
    """A device on a bus. `could_mbps` is the fastest link that it says it can make, `could_from` where it says so."""

    name: str
    parent: str | None
    speed_mbps: float | None
    vid: int | None
    pid: int | None
    product: str = ""
    manufacturer: str = ""
    serial: str = ""
    usb_version: str | None = None
    class_code: int | None = None
    rx_lanes: int | None = None
    tx_lanes: int | None = None
    max_power_ma: int | None = None
    self_powered: bool | None = None
    port_count: int | None = None
    could_mbps: float | None = None
    could_from: str = ""
    container_id: str | None = None
    billboard_modes: tuple[str, ...] = ()
    """Modes that it has and could not enter, or entered, in words."""
    functions: tuple[UsbFunction, ...] = ()
    ports: tuple[HubPort, ...] = ()
    controller: str | None = None
    """Of a root hub: what it is part of; the two buses of one controller say the same."""
    configuration_value: int | None = None
    """Which of its configurations it runs."""
    configured: bool | None = None
    """It has been given one; without one it draws little and does nothing."""
    configurations: tuple[UsbConfiguration, ...] = ()

    @property
    def is_hub(self) -> bool:
        return self.class_code == HUB_CLASS or (self.port_count or 0) > 0

    @property
    def is_root(self) -> bool:
        return self.parent is None

    @property
    def usb_id(self) -> str:
        """``1f6e:0601``; question marks where it does not say."""
        return ":".join("????" if each is None else f"{each:04x}" for each in (self.vid, self.pid))

    @property
    def words(self) -> str:
        return self.product or ("root hub" if self.is_root else "hub" if self.is_hub else f"device {self.usb_id}")


HUB_CLASS = 9


@dataclass(frozen=True)
class PowerObject:
    """One offer of a source, or wish of a sink. What a kind does not have is None."""

    position: int
    kind: str
    voltage_mv: int | None = None
    least_voltage_mv: int | None = None
    most_voltage_mv: int | None = None
    current_ma: int | None = None
    power_mw: int | None = None
    power_limited: bool | None = None
    """A programmable one whose highest voltage and current are not to be had together."""


@dataclass(frozen=True)
class PowerOffer:
    """What a port or a partner can give and take, as its power data objects say."""

    name: str
    revision: str | None = None
    gives: tuple[PowerObject, ...] = ()
    takes: tuple[PowerObject, ...] = ()

    @property
    def most_w(self) -> float | None:
        """The most of any one object that it gives; None where it gives none, or only what is limited further."""
        told = (object_w(each) for each in self.gives if not each.power_limited)
        return max((each for each in told if each is not None), default=None)


def object_w(each: PowerObject) -> float | None:
    """Watts of a power object, at its highest voltage."""
    if each.power_mw is not None:
        return each.power_mw / 1000
    volts = each.voltage_mv if each.voltage_mv is not None else each.most_voltage_mv
    return None if volts is None or each.current_ma is None else volts * each.current_ma / 1e6


@dataclass(frozen=True)
class AlternateMode:
    """A mode other than USB, of a port, a partner or a plug."""

    name: str
    svid: int | None
    mode: int | None = None
    active: bool | None = None
    description: str = ""
    pin_assignment: str | None = None
    """The letter that is in use, for DisplayPort."""
    pin_assignments: str = ""
    configuration: str | None = None
    hot_plug_detect: bool | None = None


@dataclass(frozen=True)
class TypeCPartner:
    """What is attached to a C socket."""

    power_delivery: bool | None = None
    revision: str | None = None
    kind: str | None = None
    accessory: str | None = None
    identity: Identity | None = None
    modes: tuple[AlternateMode, ...] = ()
    offer: PowerOffer | None = None


@dataclass(frozen=True)
class TypeCCable:
    """A cable that answered; `plug_modes` are of the controllers in its plugs."""

    kind: str | None = None
    plug: str | None = None
    revision: str | None = None
    identity: Identity | None = None
    plug_modes: tuple[AlternateMode, ...] = ()


@dataclass(frozen=True)
class TypeCPort:
    """A C socket of the host."""

    name: str
    data_role: str | None = None
    power_role: str | None = None
    operation: str | None = None
    """default, 1.5A, 3.0A or usb_power_delivery, as the kernel says it."""
    orientation: str | None = None
    vconn_source: bool | None = None
    type_c_revision: str | None = None
    power_delivery_revision: str | None = None
    modes: tuple[AlternateMode, ...] = ()
    offer: PowerOffer | None = None
    partner: TypeCPartner | None = None
    cable: TypeCCable | None = None
    display: str | None = None
    usb_ports: tuple[str, ...] = ()


@dataclass(frozen=True)
class RunningMode:
    """A mode that an output sends now, by the system's mode-setting interface."""

    width: int
    height: int
    refresh_millihz: int
    pixel_clock_khz: int | None = None
    interlaced: bool = False


_BUILT_IN = re.compile(r"card\d+-(?:eDP|LVDS|DSI|Virtual|Writeback)-\d+")


@dataclass(frozen=True)
class DisplayConnector:
    """A socket for pictures. `modes` are names alone; rates are in the description."""

    name: str
    status: str | None = None
    enabled: bool | None = None
    power: str | None = None
    modes: tuple[str, ...] = ()
    edid_hex: str = ""
    connector_id: int | None = None
    type_c: str | None = None
    running: RunningMode | None = None

    @property
    def connected(self) -> bool:
        return self.status == "connected"

    @property
    def may_be_tried(self) -> bool:
        """It has a display that is no panel of the host itself, and no virtual one."""
        return self.connected and _BUILT_IN.fullmatch(self.name) is None


@dataclass(frozen=True)
class NetworkInterface:
    """A network interface. Counters are those that show a poor link."""

    name: str
    state: str | None = None
    speed_mbps: int | None = None
    duplex: str | None = None
    mtu_bytes: int | None = None
    carrier: bool | None = None
    carrier_changes: int | None = None
    driver: str | None = None
    usb: str | None = None
    """The USB device that it is, by name."""
    virtual: bool = False
    wireless: bool = False
    counters: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class PowerSource:
    """A battery, a mains inlet or a C socket, as the kernel's power supply class reports it."""

    name: str
    kind: str | None = None
    online: int | None = None
    status: str | None = None
    usb_kind: str | None = None
    voltage_mv: int | None = None
    current_ma: int | None = None
    most_current_ma: int | None = None
    power_mw: int | None = None
    capacity_percent: int | None = None
    scope: str | None = None


@dataclass(frozen=True)
class Sensor:
    """One value of a sensor chip, in the unit that is reported: C, mV, mA, mW, mJ, % or 1/min."""

    chip: str
    name: str
    label: str
    value: float
    unit: str


@dataclass(frozen=True)
class BlockDevice:
    """A disk or card, and the USB device that it is."""

    name: str
    size_bytes: int | None = None
    removable: bool | None = None
    rotational: bool | None = None
    model: str = ""
    usb: str | None = None


@dataclass(frozen=True)
class Snapshot:
    """All of it. `absent` names the classes that this host does not have at all, or that its system does not show."""

    host: Maker = Maker()
    usb: tuple[UsbDevice, ...] = ()
    type_c: tuple[TypeCPort, ...] = ()
    routers: tuple[Router, ...] = ()
    domains: tuple[RouterDomain, ...] = ()
    retimers: tuple[Retimer, ...] = ()
    displays: tuple[DisplayConnector, ...] = ()
    network: tuple[NetworkInterface, ...] = ()
    power: tuple[PowerSource, ...] = ()
    sensors: tuple[Sensor, ...] = ()
    blocks: tuple[BlockDevice, ...] = ()
    absent: tuple[str, ...] = ()
    flaws: tuple[Flaw, ...] = ()

    def device(self, name: str | None) -> UsbDevice | None:
        return self._by_name.get(name) if name is not None else None

    @cached_property
    def _by_name(self) -> dict[str, UsbDevice]:
        return {each.name: each for each in self.usb}

    def way_to(self, name: str) -> tuple[UsbDevice, ...]:
        """The devices from the host to one, it last; empty for one that is not there."""
        known, way = self._by_name, []
        step = known.get(name)
        while step is not None and step not in way:
            way.append(step)
            step = known.get(step.parent) if step.parent is not None else None
        return tuple(reversed(way))
