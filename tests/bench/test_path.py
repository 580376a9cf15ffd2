"""The path under test is followed from a folder to its socket, and impossible followed is said."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.bench.path import Mount, _mount, mounted_below, trace_folder
from auditra.core.errors import TargetError
from tests.support.machines import DRIVE, HUB, link, machine_with, mount_table

STEPS = (("2-1", HUB, "BW-11", True), ("2-1.3", DRIVE, "film \x1b[31mSSD", False))


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    made = tmp_path / "media" / "film disk"
    made.mkdir(parents=True)
    return made


def test_a_folder_is_followed_to_its_drive_and_the_hub_before_it(folder: Path, tmp_path: Path) -> None:
    machine = machine_with(folder, tmp_path / "host", *STEPS)
    trace = trace_folder(folder, machine.sys_root, machine.mounts)
    assert [(step.name, step.usb_id, step.speed_bps, step.is_hub) for step in trace.usb] == [
        ("2-1", HUB, 10e9, True), ("2-1.3", DRIVE, 5e9, False),
    ]  # fmt: skip
    assert trace.mount == str(folder)
    assert "\x1b" not in trace.drive_identity
    assert trace.leads_through(frozenset(), frozenset({HUB}))
    assert trace.leads_through(frozenset({"2-1"}), frozenset())
    assert not trace.leads_through(frozenset({"2-1.3"}), frozenset({DRIVE}))
    assert mounted_below("2-1.3", machine.sys_root, machine.mounts) == (folder,)
    assert mounted_below("2-1", machine.sys_root, machine.mounts) == ()


def test_links_in_the_path_are_followed_to_where_the_bytes_go(folder: Path, tmp_path: Path) -> None:
    machine = machine_with(folder, tmp_path / "host", *STEPS)
    pointing = tmp_path / "looks-like-a-drive"
    pointing.symlink_to(folder)
    trace = trace_folder(pointing, machine.sys_root, machine.mounts)
    assert trace.folder == str(folder)


def test_a_volume_on_one_drive_is_followed_through_its_mapping(folder: Path, tmp_path: Path) -> None:
    machine = machine_with(folder, tmp_path / "host", *STEPS)
    mapped = machine.sys_root / "devices/virtual/block/dm-0"
    link(mapped / "slaves" / "sdb1", next(machine.sys_root.glob("devices/pci0/usb2/**/sdb1")))
    for each in (machine.sys_root / "dev/block").iterdir():
        link(each, mapped)
    assert trace_folder(folder, machine.sys_root, machine.mounts).usb[-1].name == "2-1.3"


def test_an_inner_disk_has_no_usb_link_and_memory_no_block_device(folder: Path, tmp_path: Path) -> None:
    machine = machine_with(folder, tmp_path / "host")
    assert "no USB link" in trace_folder(folder, machine.sys_root, machine.mounts).in_words()
    memory = mount_table(tmp_path / "other", ("0:40", str(folder)))
    assert "no block device" in trace_folder(folder, machine.sys_root, memory).why_not
    assert "does not show" in trace_folder(folder, tmp_path / "nowhere", machine.mounts).why_not
    assert "mount table" in trace_folder(folder, machine.sys_root, tmp_path / "nowhere").why_not


def test_a_block_device_that_leads_out_of_the_tree_is_not_followed(folder: Path, tmp_path: Path) -> None:
    machine = machine_with(folder, tmp_path / "host", *STEPS)
    for each in (machine.sys_root / "dev/block").iterdir():
        each.unlink()
        each.symlink_to(tmp_path)
    assert "out of the kernel's tree" in trace_folder(folder, machine.sys_root, machine.mounts).why_not


def test_no_folder_is_told(tmp_path: Path) -> None:
    with pytest.raises(TargetError, match="No such file"):
        trace_folder(tmp_path / "gone")
    circle = tmp_path / "circle"
    circle.symlink_to(circle)
    with pytest.raises(TargetError):
        trace_folder(circle)
    (tmp_path / "file").write_text("")
    with pytest.raises(TargetError, match="no folder"):
        trace_folder(tmp_path / "file")


@given(st.text(max_size=200))
def test_any_line_of_a_mount_table_is_read_or_left_out(line: str) -> None:
    assert isinstance(_mount(line), Mount | None)
