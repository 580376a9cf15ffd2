"""Whether a USB link is as fast as both its ends could make it, or slower, or whether that is unknown.

A USB 3 hub is two hubs in one case, one on each bus: that its USB 2.0 half runs at 480 Mb/s says nothing. Only that its
fast half is absent does, or a device that is slower than what both it and what it is plugged into could do.
"""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.host.max_rate import HIGH_SPEED_MBPS, SUPERSPEED_MBPS
from auditra.core.host.snapshot import HubPort, Snapshot, UsbDevice
from auditra.core.model.link_answer import LinkAnswer
from auditra.core.quantities.display import bit_rate


@dataclass(frozen=True)
class UsbLinkState:
    """What was negotiated, against what the device and what is above it could do, in Mb/s."""

    device: str
    answer: LinkAnswer
    speed_mbps: float | None
    device_could_mbps: float | None
    above_could_mbps: float | None
    why: str


def link_states(snapshot: Snapshot) -> tuple[UsbLinkState, ...]:
    """Every link but those of root hubs, in order."""
    return tuple(link_state(each, snapshot) for each in snapshot.usb if not each.is_root)


def link_state(device: UsbDevice, snapshot: Snapshot) -> UsbLinkState:
    """How one link stands."""
    above, why_above = _above_could(device, snapshot)
    speed, could = device.speed_mbps, device.could_mbps

    def state(answer: LinkAnswer, why: str) -> UsbLinkState:
        return UsbLinkState(device.name, answer, speed, could, above, why)

    if speed is None:
        return state(LinkAnswer.UNKNOWN, "the kernel does not report its speed")
    half = other_half(device, snapshot)
    if half is not None and speed <= HIGH_SPEED_MBPS:
        return state(LinkAnswer.BEST, f"the USB 2.0 half; its fast half is {half.name} at {_rate(half.speed_mbps)}")
    if could is None:
        return state(LinkAnswer.UNKNOWN, "it does not report what it supports")
    if speed >= could and could >= SUPERSPEED_MBPS and device.could_from == "its version" and not _is_usb_3_0(device):
        return state(LinkAnswer.UNKNOWN, f"its version only says at least {_rate(could)}")
    if speed >= could:
        return state(LinkAnswer.BEST, "it supports no more")
    if above is None:
        return state(LinkAnswer.UNKNOWN, f"it supports {_rate(could)}; {why_above}")
    if speed >= above:
        return state(LinkAnswer.BEST, f"it supports {_rate(could)}, but {why_above}")
    missing = "its fast half is absent" if device.is_hub and speed <= HIGH_SPEED_MBPS else f"{why_above}"
    return state(LinkAnswer.SLOWER, f"it supports {_rate(could)} and {missing}")


def other_half(device: UsbDevice, snapshot: Snapshot) -> UsbDevice | None:
    """The other half of a hub that is on both buses: by its container, by its socket's peer, or by place and maker."""
    if not device.is_hub or device.is_root:
        return None
    others = [each for each in snapshot.usb if each.is_hub and not each.is_root and _is_fast(each) != _is_fast(device)]
    if device.container_id is not None:
        return next((each for each in others if each.container_id == device.container_id), None)
    port = port_of(device, snapshot)
    if port is not None and port.peer is not None:
        return next((each for each in others if (own := port_of(each, snapshot)) and own.name == port.peer), None)
    same = [
        each for each in others
        if each.vid == device.vid and each.vid is not None and _path(each) == _path(device)
        and _controller(each, snapshot) == _controller(device, snapshot)
    ]  # fmt: skip
    return same[0] if len(same) == 1 else None


def port_of(device: UsbDevice, snapshot: Snapshot) -> HubPort | None:
    """The socket that a device is plugged into, where the kernel shows it."""
    above = snapshot.device(device.parent)
    if above is None:
        return None
    number = device.name.replace("-", ".").rpartition(".")[2]
    return next((port for port in above.ports if str(port.number) == number), None)


def _above_could(device: UsbDevice, snapshot: Snapshot) -> tuple[float | None, str]:
    """The most that the socket above a device could do, and the words for it."""
    above = snapshot.device(device.parent)
    if above is None:
        return None, "what it is connected to is not shown"
    if _is_fast(device):
        most = max(above.could_mbps or 0.0, above.speed_mbps or 0.0) or None
        if above.could_from == "its version" and (most or 0) <= SUPERSPEED_MBPS:
            return None, f"{_called(above)} does not report more than {_rate(most)}"
        return most, f"{_called(above)} supports {_rate(most)}"
    return _fast_side(device, above, snapshot)


def _fast_side(device: UsbDevice, above: UsbDevice, snapshot: Snapshot) -> tuple[float | None, str]:
    """What a USB 2.0 socket's fast half could do, if it has one."""
    port = port_of(device, snapshot)
    if port is not None and port.peer is not None:
        twin = _device_of_port(port.peer, snapshot)
        most = (twin.could_mbps or twin.speed_mbps) if twin is not None else None
        return most or SUPERSPEED_MBPS, f"its socket has a fast half of {_rate(most or SUPERSPEED_MBPS)}"
    if port is not None and any(each.peer is not None for each in above.ports):
        return HIGH_SPEED_MBPS, "its socket has no fast half"
    if above.is_root:
        return None, "whether its socket has a fast half is not shown"
    half = other_half(above, snapshot)
    if half is not None:
        return half.could_mbps or half.speed_mbps, f"{_called(above)} has a fast half of {_rate(half.speed_mbps)}"
    if above.could_mbps is not None and above.could_mbps <= HIGH_SPEED_MBPS:
        return HIGH_SPEED_MBPS, f"{_called(above)} is a USB 2.0 hub"
    return None, f"whether {_called(above)} has a fast half is not shown"


def _device_of_port(port: str, snapshot: Snapshot) -> UsbDevice | None:
    """``2-1-port3`` is a socket of ``2-1``, ``usb2-port1`` of ``usb2``."""
    return snapshot.device(port.rpartition("-port")[0])


def _is_fast(device: UsbDevice) -> bool:
    return (device.speed_mbps or 0.0) > HIGH_SPEED_MBPS


def _is_usb_3_0(device: UsbDevice) -> bool:
    """Version 3.00 knows nothing above 5 Gb/s; 3.10 and 3.20 do."""
    return (device.usb_version or "").strip() == "3.00"


def _path(device: UsbDevice) -> str:
    return device.name.partition("-")[2]


def _controller(device: UsbDevice, snapshot: Snapshot) -> str | None:
    way = snapshot.way_to(device.name)
    return way[0].controller if way else None


def _called(device: UsbDevice) -> str:
    return f"the host's bus {device.name.removeprefix('usb')}" if device.is_root else device.name


def _rate(mbps: float | None) -> str:
    return "an unknown rate" if mbps is None else bit_rate(mbps * 1e6)
