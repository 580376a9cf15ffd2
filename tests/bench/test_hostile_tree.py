"""A tree of attributes made up to be read wrong: links at any place, numbers of any form, names in any order."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from auditra.bench.kernel.tree import KernelTree
from auditra.core.host.report import report_lines
from auditra.core.host.snapshot import Snapshot
from auditra.core.simulate import descriptors
from auditra.documents.probe import probe_file
from tests.support.hosts import add_device, add_files, add_link

SECRET = "another-mans-secret"


@pytest.fixture
def outside(tmp_path: Path) -> Path:
    """A folder beside the root with everything in it that could be asked for."""
    names = (
        "id_header", "pin_assignment", "speed", "voltage", "name", "temp1_label", "model", "product", "device_name",
        "rx_bytes", "edid", "descriptors", "status", "type", f"{SECRET}.1", "1:fixed_supply/voltage",
    )  # fmt: skip
    return add_files(tmp_path, "outside", dict.fromkeys(names, SECRET))


def snapshot(root: Path) -> Snapshot:
    return KernelTree(root).snapshot()


def card(root: Path, name: str, **values: object) -> None:
    """A network interface of a real card."""
    home = add_files(root, f"devices/pci0/net/{name}", values)
    add_link(root, f"devices/pci0/net/{name}/device", "devices/pci0")
    add_link(root, f"class/net/{home.name}", f"devices/pci0/net/{name}")


def everything(root: Path) -> str:
    found = snapshot(root)
    return probe_file(found).model_dump_json() + "\n".join(line.text for line in report_lines(found))


@pytest.mark.parametrize(
    "linked",
    [
        "class/typec", "class/drm", "class/net", "class/hwmon", "class/power_supply", "class/dmi/id", "class/dmi",
        "class", "block", "bus", "bus/usb", "bus/usb/devices", "bus/thunderbolt/devices", "class/usb_power_delivery",
        "class/typec/port0", "class/typec/port0/port0-partner", "class/typec/port0/port0-partner/identity",
        "class/typec/port0/port0-partner/port0-partner.0/displayport", "class/net/eth0/statistics",
        "class/net/eth0/device", "class/hwmon/hwmon0", "block/sda/device", "bus/usb/devices/2-1",
        "bus/usb/devices/2-1/2-1:1.0", "class/typec/port0/drm_connector",
        "class/usb_power_delivery/pd0/source-capabilities",
    ],
)  # fmt: skip
def test_nothing_outside_is_read_or_named_whichever_part_of_a_path_is_a_link(
    linked: str, tmp_path: Path, outside: Path
) -> None:
    root = tmp_path / "sys"
    add_files(root, "class/typec/port0/port0-partner/identity", {"id_header": "0x48400000"})
    add_files(root, "class/typec/port0/port0-partner/port0-partner.0/displayport", {"pin_assignment": "[C]"})
    add_files(root, "class/typec/port0/port0-partner", {"type": "hub", "usb_power_delivery/x": 1})
    add_files(root, "class/usb_power_delivery/pd0/source-capabilities/1:fixed_supply", {"voltage": "5000mV"})
    add_files(root, "class/net/eth0", {"operstate": "up", "speed": 100, "statistics/rx_bytes": 1, "device/uevent": ""})
    add_files(root, "class/hwmon/hwmon0", {"name": "chip", "temp1_input": 1})
    add_files(root, "class/dmi/id", {"product_name": "laptop"})
    add_files(root, "class/drm/card0-DP-1", {"status": "connected"})
    add_files(root, "block/sda", {"size": 1, "device/model": "disk"})
    add_files(root, "bus/usb/devices/2-1/2-1:1.0/2-1-port1", {"connect_type": "hotplug"})
    add_files(root, "bus/usb/devices/2-1", {"speed": 480, "maxchild": 1})
    place = root / linked
    if place.exists():
        place.rename(tmp_path / "what-was-there")
    place.parent.mkdir(parents=True, exist_ok=True)
    place.symlink_to(os.path.relpath(outside, place.parent))
    told = everything(root)
    assert SECRET not in told
    assert "outside" not in told


def test_numbers_are_of_64_bits_and_of_plain_digits(tmp_path: Path) -> None:
    values = {
        "rx_bytes": 18_446_744_073_709_551_615, "tx_bytes": 3_000_000_000_000, "rx_errors": 1 << 64, "tx_errors": "٣٤",
        "rx_dropped": "9" * 4000, "tx_dropped": "1e3", "rx_crc_errors": "1_000", "collisions": "²",
    }  # fmt: skip
    add_files(tmp_path, "class/net/eth0/statistics", values)
    add_files(tmp_path, "class/net/eth0", {"operstate": "up", "speed": 1000})
    found = snapshot(tmp_path)
    assert found.network[0].counters == {"rx_bytes": (1 << 64) - 1, "tx_bytes": 3_000_000_000_000}
    assert len(found.flaws) == 6


@pytest.mark.parametrize("speed", [-1, 4_294_967_295, 65_535, 0, "unknown"])
def test_the_kernels_ways_of_knowing_no_speed(speed: object, tmp_path: Path) -> None:
    card(tmp_path, "eth0", operstate="up", speed=speed, carrier=1, duplex="unknown")
    (found,) = snapshot(tmp_path).network
    assert (found.speed_mbps, found.duplex) == (None, None)
    assert "a link, rate unknown" in everything(tmp_path)


def test_a_link_whose_state_is_not_told_is_not_called_down(tmp_path: Path) -> None:
    card(tmp_path, "eth0", operstate="unknown", speed=2500, carrier=1)
    card(tmp_path, "eth1", operstate="unknown")
    lines = [line.text for line in report_lines(snapshot(tmp_path))]
    assert any("eth0" in line and "2.5 Gb/s" in line for line in lines)
    assert not any("no link" in line for line in lines)


def test_names_stand_in_the_order_of_their_numbers(tmp_path: Path) -> None:
    for number in (10, 2, 0, 1):
        add_files(tmp_path, f"class/typec/port{number}", {"data_role": "[host]"})
        add_files(tmp_path, f"class/drm/card0-DP-{number}", {"status": "disconnected"})
        add_files(tmp_path, f"bus/thunderbolt/devices/0-{number}", {"device_name": "dock"})
    found = snapshot(tmp_path)
    assert [each.name for each in found.type_c] == ["port0", "port1", "port2", "port10"]
    assert [each.name.rpartition("-")[2] for each in found.displays] == ["0", "1", "2", "10"]
    assert [each.name for each in found.routers] == ["0-0", "0-1", "0-2", "0-10"]


def test_offers_of_a_kind_that_is_not_known_yet_are_read(tmp_path: Path) -> None:
    home = "class/usb_power_delivery/pd0/source-capabilities"
    for name in ("1:fixed_supply", "2:AVS-supply2", "10:späte_supply"):
        add_files(tmp_path, f"{home}/{name}", {"voltage": "9000mV", "maximum_current": "3000mA"})
    add_files(tmp_path, "class/typec/port0/port0-partner", {"type": "hub"})
    add_link(tmp_path, "class/typec/port0/usb_power_delivery", "class/usb_power_delivery/pd0")
    (port,) = snapshot(tmp_path).type_c
    assert port.offer is not None
    assert [(each.position, each.kind, each.voltage_mv) for each in port.offer.gives] == [
        (1, "fixed", 9000), (2, "AVS-supply2", 9000), (10, "späte", 9000),
    ]  # fmt: skip


def test_routers_both_ways_with_domains_retimers_and_what_is_not_allowed_yet(tmp_path: Path) -> None:
    home = "bus/thunderbolt/devices"
    add_files(tmp_path, f"{home}/domain0", {"security": "user", "iommu_dma_protection": 1})
    add_files(tmp_path, f"{home}/0-0", {"device_name": "laptop", "usb4_port1/link": "usb4"})
    add_files(tmp_path, f"{home}/0-1", {
        "vendor_name": "Wherry", "device_name": "dock", "authorized": 0, "rx_speed": "40.0 Gb/s", "rx_lanes": 3,
        "tx_speed": "40.0 Gb/s", "tx_lanes": 1,
    })  # fmt: skip
    add_files(tmp_path, f"{home}/0-1:1.1", {"vendor": "0x1f6e", "device": "0x15ee", "nvm_version": "20.7"})
    add_files(tmp_path, f"{home}/0-3", {"device_name": "disk", "authorized": 1, "rx_speed": "0.0 Gb/s", "rx_lanes": 0})
    found = snapshot(tmp_path)
    dock = found.routers[1]
    assert (dock.to_it_mbps, dock.from_it_mbps, dock.authorized) == (120_000, 40_000, False)
    assert (found.domains[0].security, found.domains[0].guards_memory) == ("user", True)
    assert (found.retimers[0].router, found.retimers[0].firmware) == ("0-1", "20.7")
    lines = [line.text.strip() for line in report_lines(found)]
    assert "0-1  Wherry dock  120 Gb/s (3 x 40 Gb/s) downstream, 40 Gb/s (1 x 40 Gb/s) upstream" in lines
    assert "not authorized: carries no data until the host authorizes it" in lines
    assert "port 1: a USB4 link" in lines
    assert "retimer 0-1:1.1 of 1f6e, firmware 20.7" in lines
    assert "0-3  disk  rate unknown" in lines


def test_a_device_without_a_configuration_is_told_by_its_descriptors(tmp_path: Path) -> None:
    add_device(tmp_path, "pci0/usb1/1-2", speed=480, version=" 2.00", bConfigurationValue="", bMaxPower="",
               maxchild=0, product="film disk", descriptors=descriptors.disk(0x0200))  # fmt: skip
    add_device(
        tmp_path,
        "pci0/usb1/1-3",
        speed=480,
        version=" 2.00",
        bConfigurationValue=1,
        descriptors=descriptors.disk(0x0200),
    )
    idle, used = snapshot(tmp_path).usb
    assert (idle.configured, idle.configuration_value, idle.configurations[0].max_power_ma) == (False, None, 224)
    assert (used.configured, used.configuration_value, used.configurations[0].class_codes) == (True, 1, (8,))
    lines = [line.text for line in report_lines(snapshot(tmp_path))]
    assert sum("not configured; may draw 224 mA when configured" in line for line in lines) == 1


def test_a_slow_device_by_nature_is_not_told_to_be_slow(tmp_path: Path) -> None:
    add_device(tmp_path, "pci0/usb1", speed=480, version=" 2.00", maxchild=4)
    add_device(tmp_path, "pci0/usb1/1-1", speed="1.5", version=" 1.10", product="keys")
    add_device(tmp_path, "pci0/usb1/1-2", speed="1.5", version=" 2.00", product="mouse")
    assert [each.could_mbps for each in snapshot(tmp_path).usb[1:]] == [1.5, 1.5]
    assert "slower" not in "".join(str(each.answer) for each in probe_file(snapshot(tmp_path)).usb_links)


def test_a_network_link_behind_a_narrower_usb_link_is_said(tmp_path: Path) -> None:
    add_device(tmp_path, "pci0/usb1", speed=480, version=" 2.00")
    add_device(tmp_path, "pci0/usb1/1-1", speed=480, version=" 2.10", product="adapter")
    lan = add_files(tmp_path, "devices/pci0/usb1/1-1/1-1:1.0/net/usb0", {"operstate": "up", "speed": 2500})
    (lan / "device").symlink_to("../../../1-1:1.0")
    add_link(tmp_path, "class/net/usb0", "devices/pci0/usb1/1-1/1-1:1.0/net/usb0")
    assert "2.5 Gb/s, on 1-1, limited by the 480 Mb/s USB link of 1-1" in everything(tmp_path)


def test_a_wireless_link_is_told_as_one(tmp_path: Path) -> None:
    card(tmp_path, "wlan0", operstate="up", speed=866)
    add_link(tmp_path, "devices/pci0/net/wlan0/phy80211", "devices/pci0/ieee80211/phy0")
    card(tmp_path, "lan0", operstate="up", speed=1000)
    assert [each.wireless for each in snapshot(tmp_path).network] == [False, True]
    assert "866 Mb/s, wireless" in everything(tmp_path)


def test_a_damaged_description_is_told_as_damaged(tmp_path: Path) -> None:
    from tests.core.decode.test_edid import WHOLE

    broken = bytearray(WHOLE)
    broken[60] ^= 4
    add_files(tmp_path, "class/drm/card0-DP-1", {"status": "connected", "edid": bytes(broken)})
    assert "EDID unreadable" in everything(tmp_path)
    assert "prefers" not in everything(tmp_path)
