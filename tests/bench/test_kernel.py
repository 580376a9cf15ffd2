"""Kernel attributes from a root folder: what can be read is read, whatever else stands there."""

from __future__ import annotations

import os
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from auditra.bench.kernel.attributes import MAX_ATTRIBUTE_BYTES
from auditra.bench.kernel.tree import KernelTree


@pytest.fixture
def root(tmp_path: Path) -> Path:
    """A host with a drive behind a hub, a network interface and a display, laid out with links as Linux does."""
    files = {
        "devices/usb2/2-1/speed": "10000\n", "devices/usb2/2-1/bDeviceClass": "09\n",
        "devices/usb2/2-1/idVendor": "1f6e\n", "devices/usb2/2-1/idProduct": "0601\n",
        "devices/usb2/2-1/2-1.3/speed": "5000\n",
        "devices/usb2/2-1/2-1.3/bDeviceClass": "00\n", "devices/usb2/2-1/2-1.3/idVendor": "1F6E\n",
        "devices/usb2/2-1/2-1.3/idProduct": "5501\n", "devices/net/eth0/speed": "2500\n",
        "devices/net/eth0/operstate": "up\n",
        "devices/drm/card0-DP-1/status": "connected\n", "devices/drm/card0-DP-1/edid": "\x00" * 128,
    }  # fmt: skip
    for name, text in files.items():
        path = tmp_path / "sys" / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
    for link, to in {"bus/usb/devices/2-1": "usb2/2-1", "bus/usb/devices/2-1.3": "usb2/2-1/2-1.3",
                     "class/net/eth0": "net/eth0", "class/drm/card0-DP-1": "drm/card0-DP-1"}.items():  # fmt: skip
        place = tmp_path / "sys" / link
        place.parent.mkdir(parents=True, exist_ok=True)
        place.symlink_to(os.path.relpath(tmp_path / "sys" / "devices" / to, place.parent))
    (tmp_path / "sys/bus/usb/devices/usb2").mkdir()
    return tmp_path / "sys"


def test_reads_links_speeds_and_displays(root: Path) -> None:
    links = KernelTree(root).links()
    assert [(each.name, each.speed_mbps, each.usb_id, each.is_hub) for each in links.usb] == [
        ("2-1", 10000.0, "1f6e:0601", True), ("2-1.3", 5000.0, "1f6e:5501", False),
    ]  # fmt: skip
    assert [(each.name, each.speed_mbps) for each in links.network] == [("eth0", 2500.0)]
    assert [(each.connected, len(each.edid)) for each in links.connectors] == [(True, 128)]


def test_an_empty_root_has_no_links(tmp_path: Path) -> None:
    assert KernelTree(tmp_path / "nothing").links().usb == ()


@pytest.mark.parametrize("text", ["", "unknown", "-1", "5e3", "9" * 5000, "\x1b[31m480", "NaN"])
def test_a_speed_that_is_no_number_is_not_known(root: Path, text: str) -> None:
    (root / "devices/usb2/2-1/2-1.3/speed").write_text(text)
    assert KernelTree(root).links().usb[1].speed_mbps is None


def test_an_interface_that_is_down_has_no_speed(root: Path) -> None:
    (root / "devices/net/eth0/operstate").write_text("down\n")
    assert KernelTree(root).links().network[0].speed_mbps is None


def test_what_refuses_or_vanishes_costs_only_itself(root: Path) -> None:
    (root / "devices/usb2/2-1/2-1.3/speed").unlink()
    (root / "devices/usb2/2-1/2-1.3/speed").mkdir()
    (root / "devices/usb2/2-1/idVendor").unlink()
    links = KernelTree(root).links()
    assert links.usb[1].speed_mbps is None
    assert links.usb[0].usb_id == "????:0601"


def test_links_that_leave_the_root_or_loop_are_not_followed(root: Path, tmp_path: Path) -> None:
    outside = tmp_path / "outside"
    outside.mkdir()
    (outside / "speed").write_text("5000\n")
    (root / "bus/usb/devices/3-1").symlink_to(outside)
    (root / "bus/usb/devices/3-2").symlink_to("3-2")
    assert [each.name for each in KernelTree(root).links().usb] == ["2-1", "2-1.3"]


def test_a_megabyte_where_a_word_belongs_is_cut(root: Path) -> None:
    (root / "devices/drm/card0-DP-1/edid").write_bytes(b"\xff" * (1 << 20))
    (root / "devices/net/eth0/operstate").write_text("up" + " " * (1 << 20))
    links = KernelTree(root).links()
    assert len(links.connectors[0].edid) == 128 * 256
    assert links.network[0].speed_mbps == 2500.0
    assert MAX_ATTRIBUTE_BYTES < 1 << 20


@given(st.binary(max_size=200))
@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_any_bytes_in_any_attribute_give_links(root: Path, data: bytes) -> None:
    for path in root.rglob("*"):
        if path.is_file() and not path.is_symlink():
            path.write_bytes(data)
    for device in KernelTree(root).links().usb:
        assert device.usb_id.isprintable()
