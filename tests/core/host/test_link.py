"""Which links are slower than both ends could make them, and which only look so."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.host.link import link_state, link_states, other_half
from auditra.core.host.max_rate import could_mbps
from auditra.core.host.snapshot import HubPort, Snapshot, UsbDevice
from auditra.core.model.link_answer import LinkAnswer

BOX = "6f1e0601-0000-4000-8000-00000000b0a7"
SLOW_ROOT = UsbDevice("usb1", None, 480, 0x1D6B, 2, class_code=9, usb_version="2.00", controller="pci0")
FAST_ROOT = UsbDevice(
    "usb2", None, 10_000, 0x1D6B, 3, class_code=9, usb_version="3.10", could_mbps=10_000, could_from="its version",
    controller="pci0",
)  # fmt: skip


def hub(name: str, speed: float, *, could: float | None = 10_000, box: str | None = BOX, **more: object) -> UsbDevice:
    told = "its capabilities" if could is not None else ""
    parent = f"usb{name[0]}"
    made = UsbDevice(name, parent, speed, 0x1F6E, 0x0601, class_code=9, could_mbps=could, could_from=told)
    return replace(made, container_id=box, port_count=4, **more)  # type: ignore[arg-type]


def drive(name: str, speed: float, could: float | None = 5000, told: str = "its capabilities") -> UsbDevice:
    parent = name.rpartition(".")[0] or f"usb{name[0]}"
    return UsbDevice(name, parent, speed, 0x1F6E, 0x5501, class_code=0, could_mbps=could, could_from=told)


def answer(snapshot: Snapshot, name: str) -> tuple[LinkAnswer, str]:
    device = snapshot.device(name)
    assert device is not None
    state = link_state(device, snapshot)
    return state.answer, state.why


WHOLE = Snapshot(usb=(SLOW_ROOT, FAST_ROOT, hub("1-1", 480), hub("2-1", 10_000)))


def with_(*devices: UsbDevice, base: Snapshot = WHOLE) -> Snapshot:
    return replace(base, usb=(*base.usb, *devices))


def test_the_slow_half_of_a_sound_hub_is_no_slow_link() -> None:
    found, why = answer(WHOLE, "1-1")
    assert found is LinkAnswer.BEST
    assert "its fast half is 2-1 at 10 Gb/s" in why


@pytest.mark.parametrize("how", ["container", "peer", "place"])
def test_the_halves_of_a_hub_are_found_by_container_peer_or_place(how: str) -> None:
    box = BOX if how == "container" else None
    slow, fast = hub("1-1", 480, box=box), hub("2-1", 10_000, box=box)
    slow_root = SLOW_ROOT
    if how == "peer":
        slow_root = replace(SLOW_ROOT, ports=(HubPort("usb1-port1", 1, "1-1", peer="usb2-port1"),))
        fast_root = replace(FAST_ROOT, ports=(HubPort("usb2-port1", 1, "2-1", peer="usb1-port1"),))
        fast = replace(fast, vid=0x9999)
        found = Snapshot(usb=(slow_root, fast_root, slow, fast))
    else:
        found = Snapshot(usb=(slow_root, FAST_ROOT, slow, fast))
    assert other_half(slow, found) == fast
    assert other_half(fast, found) == slow


def test_two_hubs_of_one_make_are_not_halves_of_each_other() -> None:
    found = with_(hub("1-2", 480, box=None), base=Snapshot(usb=(SLOW_ROOT, FAST_ROOT, hub("2-1", 5000, box=None))))
    device = found.device("1-2")
    assert device is not None
    assert other_half(device, found) is None


def test_a_hub_whose_fast_half_is_absent_is_slow_where_its_socket_has_one() -> None:
    root = replace(SLOW_ROOT, ports=(HubPort("usb1-port1", 1, "1-1", peer="usb2-port1"),))
    found, why = answer(Snapshot(usb=(root, FAST_ROOT, hub("1-1", 480))), "1-1")
    assert found is LinkAnswer.SLOWER
    assert "its fast half is absent" in why


def test_a_fast_drive_on_the_slow_half_of_a_hub_is_slow() -> None:
    found, why = answer(with_(drive("1-1.3", 480)), "1-1.3")
    assert found is LinkAnswer.SLOWER
    assert "1-1 has a fast half" in why


def test_a_fast_drive_on_a_usb_2_hub_is_as_fast_as_both_could() -> None:
    slow_hub = hub("1-4", 480, could=480, box=None)
    found, why = answer(with_(slow_hub, drive("1-4.1", 480)), "1-4.1")
    assert found is LinkAnswer.BEST
    assert "USB 2.0 hub" in why


@pytest.mark.parametrize(
    ("device", "expected"),
    [
        (drive("2-1.2", 5000), LinkAnswer.BEST),
        (drive("2-1.2", 5000, 10_000), LinkAnswer.SLOWER),
        (drive("2-1.2", 5000, 5000, "its version"), LinkAnswer.UNKNOWN),
        (drive("2-1.2", 5000, None, ""), LinkAnswer.UNKNOWN),
        (replace(drive("2-1.2", 5000, 5000, "its version"), usb_version=" 3.00"), LinkAnswer.BEST),
        (drive("1-2", 480, 480), LinkAnswer.BEST),
        (drive("1-2", 480, 5000), LinkAnswer.UNKNOWN),
        (drive("1-2", 480, None, ""), LinkAnswer.UNKNOWN),
        (replace(drive("1-2", 480), speed_mbps=None), LinkAnswer.UNKNOWN),
        (drive("2-9.1", 5000, 10_000), LinkAnswer.UNKNOWN),
    ],
)
def test_each_link_by_what_both_ends_could_do(device: UsbDevice, expected: LinkAnswer) -> None:
    assert answer(with_(device), device.name)[0] is expected


def test_a_socket_without_a_fast_half_accuses_nobody() -> None:
    ports = (HubPort("usb1-port1", 1, None, peer="usb2-port1"), HubPort("usb1-port2", 2, "1-2"))
    found, why = answer(Snapshot(usb=(replace(SLOW_ROOT, ports=ports), FAST_ROOT, drive("1-2", 480))), "1-2")
    assert found is LinkAnswer.BEST
    assert "no fast half" in why


@pytest.mark.parametrize(
    ("version", "speed", "could"),
    [
        (" 3.20", 480, 5000), (" 2.10", 480, None), (" 2.00", 480, 480), (" 2.00", 12, None), (" 1.10", 12, 12),
        (" 3.10", 10_000, 10_000), ("garbage", 480, None), (None, 480, None),
    ],
)  # fmt: skip
def test_what_a_version_proves(version: str | None, speed: float, could: float | None) -> None:
    assert could_mbps(version, speed, None)[0] == could


NAMES = st.sampled_from(["usb1", "usb2", "1-1", "2-1", "1-1.1", "2-1.1", "1-1.1.2", "2-9"])
DEVICES = st.builds(
    lambda name, speed, could, ports: UsbDevice(
        name, None if name.startswith("usb") else name.rpartition(".")[0] or f"usb{name[0]}", speed, 1, 1,
        could_mbps=could, could_from="its capabilities" if could else "", port_count=ports,
    ),
    NAMES, st.sampled_from([None, 1.5, 480.0, 5000.0, 10_000.0]), st.sampled_from([None, 480.0, 5000.0, 10_000.0]),
    st.integers(0, 2),
)  # fmt: skip


@given(st.lists(DEVICES, unique_by=lambda device: device.name))
def test_a_link_is_called_slower_only_below_what_both_say_they_could_do(devices: list[UsbDevice]) -> None:
    for state in link_states(Snapshot(usb=tuple(devices))):
        if state.answer is LinkAnswer.SLOWER:
            assert state.speed_mbps is not None
            assert state.speed_mbps < (state.device_could_mbps or 0)
            assert state.speed_mbps < (state.above_could_mbps or 0)
