"""What changed between two snapshots, in plain words; and what limits a C socket."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.decode.identity import decode_identity
from auditra.core.host.difference import ChangeKind, differences
from auditra.core.host.limits import lane_limits, power_limits
from auditra.core.host.report import report_lines
from auditra.core.host.routers import Router
from auditra.core.host.snapshot import (
    AlternateMode,
    BlockDevice,
    DisplayConnector,
    NetworkInterface,
    PowerObject,
    PowerOffer,
    PowerSource,
    Snapshot,
    TypeCCable,
    TypeCPartner,
    TypeCPort,
)
from tests.core.host.test_link import WHOLE, drive, with_

FAST, SLOW = with_(drive("2-1.3", 5000)), with_(drive("1-1.3", 480))


def sentences(before: Snapshot, after: Snapshot, **more: object) -> list[str]:
    return [each.sentence for each in differences(before, after, **more)]  # type: ignore[arg-type]


def test_a_drive_that_fell_to_the_slow_half_is_one_change_with_its_port_and_cause() -> None:
    (change,) = differences(FAST, SLOW, names={"2-1.3": "A1"}, since="H1 was plugged")
    assert change.kind is ChangeKind.SLOWER
    assert change.sentence.startswith("A1: 5 Gb/s to 480 Mb/s; now 1-1.3, behind the USB 2.0 half of")
    assert change.sentence.endswith("since H1 was plugged")


def test_nothing_changed() -> None:
    assert differences(FAST, FAST) == ()


def test_what_came_and_went() -> None:
    assert [each.kind for each in differences(WHOLE, FAST)] == [ChangeKind.CAME]
    assert [each.kind for each in differences(FAST, WHOLE)] == [ChangeKind.WENT]


def test_twins_that_went_and_came_are_not_taken_for_each_other() -> None:
    two = with_(drive("2-1.3", 5000), drive("2-1.4", 5000))
    kinds = sorted(each.kind for each in differences(two, SLOW))
    assert kinds == [ChangeKind.CAME, ChangeKind.WENT, ChangeKind.WENT]


def test_another_device_in_the_same_place() -> None:
    other = with_(replace(drive("2-1.3", 5000), pid=0x5502))
    (change,) = differences(FAST, other)
    assert change.kind is ChangeKind.CHANGED
    assert "in its place" in change.words


@pytest.mark.parametrize(
    ("before", "after", "sentence"),
    [
        (Snapshot(network=(NetworkInterface("lan0", "up", 2500),)),
         Snapshot(network=(NetworkInterface("lan0", "up", 1000),)), "lan0: 2.5 Gb/s to 1 Gb/s"),
        (Snapshot(network=(NetworkInterface("lan0", "up", 1000),)),
         Snapshot(network=(NetworkInterface("lan0", "down"),)), "lan0: 1 Gb/s to no link"),
        (Snapshot(displays=(DisplayConnector("DP-1", "disconnected"),)),
         Snapshot(displays=(DisplayConnector("DP-1", "connected"),)), "DP-1: a display came"),
        (Snapshot(displays=(DisplayConnector("DP-1", "connected", edid_hex="00"),)),
         Snapshot(displays=(DisplayConnector("DP-1", "connected", edid_hex="01"),)),
         "DP-1: the description of its display changed"),
        (Snapshot(type_c=(TypeCPort("port0", partner=TypeCPartner(modes=(_m := AlternateMode(
            "m", 0xFF01, active=True, pin_assignment="D"),))),)),
         Snapshot(type_c=(TypeCPort("port0", partner=TypeCPartner(modes=(replace(_m, pin_assignment="C"),))),)),
         "port0: DisplayPort pin assignment D to C"),
        (Snapshot(type_c=(TypeCPort("port0", operation="usb_power_delivery"),)),
         Snapshot(type_c=(TypeCPort("port0", operation="3.0A"),)), "port0: operation usb_power_delivery to 3.0A"),
        (Snapshot(routers=(Router("0-1", "dock", tx_mbps_a_lane=20_000, tx_lanes=2),)),
         Snapshot(routers=(Router("0-1", "dock", tx_mbps_a_lane=10_000, tx_lanes=2),)), "0-1: 40 Gb/s to 20 Gb/s"),
        (Snapshot(blocks=(BlockDevice("sda", model="film disk"),)), Snapshot(), "sda: film disk went"),
        (Snapshot(power=(PowerSource("BAT0", status="Charging"),)),
         Snapshot(power=(PowerSource("BAT0", status="Discharging"),)), "BAT0: Charging to Discharging"),
    ],
)  # fmt: skip
def test_every_part_is_compared(before: Snapshot, after: Snapshot, sentence: str) -> None:
    assert sentences(before, after) == [sentence]


def cable(vdo: int) -> TypeCCable:
    return TypeCCable(identity=decode_identity(0x18001F6E, 0, 0, (vdo,), of_cable=True))


def test_what_limits_the_power_the_lowest_first() -> None:
    offer = PowerOffer(
        "pd0", gives=(PowerObject(1, "fixed", 5000, current_ma=3000), PowerObject(2, "fixed", 20_000, current_ma=5000))
    )
    port = TypeCPort("port0", power_role="sink", operation="usb_power_delivery",
                     partner=TypeCPartner(offer=offer), cable=cable(0x00082020))  # fmt: skip
    assert list(power_limits(port)) == [
        "the cable's marker allows 3 A at up to 20 V (60 W), USB 2.0", "the partner offers 100 W at most",
    ]  # fmt: skip
    unmarked = replace(port, cable=None)
    assert next(iter(power_limits(unmarked))) == "no cable answered: without a marker 3 A (60 W) is the limit"
    assert next(iter(power_limits(replace(port, operation="1.5A")))).startswith("no contract")


def test_what_becomes_of_the_lanes() -> None:
    mode = AlternateMode("port0-partner.0", 0xFF01, active=True, pin_assignment="C")
    port = TypeCPort("port0", partner=TypeCPartner(modes=(mode,)), cable=cable(0x00082020))
    four, marked = lane_limits(port)
    assert "only USB 2.0 is left for data" in four
    assert "no fast lanes" in marked
    assert "fast data has two" in next(
        iter(lane_limits(replace(port, partner=TypeCPartner(modes=(replace(mode, pin_assignment="D"),)))))
    )


def test_a_snapshot_is_told_as_chains_with_what_is_missing_named() -> None:
    lines = [line.text for line in report_lines(replace(SLOW, absent=("type_c",)))]
    at = next(n for n, line in enumerate(lines) if "1-1.3" in line)
    assert "< below what both ends support" in lines[at - 1]
    assert lines[at].strip() == "usb1 480 Mb/s > 1-1 480 Mb/s > 1-1.3 480 Mb/s"
    assert sum("hub" in line and "10 Gb/s" in line for line in lines) == 1
    assert lines[-1] == "this host shows no USB-C ports"
