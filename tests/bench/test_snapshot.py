"""A whole host from a root folder: what can be read is read, and what is wrong is listed."""

from __future__ import annotations

import os
import random
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from auditra.bench.kernel.tree import KernelTree
from auditra.core.host.snapshot import Snapshot
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged
from auditra.core.simulate import descriptors
from auditra.core.simulate.demo_devices import MODELS
from auditra.core.simulate.kernel_tree import kernel_tree
from auditra.core.simulate.world import World
from tests.support.audits import HUB, galley
from tests.support.hosts import add_device, add_files, add_link, write_tree


def session(*plugged: Plugged) -> World:
    world = World(HUB, galley(), MODELS["Osierpell OP-6"], seed=3)
    world.connections.stand((Plugged("laptop", "C1", DEVICE), *plugged))
    return world


@pytest.fixture
def root(tmp_path: Path) -> Path:
    """The hub on a laptop, with a drive, a projector and a charger."""
    world = session(
        Plugged(DEVICE, "A1", "fast-ssd", "AC-1"),
        Plugged(DEVICE, "H1", "projector", "HD-1"),
        Plugged(DEVICE, "P1", "supply-90", "CC-1"),
    )
    return write_tree(tmp_path / "sys", kernel_tree(world))


def snapshot(root: Path) -> Snapshot:
    return KernelTree(root).snapshot()


def flaws(root: Path) -> dict[str, str]:
    return {each.path: each.why for each in snapshot(root).flaws}


def test_the_chain_from_host_to_drive_with_what_each_could_do(root: Path) -> None:
    found = snapshot(root)
    way = found.way_to("2-1.8.1")
    assert [(each.name, each.speed_mbps, each.could_mbps) for each in way] == [
        ("usb2", 10_000, 10_000), ("2-1", 10_000, 10_000), ("2-1.8", 5000, 5000), ("2-1.8.1", 5000, 10_000),
    ]  # fmt: skip
    assert way[1].container_id is not None
    assert way[1].ports[0].peer == "1-1-port1"
    assert way[3].max_power_ma == 896
    assert found.flaws == ()
    assert "blocks" in found.absent


def test_the_c_socket_with_contract_pins_and_offers(root: Path) -> None:
    port = snapshot(root).type_c[0]
    assert (port.data_role, port.power_role, port.operation) == ("host", "sink", "usb_power_delivery")
    assert port.partner is not None
    assert port.partner.modes[0].pin_assignment == "D"
    assert port.partner.offer is not None
    assert port.partner.offer.gives[-1].voltage_mv == 20_000
    assert port.partner.offer.most_w == pytest.approx(79, abs=3)


def test_a_marked_cable_is_known_by_its_identity(tmp_path: Path) -> None:
    world = session()
    world.connections.stand((Plugged("laptop", "C2", "fast-ssd", "CC-1"),))
    port = snapshot(write_tree(tmp_path, kernel_tree(world))).type_c[1]
    assert port.cable is not None
    assert port.cable.identity is not None
    assert port.cable.identity.cable is not None
    assert port.cable.identity.cable.current_ma == 5000


def test_everything_else_that_hangs_on_a_host(tmp_path: Path) -> None:
    drive = add_device(tmp_path, "pci0/usb2/2-1", speed="5000", idVendor="1f6e", idProduct="5501", bDeviceClass="00")
    add_files(tmp_path, f"{drive.relative_to(tmp_path)}/2-1:1.0/host0/block/sda", {
        "size": 2_000_000, "removable": 0, "queue/rotational": 0, "device/model": "film disk",
    })  # fmt: skip
    add_link(tmp_path, "block/sda", f"{drive.relative_to(tmp_path)}/2-1:1.0/host0/block/sda")
    lan = add_files(tmp_path, "devices/pci0/usb2/2-3/2-3:1.0/net/usb0", {
        "operstate": "up", "speed": 2500, "duplex": "full", "mtu": 9000, "carrier": 1, "carrier_changes": 7,
        "statistics/rx_crc_errors": 3,
    })  # fmt: skip
    (lan / "device").symlink_to("../../../2-3:1.0")
    add_link(tmp_path, "class/net/usb0", "devices/pci0/usb2/2-3/2-3:1.0/net/usb0")
    add_files(tmp_path, "class/power_supply/BAT0", {
        "type": "Battery", "capacity": 81, "status": "Discharging", "voltage_now": 15_200_000, "power_now": 9_500_000,
    })  # fmt: skip
    add_files(tmp_path, "class/hwmon/hwmon0", {"name": "made up", "temp1_input": 41_500, "temp1_label": "case"})
    add_files(tmp_path, "bus/thunderbolt/devices/0-1", {
        "device_name": "dock", "tx_speed": "20.0 Gb/s", "tx_lanes": 2, "rx_speed": "20.0 Gb/s", "rx_lanes": 2,
    })  # fmt: skip
    add_files(tmp_path, "class/dmi/id", {"sys_vendor": "Wherry", "product_name": "W-14"})
    found = snapshot(tmp_path)
    assert found.host.words == "Wherry W-14"
    assert [(each.name, each.usb, each.size_bytes) for each in found.blocks] == [("sda", "2-1", 1_024_000_000)]
    (net,) = found.network
    assert (net.speed_mbps, net.duplex, net.mtu_bytes, net.usb, net.counters) == (
        2500, "full", 9000, "2-3", {"rx_crc_errors": 3},
    )  # fmt: skip
    assert (found.power[0].voltage_mv, found.power[0].power_mw, found.power[0].capacity_percent) == (15_200, 9500, 81)
    assert [(each.chip, each.label, each.value, each.unit) for each in found.sensors] == [
        ("made up", "case", 41.5, "C")
    ]
    assert (found.routers[0].tx_mbps_a_lane, found.routers[0].tx_lanes) == (20_000, 2)
    assert found.flaws == ()


