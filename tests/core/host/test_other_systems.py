"""Hosts without the kernel's attributes: what is told is in the snapshot, what is not told stays unknown."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.host.other_systems.mac import snapshot_of_mac
from auditra.core.host.other_systems.told import rate_mbps, whole
from auditra.core.host.other_systems.windows import snapshot_of_windows
from auditra.core.host.report import report_lines
from auditra.core.host.snapshot import Snapshot
from auditra.documents.probe import probe_file, read_probe_file
from tests.support.vectors import vectors

TOLD: dict[str, Any] = vectors("other_systems")


def mac() -> Snapshot:
    return snapshot_of_mac(TOLD["mac"], TOLD["ifconfig"], TOLD["networksetup"])


def test_a_mac_tells_devices_with_their_rates_and_places() -> None:
    usb = {each.product: each for each in mac().usb}
    hub, ssd, mouse, reader = (
        usb["USB3.0 Hub"],
        usb["Fast SSD\N{REPLACEMENT CHARACTER}[31m"],
        usb["Mouse"],
        usb["Card reader"],
    )
    assert (hub.vid, hub.pid, hub.speed_mbps, hub.manufacturer) == (0x1F6E, 0x0601, 5000.0, "Osierpell")
    assert (ssd.parent, ssd.speed_mbps, ssd.max_power_ma, ssd.serial) == (hub.name, 10000.0, 896, "SN1")
    assert (mouse.vid, mouse.speed_mbps, mouse.max_power_ma) == (None, 1.5, None)
    assert (reader.speed_mbps, reader.vid) == (480.0, 0x2222)
    assert [each.product for each in mac().usb if each.is_root] == ["USB31Bus", "USB 3.1 Bus"]


def test_a_mac_tells_displays_links_power_and_routers() -> None:
    snapshot = mac()
    big, old = snapshot.displays
    assert big.running is not None
    assert (big.running.width, big.running.height, big.running.refresh_millihz) == (3840, 2160, 60000)
    assert big.running.pixel_clock_khz is None
    assert (old.status, old.running) == ("disconnected", None)
    network = {each.name: each for each in snapshot.network}
    assert (network["en7"].speed_mbps, network["en7"].duplex, network["en7"].mtu_bytes) == (2500, "full", 9000)
    assert (network["en8"].carrier, network["en8"].speed_mbps) == (False, None)
    assert network["en9"].speed_mbps == 10_000
    assert (network["en0"].wireless, network["en0"].speed_mbps, network["lo0"].virtual) == (True, None, True)
    battery, charger = snapshot.power
    assert (battery.capacity_percent, battery.status, charger.power_mw, charger.online) == (83, "Charging", 94_000, 1)
    assert [(each.device_name, each.generation) for each in snapshot.routers] == [
        ("Larkspur Notebook", None), ("BW-11", 4)
    ]  # fmt: skip
    assert [port.link for port in snapshot.routers[0].ports] == [None, "none"]


def test_windows_tells_devices_without_rates_and_links_with_them() -> None:
    snapshot = snapshot_of_windows(TOLD["windows"])
    root, hub, ssd = snapshot.usb
    assert (root.is_root, hub.parent, ssd.parent) == (True, root.name, hub.name)
    assert {each.speed_mbps for each in snapshot.usb} == {None}
    assert (hub.usb_id, hub.is_hub, ssd.usb_id) == ("1f6e:0601", True, "5501:0001")
    wired, wireless, none = snapshot.network
    assert (wired.speed_mbps, wired.duplex, wired.counters) == (
        2500, "full", {"rx_bytes": 1000, "tx_bytes": 2000, "rx_errors": 3}
    )  # fmt: skip
    assert (wireless.wireless, wireless.duplex) == (True, None)
    assert (none.speed_mbps, none.carrier, none.duplex) == (None, False, None)
    (display,) = snapshot.displays
    assert display.running is not None
    assert (display.name, display.running.refresh_millihz) == ("DisplayPort-1", 60_000)
    assert snapshot.power[0].status == "Discharging"


@pytest.mark.parametrize("snapshot", [mac(), snapshot_of_windows(TOLD["windows"])], ids=["mac", "windows"])
def test_the_report_says_what_such_a_host_does_not_show_and_the_file_reads_again(snapshot: Snapshot) -> None:
    lines = [line.text for line in report_lines(snapshot)]
    assert "this host shows no USB-C ports" in " ".join(lines)
    assert not any("\x1b" in line for line in lines)
    assert not re.search(r"\b0 [GMk]b/s", " ".join(lines))
    assert read_probe_file(probe_file(snapshot).model_dump_json().encode(), "probe.json") == snapshot


def test_two_monitors_share_no_mode() -> None:
    told = {**TOLD["windows"], "monitors": TOLD["windows"]["monitors"] * 2}
    assert [each.running for each in snapshot_of_windows(told).displays] == [None, None]


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=20),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=12), inner, max_size=4),
    max_leaves=20,
)
KEYS = sorted({*TOLD["mac"], *TOLD["windows"]})


@given(st.dictionaries(st.sampled_from(KEYS), JSON, max_size=6), st.text(max_size=200))
def test_any_json_and_any_text_make_a_snapshot(told: dict[str, Any], ifconfig: str) -> None:
    for snapshot in (snapshot_of_mac(told, ifconfig), snapshot_of_windows(told)):
        assert list(report_lines(snapshot))
        probe_file(snapshot).model_dump_json()


@given(st.data())
def test_a_value_that_is_damaged_costs_only_itself(data: st.DataObject) -> None:
    told = json.loads(json.dumps(TOLD["windows"]))
    table = data.draw(st.sampled_from(told["network"] + told["usb"]))
    key = data.draw(st.sampled_from(sorted(table)))
    table[key] = data.draw(JSON)
    damaged, sound = snapshot_of_windows(told), snapshot_of_windows(TOLD["windows"])
    assert damaged.displays == sound.displays
    assert sum(one != other for one, other in zip(damaged.network, sound.network, strict=True)) <= 1


def test_figures_are_read_with_whatever_follows_them() -> None:
    assert whole({"a": "0x2109  (Maker, Inc.)"}, "a") == 0x2109
    assert whole({"a": True}, "a") is None
    assert whole({"a": -3}, "a") is None
    assert [rate_mbps(each) for each in ("Up to 40 Gb/s", "480 Mbps", "1.5 Mb/s", "fast", 7)] == [
        40_000.0, 480.0, 1.5, None, None
    ]  # fmt: skip