DRIVE = "devices/pci0/usb2/2-1/2-1.8/2-1.8.1"


@pytest.mark.parametrize(
    ("name", "value", "why"),
    [
        ("speed", b"9" * (1 << 20), "longer than"),
        ("speed", b"fast\n", "is no number"),
        ("product", b"\xff\xfe disk\n", "no UTF-8"),
        ("idVendor", b"12345\n", "no hexadecimal"),
        ("bMaxPower", b"896 mW\n", "no number of mA"),
        ("bos_descriptors", b"\x05\x0f\xff\xff\x09", "of which|are there"),
    ],
)
def test_a_file_that_is_wrong_costs_only_itself(root: Path, name: str, value: bytes, why: str) -> None:
    (root / DRIVE / name).write_bytes(value)
    found = snapshot(root)
    assert found.device("2-1.8.1") is not None
    told = {each.path: each.why for each in found.flaws}
    assert any(part in told[f"{DRIVE}/{name}"] for part in why.split("|"))


def test_empty_and_absent_files_are_no_flaw_and_no_value(root: Path) -> None:
    (root / DRIVE / "speed").write_bytes(b"")
    (root / DRIVE / "bMaxPower").unlink()
    found = snapshot(root)
    device = found.device("2-1.8.1")
    assert device is not None
    assert (device.speed_mbps, device.max_power_ma, found.flaws) == (None, None, ())


def test_escape_codes_and_markup_are_shown_and_do_nothing(root: Path) -> None:
    (root / DRIVE / "product").write_text("\x1b[2J[red]disk[/red]\u202e\n")
    device = snapshot(root).device("2-1.8.1")
    assert device is not None
    assert "\x1b" not in device.product
    assert "\u202e" not in device.product


def test_a_folder_a_pipe_and_a_link_where_a_file_belongs(root: Path) -> None:
    for name in ("speed", "product", "version"):
        (root / DRIVE / name).unlink()
    (root / DRIVE / "speed").mkdir()
    os.mkfifo(root / DRIVE / "product")
    (root / DRIVE / "version").symlink_to("/etc/hostname")
    told = flaws(root)
    assert "folder" in told[f"{DRIVE}/speed"]
    assert "link" in told[f"{DRIVE}/version"]


def test_links_that_loop_or_leave_the_root_are_not_followed(root: Path, tmp_path: Path) -> None:
    outside = add_files(tmp_path, "outside/3-1", {"speed": 5000})
    (root / "bus/usb/devices/3-1").symlink_to(outside)
    (root / "bus/usb/devices/3-2").symlink_to("3-2")
    (root / "bus/usb/devices/3-3").symlink_to("../../../nowhere")
    assert snapshot(root).device("3-1") is None
    told = flaws(root)
    assert told["bus/usb/devices/3-1"] == "it leads out of this tree"
    assert "circle" in told["bus/usb/devices/3-2"]
    assert "bus/usb/devices/3-3" in told


def test_what_may_not_be_read_is_listed(root: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    real = os.open

    def refuse(path: str, *rest: int) -> int:
        if str(path).endswith("2-1.8.1/serial"):
            raise PermissionError(13, "Permission denied")
        return real(path, *rest)

    monkeypatch.setattr(os, "open", refuse)
    assert flaws(root)[f"{DRIVE}/serial"] == "it may not be read"


def test_what_vanishes_between_listing_and_reading_costs_only_itself(
    root: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = os.listdir

    def with_one_more(path: str) -> list[str]:
        names = real(path)
        return [*names, "9-9"] if path.endswith("bus/usb/devices") else names

    monkeypatch.setattr(os, "listdir", with_one_more)
    found = snapshot(root)
    assert found.device("2-1.8.1") is not None
    assert [each.path for each in found.flaws] == ["bus/usb/devices/9-9"]


def test_three_hundred_devices(tmp_path: Path) -> None:
    for bus in range(1, 4):
        for port in range(1, 101):
            add_device(tmp_path, f"pci0/usb{bus}/{bus}-{port}", speed="480", idVendor="1f6e", idProduct=f"{port:04x}")
    found = snapshot(tmp_path)
    assert len(found.usb) == 300
    assert [each.name for each in found.usb][:3] == ["1-1", "1-2", "1-3"]


def test_a_billboard_and_a_device_that_draws_8_ma_steps(tmp_path: Path) -> None:
    board = descriptors.capabilities(descriptors.billboard((0xFF01, 1), states=2))
    add_device(tmp_path, "pci0/usb1/1-4", speed="480", bos_descriptors=board, bDeviceClass="11", bMaxPower="100mA")
    device = snapshot(tmp_path).usb[0]
    assert device.billboard_modes == ("ff01 mode 1: failed",)


@given(st.binary(max_size=120), st.integers(0, 2**32))
@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_any_bytes_in_any_file_give_a_snapshot(root: Path, data: bytes, seed: int) -> None:
    files = sorted(path for path in root.rglob("*") if path.is_file() and not path.is_symlink())
    for path in random.Random(seed).sample(files, len(files) // 3):
        path.write_bytes(data)
    found = snapshot(root)
    assert all(each.product.isprintable() or not each.product for each in found.usb)
    assert all(each.path.isprintable() for each in found.flaws)
